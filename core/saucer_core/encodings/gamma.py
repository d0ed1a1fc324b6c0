"""Pure power functions, mirrored below zero (the house's choice)."""

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


def power(key: str, gamma: float) -> Transfer:
    """Transfer with ``linear = code ** gamma``."""
    return Transfer(key, _decode, _encode, (np.float32(gamma), np.float32(1 / gamma)))


#: ITU-R BT.1886 (03/2011), Annex 1, with a black of zero: a pure power of 2.4.
BT1886 = power("bt1886", 2.4)
#: A pure power of 2.2 (common practice for office screens).
GAMMA_22 = power("gamma 2.2", 2.2)
#: SMPTE RP 431-2:2011, 7.7: the cinema projector's 2.6.
GAMMA_26 = power("gamma 2.6", 2.6)
