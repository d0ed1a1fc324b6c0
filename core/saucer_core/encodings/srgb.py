"""sRGB. IEC 61966-2-1:1999, 5.2; mirrored below zero so that it is total (the house's choice)."""

import numpy as np

from ..arrays import F32
from ..elementary import power
from .scalar import loop, on_arrays
from .transfer import Transfer

_F = np.float32
_SLOPE, _A, _GAMMA, _CUT = _F(12.92), _F(0.055), _F(2.4), _F(0.0031308)
_CODE_CUT, _INV = _F(0.04045), _F(1 / 2.4)
_ONE_A, _ZERO = _F(1.055), _F(0.0)


@loop()
def _decode(values: F32, out: F32) -> None:
    for i in range(values.size):
        m = abs(values[i])
        y = m / _SLOPE if m <= _CODE_CUT else power((m + _A) / _ONE_A, _GAMMA)
        out[i] = y if values[i] >= _ZERO else -y


@loop()
def _encode(values: F32, out: F32) -> None:
    for i in range(values.size):
        m = abs(values[i])
        y = m * _SLOPE if m <= _CUT else _ONE_A * power(m, _INV) - _A
        out[i] = y if values[i] >= _ZERO else -y


SRGB = Transfer("srgb", on_arrays(_decode), on_arrays(_encode))
