"""Looks over the length of a clip: lines to draw, places at which a look breaks, and what causes them.

The core measures, on samples that a worker took of the clip.
"""

import json
from collections.abc import Callable

from pydantic import TypeAdapter
from pydantic.dataclasses import dataclass
from saucer_core.look import Look as LookValue
from saucer_core.readings import overtime
from saucer_core.readings.overtime import Change, FrameReading, Kind, Place, Samples, Side
from saucer_core.trim import Trim

from .. import storage
from ..caches import DRAWING
from ..clips.proxying import samples_of
from ..errors import RuleError
from ..frames.rules import Frame
from ..luts.rules import table

#: Sampled neighbours that a coarse measure looks at: two by two, all over the clip.
COARSE = 24
#: Bytes that measuring takes beside the samples: colours of a few frames in double precision.
WORK = 96 * 2**20


@dataclass(frozen=True)
class PlaceOut(Place):
    """A place at which the look breaks, as the core names it."""


@dataclass(frozen=True)
class CauseOut:
    """The step that causes most of a place. strength: to which it is eased so that the place is within its
    limit, nothing where easing it alone does not help; amount: of the place then, in words."""

    step: str
    strength: float | None
    amount: str


@dataclass(frozen=True)
class Line:
    """A measure over the clip, before the look and after it; nothing where it is not known. unit: for the
    number beside the line."""

    name: str
    unit: str
    before: list[float | None]
    after: list[float | None]


@dataclass(frozen=True)
class OverTime:
    """What a look does to a clip. numbers: which frames were measured."""

    numbers: list[int]
    lines: list[Line]
    places: list[PlaceOut]


_ANSWER = TypeAdapter(OverTime)


def _side(read: Callable[[Side], float | None]) -> Callable[[FrameReading], list[float | None]]:
    return lambda r: [read(r.before), read(r.after)]


def _change(read: Callable[[Change], float]) -> Callable[[FrameReading], list[float | None]]:
    return lambda r: [read(c) for c in r.change] if r.change else [None, None]


#: Lines by name, with their unit and what is drawn.
LINES: dict[str, tuple[str, Callable[[FrameReading], list[float | None]]]] = {
    "tone": ("%", _side(lambda s: s.middle)),
    "skin": ("°", _side(lambda s: s.hue)),
    "colour": ("", _side(lambda s: s.chroma)),
    "clipped": ("%", _side(lambda s: 100 * (s.white + s.black))),
    "flicker": ("", _change(lambda c: c.flicker)),
    "noise": ("", _change(lambda c: c.noise)),
}


def measured(look: LookValue, frame: Frame, trim: Trim | None, *, coarse: bool) -> OverTime:
    """What a look does to the clip that a frame stands for; kept. Raises ``LookError``, 404 for a still, and
    409 until the clip's samples are taken."""
    chosen, samples = trim if trim is not None else frame.trim, _samples(frame)
    made_of = [
        look.digest(),
        frame.clip_id,
        frame.encoding,
        chosen.model_dump(),
        coarse,
        len(samples.numbers),
    ]

    def make() -> bytes:
        part = samples.some(_coarse(len(samples.numbers))) if coarse else samples
        with DRAWING.take(part.blocks.nbytes + part.pieces.nbytes + WORK):
            readings = list(overtime.measure(look, part, frame.encoding, chosen, tables=table))
        return json.dumps(_ANSWER.dump_python(_answer(readings))).encode()

    return _ANSWER.validate_json(storage.kept(storage.result("over-time", made_of, ".json"), make))


def caused(look: LookValue, frame: Frame, trim: Trim | None, place: Place) -> CauseOut | None:
    """What causes most of a place. Raises as ``measured``."""
    chosen, samples = trim if trim is not None else frame.trim, _samples(frame)
    if not samples.numbers[0] <= place.at <= samples.numbers[-1]:
        raise RuleError(422, f"The clip has no frame {place.at}.")
    with DRAWING.take(samples.blocks.nbytes + samples.pieces.nbytes + WORK):
        found = overtime.cause(look, place, samples, frame.encoding, chosen, tables=table)
    if found is None:
        return None
    return CauseOut(found.step, found.strength, overtime.amount_in_words(place.kind, found.amount))


def _samples(frame: Frame) -> Samples:
    if frame.clip_id is None:
        raise RuleError(404, f"{frame.name} is a still; only a clip is measured over time.")
    return samples_of(frame.clip_id)


def _coarse(count: int) -> list[int]:
    """Places of some neighbours, two by two, spread evenly."""
    step = max(count / COARSE, 2.0)
    begins = [int(k * step) for k in range(int(count / step))] or [0]
    return sorted({place for begin in begins for place in (begin, begin + 1) if place < count})


def _answer(readings: list[FrameReading]) -> OverTime:
    lines = []
    for name, (unit, read) in LINES.items():
        pairs = [read(r) for r in readings]
        before, after = ([_short(p[side]) for p in pairs] for side in (0, 1))
        lines.append(Line(name, unit, before, after))
    found = [PlaceOut(p.kind, p.first, p.last, p.at, p.amount, p.text) for p in overtime.places(readings)]
    return OverTime([r.number for r in readings], lines, found)


def _short(value: float | None) -> float | None:
    return None if value is None else round(value, 2)


__all__ = ["CauseOut", "Kind", "Line", "OverTime", "PlaceOut", "caused", "measured"]
