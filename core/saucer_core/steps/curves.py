"""Curves."""

from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import AfterValidator, Field

from ..arrays import F32
from ..luma import LUMA32
from ..operations import Operation
from .interpolant import Interpolant, Interpolation, interpolant
from .step import Purpose, Step, Surroundings
from .traced import Trace, line

CurvePoint = tuple[
    Annotated[float, Field(ge=0.0, le=1.0, allow_inf_nan=False)],
    Annotated[float, Field(ge=-1.0, le=2.0, allow_inf_nan=False)],
]


def _rising(points: list[CurvePoint]) -> list[CurvePoint]:
    for (a, _), (b, _) in zip(points, points[1:], strict=False):
        if b - a < 1e-4:
            raise ValueError("the points of a curve must rise from left to right, at least 0.0001 apart")
    return points


Points = Annotated[list[CurvePoint], Field(min_length=2, max_length=64), AfterValidator(_rising)]
STRAIGHT: list[CurvePoint] = [(0.0, 0.0), (1.0, 1.0)]

CHANNELS = ("red", "green", "blue")


@dataclass(frozen=True, eq=False)
class LumaCurve(Operation):
    """A curve on luma that moves the three channels by one amount."""

    curve: Interpolant

    def run(self, tile: F32) -> None:
        before = LUMA32 @ tile
        tile += self.curve(before) - before


class Curves(Step):
    """Curves through points on code values 0–1: red, green and blue first, then all, then luma.

    The luma curve moves the three channels by one amount, so that colour differences stay.
    """

    title: ClassVar[str] = "Curves"
    purpose: ClassVar[Purpose] = "tone"
    summary: ClassVar[str] = "Curves through points, together and a channel each"

    kind: Literal["curves"] = "curves"
    interpolation: Interpolation = Field("monotone", title="Between points")
    all: Points = Field(default_factory=lambda: list(STRAIGHT), title="All")
    red: Points = Field(default_factory=lambda: list(STRAIGHT), title="Red")
    green: Points = Field(default_factory=lambda: list(STRAIGHT), title="Green")
    blue: Points = Field(default_factory=lambda: list(STRAIGHT), title="Blue")
    luma: Points = Field(default_factory=lambda: list(STRAIGHT), title="Luma")

    def operations(self, at: Surroundings) -> list[Operation]:
        own = [
            interpolant(getattr(self, name), self.interpolation).passes(c)
            for c, name in enumerate(CHANNELS)
            if self._bent(name)
        ]
        both = interpolant(self.all, self.interpolation)
        found: list[Operation] = [*own, *((both.passes(c) for c in range(3)) if self._bent("all") else ())]
        return (
            [*found, LumaCurve(interpolant(self.luma, self.interpolation))] if self._bent("luma") else found
        )

    def _bent(self, name: str) -> bool:
        return getattr(self, name) != STRAIGHT  # type: ignore[no-any-return]

    def trace(self, at: Surroundings) -> Trace:
        x = np.linspace(0, 1, 129, dtype=np.float32)
        lines = {
            name: line(interpolant(getattr(self, name), self.interpolation)(x))
            for name in ("all", *CHANNELS, "luma")
        }
        return {"x": line(x), **lines}
