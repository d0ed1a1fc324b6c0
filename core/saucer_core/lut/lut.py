"""A LUT: an optional shaper of one dimension, then an optional grid of three."""

import hashlib
from dataclasses import dataclass, field

import numpy as np

from ..arrays import F32, by_tiles, colours
from .interpolate import tetrahedral

GRID_LIMIT = 129
SHAPER_LIMIT = 65_536


def _bound(value: float) -> F32:
    return np.full(3, value, dtype=np.float32)


@dataclass(frozen=True)
class Shaper:
    """A curve a channel, equal steps over a domain. values: float32 ``(m, 3)``; low, high: ``(3,)``."""

    values: F32
    low: F32 = field(default_factory=lambda: _bound(0))
    high: F32 = field(default_factory=lambda: _bound(1))

    def apply(self, rgb: F32) -> F32:
        """Linear interpolation; outside the domain the ends answer. ``(n, 3)``."""
        out = np.empty_like(rgb)
        for c in range(3):
            places = np.linspace(self.low[c], self.high[c], len(self.values), dtype=np.float64)
            out[:, c] = np.interp(rgb[:, c], places, self.values[:, c])
        return out


@dataclass(frozen=True)
class Lut:
    """A table of colours. grid: float32 ``(size, size, size, 3)``, axes blue, green, red; low, high: its domain."""

    grid: F32 | None
    shaper: Shaper | None = None
    low: F32 = field(default_factory=lambda: _bound(0))
    high: F32 = field(default_factory=lambda: _bound(1))
    title: str = ""
    comments: tuple[str, ...] = ()

    @property
    def size(self) -> int:
        """Points along one side of the grid; 0 where there is only a shaper."""
        return 0 if self.grid is None else len(self.grid)

    def apply(self, rgb: F32) -> F32:
        """Colours ``(..., 3)`` through shaper and grid."""

        def tile(x: F32) -> F32:
            if self.shaper is not None:
                x = self.shaper.apply(x)
            return x if self.grid is None else tetrahedral(x, self.grid, self.low, self.high)

        return by_tiles(tile, colours(rgb))

    def digest(self) -> str:
        """SHA-256 of the numbers, whatever the title says."""
        h = hashlib.sha256()
        for part in (self.grid, self.low, self.high):
            if part is not None:
                h.update(np.ascontiguousarray(part).tobytes())
        if self.shaper is not None:
            for part in (self.shaper.values, self.shaper.low, self.shaper.high):
                h.update(np.ascontiguousarray(part).tobytes())
        return h.hexdigest()


def identity_grid(size: int) -> F32:
    """The colours of a grid over 0–1: float32 ``(size, size, size, 3)``, axes blue, green, red."""
    axis = np.linspace(0, 1, size, dtype=np.float32)
    b, g, r = np.meshgrid(axis, axis, axis, indexing="ij")
    return np.stack([r, g, b], axis=-1)
