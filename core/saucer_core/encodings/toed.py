"""Power functions with a straight toe: sRGB and the BT.709 camera curve. Mirrored below zero (Saucer's own
choice)."""

from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np

from ..arrays import F32
from ..elementary import hold, power
from ..transfer import Transfer
from .scalar import loop


@loop(4)
def _decode(x: F32, gamma: np.float32, offset: np.float32, slope: np.float32, cut: np.float32) -> None:
    one, nil = np.float32(1), np.float32(0)
    code_cut = cut * slope
    for i in range(x.size):
        m = abs(x[i])
        y = m / slope if m <= code_cut else power((m + offset) / (one + offset), gamma)
        x[i] = hold(y if x[i] >= nil else -y)


@loop(4)
def _encode(x: F32, gamma: np.float32, offset: np.float32, slope: np.float32, cut: np.float32) -> None:
    one, nil = np.float32(1), np.float32(0)
    inverse = one / gamma
    for i in range(x.size):
        m = abs(x[i])
        y = m * slope if m <= cut else (one + offset) * power(m, inverse) - offset
        x[i] = y if x[i] >= nil else -y


@dataclass(frozen=True)
class ToedPower(Transfer):
    """``code = slope · light`` up to the light ``cut``, then ``(1 + offset) · light^(1/gamma) − offset``."""

    name: ClassVar[str] = "power with a straight toe"
    to_light, to_code = _decode, _encode

    gamma: float
    offset: float
    slope: float
    cut: float

    def parameters(self) -> tuple[Any, ...]:
        return np.float32(self.gamma), np.float32(self.offset), np.float32(self.slope), np.float32(self.cut)


#: IEC 61966-2-1:1999, 5.2.
SRGB = ToedPower(2.4, 0.055, 12.92, 0.0031308)
#: ITU-R BT.709-6, item 1.2: overall opto-electronic transfer characteristics.
BT709_CAMERA = ToedPower(1 / 0.45, 0.099, 4.5, 0.018)
