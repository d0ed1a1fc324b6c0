"""Shots as they were when a delivery was asked for: all that its files are made from."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, model_validator
from saucer_core.stack import Layer, stacked
from saucer_core.trim import Trim

from ..frames import rules as frames
from ..looks import rules as looks
from ..projects import rules as projects
from ..projects.rules import Project, Shot, shots_of
from .plan import Plan

#: Rights with which a look leaves the studio only if a lead says so.
HELD = ("ask first", "inside the project")
#: The place of shots that are in no scene: after all scenes.
LAST = 2**31


class LookOn(BaseModel):
    """A revision that is on a shot: its row, the name of its look, its number, and its strength, 0 to 1."""

    model_config = ConfigDict(frozen=True)

    revision: int
    look: str
    number: int
    strength: float

    @property
    def label(self) -> str:
        """Look and revision in words."""
        return f"{self.look} r{self.number}"


def _joined(data: Any) -> Any:
    """Version 1 held looks as two lists: [revision, strength], and [name, number, strength]."""
    if not isinstance(data, dict) or data.get("version", 1) != 1 or "looks" not in data:
        return data
    rest = {key: value for key, value in data.items() if key not in ("layers", "looks")}
    layers = [
        {"revision": revision, "look": name, "number": number, "strength": strength}
        for (revision, strength), (name, number, _) in zip(data["layers"], data["looks"], strict=True)
    ]
    return {**rest, "version": 2, "layers": layers}


class Stack(BaseModel):
    """Revisions over one another, the first of them at the bottom."""

    model_config = ConfigDict(frozen=True)

    version: Literal[2] = 2
    layers: tuple[LookOn, ...]

    _up = model_validator(mode="before")(_joined)

    @property
    def revisions(self) -> list[tuple[int, float]]:
        """Which revisions, and how strongly."""
        return [(one.revision, one.strength) for one in self.layers]

    def look(self) -> looks.LookValue:
        """The look that they make together, strengths included."""
        found = []
        for one in self.layers:
            revision = looks.find_revision(one.revision)
            found.append(Layer(looks.recipe_of(revision), one.strength, revision.look.name, revision.number))
        return stacked(found)

    def digests(self) -> list[list[Any]]:
        """What tells these revisions and strengths from all others."""
        return [[looks.find_revision(one.revision).digest, one.strength] for one in self.layers]


class DeliveredShot(Stack):
    """A shot as it was: its number and name, the frame that stands for it, its trim, and the looks on it.

    encoding: what the frame is read as. digest: of the frame's file. clip, first, last: the frames of a clip
    that it is cut from. words: its looks as they are said to people.
    """

    id: int
    number: int
    name: str
    scene: str
    frame: int
    encoding: str
    digest: str
    clip: int | None
    first: int
    last: int
    trim: Trim
    words: str

    @property
    def label(self) -> str:
        """Its number and name."""
        return f"{self.number} {self.name}"

    @property
    def slate(self) -> str:
        """Its number of three digits and its name."""
        return f"{self.number:03d} {self.name}"

    def picture(self) -> frames.Frame:
        """The frame that stands for it."""
        return frames.find(self.frame)

    def made_of(self) -> list[Any]:
        """What its pixels depend on, as JSON takes it."""
        return [self.digests(), self.digest, self.encoding, self.trim.model_dump()]

    def named(self) -> list[Any]:
        """What is written about it into files."""
        return [self.number, self.name, self.words]


def snapshot(shot: Shot) -> DeliveredShot:
    """A shot as it is now."""
    layers = shot.layers.all()
    return DeliveredShot(
        id=shot.pk,
        number=shot.number,
        name=shot.name,
        scene=shot.scene.name if shot.scene else "",
        frame=shot.frame_id,
        encoding=shot.frame.encoding,
        digest=shot.frame.digest,
        clip=shot.clip_id,
        first=shot.first,
        last=shot.last,
        trim=shot.trim,
        layers=tuple(
            LookOn(
                revision=x.revision_id,
                look=x.revision.look.name,
                number=x.revision.number,
                strength=x.strength,
            )
            for x in layers
        ),
        words=" + ".join(f"{x.revision}{f' {x.strength:.0%}' if x.strength < 1 else ''}" for x in layers),
    )


@dataclass(frozen=True)
class Taken:
    """The shots that go out, and in words those that do not. reel: the shots of a review clip, in the order
    in which they are played, those without a look too. held: names of looks that must be asked for."""

    shots: list[DeliveredShot]
    reel: list[DeliveredShot]
    left_out: list[str]
    held: list[str]


def taken(project: Project, plan: Plan) -> Taken:
    """Which shots go out by a plan."""
    going: list[DeliveredShot] = []
    played: list[tuple[int, int, DeliveredShot]] = []
    scene = projects.find_scene(project, plan.review.scene) if plan.review.scene is not None else None
    left: list[str] = []
    held: list[str] = []
    for shot in shots_of(project):
        layers = list(shot.layers.all())
        asked = sorted({x.revision.look.name for x in layers if x.revision.look.rights in HELD})
        held += [name for name in asked if name not in held]
        if asked and plan.held == "leave":
            left.append(f"{shot.number} {shot.name}: {', '.join(asked)} must be asked for first")
            continue
        one = snapshot(shot)
        if scene is None or shot.scene_id == scene.pk:
            place = shot.scene.place if shot.scene else LAST
            played.append((place, shot.scene_id or 0, one))
        if layers:
            going.append(one)
        elif not plan.review_alone:
            left.append(f"{shot.number} {shot.name}: no look is on it")
    # By scene, and in each as the shots are numbered: the order is stable.
    reel = [one for _, _, one in sorted(played, key=lambda p: p[:2])]
    return Taken(going, reel, left, held)


def stacks(shots: Sequence[DeliveredShot]) -> list[Stack]:
    """The looks as they are on shots, each combination of revisions once, at full strength where it is one
    look alone."""
    found: dict[str, Stack] = {}
    for shot in shots:
        alone = len(shot.layers) == 1
        layers = tuple(one.model_copy(update={"strength": 1.0}) if alone else one for one in shot.layers)
        stack = Stack(layers=layers)
        found.setdefault(str(stack.revisions), stack)
    return list(found.values())
