"""OKLab.

B. Ottosson, "A perceptual color space for image processing" (2020), matrices as in W3C CSS Color Module Level
4, section 20 (sample code for color conversions), which is defined on XYZ with D65; here joined with the
primaries at hand.

What lies between the way there and the way back is float64: a dark channel beside two bright ones is the
small rest of large numbers, and a power function makes much of it. In float32 it came back up to 6e-3 of the
code beside itself.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np

from ..arrays import F32, F64
from ..elementary import cbrt, hold
from ..kernels import Kernel, kernel
from ..operations import Decode, Encode, Marked, Operation, apply
from .primaries import BT709, D65, Primaries, adaptation, to_xyz
from .registry import Encoding

_XYZ_LMS = np.array(
    [
        [0.8190224379967030, 0.3619062600528904, -0.1288737815209879],
        [0.0329836539323885, 0.9292868615863434, 0.0361446663506424],
        [0.0481771893596242, 0.2642395317527308, 0.6335478284694309],
    ]
)
_LMS_LAB = np.array(
    [
        [0.2104542683093140, 0.7936177747023054, -0.0040720430116193],
        [1.9779985324311684, -2.4285922420485799, 0.4505937096174110],
        [0.0259040424655478, 0.7827717124575296, -0.8086757549230774],
    ]
)
#: From OKLab to the cube roots of the cone responses.
LAB_BACK: F64 = np.linalg.inv(_LMS_LAB)


@lru_cache(maxsize=64)
def cones(primaries: Primaries) -> tuple[F64, F64]:
    """From linear RGB to the cone responses of OKLab, and back."""
    m: F64 = _XYZ_LMS @ adaptation(primaries.white, D65) @ to_xyz(primaries)
    # Grey must stay grey to the last bit: the rows are made to sum to one on white.
    m = m / m.sum(axis=1, keepdims=True)
    return m, np.linalg.inv(m).astype(np.float64)


@kernel("void(float32[:, ::1], float64[:, ::1], float64[:, ::1], float64[:, ::1])")
def _forward(t: F32, lab: F64, m: F64, n: F64) -> None:
    for i in range(t.shape[1]):
        r, g, b = np.float64(t[0, i]), np.float64(t[1, i]), np.float64(t[2, i])
        long = cbrt(m[0, 0] * r + m[0, 1] * g + m[0, 2] * b)
        medium = cbrt(m[1, 0] * r + m[1, 1] * g + m[1, 2] * b)
        short = cbrt(m[2, 0] * r + m[2, 1] * g + m[2, 2] * b)
        lab[0, i] = n[0, 0] * long + n[0, 1] * medium + n[0, 2] * short
        lab[1, i] = n[1, 0] * long + n[1, 1] * medium + n[1, 2] * short
        lab[2, i] = n[2, 0] * long + n[2, 1] * medium + n[2, 2] * short


@kernel("void(float64[:, ::1], float32[:, ::1], float64[:, ::1], float64[:, ::1])")
def _backward(lab: F64, t: F32, n: F64, m: F64) -> None:
    for i in range(t.shape[1]):
        light, a, b = lab[0, i], lab[1, i], lab[2, i]
        long = n[0, 0] * light + n[0, 1] * a + n[0, 2] * b
        medium = n[1, 0] * light + n[1, 1] * a + n[1, 2] * b
        short = n[2, 0] * light + n[2, 1] * a + n[2, 2] * b
        long, medium, short = long * long * long, medium * medium * medium, short * short * short
        t[0, i] = hold(m[0, 0] * long + m[0, 1] * medium + m[0, 2] * short)
        t[1, i] = hold(m[1, 0] * long + m[1, 1] * medium + m[1, 2] * short)
        t[2, i] = hold(m[2, 0] * long + m[2, 1] * medium + m[2, 2] * short)


@dataclass(frozen=True, eq=False)
class LabPass(Marked):
    """One pass over OKLab, float64 ``(3, n)``, in place: ``kernel(lab, *parameters)``."""

    kernel: Kernel
    parameters: tuple[Any, ...] = ()

    def run(self, lab: F64) -> None:
        """Changes OKLab colours in place."""
        self.kernel(lab, *self.parameters)


@dataclass(frozen=True, eq=False)
class InLab(Operation):
    """Passes over OKLab, from linear light in some primaries and back to it."""

    primaries: Primaries
    passes: tuple[LabPass, ...]

    def run(self, tile: F32) -> None:
        there, back = cones(self.primaries)
        lab = np.empty(tile.shape)
        _forward(tile, lab, there, _LMS_LAB)
        for one in self.passes:
            one.run(lab)
        _backward(lab, tile, LAB_BACK, back)

    def joined(self, following: Operation) -> Operation | None:
        if isinstance(following, InLab) and following.primaries == self.primaries:
            return InLab(self.primaries, self.passes + following.passes)
        return None


@dataclass(frozen=True)
class ToLab(Operation):
    """Linear light in some primaries to OKLab."""

    primaries: Primaries = BT709

    def run(self, tile: F32) -> None:
        lab = np.empty(tile.shape)
        _forward(tile, lab, cones(self.primaries)[0], _LMS_LAB)
        tile[:] = lab


@dataclass(frozen=True)
class FromLab(Operation):
    """OKLab to linear light in some primaries."""

    primaries: Primaries = BT709

    def run(self, tile: F32) -> None:
        _backward(tile.astype(np.float64), tile, LAB_BACK, cones(self.primaries)[1])


def in_oklab(at: Encoding, passes: Sequence[LabPass]) -> list[Operation]:
    """Passes over OKLab, from code values of ``at`` and back to them."""
    return [Decode(at.transfer), InLab(at.primaries, tuple(passes)), Encode(at.transfer)]


def to_oklab(rgb: F32, source: Encoding) -> F32:
    """OKLab ``(..., 3)`` (L 0–1 for 0–1 light, a, b) of code values ``(..., 3)``."""
    return apply([Decode(source.transfer), ToLab(source.primaries)], rgb)


def from_oklab(lab: F32, target: Encoding) -> F32:
    """Code values ``(..., 3)`` of OKLab ``(..., 3)``."""
    return apply([FromLab(target.primaries), Encode(target.transfer)], lab)


def polar(lightness: float, chroma: float, hue: float) -> tuple[float, float, float]:
    """OKLab of OKLCh, hue in degrees."""
    turn = np.radians(hue)
    return lightness, chroma * float(np.cos(turn)), chroma * float(np.sin(turn))
