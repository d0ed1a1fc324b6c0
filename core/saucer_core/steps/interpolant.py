"""Curves through points.

The monotone cubic is F. N. Fritsch and R. E. Carlson, "Monotone Piecewise Cubic Interpolation", SIAM Journal on
Numerical Analysis 17 (1980), with their limit α² + β² ≤ 9: it passes every point and never overshoots. Smooth is the
natural cubic spline. A curve whose end stands at its original place (0, 0 or 1, 1) goes on with slope 1 beyond it; beyond
a moved end it is flat (the house's choice).
"""

from collections.abc import Sequence
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline

from ..arrays import F32
from ..kernels import kernel

F64 = NDArray[np.float64]
Interpolation = Literal["monotone", "smooth", "straight"]


def _monotone_slopes(x: F64, y: F64) -> F64:
    h = np.diff(x)
    secant = np.diff(y) / h
    slopes = np.concatenate([[secant[0]], (secant[:-1] + secant[1:]) / 2, [secant[-1]]])
    turns = secant[:-1] * secant[1:] <= 0
    slopes[1:-1][turns] = 0.0
    for k, d in enumerate(secant):
        if abs(d) < 1e-9:
            slopes[k] = slopes[k + 1] = 0.0
            continue
        alpha, beta = slopes[k] / d, slopes[k + 1] / d
        reach = alpha * alpha + beta * beta
        if reach > 9.0:
            shrink = 3.0 / np.sqrt(reach)
            slopes[k], slopes[k + 1] = shrink * alpha * d, shrink * beta * d
    return slopes


def _straight(x: F64, y: F64) -> F64:
    return np.stack([np.zeros(len(x) - 1), np.zeros(len(x) - 1), np.diff(y) / np.diff(x), y[:-1]], axis=1)


def _hermite(x: F64, y: F64, slopes: F64) -> F64:
    h = np.diff(x)
    secant = np.diff(y) / h
    third = (slopes[:-1] + slopes[1:] - 2 * secant) / h**2
    second = (3 * secant - 2 * slopes[:-1] - slopes[1:]) / h
    return np.stack([third, second, slopes[:-1], y[:-1]], axis=1)


@kernel("void(float32[:, ::1], float32[:, ::1], int64, float64[::1], float64[:, ::1], float64, float64, float64, float64)")
def _run(rgb: F32, out: F32, c: int, knots: F64, pieces: F64, y0: float, y1: float, below: float, above: float) -> None:
    last = knots.size - 1
    for i in range(rgb.shape[0]):
        v = rgb[i, c]
        if v <= knots[0]:
            out[i, c] = y0 + below * (v - knots[0])
        elif v >= knots[last]:
            out[i, c] = y1 + above * (v - knots[last])
        else:
            k = 0
            while v > knots[k + 1]:
                k += 1
            t = v - knots[k]
            out[i, c] = ((pieces[k, 0] * t + pieces[k, 1]) * t + pieces[k, 2]) * t + pieces[k, 3]


class Interpolant:
    """A curve ready to run. points: two or more (in, out), rising in the first."""

    def __init__(self, points: Sequence[tuple[float, float]], kind: Interpolation) -> None:
        x = np.array([p[0] for p in points], dtype=np.float64)
        y = np.array([p[1] for p in points], dtype=np.float64)
        self.knots = x
        if len(x) == 2 or kind == "straight":
            self.pieces = _straight(x, y)
        elif kind == "smooth":
            self.pieces = np.ascontiguousarray(CubicSpline(x, y, bc_type="natural").c.T)
        else:
            self.pieces = _hermite(x, y, _monotone_slopes(x, y))
        self.ends = float(y[0]), float(y[-1])
        self.beyond = float(x[0] == 0 and y[0] == 0), float(x[-1] == 1 and y[-1] == 1)

    def on_channel(self, rgb: F32, out: F32, channel: int) -> None:
        """Channel ``channel`` of ``rgb`` through the curve into ``out``, both float32 ``(n, 3)``."""
        _run(rgb, out, channel, self.knots, self.pieces, *self.ends, *self.beyond)

    def __call__(self, values: F32) -> F32:
        """A row of float32 values through the curve."""
        column = np.ascontiguousarray(np.repeat(values.reshape(-1, 1), 3, axis=1))
        self.on_channel(column, column, 0)
        return column[:, 0].reshape(values.shape)
