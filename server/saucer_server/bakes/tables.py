"""The tables that files hold: sampled or fitted, made once."""

import struct
import time
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from saucer_core.baking.bake import bake
from saucer_core.baking.deviation import Measuring, Report, error_shares
from saucer_core.baking.fit import fit
from saucer_core.checks.check import halved
from saucer_core.encodings.code_range import CodeRange
from saucer_core.formats.cube import write_text
from saucer_core.program import Program
from saucer_core.readings.masks import difference_picture
from saucer_core.screen import for_screen
from saucer_core.steps import Step
from saucer_core.steps.encode import Encode
from saucer_core.steps.scene_to_display import SceneToDisplay
from saucer_core.steps.traced import swatches
from saucer_core.tables.lut import Lut
from saucer_core.treatment import Treatment

from .. import storage
from ..caches import TABLES
from ..frames import rules as frames
from ..frames.rules import Frame
from ..framing import jpeg
from ..looks.rules import LookValue
from ..luts.rules import table

Method = Literal["sampled", "fitted"]
#: Pixels: width of the frames that a table is measured on.
MEASURED_WIDTH = 640
#: Pixels: width of the frames that are drawn for the screen.
DRAWN_WIDTH = 720
#: Steps that are tried for an easing.
TRIED = 3
#: Share of the error that may at most be left for an easing to be worth saying.
WORTH = 0.95


def program_of(look: LookValue) -> Program:
    """The look compiled. Raises ``LookError``."""
    return Treatment(look).compile(table)


#: Before the numbers of a kept table stands how long it took to make them.
_SECONDS = struct.Struct("<d")


@TABLES.remembers
def _made(look_json: bytes, size: int, method: Method, code_range: CodeRange) -> tuple[Lut, float]:
    """The table, and the seconds that making it took."""
    look = LookValue.model_validate_json(look_json)
    program = program_of(look)
    start = time.perf_counter()
    sampled = bake(program, size, range_in=code_range, range_out=code_range)
    if method == "sampled":
        return sampled, time.perf_counter() - start

    def fitted() -> bytes:
        start = time.perf_counter()
        grid = fit(program, size, range_in=code_range, range_out=code_range).grid
        assert grid is not None
        return _SECONDS.pack(time.perf_counter() - start) + grid.astype("<f4").tobytes()

    kept = storage.kept(storage.result("fitted", [look.digest(), size, code_range]), fitted)
    (seconds,) = _SECONDS.unpack_from(kept)
    grid = np.frombuffer(kept, "<f4", offset=_SECONDS.size).astype(np.float32).reshape(size, size, size, 3)
    return replace(sampled, grid=grid), seconds


def made(look: LookValue, size: int, method: Method, code_range: CodeRange = "full") -> Lut:
    """The table of a look, without title and comments. Shared: do not change it. Raises ``LookError``."""
    return _timed(look, size, method, code_range)[0]


def _timed(look: LookValue, size: int, method: Method, code_range: CodeRange = "full") -> tuple[Lut, float]:
    return _made(look.model_dump_json(exclude={"finish"}).encode(), size, method, code_range)


@dataclass(frozen=True)
class Chip:
    """A colour that look and table give differently, as the screen shows it; ``frame`` names the frame that
    holds it, if one does.

    beyond: whether it lies outside what a table covers, so that none of any size holds it.
    """

    frame: str
    before: str
    look: str
    table: str
    delta: float
    beyond: bool


@dataclass(frozen=True)
class Proof:
    """What one size and method would cost: the report, seconds that making the table took, and bytes of a
    ``.cube`` of it."""

    grid: int
    method: Method
    report: Report
    enough: bool
    chips: list[Chip]
    seconds: float
    bytes: int


def _pictures(look: LookValue, seen: Sequence[Frame]) -> list[np.ndarray]:
    return [frames.pixels(f, look.input, MEASURED_WIDTH) for f in seen]


def proof(look: LookValue, seen: Sequence[Frame], size: int, method: Method) -> Proof:
    """How far the table is from the look, over the cube and on frames. Raises ``LookError``."""
    program = program_of(look)
    lut, seconds = _timed(look, size, method)
    report = Measuring(program, _pictures(look, seen)).report(lut, "tetrahedral")
    colours = [
        np.array([getattr(w, name) for w in report.worst], np.float32).reshape(-1, 3)
        for name in ("given", "look", "table")
    ]
    shown = [
        swatches(c, at) for c, at in zip(colours, (program.source, program.end, program.end), strict=True)
    ]
    chips = [
        Chip(seen[w.picture].name if w.picture >= 0 else "", before, after, read, w.delta, w.beyond)
        for w, before, after, read in zip(report.worst, *shown, strict=True)
    ]
    plain = replace(lut, shaper=None)
    return Proof(size, method, report, report.enough, chips, seconds, len(write_text(plain)))


@dataclass(frozen=True)
class Blame:
    """A step and its share of the mean error."""

    step: str
    share: float


@dataclass(frozen=True)
class Easing:
    """What a sampled table of that size would gain if one step were eased to half its strength."""

    step: str
    before: Report
    after: Report


@dataclass(frozen=True)
class Blamed:
    """Which steps the error comes from, the most first; and the first of them whose easing brings the table
    nearer to the look."""

    shares: list[Blame]
    easing: Easing | None


def blamed(look: LookValue, seen: Sequence[Frame], size: int) -> Blamed:
    """Where the error of a sampled table comes from. Raises ``LookError``."""
    program = program_of(look)
    shares = [Blame(step, share) for step, share in error_shares(program, size)]
    pictures = _pictures(look, seen)
    easable = [s.step for s in shares if not isinstance(_step(look, s.step), Encode | SceneToDisplay)]
    if not easable:
        return Blamed(shares, None)
    before = Measuring(program, pictures).report(made(look, size, "sampled"), "tetrahedral")
    for step in easable[:TRIED]:
        eased = halved(look, step)
        after = Measuring(program_of(eased), pictures).report(made(eased, size, "sampled"), "tetrahedral")
        if after.shown.delta_99 < before.shown.delta_99 * WORTH:
            return Blamed(shares, Easing(step, before, after))
    return Blamed(shares, None)


def _step(look: LookValue, step_id: str) -> Step:
    return next(s for s in look.steps if s.id == step_id)


def drawn(look: LookValue, frame: Frame) -> bytes:
    """The frame under the look, JPEG."""
    program = program_of(look)
    return jpeg(for_screen(program(frames.pixels(frame, look.input, DRAWN_WIDTH)), look.output))


def drawn_error(look: LookValue, frame: Frame, size: int, method: Method, full: float) -> bytes:
    """How far the table is from the look on a frame, JPEG: black for no difference, white from ΔE ``full``
    on."""
    program = program_of(look)
    given = frames.pixels(frame, look.input, DRAWN_WIDTH)
    return jpeg(difference_picture(program(given), made(look, size, method).apply(given), program.end, full))
