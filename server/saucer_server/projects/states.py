"""What a change of a project is kept with, so that it can be taken back."""

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, model_validator

from .places import PlacePuts, ShotTrim


class Standing(BaseModel):
    """Where a shot stands: its number, whether it is laid aside, its scene, and the frames of a clip that it
    shows, with the picture that stands for them."""

    model_config = ConfigDict(frozen=True)

    shot: int
    number: int
    aside: bool
    scene: int | None
    frame: int
    clip: int | None
    first: int
    last: int


class Arrangement(BaseModel):
    """The shots of a project in their places, by the cut of that number, which has so many events; ``None``:
    by no cut."""

    model_config = ConfigDict(frozen=True)

    cut: int | None
    events: int
    shots: tuple[Standing, ...]


class Declined(BaseModel):
    """A revision that a project stays on, and the newer one that it does not take; by their rows."""

    model_config = ConfigDict(frozen=True)

    now: int
    then: int


def _place(key: str) -> dict[str, str | int]:
    kind, _, number = key.partition(" ")
    return {"kind": kind, "id": int(number or 0)}


def _taken_apart(data: Any) -> Any:
    """Version 1 was a dictionary by place, in words: ``project``, ``scene 3``, ``shot 7`` with lists of
    [revision, strength] or nothing, and ``trim 7`` with a trim."""
    if not isinstance(data, dict) or "version" in data:
        return data
    if "now" in data:
        return {"version": 2, "declined": data}
    puts, trims = [], []
    for key, value in data.items():
        if key.startswith("trim "):
            trims.append({"shot": int(key.removeprefix("trim ")), "trim": value})
        else:
            kept = value and [{"revision": revision, "strength": share} for revision, share in value]
            puts.append({"place": _place(key), "puts": kept})
    return {"version": 2, "puts": puts, "trims": trims}


class State(BaseModel):
    """What was on some places and shots of a project before a change, or after it."""

    model_config = ConfigDict(frozen=True)

    version: Literal[2] = 2
    puts: tuple[PlacePuts, ...] = ()
    trims: tuple[ShotTrim, ...] = ()
    declined: Declined | None = None
    arrangement: Arrangement | None = None

    # A value that is made in Python has no version yet, and none of the keys of version 1.
    @model_validator(mode="before")
    @classmethod
    def _up(cls, data: Any) -> Any:
        made_here = isinstance(data, dict) and not data.keys() - {"puts", "trims", "declined", "arrangement"}
        return data if made_here else _taken_apart(data)
