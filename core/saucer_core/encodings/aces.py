"""ACEScc, the purely logarithmic encoding of the Academy Color Encoding System."""

from dataclasses import dataclass
from typing import ClassVar

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
def _decode(x: F32) -> None:
    for i in range(x.size):
        v = min(x[i], _TOP)
        e = exp2(np.float64(v) * 17.52 - 9.72)
        x[i] = (e - _SMALL) * _F(2) if v <= _CC_LOW else e


@loop()
def _encode(x: F32) -> None:
    for i in range(x.size):
        v = x[i]
        near = _F((log2(_SMALL + v * _F(0.5)) + 9.72) / 17.52)
        far = _F((log2(v) + 9.72) / 17.52)
        y = near if v < _EDGE else far
        x[i] = min(_CC_FLOOR if v <= _NIL else y, _TOP)


@dataclass(frozen=True)
class AcesLog(Transfer):
    """Academy S-2014-003. It holds no light below zero, which is coded as black, and none above 65,504, the
    largest half-float."""

    name: ClassVar[str] = "ACEScc"
    to_light, to_code = _decode, _encode
    lossless: ClassVar[bool] = False


ACESCC = AcesLog()
