"""Lift, gamma, gain."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..arrays import F32
from ..elementary import hold, signed_power
from ..kernels import kernel
from ..operations import Operation, Pass
from .parameter import number
from .step import Purpose, Step, Strict, Surroundings
from .traced import Trace, tone_line


@kernel("void(float32[:, ::1], float32[:, ::1])")
def _set(t: F32, p: F32) -> None:
    for c in range(3):
        lift, inverse, gain = p[c, 0], p[c, 1], p[c, 2]
        for i in range(t.shape[1]):
            v = lift + t[c, i] * (gain - lift)
            t[c, i] = hold(signed_power(v, inverse) if inverse != np.float32(1) else v)


class LiftRow(Strict):
    """Lift, gamma and gain of all channels or of one."""

    lift: float = number(0.0, -0.5, 0.5, label="Lift", fine=0.002, coarse=0.02)
    gamma: float = number(1.0, 0.2, 5.0, label="Gamma", fine=0.005, coarse=0.05)
    gain: float = number(1.0, 0.0, 4.0, label="Gain", fine=0.005, coarse=0.05)


class LiftGammaGain(Step):
    """Black, middle and white of the code values moved: y = (lift + x·(gain − lift))^(1/gamma) (common
    practice).

    Master and channel are joined: lifts add, gammas and gains multiply.
    """

    title: ClassVar[str] = "Lift, gamma, gain"
    purpose: ClassVar[Purpose] = "mix"
    summary: ClassVar[str] = "Black, middle and white, together and a channel each"

    kind: Literal["lift_gamma_gain"] = "lift_gamma_gain"
    master: LiftRow = Field(default_factory=LiftRow, title="Master")
    red: LiftRow = Field(default_factory=LiftRow, title="Red")
    green: LiftRow = Field(default_factory=LiftRow, title="Green")
    blue: LiftRow = Field(default_factory=LiftRow, title="Blue")

    def operations(self, at: Surroundings) -> list[Operation]:
        m = self.master
        rows = [
            [m.lift + c.lift, 1 / (m.gamma * c.gamma), m.gain * c.gain]
            for c in (self.red, self.green, self.blue)
        ]
        return [Pass(_set, (np.array(rows, dtype=np.float32),))]

    def trace(self, at: Surroundings) -> Trace:
        return tone_line(self, at)
