"""Roll-off."""

from typing import ClassVar, Literal

import numpy as np

from ..arrays import F32
from ..kernels import kernel
from ..operations import Operation, Pass
from .parameter import share
from .step import Purpose, Step, Surroundings, Values
from .traced import Trace, tone_line

#: How far into the range full softness reaches, from either end.
REACH = 0.6


@kernel("void(float32[:, ::1], float32, float32, float32, float32)")
def _soften(t: F32, knee: float, ceiling: float, foot: float, floor: float) -> None:
    above, below = ceiling - knee, foot - floor
    for c in range(3):
        for i in range(t.shape[1]):
            x = t[c, i]
            over, under = max(x - knee, np.float32(0)), max(foot - x, np.float32(0))
            high = knee + above * over / (over + above)
            low = foot - below * under / (under + below)
            y = high if over > np.float32(0) else x
            t[c, i] = low if under > np.float32(0) else y


class RollOff(Step):
    """A soft knee toward a ceiling and a soft toe toward a floor. Saucer's own formula.

    From the knee k on, y = k + d·(x − k) / (x − k + d) with d = ceiling − k: it leaves k with slope 1, rises
    for ever and never passes the ceiling. The toe is the same upside down. What lies between stays as it is.
    """

    title: ClassVar[str] = "Roll-off"
    purpose: ClassVar[Purpose] = "tone"
    summary: ClassVar[str] = "Soft ends: a knee in the lights, a toe in the darks"
    begins: ClassVar[Values] = {"lights": 0.5}

    kind: Literal["roll_off"] = "roll_off"
    lights: float = share(0.0, 0.0, 1.0, label="Knee", help="how much of the lights is softened")
    ceiling: float = share(1.0, 0.7, 1.5, label="Ceiling", help="what the lights near and never pass")
    darks: float = share(0.0, 0.0, 1.0, label="Toe", help="how much of the darks is softened")
    floor: float = share(0.0, -0.2, 0.3, label="Floor", help="what the darks near and never pass")

    def neutral(self) -> bool:
        return self.lights == 0 and self.darks == 0

    def edges(self) -> tuple[float, float, float, float]:
        """Knee, ceiling, foot, floor, in code values; a part that is off lies out of reach."""
        knee = self.ceiling - REACH * self.lights if self.lights else 1e30
        foot = self.floor + REACH * self.darks if self.darks else -1e30
        if self.lights and self.darks and foot > knee:
            knee = foot = (knee + foot) / 2
        return knee, self.ceiling if self.lights else 2e30, foot, self.floor if self.darks else -2e30

    def operations(self, at: Surroundings) -> list[Operation]:
        return [Pass(_soften, tuple(np.float32(v) for v in self.edges()))]

    def trace(self, at: Surroundings) -> Trace:
        return tone_line(self, at)
