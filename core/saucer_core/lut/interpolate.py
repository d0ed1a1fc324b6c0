"""Tetrahedral interpolation in a grid of colours.

Each cell of the grid is cut into six tetrahedra along its grey diagonal (J. Kasson, S. Nin, W. Plouffe and J. Hafner,
"Performing color space conversions with three-dimensional linear interpolation", Journal of Electronic Imaging 4 (1995)).
"""

import numpy as np

from ..arrays import F32
from ..kernels import kernel


@kernel("void(float32[:, ::1], float32[:, ::1], float32[:, :, :, ::1], float32[::1], float32[::1])")
def _tetrahedral(rgb: F32, out: F32, grid: F32, low: F32, scale: F32) -> None:
    top = np.float32(grid.shape[0] - 1)
    last = grid.shape[0] - 2
    zero = np.float32(0)
    for i in range(rgb.shape[0]):
        x = min(max((rgb[i, 0] - low[0]) * scale[0], zero), top)
        y = min(max((rgb[i, 1] - low[1]) * scale[1], zero), top)
        z = min(max((rgb[i, 2] - low[2]) * scale[2], zero), top)
        a, b, c = min(int(x), last), min(int(y), last), min(int(z), last)
        x -= np.float32(a)
        y -= np.float32(b)
        z -= np.float32(c)
        # The two corners on the way from black to white of the cell: first along the largest part, then the middle one.
        if x > y:
            if y > z:
                w0, w1, w2, w3 = 1 - x, x - y, y - z, z
                a1, b1, c1, a2, b2, c2 = a + 1, b, c, a + 1, b + 1, c
            elif x > z:
                w0, w1, w2, w3 = 1 - x, x - z, z - y, y
                a1, b1, c1, a2, b2, c2 = a + 1, b, c, a + 1, b, c + 1
            else:
                w0, w1, w2, w3 = 1 - z, z - x, x - y, y
                a1, b1, c1, a2, b2, c2 = a, b, c + 1, a + 1, b, c + 1
        elif z > y:
            w0, w1, w2, w3 = 1 - z, z - y, y - x, x
            a1, b1, c1, a2, b2, c2 = a, b, c + 1, a, b + 1, c + 1
        elif z > x:
            w0, w1, w2, w3 = 1 - y, y - z, z - x, x
            a1, b1, c1, a2, b2, c2 = a, b + 1, c, a, b + 1, c + 1
        else:
            w0, w1, w2, w3 = 1 - y, y - x, x - z, z
            a1, b1, c1, a2, b2, c2 = a, b + 1, c, a + 1, b + 1, c
        for k in range(3):
            out[i, k] = w0 * grid[c, b, a, k] + w1 * grid[c1, b1, a1, k] + w2 * grid[c2, b2, a2, k] + w3 * grid[c + 1, b + 1, a + 1, k]


def tetrahedral(rgb: F32, grid: F32, low: F32, high: F32) -> F32:
    """Colours ``(n, 3)`` through a grid ``(size, size, size, 3)`` over the domain ``low``–``high``, each ``(3,)``.

    Axes of the grid are blue, green, red, as in a file whose red runs fastest. Outside the domain the edge answers.
    """
    out = np.empty_like(rgb)
    scale = ((grid.shape[0] - 1) / (high.astype(np.float64) - low)).astype(np.float32)
    _tetrahedral(rgb, out, grid, low, scale)
    return out
