"""Saturation."""

from typing import ClassVar, Literal

import numpy as np

from ..arrays import F64
from ..elementary import hold
from ..encodings.oklab import LabPass, in_oklab
from ..kernels import kernel
from ..operations import Operation
from .parameter import share
from .step import Purpose, Step, Surroundings
from .traced import Trace, line

#: Hue of skin in OKLCh, degrees: Saucer's own figure, read off the skin patches of the demo chart, which lie
#: between 38° and 68°.
SKIN_HUE = 53.0
#: Half the width that the guard covers, in degrees.
SKIN_REACH = 32.0
#: Chroma from which *even* no longer gives more: about that of the strongest BT.709 colours.
STRONG = 0.25


#: Chroma at which the trace is taken.
TRACED = 0.1

_COS = np.float32(np.cos(np.radians(SKIN_HUE)))
_SIN = np.float32(np.sin(np.radians(SKIN_HUE)))
_NEAR = np.float32(np.cos(np.radians(SKIN_REACH)))
_STRONG = np.float32(STRONG)


@kernel("void(float64[:, ::1], float32, float32, float32)")
def _saturate(t: F64, more: np.float32, even: np.float32, guard: np.float32) -> None:
    """In place. The skin weight is a smooth step on the cosine of the angle to the hue of skin: no angle is
    needed."""
    one, zero = np.float32(1), np.float32(0)
    for i in range(t.shape[1]):
        a, b = np.float32(t[1, i]), np.float32(t[2, i])
        chroma = np.sqrt(a * a + b * b)
        toward = (a * _COS + b * _SIN) / max(chroma, np.float32(1e-9))
        near = min(max((toward - _NEAR) / (one - _NEAR), zero), one)
        skin = near * near * (np.float32(3) - near - near)
        gain = one + more * (one - even * min(chroma / _STRONG, one)) * (one - guard * skin)
        t[1, i], t[2, i] = hold(t[1, i] * gain), hold(t[2, i] * gain)


class Saturation(Step):
    """More or less chroma in OKLCh; hue and lightness stay. *Even* and the skin guard are Saucer's own.

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

    def _change(self) -> LabPass:
        return LabPass(
            _saturate, (np.float32(self.amount - 1), np.float32(self.even), np.float32(self.skin_guard))
        )

    def operations(self, at: Surroundings) -> list[Operation]:
        return in_oklab(at.encoding, [self._change()])

    def trace(self, at: Surroundings) -> Trace:
        hue = np.linspace(0, 360, 73, dtype=np.float32)
        angle = np.radians(hue)
        lab = np.stack([np.full_like(hue, 0.6), TRACED * np.cos(angle), TRACED * np.sin(angle)]).astype(
            np.float64
        )
        self._change().run(lab)
        return {"hue": line(hue), "gain": line(np.hypot(lab[1], lab[2]) / TRACED)}
