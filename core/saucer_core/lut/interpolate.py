"""Interpolation in a grid of colours.

Tetrahedral: each cell of the grid is cut into six tetrahedra along its grey diagonal (J. Kasson, S. Nin, W. Plouffe and J. Hafner,
"Performing color space conversions with three-dimensional linear interpolation", Journal of Electronic Imaging 4 (1995)).
Trilinear: the eight corners of the cell, weighted by the opposite volumes (same paper).

The grid is kept with four floats a colour, so that a corner is one load.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..arrays import F32, TILE, colours, in_pieces
from ..kernels import inlined, kernel
from ..operations import Operation

Interpolation = Literal["tetrahedral", "trilinear"]
_NIL, _ONE = np.float32(0), np.float32(1)


@inlined
def _place(v, low, scale, top):  # type: ignore[no-untyped-def]
    return min(max((v - low) * scale, np.float32(0)), top)


@kernel("void(float32[:, ::1], float32[:, ::1], float32[::1], int64, float32[::1], float32[::1])")
def _tetrahedral(rgb: F32, out: F32, grid: F32, size: int, low: F32, scale: F32) -> None:
    top, last = np.float32(size - 1), np.int32(size - 2)
    dx, dy, dz = np.int32(4), np.int32(4 * size), np.int32(4 * size * size)
    every = dx + dy + dz
    for i in range(rgb.shape[0]):
        x = _place(rgb[i, 0], low[0], scale[0], top)
        y = _place(rgb[i, 1], low[1], scale[1], top)
        z = _place(rgb[i, 2], low[2], scale[2], top)
        a, b, c = min(np.int32(x), last), min(np.int32(y), last), min(np.int32(z), last)
        x, y, z = x - np.float32(a), y - np.float32(b), z - np.float32(c)
        # From the cell's dark corner to its light one, first along the largest part, last along the smallest.
        high, small = max(x, max(y, z)), min(x, min(y, z))
        middle = x + y + z - high - small
        k0 = c * dz + b * dy + a * dx
        k1 = k0 + (dx if x == high else (dy if y == high else dz))
        k2 = k0 + every - (dz if z == small else (dy if y == small else dx))
        k3 = k0 + every
        w0, w1, w2, w3 = _ONE - high, high - middle, middle - small, small
        for k in range(3):
            out[i, k] = w0 * grid[k0 + k] + w1 * grid[k1 + k] + w2 * grid[k2 + k] + w3 * grid[k3 + k]


@kernel("void(float32[:, ::1], float32[:, ::1], float32[::1], int64, float32[::1], float32[::1])")
def _trilinear(rgb: F32, out: F32, grid: F32, size: int, low: F32, scale: F32) -> None:
    top, last = np.float32(size - 1), np.int32(size - 2)
    dx, dy, dz = np.int32(4), np.int32(4 * size), np.int32(4 * size * size)
    for i in range(rgb.shape[0]):
        x = _place(rgb[i, 0], low[0], scale[0], top)
        y = _place(rgb[i, 1], low[1], scale[1], top)
        z = _place(rgb[i, 2], low[2], scale[2], top)
        a, b, c = min(np.int32(x), last), min(np.int32(y), last), min(np.int32(z), last)
        x, y, z = x - np.float32(a), y - np.float32(b), z - np.float32(c)
        p = c * dz + b * dy + a * dx
        q, r, s = p + dy, p + dz, p + dy + dz
        for k in range(3):
            e, f = grid[p + k] + x * (grid[p + dx + k] - grid[p + k]), grid[q + k] + x * (grid[q + dx + k] - grid[q + k])
            g, h = grid[r + k] + x * (grid[r + dx + k] - grid[r + k]), grid[s + k] + x * (grid[s + dx + k] - grid[s + k])
            front, back = e + y * (f - e), g + y * (h - g)
            out[i, k] = front + z * (back - front)


_KERNELS = {"tetrahedral": _tetrahedral, "trilinear": _trilinear}


def padded(grid: F32) -> F32:
    """The grid ``(size, size, size, 3)`` as the kernels take it: flat, four floats a colour."""
    wide = np.zeros((*grid.shape[:3], 4), dtype=np.float32)
    wide[..., :3] = grid
    return wide.reshape(-1)


@dataclass(frozen=True, eq=False)
class GridRead(Operation):
    """Colours through a grid over a domain. Axes of the grid are blue, green, red: red runs fastest.

    Outside the domain the edge answers.
    """

    grid: F32
    low: F32
    high: F32
    interpolation: Interpolation = "tetrahedral"

    def __post_init__(self) -> None:
        object.__setattr__(self, "_flat", padded(self.grid))
        object.__setattr__(self, "_scale", ((len(self.grid) - 1) / (self.high.astype(np.float64) - self.low)).astype(np.float32))

    def read(self, rgb: F32, out: F32) -> None:
        """From ``(n, 3)`` into ``(n, 3)``."""
        _KERNELS[self.interpolation](rgb, out, self._flat, len(self.grid), self.low, self._scale)  # type: ignore[attr-defined]

    def run(self, tile: F32) -> None:
        rgb = np.ascontiguousarray(tile.T)
        self.read(rgb, rgb)
        tile[:] = rgb.T


def read_grid(rgb: F32, grid: F32, low: F32, high: F32, interpolation: Interpolation = "tetrahedral") -> F32:
    """Colours ``(..., 3)`` through a grid ``(size, size, size, 3)`` over the domain ``low``–``high``, each ``(3,)``."""
    rgb = colours(rgb)
    reading = GridRead(grid, low, high, interpolation)
    flat = rgb.reshape(-1, 3)
    out = np.empty_like(flat)
    in_pieces(lambda a, b: reading.read(flat[a:b], out[a:b]), len(flat), 2 * TILE)
    return out.reshape(rgb.shape)
