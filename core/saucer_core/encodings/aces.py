"""The logarithmic encodings of the Academy Color Encoding System."""

import numpy as np

from ..arrays import F32
from ..elementary import exp2, log2
from ..transfer import Transfer
from .scalar import loop

_F = np.float32
_NIL = _F(0)
_SMALL = _F(2.0**-16)
_EDGE = _F(2.0**-15)
_CC_LOW = _F((-15 + 9.72) / 17.52)
_CC_FLOOR = _F((-16 + 9.72) / 17.52)
_TOP = _F((15.99 + 9.72) / 17.52)


@loop()
def _cc_decode(x: F32) -> None:
    for i in range(x.size):
        v = min(x[i], _TOP)
        e = exp2(np.float64(v) * 17.52 - 9.72)
        x[i] = (e - _SMALL) * _F(2) if v <= _CC_LOW else e


@loop()
def _cc_encode(x: F32) -> None:
    for i in range(x.size):
        v = x[i]
        near = _F((log2(_SMALL + v * _F(0.5)) + 9.72) / 17.52)
        far = _F((log2(v) + 9.72) / 17.52)
        y = near if v < _EDGE else far
        x[i] = _CC_FLOOR if v <= _NIL else y


#: S-2014-003: ACEScc, a logarithmic encoding. It holds no light below zero: all of it is coded as black.
ACESCC = Transfer("acescc", _cc_decode, _cc_encode)

_CCT_SLOPE, _CCT_OFFSET = _F(10.5402377416545), _F(0.0729055341958355)
_CCT_CUT, _CCT_CODE = _F(0.0078125), _F(0.155251141552511)


@loop()
def _cct_decode(x: F32) -> None:
    for i in range(x.size):
        v = min(x[i], _TOP)
        far = exp2(np.float64(v) * 17.52 - 9.72)
        x[i] = far if v > _CCT_CODE else (v - _CCT_OFFSET) / _CCT_SLOPE


@loop()
def _cct_encode(x: F32) -> None:
    for i in range(x.size):
        v = x[i]
        far = _F((log2(v) + 9.72) / 17.52)
        x[i] = far if v > _CCT_CUT else v * _CCT_SLOPE + _CCT_OFFSET


#: S-2016-001: ACEScct, a quasi-logarithmic encoding with a straight toe.
ACESCCT = Transfer("acescct", _cct_decode, _cct_encode)
