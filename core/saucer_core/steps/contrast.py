"""Contrast."""

from typing import Any, ClassVar, Literal

import numpy as np

from ..arrays import F32
from ..encodings import Encoding
from .parameter import number, share
from .step import Purpose, Step, Surroundings
from .traced import tone_line


def _s_curve(x: F32, pivot: float, amount: float) -> F32:
    """Two powers that meet at the pivot with slope ``amount``; 0, pivot and 1 stay, outside 0–1 nothing changes."""
    p, a = np.float32(pivot), np.float32(amount)
    inside = np.clip(x, 0, 1)
    low = p * (np.minimum(inside, p) / p) ** a
    high = 1 - (1 - p) * ((1 - np.maximum(inside, p)) / (1 - p)) ** a
    bent: F32 = np.where(inside <= p, low, high) + (x - inside)
    return bent


class Contrast(Step):
    """Steeper or flatter around a pivot, monotone. The formulas are the house's.

    On display code values two powers meet at the pivot, so that black and white stay; on log values a straight line
    through the pivot; on linear light a power through it (a straight line in stops).
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

    def apply(self, rgb: F32, at: Surroundings) -> F32:
        pivot = self._pivot_code(at.encoding)
        if at.encoding.response == "display":
            return _s_curve(rgb, pivot, self.amount)
        if at.encoding.response == "log":
            return np.float32(pivot) + (rgb - np.float32(pivot)) * np.float32(self.amount)
        return np.copysign(np.float32(pivot) * (np.abs(rgb) / np.float32(pivot)) ** np.float32(self.amount), rgb)

    def trace(self, at: Surroundings) -> dict[str, Any]:
        return {**tone_line(self, at), "pivot": self._pivot_code(at.encoding)}
