"""Pure power functions, mirrored below zero (the house's choice)."""

import numpy as np

from ..arrays import F32
from ..elementary import power as power_of
from .scalar import loop, on_arrays
from .transfer import Transfer


@loop(1)
def _power(values: F32, out: F32, gamma: np.float32) -> None:
    for i in range(values.size):
        y = power_of(abs(values[i]), gamma)
        out[i] = y if values[i] >= 0 else -y


def power(key: str, gamma: float) -> Transfer:
    """Transfer with ``linear = code ** gamma``."""
    return Transfer(key, on_arrays(_power, np.float32(gamma)), on_arrays(_power, np.float32(1 / gamma)))


#: ITU-R BT.1886 (03/2011), Annex 1, with a black of zero: a pure power of 2.4.
BT1886 = power("bt1886", 2.4)
