"""Levels."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import model_validator

from ..arrays import F32
from ..elementary import hold, signed_power
from ..kernels import kernel
from ..operations import Operation, Pass
from .parameter import number, share
from .step import Purpose, Step, Strict, Surroundings
from .traced import Trace, tone_line


class LevelSet(Strict):
    """Where black and white come from, where they go, and the gamma between."""

    in_black: float = share(0.0, -0.5, 1.0, label="Black in")
    in_white: float = share(1.0, 0.0, 2.0, label="White in")
    gamma: float = number(1.0, 0.1, 5.0, label="Gamma", fine=0.01, coarse=0.1)
    out_black: float = share(0.0, -0.5, 1.0, label="Black out")
    out_white: float = share(1.0, 0.0, 2.0, label="White out")

    @model_validator(mode="after")
    def _ordered(self) -> "LevelSet":
        if self.in_white - self.in_black < 0.001:
            raise ValueError("white in must lie above black in by at least 0.1 %")
        return self

    def numbers(self) -> list[float]:
        """Black in, 1 / (white in − black in), 1 / gamma, black out, white out − black out."""
        return [
            self.in_black,
            1 / (self.in_white - self.in_black),
            1 / self.gamma,
            self.out_black,
            self.out_white - self.out_black,
        ]


@kernel("void(float32[:, ::1], float32[:, ::1])")
def _set(t: F32, p: F32) -> None:
    """Exact on the anchors: black in gives black out, white in gives white out. Nothing is clipped."""
    for c in range(3):
        low, rate, inverse, base, reach = p[c, 0], p[c, 1], p[c, 2], p[c, 3], p[c, 4]
        if inverse == np.float32(1):
            for i in range(t.shape[1]):
                t[c, i] = hold(base + reach * (t[c, i] - low) * rate)
        else:
            for i in range(t.shape[1]):
                t[c, i] = hold(base + reach * signed_power((t[c, i] - low) * rate, inverse))


class Levels(Step):
    """Black, white and gamma, in and out: each channel first, then all. The usual formula (common
    practice)."""

    title: ClassVar[str] = "Levels"
    purpose: ClassVar[Purpose] = "tone"
    summary: ClassVar[str] = "Black, white and gamma, in and out"

    kind: Literal["levels"] = "levels"
    all: LevelSet = LevelSet()
    red: LevelSet = LevelSet()
    green: LevelSet = LevelSet()
    blue: LevelSet = LevelSet()

    def operations(self, at: Surroundings) -> list[Operation]:
        own = np.array([x.numbers() for x in (self.red, self.green, self.blue)], dtype=np.float32)
        both = np.array([self.all.numbers()] * 3, dtype=np.float32)
        return [
            Pass(_set, (p,)) for p, used in ((own, not self._plain()), (both, self.all != LevelSet())) if used
        ]

    def _plain(self) -> bool:
        return self.red == self.green == self.blue == LevelSet()

    def trace(self, at: Surroundings) -> Trace:
        return tone_line(self, at)
