"""The operations of the Common LUT Format that no step of a look has."""

from dataclasses import dataclass

import numpy as np

from ...arrays import F32, F64
from ...elementary import exp2, hold, log2, power
from ...kernels import kernel
from ...operations import Operation

_NIL = np.float32(0)
_ONE = np.float32(1)


@kernel("void(float32[:, ::1], float32, float32, boolean, boolean)")
def _clamp(t: F32, low: float, high: float, at_low: bool, at_high: bool) -> None:
    for c in range(3):
        for i in range(t.shape[1]):
            v = t[c, i]
            v = max(v, low) if at_low else v
            t[c, i] = min(v, high) if at_high else v


@dataclass(frozen=True)
class Clamp(Operation):
    """Values held between two limits; ``None``: not on that side."""

    low: float | None
    high: float | None

    def run(self, tile: F32) -> None:
        low, high = self.low or 0.0, 0.0 if self.high is None else self.high
        _clamp(tile, np.float32(low), np.float32(high), self.low is not None, self.high is not None)


@kernel("void(float32[:, ::1], float32[:, ::1], int64)")
def _log(t: F32, p: F32, style: int) -> None:
    """Style 0: light to log, 1: log to light; with p a channel: rate, log offset, lin slope, lin offset, cut,
    straight, lift."""
    tiny = np.float32(1.2e-38)
    for c in range(3):
        rate, start, slope, offset, cut, straight, lift = (
            p[c, 0],
            p[c, 1],
            p[c, 2],
            p[c, 3],
            p[c, 4],
            p[c, 5],
            p[c, 6],
        )
        for i in range(t.shape[1]):
            v = t[c, i]
            if style == 0:
                y = np.float32(log2(max(v * slope + offset, tiny)) / np.float64(rate)) + start
                t[c, i] = hold(y if v > cut else v * straight + lift)
            else:
                y = (exp2((np.float64(v) - start) * rate) - offset) / slope
                t[c, i] = hold(y if v > straight * cut + lift else (v - lift) / straight)


@dataclass(frozen=True, eq=False)
class LogNode(Operation):
    """A logarithm a channel, with a straight part below a break where there is one."""

    terms: F32
    to_light: bool

    def run(self, tile: F32) -> None:
        _log(tile, self.terms, int(self.to_light))


@kernel("void(float32[:, ::1], float32[:, ::1], int64)")
def _raise(t: F32, p: F32, style: int) -> None:
    """Style 0 basic, 1 mirrored, 2 passed through; p a channel: exponent."""
    for c in range(3):
        exponent = p[c, 0]
        for i in range(t.shape[1]):
            v = t[c, i]
            y = power(max(v, _NIL), exponent)
            mirrored = power(-v, exponent)
            if style == 1:
                y = y if v >= _NIL else -mirrored
            elif style == 2:
                y = y if v >= _NIL else v
            t[c, i] = hold(y)


@dataclass(frozen=True, eq=False)
class ExponentNode(Operation):
    """A power a channel."""

    exponents: F32
    style: int

    def run(self, tile: F32) -> None:
        _raise(tile, self.exponents, self.style)


@kernel("void(float32[:, ::1], float32[:, ::1], boolean, boolean)")
def _monitor(t: F32, p: F32, forward: bool, mirror: bool) -> None:
    """The moncurve of the standard: p a channel: exponent, offset, break in, slope."""
    for c in range(3):
        gamma, offset, cut, slope = p[c, 0], p[c, 1], p[c, 2], p[c, 3]
        for i in range(t.shape[1]):
            v = abs(t[c, i]) if mirror else t[c, i]
            if forward:
                y = power(max((v + offset) / (_ONE + offset), _NIL), gamma) if v >= cut else v * slope
            else:
                y = (
                    (_ONE + offset) * power(max(v, _NIL), _ONE / gamma) - offset
                    if v >= cut * slope
                    else v / slope
                )
            t[c, i] = hold(-y if mirror and t[c, i] < _NIL else y)


@dataclass(frozen=True, eq=False)
class MonitorNode(Operation):
    """A power with a straight toe a channel."""

    terms: F32
    forward: bool
    mirror: bool

    def run(self, tile: F32) -> None:
        _monitor(tile, self.terms, self.forward, self.mirror)


@dataclass(frozen=True, eq=False)
class HalfDomain(Operation):
    """A curve a channel with one value for each half-float. values: float32 ``(3, 65536)``."""

    values: F32

    def run(self, tile: F32) -> None:
        # Between two neighbouring halfs the value is interpolated, so that float32 does not become coarse.
        half = tile.astype(np.float16)
        near = half.astype(np.float32)
        step = np.where(tile > near, np.float16(np.inf), np.float16(-np.inf)).astype(np.float16)
        other = np.nextafter(half, step)
        far = other.astype(np.float32)
        span = np.where(np.isfinite(far), far - near, 1.0)
        share = np.where((span != 0) & np.isfinite(far), (tile - near) / np.where(span == 0, 1.0, span), 0.0)
        for c in range(3):
            a = self.values[c][half[c].view(np.uint16)]
            b = self.values[c][other[c].view(np.uint16)]
            tile[c] = np.where(share[c] == 0, a, a + share[c] * (np.nan_to_num(b) - a))


@dataclass(frozen=True, eq=False)
class InverseCurve(Operation):
    """A curve a channel read backwards. places, values: float64 ``(3, m)``, values rising."""

    places: F64
    values: F64

    def run(self, tile: F32) -> None:
        for c in range(3):
            tile[c] = np.interp(tile[c], self.values[c], self.places[c])
