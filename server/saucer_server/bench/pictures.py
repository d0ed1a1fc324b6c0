"""Looks made visible: the live table, stills, portraits. The core computes; this keeps what was computed."""

import hashlib
import json
from collections.abc import Callable
from typing import Any, TypedDict, Unpack

import numpy as np
from ninja import Schema
from pydantic import BaseModel
from saucer_core.arrays import F32
from saucer_core.baking.bake import bake
from saucer_core.encodings import EncodingKey, encoding
from saucer_core.errors import LookError
from saucer_core.finish.render import finish
from saucer_core.halves import halves
from saucer_core.look import Look as LookValue
from saucer_core.look import every_step, wearing
from saucer_core.prefixes import PrefixCache
from saucer_core.program import Program, trace
from saucer_core.readings.masks import difference_picture
from saucer_core.readings.portrait import portrait
from saucer_core.readings.scales import measured
from saucer_core.readings.traits import traits
from saucer_core.screen import SCREEN, for_screen
from saucer_core.steps import Step, Surroundings, Tables
from saucer_core.steps.traced import Trace
from saucer_core.tables.interpolate import Interpolation
from saucer_core.treatment import Treatment
from saucer_core.trim import Trim

from .. import storage
from ..caches import MIB, PROCESSES, TRACES
from ..frames.rules import Frame, drawing, original, pixels
from ..framing import half_floats, headed, jpeg, png
from ..luts.rules import BorrowedLut, table

#: Points a side of the live table.
LIVE_GRID = 33
#: The same where it shows a difference, which has an edge at none.
FINE_GRID = 65

_leading = PrefixCache(64 * MIB // PROCESSES)
_pictures = PrefixCache(128 * MIB // PROCESSES)


class SeenStep(Schema):
    """What a step's editor draws: its trace, a mark that changes with it, and the encoding that the step
    works on."""

    encoding: EncodingKey
    mark: str
    trace: Trace


class LiveHead(Schema):
    """The head of a live answer: points a side of the table behind it, the encoding at the look's end, and
    the steps by id."""

    size: int
    end: EncodingKey
    traces: dict[str, SeenStep]


def _trace(step: Any, at: Surroundings) -> str:
    """A step's trace as JSON. It is remembered by what it is made from; a LUT's depends on a file that may
    come and go."""
    return (
        _drawn(step, at)
        if step.kind == "lut"
        else _remembered(type(step), step.model_dump_json(), at.encoding.key)
    )


@TRACES.remembers
def _remembered(kind: type[Step], step: str, encoding_key: str) -> str:
    return _drawn(kind.model_validate_json(step), Surroundings(encoding(encoding_key), table))


def _drawn(step: Step, at: Surroundings) -> str:
    drawn = json.dumps(trace(step, at), separators=(",", ":"))
    mark = hashlib.sha256(drawn.encode()).hexdigest()[:12]
    return f'{{"encoding":"{at.encoding.key}","mark":"{mark}","trace":{drawn}}}'


def traces(look: LookValue) -> str:
    """JSON: for every step by id, the encoding it works on, what its editor draws, and a mark that changes
    with it."""
    given = look.encodings()
    return (
        "{"
        + ",".join(
            f"{json.dumps(s.id)}:{_trace(s, Surroundings(given[s.id], table))}"
            for s in every_step(look.steps)
        )
        + "}"
    )


def live(
    look: LookValue,
    *,
    strength: float,
    trim: Trim | None,
    frame: Frame | None,
    only: str | None = None,
    traced: bool = True,
    shown: "Shown | None" = None,
) -> bytes:
    """The look, or one step of it alone, as the viewer needs it, with the traces of the whole look if wanted.
    shown: in another way than by itself.

    uint32 length of the JSON that follows (padded to 4 bytes with spaces), the JSON (size, traces, end), then
    the half-float table ``size³ × 3`` for the screen, red fastest. With a trim the table takes the frame in
    its own encoding, untrimmed. Raises ``LookError``.
    """
    source = frame.encoding if trim is not None and frame is not None else look.input
    if shown is None:
        grid = _grid(Treatment(look, source, trim, strength, ends="screen").compile(table), only)
    else:
        grid = shown(look, source, trim, strength, only)
    drawn = traces(look) if traced else "{}"
    head = f'{{"size":{len(grid)},"end":"{look.end().key}","traces":{drawn}}}'
    return headed(head, halves(grid, -1, 2).tobytes())


def _grid(program: Program, only: str | None = None, size: int = LIVE_GRID) -> F32:
    """What a program makes of the points of the live table, float32 ``(size, size, size, 3)``."""
    grid = bake(program.only(only) if only else program, size, cache=_leading).grid
    assert grid is not None
    return grid


#: Makes a live table that shows a look in another way: from the look, the encoding of what comes in, its
#: trim, the strength, and the step that is seen alone.
Shown = Callable[[LookValue, str, Trim | None, float, str | None], F32]


def difference_from(other: LookValue | None, full: float) -> Shown:
    """How far a look is from another one (from none), as ``apart`` shows it."""

    def shown(look: LookValue, source: str, trim: Trim | None, strength: float, only: str | None) -> F32:
        here = _grid(Treatment(look, source, trim, strength, ends="screen").compile(table), only, FINE_GRID)
        there = _grid(Treatment(other, source, trim, ends="screen").compile(table), None, FINE_GRID)
        flat = (FINE_GRID * FINE_GRID, FINE_GRID, 3)
        found = difference_picture(here.reshape(flat), there.reshape(flat), encoding(SCREEN), full)
        return np.ascontiguousarray(found.reshape(here.shape), dtype=np.float32)

    return shown


def baked_with(grid: int, interpolation: Interpolation) -> Shown:
    """A look as the table of a bake of that size gives it, as ``as_baked`` shows it."""

    def shown(look: LookValue, source: str, trim: Trim | None, strength: float, only: str | None) -> F32:
        program = Treatment(look, strength=strength).compile(table)
        lut = bake(program.only(only) if only else program, grid)
        there = Treatment(LookValue(input=look.input, output=look.input), source, trim).compile()
        given = _grid(there).reshape(LIVE_GRID * LIVE_GRID, LIVE_GRID, 3)
        seen = for_screen(lut.apply(given, interpolation), look.output)
        return np.ascontiguousarray(seen.reshape(*[LIVE_GRID] * 3, 3), dtype=np.float32)

    return shown


def unlooked(look_input: str) -> bytes:
    """The table that shows a picture as it comes in, without a look; framed like ``live``."""
    grid = bake(Treatment(None, look_input, ends="screen").compile(), LIVE_GRID).grid
    assert grid is not None
    return headed(json.dumps({"size": LIVE_GRID, "end": look_input}), halves(grid, -1, 2).tobytes())


class How(TypedDict, total=False):
    """How a frame is seen under a look. strength: over the look's own. trim: instead of the frame's. only:
    one step of it alone, by its id."""

    strength: float
    trim: Trim | None
    only: str | None


def treatment(
    look: LookValue | None,
    frame: Frame,
    trim: Trim | None = None,
    *,
    strength: float = 1.0,
    screen: bool = False,
) -> Treatment:
    """What is done to a frame: its trim (or another one), a look, and the way to the screen if wanted."""
    chosen = trim if trim is not None else frame.trim
    return Treatment(look, frame.encoding, chosen, strength, "screen" if screen else "look")


def through(program: Program, frame: Frame, width: int) -> F32:
    """A frame, at most ``width`` wide, through a program; every pixel computed. Leading operations are
    remembered."""
    return program(original(frame, width), _pictures, f"{frame.digest} {frame.encoding} {width}")


def rendered(
    look: LookValue | None,
    frame: Frame,
    width: int,
    *,
    screen: bool = False,
    tables: Tables = table,
    **how: Unpack[How],
) -> F32:
    """A frame under a look or one step of it; without screen in the look's output."""
    only = how.get("only")
    seen = treatment(look, frame, how.get("trim"), strength=how.get("strength", 1.0), screen=screen)
    program = seen.compile(tables)
    return through(program.only(only) if only else program, frame, width)


def finished(
    look: LookValue,
    frame: Frame,
    width: int,
    *,
    screen: bool = False,
    tables: Tables = table,
    **how: Unpack[How],
) -> F32:
    """``rendered`` with the look's finish."""
    if not look.finish.active():
        return rendered(look, frame, width, screen=screen, tables=tables, **how)
    rgb = finish(rendered(look, frame, width, tables=tables, **how), look.finish, look.output, frame.digest)
    return for_screen(rgb, look.output) if screen else rgb


def exact(look: LookValue, frame: Frame, width: int, **how: Unpack[How]) -> bytes:
    """A frame under a look for the viewer at rest: every pixel the look's own, finish included, in the
    encoding of the screen.

    Laid out like ``framing.half_floats``. Raises ``LookError``.
    """
    with drawing(frame, width):
        return half_floats(finished(look, frame, width, screen=True, **how))


def as_baked(
    look: LookValue,
    frame: Frame,
    width: int,
    *,
    grid: int,
    interpolation: Interpolation,
    trim: Trim | None = None,
    strength: float = 1.0,
    only: str | None = None,
) -> bytes:
    """A frame through the table that a bake of that size would hold, read that way; laid out like
    ``exact``."""
    program = Treatment(look, strength=strength).compile(table)
    lut = bake(program.only(only) if only else program, grid)
    with drawing(frame, width):
        own = pixels(frame, look.input, width, trim)
        return half_floats(for_screen(lut.apply(own, interpolation), look.output))


def apart(
    look: LookValue,
    other: LookValue | None,
    frame: Frame,
    width: int,
    *,
    full: float,
    **how: Unpack[How],
) -> bytes:
    """How far a frame under a look is from the same under another one (under none): grey, white from ΔE
    ``full`` on; like ``exact``."""
    with drawing(frame, width):
        here = rendered(look, frame, width, screen=True, **how)
        there = rendered(other, frame, width, trim=how.get("trim"), screen=True)
        return half_floats(difference_picture(here, there, encoding(SCREEN), full))


def still(
    look: LookValue,
    digest: str,
    frame: Frame,
    width: int,
    *,
    strength: float = 1.0,
    trim: Trim | None = None,
    tables: Tables = table,
) -> bytes:
    """A frame under a look as a JPEG for the screen, kept by what it is made from."""
    chosen = trim if trim is not None else frame.trim
    made_of = [digest, frame.digest, frame.encoding, chosen.model_dump(), width, round(strength, 3), SCREEN]

    def make() -> bytes:
        with drawing(frame, width):
            return jpeg(
                finished(look, frame, width, strength=strength, trim=chosen, screen=True, tables=tables)
            )

    return storage.kept(storage.result("stills", made_of, ".jpg"), make)


def drawn(look: LookValue, frame: Frame, width: int, **how: Unpack[How]) -> bytes:
    """A frame under a look as a JPEG for the screen; not kept."""
    with drawing(frame, width):
        return jpeg(finished(look, frame, width, screen=True, **how))


def saucer(look: LookValue | None, size: int, tables: Tables = table) -> bytes:
    """The saucer of a look as PNG (the neutral one for ``None``), kept by what it is made from."""
    made_of = [look.digest() if look is not None else "neutral", size]
    return storage.kept(
        storage.result("saucers", made_of, ".png"), lambda: png(portrait(look, size, tables=tables))
    )


def wearing_lut(lut: BorrowedLut) -> LookValue:
    """A look that is that table alone."""
    return wearing(lut.digest, lut.name, lut.expects, lut.gives)


class _Measured(BaseModel):
    """What a look does, in words and numbers."""

    words: list[str] = []
    traits: dict[str, float] = {}


def _measured(look: LookValue) -> _Measured:
    """What the look does; kept. Nothing where it cannot be computed."""

    def measure() -> bytes:
        found = traits(look, tables=table)
        return _Measured(words=found.words(), traits=measured(found)).model_dump_json().encode()

    try:
        kept = storage.kept(storage.result("words", look.digest(), ".json"), measure)
    except LookError:
        return _Measured()
    return _Measured.model_validate_json(kept)


def words_of(look: LookValue) -> list[str]:
    """What the look does, in words. None where it cannot be computed."""
    return _measured(look).words


def traits_of(look: LookValue) -> dict[str, float]:
    """The traits that have a scale, by key. None where the look cannot be computed."""
    return _measured(look).traits
