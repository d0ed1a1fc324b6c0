"""A LUT: an optional shaper of one dimension, then an optional grid of three; and what every table can do."""

import hashlib
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Protocol

import numpy as np

from ..arrays import F32
from ..kernels import kernel
from ..operations import Operation, apply
from .interpolate import GridRead, Interpolation, read_grid

GRID_LIMIT = 129
SHAPER_LIMIT = 65_536


class Table(Protocol):
    """Something read from a file that turns colours into colours."""

    @property
    def title(self) -> str:
        """What the file calls it."""

    @property
    def comments(self) -> tuple[str, ...]:
        """What else the file says."""

    @property
    def size(self) -> int:
        """Points along one side of its grid; 0 where it has none."""

    def operations(self) -> list[Operation]:
        """What it does."""

    def apply(self, rgb: F32) -> F32:
        """Colours ``(..., 3)`` through it."""

    def digest(self) -> str:
        """SHA-256 of the numbers, whatever the title says."""


def _bound(value: float) -> F32:
    return np.full(3, value, dtype=np.float32)


@kernel("void(float32[:, ::1], float32[:, ::1], float32[::1], float32[::1])")
def _shape(t: F32, values: F32, low: F32, scale: F32) -> None:
    top = np.float32(values.shape[1] - 1)
    last = np.int32(values.shape[1] - 2)
    for c in range(3):
        for i in range(t.shape[1]):
            u = min(max((t[c, i] - low[c]) * scale[c], np.float32(0)), top)
            k = min(np.int32(u), last)
            t[c, i] = values[c, k] + (u - np.float32(k)) * (values[c, k + 1] - values[c, k])


@dataclass(frozen=True, eq=False)
class ShaperRead(Operation):
    """A curve a channel, equal steps over a domain. values: float32 ``(3, m)``; low, high: ``(3,)``."""

    values: F32
    low: F32
    high: F32

    def run(self, tile: F32) -> None:
        scale = ((self.values.shape[1] - 1) / (self.high.astype(np.float64) - self.low)).astype(np.float32)
        _shape(tile, self.values, self.low, scale)


@dataclass(frozen=True)
class Shaper:
    """A curve a channel, equal steps over a domain. values: float32 ``(m, 3)``; low, high: ``(3,)``."""

    values: F32
    low: F32 = field(default_factory=lambda: _bound(0))
    high: F32 = field(default_factory=lambda: _bound(1))

    def operation(self) -> Operation:
        """Linear interpolation; a value outside the domain gets what its ends give."""
        return ShaperRead(np.ascontiguousarray(self.values.T), self.low, self.high)


@dataclass(frozen=True)
class Lut:
    """A table of colours. grid: float32 ``(size, size, size, 3)``, axes blue, green, red; low, high: its
    domain.

    interpolation: how it is meant to be read between its points.
    """

    grid: F32 | None
    shaper: Shaper | None = None
    low: F32 = field(default_factory=lambda: _bound(0))
    high: F32 = field(default_factory=lambda: _bound(1))
    title: str = ""
    comments: tuple[str, ...] = ()
    interpolation: Interpolation = "tetrahedral"

    @property
    def size(self) -> int:
        """Points along one side of the grid; 0 where there is only a shaper."""
        return 0 if self.grid is None else len(self.grid)

    def operations(self) -> list[Operation]:
        """Shaper, then grid."""
        return list(self._operations)

    @cached_property
    def _operations(self) -> tuple[Operation, ...]:
        found: tuple[Operation, ...] = () if self.shaper is None else (self.shaper.operation(),)
        return (
            found
            if self.grid is None
            else (*found, GridRead(self.grid, self.low, self.high, self.interpolation))
        )

    def apply(self, rgb: F32, interpolation: Interpolation | None = None, out: F32 | None = None) -> F32:
        """Colours ``(..., 3)`` through shaper and grid: a new array, or ``out`` (which may be ``rgb``) for
        frame after frame.

        interpolation: the table's own where it is not given.
        """
        shaped = rgb if self.shaper is None else apply([self.shaper.operation()], rgb)
        if self.grid is not None:
            return read_grid(shaped, self.grid, self.low, self.high, interpolation or self.interpolation, out)
        if out is None:
            return shaped
        out[...] = shaped
        return out

    def digest(self) -> str:
        """SHA-256 of the numbers and of how they are read, whatever the title says."""
        h = hashlib.sha256()
        for part in (self.grid, self.low, self.high):
            if part is not None:
                h.update(np.ascontiguousarray(part).tobytes())
        if self.shaper is not None:
            for part in (self.shaper.values, self.shaper.low, self.shaper.high):
                h.update(np.ascontiguousarray(part).tobytes())
        if self.interpolation != "tetrahedral":
            h.update(self.interpolation.encode())
        return h.hexdigest()


@lru_cache(maxsize=8)
def identity_grid(size: int) -> F32:
    """The colours of a grid over 0–1: float32 ``(size, size, size, 3)``, axes blue, green, red. Shared: do
    not change it."""
    axis = np.linspace(0, 1, size, dtype=np.float32)
    b, g, r = np.meshgrid(axis, axis, axis, indexing="ij")
    return np.stack([r, g, b], axis=-1)


def sampled(table: Table, size: int) -> Lut:
    """Any table as a grid over 0–1 with its title and comments."""
    grid = np.ascontiguousarray(table.apply(identity_grid(size)))
    return Lut(grid, title=table.title, comments=table.comments)
