"""OKLab, on linear BT.709 light.

B. Ottosson, "A perceptual color space for image processing" (2020), matrices as in W3C CSS Color Module Level 4,
section 20 (sample code for color conversions), which is defined on XYZ; here joined with linear sRGB.
"""

import numpy as np

from ..arrays import F32
from ..elementary import cbrt
from ..kernels import kernel
from .primaries import BT709, to_xyz
from .registry import Encoding, from_linear, to_linear

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
_IN = (_XYZ_LMS @ to_xyz(BT709)).astype(np.float32)
# Grey must stay grey to the last bit: the rows are made to sum to one on white.
_IN = (_IN / _IN.sum(axis=1, keepdims=True)).astype(np.float32)
_LAB = _LMS_LAB.astype(np.float32)
_LAB_BACK = np.linalg.inv(_LMS_LAB).astype(np.float32)
_OUT = np.linalg.inv(_IN.astype(np.float64)).astype(np.float32)


@kernel("void(float32[:, ::1], float32[:, ::1], float32[:, ::1], float32[:, ::1])")
def _forward(rgb: F32, out: F32, m: F32, n: F32) -> None:
    for i in range(rgb.shape[0]):
        r, g, b = rgb[i, 0], rgb[i, 1], rgb[i, 2]
        long = cbrt(m[0, 0] * r + m[0, 1] * g + m[0, 2] * b)
        medium = cbrt(m[1, 0] * r + m[1, 1] * g + m[1, 2] * b)
        short = cbrt(m[2, 0] * r + m[2, 1] * g + m[2, 2] * b)
        out[i, 0] = n[0, 0] * long + n[0, 1] * medium + n[0, 2] * short
        out[i, 1] = n[1, 0] * long + n[1, 1] * medium + n[1, 2] * short
        out[i, 2] = n[2, 0] * long + n[2, 1] * medium + n[2, 2] * short


@kernel("void(float32[:, ::1], float32[:, ::1], float32[:, ::1], float32[:, ::1])")
def _backward(lab: F32, out: F32, n: F32, m: F32) -> None:
    for i in range(lab.shape[0]):
        light, a, b = lab[i, 0], lab[i, 1], lab[i, 2]
        long = n[0, 0] * light + n[0, 1] * a + n[0, 2] * b
        medium = n[1, 0] * light + n[1, 1] * a + n[1, 2] * b
        short = n[2, 0] * light + n[2, 1] * a + n[2, 2] * b
        long, medium, short = long * long * long, medium * medium * medium, short * short * short
        out[i, 0] = m[0, 0] * long + m[0, 1] * medium + m[0, 2] * short
        out[i, 1] = m[1, 0] * long + m[1, 1] * medium + m[1, 2] * short
        out[i, 2] = m[2, 0] * long + m[2, 1] * medium + m[2, 2] * short


def linear_to_oklab(light: F32) -> F32:
    """OKLab ``(n, 3)`` (L 0–1 for 0–1 light, a, b) of linear BT.709 light ``(n, 3)``."""
    out = np.empty_like(light)
    _forward(np.ascontiguousarray(light), out, _IN, _LAB)
    return out


def oklab_to_linear(lab: F32) -> F32:
    """Linear BT.709 light ``(n, 3)`` of OKLab ``(n, 3)``."""
    out = np.empty_like(lab)
    _backward(np.ascontiguousarray(lab), out, _LAB_BACK, _OUT)
    return out


def to_oklab(rgb: F32, source: Encoding) -> F32:
    """OKLab ``(n, 3)`` of code values ``(n, 3)``."""
    return linear_to_oklab(to_linear(rgb, source, BT709))


def from_oklab(lab: F32, target: Encoding) -> F32:
    """Code values ``(n, 3)`` of OKLab ``(n, 3)``."""
    return from_linear(oklab_to_linear(lab), BT709, target)
