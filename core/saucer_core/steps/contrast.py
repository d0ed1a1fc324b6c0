"""Contrast."""

from typing import ClassVar, Literal

import numpy as np

from ..arrays import F32
from ..elementary import hold, power, signed_power
from ..encodings import Encoding
from ..kernels import kernel
from ..operations import Linear, Operation, Pass
from .parameter import number, share
from .step import Purpose, Step, Surroundings
from .traced import Trace, tone_line


@kernel("void(float32[:, ::1], float32, float32)")
def _bend(t: F32, pivot: float, amount: float) -> None:
    """Two powers that meet at the pivot with slope ``amount``; 0, pivot and 1 stay, outside 0–1 nothing
    changes."""
    one, nil = np.float32(1), np.float32(0)
    for c in range(3):
        for i in range(t.shape[1]):
            x = min(max(t[c, i], nil), one)
            low = x <= pivot
            part = pivot if low else one - pivot
            y = part * power((x if low else one - x) / part, amount)
            t[c, i] += (y if low else one - y) - x


@kernel("void(float32[:, ::1], float32, float32)")
def _steepen(t: F32, pivot: float, amount: float) -> None:
    for c in range(3):
        for i in range(t.shape[1]):
            t[c, i] = hold(pivot * signed_power(t[c, i] / pivot, amount))


class Contrast(Step):
    """Steeper or flatter around a pivot, monotone. The formulas are Saucer's own.

    On display code values two powers meet at the pivot, so that black and white stay; on log values a
    straight line through the pivot; on linear light a power through it (a straight line in stops).
    """

    title: ClassVar[str] = "Contrast"
    purpose: ClassVar[Purpose] = "tone"
    summary: ClassVar[str] = "Steeper or flatter around a pivot"

    kind: Literal["contrast"] = "contrast"
    amount: float = number(1.0, 0.2, 3.0, label="Contrast", unit="×", fine=0.01, coarse=0.1)
    pivot: float = share(0.18, 0.02, 0.8, label="Pivot", help="the light that stays, as a share of white")

    def neutral(self) -> bool:
        return self.amount == 1.0

    def _pivot_code(self, encoding: Encoding) -> float:
        return float(encoding.encode(np.array([self.pivot], dtype=np.float32))[0])

    def operations(self, at: Surroundings) -> list[Operation]:
        pivot = self._pivot_code(at.encoding)
        if at.encoding.response == "log":
            return [Linear(np.eye(3) * self.amount, np.full(3, pivot * (1 - self.amount)))]
        bend = _bend if at.encoding.response == "display" else _steepen
        return [Pass(bend, (np.float32(pivot), np.float32(self.amount)))]

    def trace(self, at: Surroundings) -> Trace:
        return {**tone_line(self, at), "pivot": self._pivot_code(at.encoding)}
