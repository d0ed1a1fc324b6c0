"""Curves through points.

The monotone cubic is F. N. Fritsch and R. E. Carlson, "Monotone Piecewise Cubic Interpolation", SIAM Journal
on Numerical Analysis 17 (1980), with their limit α² + β² ≤ 9: it passes every point and never overshoots.
Smooth is the natural cubic spline. A curve whose end stands at its original place (0, 0 or 1, 1) goes on with
slope 1 beyond it; beyond a moved end it is flat (Saucer's own choice).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from ..arrays import F32, F64
from ..elementary import hold
from ..kernels import kernel
from ..operations import Pass

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


@kernel("void(float32[:, ::1], int64, float32[::1], float32[:, ::1], float32, float32, float32, float32)")
def _run(t: F32, c: int, knots: F32, pieces: F32, y0: float, y1: float, below: float, above: float) -> None:
    # Piece after piece over all colours: each pass overwrites those that lie further on, which a vector does
    # at once.
    last = knots.size - 1
    out = np.empty(t.shape[1], dtype=np.float32)
    for i in range(t.shape[1]):
        out[i] = y0 + below * (t[c, i] - knots[0])
    for k in range(last):
        start, third, second, first, base = knots[k], pieces[k, 0], pieces[k, 1], pieces[k, 2], pieces[k, 3]
        for i in range(t.shape[1]):
            d = t[c, i] - start
            y = ((third * d + second) * d + first) * d + base
            out[i] = y if d > np.float32(0) else out[i]
    for i in range(t.shape[1]):
        d = t[c, i] - knots[last]
        t[c, i] = hold(y1 + above * d if d >= np.float32(0) else out[i])


def periodic(points: Sequence[tuple[float, float]], period: float) -> list[tuple[float, float]]:
    """Points of a curve that closes on itself, repeated so far beyond both ends that the middle turn is
    smooth."""
    around = [(x + k * period, y) for k in (-2, -1, 0, 1, 2) for x, y in points]
    return around


@dataclass(frozen=True, eq=False)
class Interpolant:
    """A curve ready to run: knots ``(n,)``, a cubic for each piece between them ``(n − 1, 4)``, highest power
    first, float64.

    ends: what it gives at its first and last knot. beyond: its slopes outside them.
    """

    knots: F64
    pieces: F64
    ends: tuple[float, float]
    beyond: tuple[float, float]

    def passes(self, channel: int) -> Pass:
        """The curve on one channel of a tile."""
        ends = (*self.ends, *self.beyond)
        knots, pieces = self.knots.astype(np.float32), np.ascontiguousarray(self.pieces, dtype=np.float32)
        return Pass(_run, (channel, knots, pieces, *(np.float32(v) for v in ends)))

    def __call__(self, values: F32) -> F32:
        """A row of float32 values through the curve."""
        row = np.array(values, dtype=np.float32, copy=True).reshape(1, -1)
        self.passes(0).run(row)
        return row.reshape(np.shape(values))


def interpolant(points: Sequence[tuple[float, float]], kind: Interpolation) -> Interpolant:
    """The curve through two or more points (in, out), rising in the first."""
    return _through(tuple(tuple(p) for p in points), kind)


@lru_cache(maxsize=256)
def _through(points: tuple[tuple[float, ...], ...], kind: Interpolation) -> Interpolant:
    # The knots as the loop has them: a piece computed for others ends a little beside its point where it is
    # steep.
    x = np.array([p[0] for p in points], dtype=np.float32).astype(np.float64)
    y = np.array([p[1] for p in points], dtype=np.float64)
    if len(x) == 2 or kind == "straight":
        pieces = _straight(x, y)
    elif kind == "smooth":
        # Brought in where it is needed: it takes longer to load than everything else here.
        from scipy.interpolate import CubicSpline

        pieces = np.ascontiguousarray(CubicSpline(x, y, bc_type="natural").c.T)
    else:
        pieces = _hermite(x, y, _monotone_slopes(x, y))
    ends = float(y[0]), float(y[-1])
    return Interpolant(x, pieces, ends, (float(x[0] == 0 and y[0] == 0), float(x[-1] == 1 and y[-1] == 1)))
