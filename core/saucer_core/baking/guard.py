"""What a fit must not do: make a table worse anywhere, or let a tone fall where the look lets it rise.

A fitted table is held against the sampled one at colours that nothing was fitted to, read in both ways.
Points around which it is worse, or where it goes against the look, are given back to the sampled values;
where that does not suffice, all of them.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32, F64
from ..difference import difference
from ..encodings import Encoding
from ..tables.interpolate import Interpolation, read_grid
from .bake import table_places
from .spread import ordinary, spread

WAYS: tuple[Interpolation, ...] = ("tetrahedral", "trilinear")
#: Colours of the cube for a cell of the grid.
A_CELL = 3
#: Colours of the cube at least.
FEWEST = 2**15
#: Colours of the cube at most.
MOST = 2**18
#: Colours of ordinary pictures.
ORDINARY = 2**16
#: Steps of the grey ramp.
GREYS = 1024
#: Seed of those colours.
GUARDED_AT = 20_33
#: ΔE by which the colours around a point may be worse on the average: far below what is seen.
AROUND = 0.002
#: From the sampled table's ΔE of so many per cent of the colours on, no single colour may be worse.
NEARLY_ALL = 99.8
#: Of the sampled table's 99 % as much is allowed: at other colours than these it is a little more.
NEARLY = 0.98
#: Code by which a tone may go against the look.
AGAINST = 1e-5
#: Rounds of giving back before all is given back.
ROUNDS = 16
#: Rounds after which the neighbours of a point at fault are given back with it.
ALONE = 5

Marked = NDArray[np.bool_]
_LOW = np.zeros(3, np.float32)
_SCALE = np.ones(3, np.float32)


@dataclass(frozen=True)
class _Judged:
    """Colours of one kind, read in one way. places: in the table; exact: what the look gives; before: ΔE of
    the sampled table."""

    places: F32
    exact: F32
    way: Interpolation
    before: F64


def _corners(cells: NDArray[np.int64], amounts: F64, size: int) -> F64:
    """What the points of a grid get of amounts, each of which goes to all eight corners of its cell
    ``(n, 3)``: ``(size³,)``."""
    inside = size - 1
    flat = (cells[:, 2] * inside + cells[:, 1]) * inside + cells[:, 0]
    by_cell = np.bincount(flat, amounts, inside**3).reshape(inside, inside, inside)
    found = np.zeros((size, size, size))
    for b, g, r in np.ndindex(2, 2, 2):
        found[b : b + inside, g : g + inside, r : r + inside] += by_cell
    return found.reshape(-1)


class Guard:
    """A sampled table and the colours at which a fitted one is held against it.

    sampled: float32 ``(size, size, size, 3)``. look: what the look gives at places of the table, float32
    ``(n, 3)`` both. source, at: the encodings of the two. pictures: places of pictures' colours ``(n, 3)``,
    which are judged as a kind of their own.
    """

    def __init__(
        self, sampled: F32, look: Callable[[F32], F32], source: Encoding, at: Encoding, pictures: F32
    ) -> None:
        self._sampled, self._at, self._size = sampled, at, len(sampled)
        self._top = np.inf if at.response == "linear" else 1.0
        count = int(np.clip(A_CELL * (self._size - 1) ** 3, FEWEST, MOST))
        kinds = [
            spread(count, GUARDED_AT),
            np.clip(table_places(source, ordinary(ORDINARY, source, GUARDED_AT)), 0, 1),
        ]
        kinds += [pictures] if len(pictures) else []
        self._judged = []
        for places in kinds:
            exact = self._held(look(places))
            self._judged += [
                _Judged(places, exact, way, self._off(sampled, places, exact, way)) for way in WAYS
            ]
        self._greys = np.repeat(np.linspace(0, 1, GREYS, dtype=np.float32)[:, None], 3, axis=1)
        self._rises = np.diff(self._held(look(self._greys)), axis=0)
        index = np.arange(self._size**3).reshape(sampled.shape[:3])
        #: The two ends of each cell's diagonal of grey, ``(cells, 2)``.
        self._diagonals = np.stack([index[:-1, :-1, :-1].ravel(), index[1:, 1:, 1:].ravel()], axis=1)

    def _held(self, rgb: F32) -> F32:
        return np.clip(rgb, 0, self._top)

    def _read(self, grid: F32, places: F32, way: Interpolation) -> F32:
        return self._held(read_grid(places, grid, _LOW, _SCALE, way))

    def _off(self, grid: F32, places: F32, exact: F32, way: Interpolation) -> F64:
        return difference(exact, self._read(grid, places, way), self._at)

    def kept(self, fitted: F32) -> F32:
        """The fitted table, with sampled values at the points at fault: no worse in any kind of colour, in
        any way of reading."""
        from scipy.ndimage import maximum_filter

        free = np.ones(self._sampled.shape[:3], dtype=bool)
        for k in range(ROUNDS):
            grid = np.where(free[..., None], fitted, self._sampled)
            fault = self._at_fault(grid).reshape(free.shape) & free
            if not fault.any():
                return grid
            free &= ~(maximum_filter(fault, 3) if k >= ALONE else fault)
        return self._sampled

    def _at_fault(self, grid: F32) -> Marked:
        """Points to give back, ``(size³,)``: around which the table is worse, or goes against the look."""
        fault = self._against(grid)
        for kind in self._judged:
            delta = self._off(grid, kind.places, kind.exact, kind.way)
            cells = np.minimum((kind.places * np.float32(self._size - 1)).astype(np.int64), self._size - 2)
            around = 0.0 if delta.mean() > kind.before.mean() else AROUND
            fault |= _corners(cells, delta - kind.before - around, self._size) > 0
            limit, within = np.percentile(kind.before, (NEARLY_ALL, 99))
            limit = NEARLY * within if np.percentile(delta, 99) > NEARLY * within else limit
            single = (delta > limit) & (delta > kind.before)
            fault |= _corners(cells, single.astype(np.float64), self._size) > 0
        return fault

    def _against(self, grid: F32) -> Marked:
        """Points of cells in which a channel falls toward lighter, along the grey, where sampled table or
        look rise; or the reverse."""
        own, now = (
            np.diff(self._held(g).reshape(-1, 3)[self._diagonals], axis=1)[:, 0]
            for g in (self._sampled, grid)
        )
        fault = np.zeros(self._size**3, dtype=bool)
        fault[self._diagonals[_turned(own, now, own)].ravel()] = True
        for way in WAYS:
            own, now = (np.diff(self._read(g, self._greys, way), axis=0) for g in (self._sampled, grid))
            cells = np.minimum(
                (self._greys[:-1] * np.float32(self._size - 1)).astype(np.int64), self._size - 2
            )
            fault |= _corners(cells, _turned(self._rises, now, own).astype(np.float64), self._size) > 0
        return fault


def _turned(rises: F32, now: F32, own: F32) -> Marked:
    """Whether one of three channels falls where it should rise, and the sampled table falls less; or rises
    where it should fall."""
    falls = (rises >= 0) & (now < np.minimum(own, 0) - AGAINST)
    climbs = (rises <= 0) & (now > np.maximum(own, 0) + AGAINST)
    return np.asarray((falls | climbs).any(axis=-1))
