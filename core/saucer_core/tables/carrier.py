"""Carriers: pictures that hold every colour of a grid once, in three layouts.

*Hald*: level L, grid L², a square of L³ pixels, red fastest, line after line (common practice, after C.
Hald's scheme). *Strip*: the slices of blue side by side, red across, green down. *Tiles*: the same slices in
rows of about √grid.
"""

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32
from ..errors import CoreError
from .lut import GRID_LIMIT, identity_grid

Layout = Literal["hald", "strip", "tiles"]
LEVELS = range(4, 12)
I64 = NDArray[np.int64]


@dataclass(frozen=True)
class Arrangement:
    """Where each colour of a grid sits. grid: points a side; width, height: of the picture."""

    layout: Layout
    grid: int
    width: int
    height: int

    @property
    def level(self) -> int:
        """The level of a Hald of that grid."""
        return math.isqrt(self.grid)

    def places(self) -> tuple[I64, I64]:
        """Column and row of each colour, ``(grid³,)`` each, red fastest, blue slowest."""
        n = self.grid
        b, g, r = np.meshgrid(*[np.arange(n)] * 3, indexing="ij")
        b, g, r = b.reshape(-1), g.reshape(-1), r.reshape(-1)
        if self.layout == "hald":
            index = np.arange(n**3)
            return index % self.width, index // self.width
        across = self.width // n
        return r + n * (b % across), g + n * (b // across)


def hald(level: int) -> Arrangement:
    """Raises ``CoreError`` for a level outside 4–11."""
    if level not in LEVELS:
        raise CoreError(f"Hald carriers have a level from {LEVELS[0]} to {LEVELS[-1]}, not {level}.")
    return Arrangement("hald", level * level, level**3, level**3)


def strip(grid: int) -> Arrangement:
    """All slices side by side."""
    _check(grid)
    return Arrangement("strip", grid, grid * grid, grid)


def tiles(grid: int) -> Arrangement:
    """Slices in rows of about √grid."""
    _check(grid)
    across = int(np.ceil(np.sqrt(grid)))
    return Arrangement("tiles", grid, across * grid, -(-grid // across) * grid)


def _check(grid: int) -> None:
    if not 2 <= grid <= GRID_LIMIT:
        raise CoreError(f"A carrier's grid has 2 to {GRID_LIMIT} points a side, not {grid}.")


def picture(arrangement: Arrangement, grid: F32 | None = None) -> F32:
    """The carrier as a picture ``(height, width, 3)``: of the identity, or of a grid of that size."""
    x, y = arrangement.places()
    out = np.zeros((arrangement.height, arrangement.width, 3), dtype=np.float32)
    values = identity_grid(arrangement.grid) if grid is None else grid
    out[y, x] = values.reshape(-1, 3)
    return out


def beside(carrier: F32, shown: F32) -> F32:
    """One picture of two: ``shown`` on the left, the carrier on the right; both ``(height, width, 3)`` of the
    same height.

    Raises ``CoreError`` for other heights, and where the whole could be taken for a carrier itself.
    """
    if shown.shape[0] != carrier.shape[0]:
        raise CoreError(
            f"A picture beside a carrier is as high as that, {carrier.shape[0]} pixels, not {shown.shape[0]}."
        )
    out = np.concatenate([shown, carrier], axis=1)
    if arrangements(out.shape[1], out.shape[0]):
        raise CoreError(
            "The two pictures together would look like one carrier. Choose another frame or number of points."
        )
    return out


def carrier_part(rgb: F32) -> F32:
    """Of a picture that shows something else on its left the carrier on the right; the picture itself where
    it is all carrier or none."""
    height, width = rgb.shape[:2]
    if arrangements(width, height):
        return rgb
    parts = [rgb[:, width - a.width :] for a in _of_height(height) if a.width < width]
    return min(
        parts,
        key=lambda part: min(_unrest(grid_of(part, a)) for a in arrangements(part.shape[1], height)),
        default=rgb,
    )


def _of_height(height: int) -> list[Arrangement]:
    """The arrangements of that height that are not flat strips: those have no room for a picture beside
    them."""
    found = [a for a in (hald(level) for level in LEVELS) if a.height == height]
    return found + [a for a in (tiles(n) for n in range(4, GRID_LIMIT + 1)) if a.height == height]


def grid_of(rgb: F32, arrangement: Arrangement) -> F32:
    """The grid ``(n, n, n, 3)``, axes blue, green, red, that a carrier picture holds."""
    x, y = arrangement.places()
    n = arrangement.grid
    return np.ascontiguousarray(rgb[y, x].reshape(n, n, n, 3), dtype=np.float32)


def arrangements(width: int, height: int) -> list[Arrangement]:
    """Every arrangement that a picture of that size can be."""
    found = [a for a in (hald(level) for level in LEVELS) if (a.width, a.height) == (width, height)]
    for n in range(2, GRID_LIMIT + 1):
        found += [a for a in (strip(n), tiles(n)) if (a.width, a.height) == (width, height)]
    return found


def _unrest(grid: F32) -> float:
    """How rough a grid is: small where neighbours on the grid are neighbours in colour."""
    return float(np.mean([np.abs(np.diff(grid, n=2, axis=a)).mean() for a in range(3)]))


def recognise(rgb: F32) -> tuple[Arrangement, F32] | None:
    """The arrangement under which a picture makes the smoothest grid, and that grid; ``None`` where no size
    fits."""
    found = [(a, grid_of(rgb, a)) for a in arrangements(rgb.shape[1], rgb.shape[0])]
    return min(found, key=lambda pair: _unrest(pair[1]), default=None)
