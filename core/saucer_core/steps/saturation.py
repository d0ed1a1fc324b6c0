"""Saturation."""

from typing import Any, ClassVar, Literal

import numpy as np

from ..arrays import F32
from ..encodings.oklab import from_oklab, to_oklab
from ..kernels import kernel
from .parameter import share
from .step import Purpose, Step, Surroundings
from .traced import line

#: Hue of skin in OKLCh, degrees, and half the width that the guard covers: the house's figures, read off the skin
#: patches of the demo chart, which lie between 38° and 68°.
SKIN_HUE, SKIN_REACH = 53.0, 32.0
#: Chroma from which *even* no longer gives more: about that of the strongest BT.709 colours.
STRONG = 0.25


#: Chroma at which the trace is taken.
TRACED = 0.1

_COS, _SIN = np.float32(np.cos(np.radians(SKIN_HUE))), np.float32(np.sin(np.radians(SKIN_HUE)))
_NEAR = np.float32(np.cos(np.radians(SKIN_REACH)))
_STRONG = np.float32(STRONG)


@kernel("void(float32[:, ::1], float32, float32, float32)")
def _saturate(lab: F32, more: np.float32, even: np.float32, guard: np.float32) -> None:
    """In place. The skin weight is a smooth step on the cosine of the angle to the hue of skin: no angle is needed."""
    one, zero = np.float32(1), np.float32(0)
    for i in range(lab.shape[0]):
        a, b = lab[i, 1], lab[i, 2]
        chroma = np.sqrt(a * a + b * b)
        toward = (a * _COS + b * _SIN) / max(chroma, np.float32(1e-9))
        t = min(max((toward - _NEAR) / (one - _NEAR), zero), one)
        skin = t * t * (np.float32(3) - t - t)
        gain = one + more * (one - even * min(chroma / _STRONG, one)) * (one - guard * skin)
        lab[i, 1], lab[i, 2] = a * gain, b * gain


class Saturation(Step):
    """More or less chroma in OKLCh; hue and lightness stay. *Even* and the skin guard are the house's.

    gain = 1 + (amount - 1) · (1 - even · min(C / 0.25, 1)) · (1 - guard · skin weight of the hue)
    """

    title: ClassVar[str] = "Saturation"
    purpose: ClassVar[Purpose] = "colour"
    summary: ClassVar[str] = "More or less colour, hue and lightness kept"

    kind: Literal["saturation"] = "saturation"
    amount: float = share(1.0, 0.0, 3.0, label="Saturation")
    even: float = share(0.0, 0.0, 1.0, label="Even", help="weak colours change more than strong ones")
    skin_guard: float = share(0.0, 0.0, 1.0, label="Skin guard", help="the hues of skin change less")

    def neutral(self) -> bool:
        return self.amount == 1.0

    def apply(self, rgb: F32, at: Surroundings) -> F32:
        lab = to_oklab(rgb, at.encoding)
        _saturate(lab, np.float32(self.amount - 1), np.float32(self.even), np.float32(self.skin_guard))
        return from_oklab(lab, at.encoding)

    def trace(self, at: Surroundings) -> dict[str, Any]:
        hue = np.linspace(0, 360, 73, dtype=np.float32)
        angle = np.radians(hue)
        lab = np.stack([np.full_like(hue, 0.6), TRACED * np.cos(angle), TRACED * np.sin(angle)], axis=1).astype(np.float32)
        _saturate(lab, np.float32(self.amount - 1), np.float32(self.even), np.float32(self.skin_guard))
        return {"hue": line(hue), "gain": line(np.hypot(lab[:, 1], lab[:, 2]).astype(np.float32) / np.float32(TRACED))}
