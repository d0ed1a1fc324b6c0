"""Levels."""

from typing import Any, ClassVar, Literal

import numpy as np
from pydantic import model_validator

from ..arrays import F32
from .parameter import number, share
from .step import Purpose, Step, Strict, Surroundings
from .traced import tone_line


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

    def on(self, x: F32) -> F32:
        """Exact on its anchors: black in gives black out, white in gives white out. Nothing is clipped."""
        t = (x - np.float32(self.in_black)) / np.float32(self.in_white - self.in_black)
        if self.gamma != 1.0:
            t = np.copysign(np.abs(t) ** np.float32(1 / self.gamma), t)
        return np.float32(self.out_black) * (1 - t) + np.float32(self.out_white) * t


class Levels(Step):
    """Black, white and gamma, in and out: each channel first, then all. The usual formula (common practice)."""

    title: ClassVar[str] = "Levels"
    purpose: ClassVar[Purpose] = "tone"
    summary: ClassVar[str] = "Black, white and gamma, in and out"

    kind: Literal["levels"] = "levels"
    all: LevelSet = LevelSet()
    red: LevelSet = LevelSet()
    green: LevelSet = LevelSet()
    blue: LevelSet = LevelSet()

    def apply(self, rgb: F32, at: Surroundings) -> F32:
        out = np.empty_like(rgb)
        for c, own in enumerate((self.red, self.green, self.blue)):
            out[:, c] = own.on(rgb[:, c])
        return self.all.on(out)

    def trace(self, at: Surroundings) -> dict[str, Any]:
        return tone_line(self, at)
