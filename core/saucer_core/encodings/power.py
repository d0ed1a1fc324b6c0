"""Pure power functions, mirrored below zero (Saucer's own choice)."""

from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np

from ..arrays import F32
from ..elementary import hold, signed_power
from ..transfer import Transfer
from .scalar import loop


@loop(2)
def _decode(x: F32, gamma: np.float32, inverse: np.float32) -> None:
    for i in range(x.size):
        x[i] = hold(signed_power(x[i], gamma))


@loop(2)
def _encode(x: F32, gamma: np.float32, inverse: np.float32) -> None:
    for i in range(x.size):
        x[i] = signed_power(x[i], inverse)


@dataclass(frozen=True)
class Power(Transfer):
    """``light = code ** gamma``."""

    name: ClassVar[str] = "power"
    to_light, to_code = _decode, _encode

    gamma: float

    def parameters(self) -> tuple[Any, ...]:
        return np.float32(self.gamma), np.float32(1 / self.gamma)


#: ITU-R BT.1886 (03/2011), Annex 1, with a black of zero: a pure power of 2.4.
BT1886 = Power(2.4)
#: A pure power of 2.2 (common practice for office screens).
GAMMA_22 = Power(2.2)
#: SMPTE RP 431-2:2011, 7.7: the cinema projector's 2.6.
GAMMA_26 = Power(2.6)
#: 563/256, about 2.199: the exponent of opRGB, whose primaries and curve are those of the space that W3C CSS
#: Color Module Level 4, section 10.5, defines with this number; the same in colour-science 0.4.7.
OPRGB_GAMMA = Power(563 / 256)
