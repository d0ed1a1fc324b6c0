"""How far a table is from the look, and which size is enough."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from ..arrays import F32
from ..difference import difference, metric_of
from ..program import Program
from ..tables.interpolate import Interpolation
from ..tables.lut import Lut
from .bake import USUAL_GRIDS, bake, grid_colours

#: Ten-bit code values: the unit of the errors.
CODES = 1023
#: Enough is a table with 99 % of the colours under the first and all under the second. Saucer's own figures.
ENOUGH_MOST, ENOUGH_ALL = 0.5, 2.0
#: Pixels taken of each picture.
PIXELS = 20_000


@dataclass(frozen=True)
class Deviation:
    """How far a table is from the look, over 0–1 of the table's reach.

    largest, mean, share_under_one: in ten-bit code values of the output. delta_mean, delta_95, delta_99, delta_largest: by
    ``metric``. worst_in, worst_look, worst_table: the colour where it looks worst, as it comes in, and as look and table give
    it.
    """

    largest: float
    mean: float
    share_under_one: float
    metric: str
    delta_mean: float
    delta_95: float
    delta_99: float
    delta_largest: float
    worst_in: tuple[float, float, float]
    worst_look: tuple[float, float, float]
    worst_table: tuple[float, float, float]

    @property
    def enough(self) -> bool:
        """Whether nobody will see the difference."""
        return self.delta_99 < ENOUGH_MOST and self.delta_largest < ENOUGH_ALL

    def as_dict(self) -> dict[str, Any]:
        """Plain numbers, for JSON."""
        return asdict(self)


def _three(rgb: F32) -> tuple[float, float, float]:
    return round(float(rgb[0]), 6), round(float(rgb[1]), 6), round(float(rgb[2]), 6)


@lru_cache(maxsize=4)
def measuring_points(power: int = 16) -> F32:
    """2¹⁶ Sobol points of the unit cube and a grey ramp of 1,024 steps, float32 ``(n, 3)``."""
    # Brought in where it is needed: it takes longer to load than everything else here.
    from scipy.stats import qmc

    sobol = qmc.Sobol(3, scramble=False).random_base2(power).astype(np.float32)
    grey = np.repeat(np.linspace(0, 1, 1024, dtype=np.float32)[:, None], 3, axis=1)
    return np.concatenate([sobol, grey])


class Measuring:
    """What a program does at the points where tables are compared with it: the cube, a grey ramp, and pixels of pictures.

    pictures: float32 ``(..., 3)`` in the program's source encoding. Both sides are held to the 0–1 that a file is shown in (linear
    output only from below).
    """

    def __init__(self, program: Program, pictures: Sequence[F32] = (), power: int = 16) -> None:
        self.at = program.end
        seen = [p.reshape(-1, 3)[:: max(1, p.size // 3 // PIXELS)] for p in pictures]
        self.given = np.concatenate([grid_colours(program.source, measuring_points(power)), *seen])
        self._top = np.inf if self.at.response == "linear" else 1.0
        self.exact = self._held(program(self.given))

    def _held(self, rgb: F32) -> F32:
        return np.clip(rgb, 0, self._top)

    def compare(self, lut: Lut, interpolation: Interpolation | None = None) -> Deviation:
        """The table as a reader would interpolate it, against the look."""
        read = self._held(lut.apply(self.given, interpolation))
        off = np.abs(self.exact - read).max(axis=1) * CODES
        delta = difference(self.exact, read, self.at)
        worst = int(delta.argmax())
        return Deviation(
            largest=float(off.max()),
            mean=float(off.mean()),
            share_under_one=float((off < 1).mean()),
            metric=metric_of(self.at),
            delta_mean=float(delta.mean()),
            delta_95=float(np.percentile(delta, 95)),
            delta_99=float(np.percentile(delta, 99)),
            delta_largest=float(delta[worst]),
            worst_in=_three(self.given[worst]),
            worst_look=_three(self.exact[worst]),
            worst_table=_three(read[worst]),
        )


@dataclass(frozen=True)
class GridChoice:
    """One size and interpolation, and what it costs in precision."""

    grid: int
    interpolation: Interpolation
    deviation: Deviation
    recommended: bool = False


def choices(
    program: Program, *, sizes: Sequence[int] = USUAL_GRIDS, pictures: Sequence[F32] = (),
    interpolations: Sequence[Interpolation] = ("tetrahedral", "trilinear"),
) -> list[GridChoice]:  # fmt: skip
    """Several sizes and interpolations compared; the smallest sufficient tetrahedral one is recommended, else the best."""
    measuring = Measuring(program, pictures)
    found: list[GridChoice] = []
    for size in sorted(sizes):
        lut = bake(program, size)
        found += [GridChoice(size, how, measuring.compare(lut, how)) for how in interpolations]
    first = interpolations[0]
    best = recommended({c.grid: c.deviation for c in found if c.interpolation == first})
    return [GridChoice(c.grid, c.interpolation, c.deviation, (c.grid, c.interpolation) == (best, first)) for c in found]


def recommended(measured: Mapping[int, Deviation]) -> int:
    """The smallest size that is enough; where none is, the one that is best."""
    for size in sorted(measured):
        if measured[size].enough:
            return size
    return min(measured, key=lambda size: measured[size].delta_99)


def costliest_step(program: Program, size: int = 33) -> str | None:
    """The id of the top-level step that causes most of the error of a table of that size; ``None`` where there is none.

    The program is cut after each step in turn; what the mean error grows by is that step's part.
    """
    given = grid_colours(program.source, measuring_points(12))
    before, worst, name = 0.0, 1e-5, None
    for row in program.steps():
        if not row.on:
            continue
        part = program.upto(row.step)
        exact, read = part(given), bake(part, size).apply(given)
        error = float(np.abs(np.clip(exact, 0, 1) - np.clip(read, 0, 1)).mean()) if part.end.response != "linear" else before
        if error - before > worst:
            worst, name = error - before, row.step
        before = error
    return name
