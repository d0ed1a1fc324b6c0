"""How far a table is from the look, and which size is enough."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from functools import lru_cache

import numpy as np

from ..arrays import F32, F64
from ..difference import difference, metric_of
from ..program import Program
from ..tables.interpolate import Interpolation
from ..tables.lut import Lut
from .bake import USUAL_GRIDS, bake, grid_colours, table_places

#: Ten-bit code values: the unit of the errors.
CODES = 1023
#: ΔE2000 that 99 % of the colours stay below in a table that is good enough. Saucer's own figure.
ENOUGH_MOST = 0.5
#: ΔE2000 that all of them stay below. Saucer's own figure.
ENOUGH_ALL = 2.0
#: Pixels taken of each picture.
PIXELS = 20_000
#: Mean error in code that counts as a step's own.
SMALLEST = 1e-5
#: Worst colours that a report names.
WORST = 6
#: Colours that they are chosen from.
WORST_AMONG = 2000
#: Code values by which they lie apart, so that each is one of its own.
APART = 0.06
#: Code by which a colour must lie outside a table to be said to.
BEYOND = 1e-4


@dataclass(frozen=True)
class Deviation:
    """How far a table is from the look, over 0–1 of the table's reach.

    largest, mean, share_under_one: in ten-bit code values of the output. delta_mean, delta_95, delta_99,
    delta_largest: by ``metric``. worst_in, worst_look, worst_table: the colour where it looks worst, as it
    comes in, and as look and table give it.
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

    def as_dict(self) -> dict[str, object]:
        """Plain numbers, for JSON."""
        return asdict(self)


@dataclass(frozen=True)
class WorstColour:
    """A colour that look and table give differently: as it comes in, after both, and how far apart they look.

    picture: index of the picture that holds it, −1 for the whole cube. beyond: whether it lies outside what a
    table covers, so that none of any size holds it.
    """

    picture: int
    given: tuple[float, float, float]
    look: tuple[float, float, float]
    table: tuple[float, float, float]
    delta: float
    beyond: bool = False


@dataclass(frozen=True)
class Report:
    """How far a table is from the look over the whole cube, and on pictures where there are any; and where it
    is worst there.

    worst: of the pictures, or of the cube where there are none; each a colour of its own.
    """

    cube: Deviation
    pictures: Deviation | None
    worst: tuple[WorstColour, ...]

    @property
    def shown(self) -> Deviation:
        """What people judge by: the pictures, or the cube where there are none."""
        return self.pictures or self.cube

    @property
    def enough(self) -> bool:
        """Whether nobody will see the difference, in the cube or on the pictures."""
        return self.cube.enough and (self.pictures is None or self.pictures.enough)


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


def pixels_of(picture: F32, first: int) -> F32:
    """At most ``PIXELS`` colours ``(n, 3)`` of a picture: every so many pixels, from one half (``first`` 0)
    or the other (1) of them.

    What is fitted to one half is measured on the other.
    """
    flat = picture.reshape(-1, 3)
    return flat[first :: 2 * max(1, len(flat) // (2 * PIXELS))]


class Measuring:
    """What a program does at the points where tables are compared with it: the cube, a grey ramp, and pixels
    of pictures.

    pictures: float32 ``(..., 3)`` in the program's source encoding. Both sides are held to the 0–1 that a
    file is shown in (linear output only from below).
    """

    def __init__(self, program: Program, pictures: Sequence[F32] = (), power: int = 16) -> None:
        self.at, self._source = program.end, program.source
        seen = [pixels_of(p, 0) for p in pictures]
        cube = grid_colours(program.source, measuring_points(power))
        self.given = np.concatenate([cube, *seen])
        self._cube = len(cube)
        #: Of each colour the index of its picture, −1 for the cube.
        self._picture = np.concatenate(
            [np.full(len(cube), -1), *(np.full(len(p), k) for k, p in enumerate(seen))]
        )
        self._top = np.inf if self.at.response == "linear" else 1.0
        self.exact = self._held(program(self.given))

    def _held(self, rgb: F32) -> F32:
        return np.clip(rgb, 0, self._top)

    def compare(self, lut: Lut, interpolation: Interpolation | None = None) -> Deviation:
        """The table as a reader would interpolate it, against the look."""
        return self._deviation(*self._read(lut, interpolation), slice(None))

    def report(self, lut: Lut, interpolation: Interpolation | None = None) -> Report:
        """The same for the cube and for the pictures apart, with the worst colours."""
        read, delta = self._read(lut, interpolation)
        pictures = slice(self._cube, None)
        some = len(self.given) > self._cube
        return Report(
            cube=self._deviation(read, delta, slice(0, self._cube)),
            pictures=self._deviation(read, delta, pictures) if some else None,
            worst=self._worst(read, delta, self._cube if some else 0),
        )

    def _read(self, lut: Lut, interpolation: Interpolation | None) -> tuple[F32, F64]:
        read = self._held(lut.apply(self.given, interpolation))
        return read, difference(self.exact, read, self.at)

    def _worst(self, read: F32, delta: F64, first: int) -> tuple[WorstColour, ...]:
        found: list[int] = []
        for k in first + np.argsort(-delta[first:])[:WORST_AMONG]:
            if len(found) == WORST:
                break
            if all(np.abs(self.exact[k] - self.exact[other]).max() > APART for other in found):
                found.append(int(k))
        return tuple(
            WorstColour(
                int(self._picture[k]),
                _three(self.given[k]),
                _three(self.exact[k]),
                _three(read[k]),
                float(delta[k]),
                self._beyond(k),
            )
            for k in found
        )

    def _beyond(self, k: int) -> bool:
        place = table_places(self._source, self.given[k])
        return bool(((place < -BEYOND) | (place > 1 + BEYOND)).any())

    def _deviation(self, read: F32, delta_all: F64, part: slice) -> Deviation:
        given, exact, read, delta = self.given[part], self.exact[part], read[part], delta_all[part]
        off = np.abs(exact - read).max(axis=1) * CODES
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
            worst_in=_three(given[worst]),
            worst_look=_three(exact[worst]),
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
    program: Program,
    *,
    sizes: Sequence[int] = USUAL_GRIDS,
    pictures: Sequence[F32] = (),
    interpolations: Sequence[Interpolation] = ("tetrahedral", "trilinear"),
) -> list[GridChoice]:
    """Several sizes and interpolations compared; the smallest sufficient tetrahedral one is recommended, else
    the best."""
    measuring = Measuring(program, pictures)
    found: list[GridChoice] = []
    for size in sorted(sizes):
        lut = bake(program, size)
        found += [GridChoice(size, how, measuring.compare(lut, how)) for how in interpolations]
    first = interpolations[0]
    best = recommended({c.grid: c.deviation for c in found if c.interpolation == first})
    return [
        GridChoice(c.grid, c.interpolation, c.deviation, (c.grid, c.interpolation) == (best, first))
        for c in found
    ]


def recommended(measured: Mapping[int, Deviation]) -> int:
    """The smallest size that is enough; where none is, the one that is best."""
    for size in sorted(measured):
        if measured[size].enough:
            return size
    return min(measured, key=lambda size: measured[size].delta_99)


def error_shares(program: Program, size: int = 33) -> list[tuple[str, float]]:
    """The shares that top-level steps have in the mean error of a table of that size, by id, the largest
    first; they sum to 1.

    The program is cut after each step in turn; what the mean error grows by is that step's part. Empty where
    there is no error.
    """
    given = grid_colours(program.source, measuring_points(12))
    before, parts = 0.0, []
    for row in program.steps():
        if not row.on:
            continue
        part = program.upto(row.step)
        exact, read = part(given), bake(part, size).apply(given)
        error = (
            float(np.abs(np.clip(exact, 0, 1) - np.clip(read, 0, 1)).mean())
            if part.end.response != "linear"
            else before
        )
        if error - before > SMALLEST:
            parts.append((row.step, error - before))
        before = error
    total = sum(part for _, part in parts)
    return sorted(((step, part / total) for step, part in parts), key=lambda one: -one[1])


def costliest_step(program: Program, size: int = 33) -> str | None:
    """The id of the top-level step that causes most of the error of a table of that size; ``None`` where
    there is none."""
    shares = error_shares(program, size)
    return shares[0][0] if shares else None
