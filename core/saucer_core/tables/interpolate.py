"""Interpolation in a grid of colours.

Tetrahedral: each cell of the grid is cut into six tetrahedra along its grey diagonal (J. Kasson, S. Nin, W.
Plouffe and J. Hafner, "Performing color space conversions with three-dimensional linear interpolation",
Journal of Electronic Imaging 4 (1995)).
Trilinear: the eight corners of the cell, weighted by the opposite volumes (same paper).

The grid is kept with four floats a colour, so that a corner is one load. Where a colour lies in the grid is
found for a block of colours at once, without a branch, so that the compiler does eight at a time; then each
takes its corners.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..arrays import F32, TILE, colours, in_pieces
from ..kernels import inlined, kernel
from ..operations import Operation
from .corners import put_mean

Interpolation = Literal["tetrahedral", "trilinear"]
_NIL = np.float32(0)
_ONE = np.float32(1)
_BLOCK = 512
SHARES = 32


@inlined
def _place(v, low, scale, top):  # type: ignore[no-untyped-def]
    return min(max((v - low) * scale, np.float32(0)), top)


@inlined
def _cell(v, last):  # type: ignore[no-untyped-def]
    # A NaN becomes the smallest integer when it is cast, so the cell is held to the table from below as well.
    return max(min(np.int32(v), last), np.int32(0))


@kernel("void(float32[::1], float32[::1], int64, int64, float32[::1], int64, float32[::1], float32[::1])")
def _tetrahedral(
    rgb: F32, out: F32, along: int, across: int, grid: F32, size: int, low: F32, scale: F32
) -> None:
    top, last = np.float32(size - 1), np.int32(size - 2)
    dx, dy, dz = np.int32(4), np.int32(4 * size), np.int32(4 * size * size)
    every = dx + dy + dz
    block, k, w = (
        np.empty((3, _BLOCK), np.float32),
        np.empty((3, _BLOCK), np.int32),
        np.empty((4, _BLOCK), np.float32),
    )
    red, green, blue = block[0], block[1], block[2]
    k0, k1, k2, w0, w1, w2, w3 = k[0], k[1], k[2], w[0], w[1], w[2], w[3]
    low0, low1, low2, scale0, scale1, scale2 = low[0], low[1], low[2], scale[0], scale[1], scale[2]
    colours = len(rgb) // 3
    for first in range(0, colours, _BLOCK):
        count = min(_BLOCK, colours - first)
        # One loop each, so that the compiler knows the distances.
        if along == 3:
            here = rgb[3 * first : 3 * (first + count)]
            for i in range(count):
                red[i], green[i], blue[i] = here[3 * i], here[3 * i + 1], here[3 * i + 2]
        else:
            for i in range(count):
                red[i], green[i], blue[i] = (
                    rgb[first + i],
                    rgb[across + first + i],
                    rgb[2 * across + first + i],
                )
        for i in range(count):
            x, y, z = (
                _place(red[i], low0, scale0, top),
                _place(green[i], low1, scale1, top),
                _place(blue[i], low2, scale2, top),
            )
            a, b, c = _cell(x, last), _cell(y, last), _cell(z, last)
            x, y, z = x - np.float32(a), y - np.float32(b), z - np.float32(c)
            # From the cell's dark corner to its light one, first along the largest part, last along the
            # smallest.
            high, small = max(x, max(y, z)), min(x, min(y, z))
            middle = x + y + z - high - small
            k0[i] = c * dz + b * dy + a * dx
            k1[i] = k0[i] + (dx if x == high else (dy if y == high else dz))
            k2[i] = k0[i] + every - (dz if z == small else (dy if y == small else dx))
            w0[i], w1[i], w2[i], w3[i] = _ONE - high, high - middle, middle - small, small
        for i in range(count):
            p, at = np.int64(k0[i]), (first + i) * along
            corners = (p, np.int64(k1[i]), np.int64(k2[i]), p + every)
            put_mean(grid, corners, (w0[i], w1[i], w2[i], w3[i]), out, (at, at + across, at + 2 * across))


@kernel("void(float32[::1], float32[::1], int64, int64, float32[::1], int64, float32[::1], float32[::1])")
def _trilinear(
    rgb: F32, out: F32, along: int, across: int, grid: F32, size: int, low: F32, scale: F32
) -> None:
    top, last = np.float32(size - 1), np.int32(size - 2)
    dx, dy, dz = np.int64(4), np.int64(4 * size), np.int64(4 * size * size)
    for i in range(len(rgb) // 3):
        at = i * along
        x, y = _place(rgb[at], low[0], scale[0], top), _place(rgb[at + across], low[1], scale[1], top)
        z = _place(rgb[at + 2 * across], low[2], scale[2], top)
        a, b, c = _cell(x, last), _cell(y, last), _cell(z, last)
        x, y, z = x - np.float32(a), y - np.float32(b), z - np.float32(c)
        p = c * dz + b * dy + a * dx
        q, r, s = p + dy, p + dz, p + dy + dz
        u, v, w = _ONE - x, _ONE - y, _ONE - z
        corners = (p, p + dx, q, q + dx, r, r + dx, s, s + dx)
        weights = (u * v * w, x * v * w, u * y * w, x * y * w, u * v * z, x * v * z, u * y * z, x * y * z)
        put_mean(grid, corners, weights, out, (at, at + across, at + 2 * across))


_KERNELS = {"tetrahedral": _tetrahedral, "trilinear": _trilinear}


def padded(grid: F32) -> F32:
    """The grid ``(size, size, size, 3)`` as the kernels take it: flat, four floats a colour."""
    wide = np.zeros((*grid.shape[:3], 4), dtype=np.float32)
    wide[..., :3] = grid
    return wide.reshape(-1)


@dataclass(frozen=True, eq=False)
class GridRead(Operation):
    """Colours through a grid over a domain. Axes of the grid are blue, green, red: red runs fastest.

    A colour outside the domain gets what its edge gives.
    """

    grid: F32
    low: F32
    high: F32
    interpolation: Interpolation = "tetrahedral"

    def __post_init__(self) -> None:
        object.__setattr__(self, "_flat", padded(self.grid))
        object.__setattr__(
            self,
            "_scale",
            ((len(self.grid) - 1) / (self.high.astype(np.float64) - self.low)).astype(np.float32),
        )

    def _read(self, rgb: F32, out: F32, along: int, across: int) -> None:
        flat, scale = self._flat, self._scale  # type: ignore[attr-defined]
        _KERNELS[self.interpolation](rgb, out, along, across, flat, len(self.grid), self.low, scale)

    def read(self, rgb: F32, out: F32) -> None:
        """From ``(n, 3)`` into ``(n, 3)``, both contiguous; they may be the same."""
        self._read(rgb.reshape(-1), out.reshape(-1), 3, 1)

    def run(self, tile: F32) -> None:
        self._read(tile.reshape(-1), tile.reshape(-1), 1, tile.shape[1])


def read_grid(
    rgb: F32,
    grid: F32,
    low: F32,
    high: F32,
    interpolation: Interpolation = "tetrahedral",
    out: F32 | None = None,
) -> F32:
    """Colours ``(..., 3)`` through a grid ``(size, size, size, 3)`` over the domain ``low``–``high``, each
    ``(3,)``.

    ``out``: contiguous float32 of the same shape to write into, which may be ``rgb`` itself; a new array
    otherwise.
    """
    rgb = colours(rgb)
    out = np.empty_like(rgb) if out is None else out
    if out.shape != rgb.shape or out.dtype != np.float32 or not out.flags.c_contiguous:
        raise ValueError(f"the result must be contiguous float32 {rgb.shape}, not {out.dtype} {out.shape}")
    reading, flat, result = GridRead(grid, low, high, interpolation), rgb.reshape(-1, 3), out.reshape(-1, 3)
    # The kernel makes its own blocks: a piece need only be small enough to share the work out evenly.
    in_pieces(lambda a, b: reading.read(flat[a:b], result[a:b]), len(flat), max(TILE, len(flat) // SHARES))
    return out
