"""Slope, offset, power."""

from dataclasses import dataclass
from typing import ClassVar, Literal

import numpy as np
from pydantic import ConfigDict, Field

from ..arrays import F32
from ..elementary import hold, power
from ..kernels import kernel
from ..luma import luma
from ..operations import Operation
from .parameter import number
from .step import Purpose, Step, Strict, Surroundings
from .traced import Trace, tone_line


@kernel("void(float32[:, ::1], float32[:, ::1], float32, boolean)")
def _correct(t: F32, p: F32, saturation: float, clamp: bool) -> None:
    one, nil = np.float32(1), np.float32(0)
    for c in range(3):
        slope, offset, exponent = p[c, 0], p[c, 1], p[c, 2]
        if exponent == one:
            for i in range(t.shape[1]):
                v = t[c, i] * slope + offset
                t[c, i] = min(max(v, nil), one) if clamp else hold(v)
        else:
            for i in range(t.shape[1]):
                v = t[c, i] * slope + offset
                held = min(max(v, nil), one)
                v = held if clamp else v
                raised = power(max(v, nil), exponent)
                t[c, i] = hold(raised if v > nil else v)
    if saturation == one:
        return
    for i in range(t.shape[1]):
        r, g, b = t[0, i], t[1, i], t[2, i]
        grey = luma(r, g, b)
        r, g, b = (
            grey + saturation * (r - grey),
            grey + saturation * (g - grey),
            grey + saturation * (b - grey),
        )
        t[0, i] = min(max(r, nil), one) if clamp else hold(r)
        t[1, i] = min(max(g, nil), one) if clamp else hold(g)
        t[2, i] = min(max(b, nil), one) if clamp else hold(b)


@dataclass(frozen=True)
class Correction(Operation):
    """ASC CDL, version 1.2 (ASC Technology Committee, 2009-05-04), sections 2 and 3: slope, offset, power,
    saturation.

    With ``clamp`` each of its two stages is held to 0–1 as the standard says; without, values below zero pass
    the power unchanged (the *no clamp* style of SMPTE ST 2136-1).
    """

    slope: tuple[float, float, float] = (1.0, 1.0, 1.0)
    offset: tuple[float, float, float] = (0.0, 0.0, 0.0)
    power: tuple[float, float, float] = (1.0, 1.0, 1.0)
    saturation: float = 1.0
    clamp: bool = True

    def run(self, tile: F32) -> None:
        numbers = np.ascontiguousarray(np.array([self.slope, self.offset, self.power]).T, dtype=np.float32)
        _correct(tile, numbers, np.float32(self.saturation), self.clamp)


class SopRow(Strict):
    """Slope, offset and power of one channel. It never changes, so that trims share one that does nothing."""

    model_config = ConfigDict(frozen=True)

    slope: float = number(1.0, 0.0, 8.0, label="Slope", fine=0.005, coarse=0.05)
    offset: float = number(0.0, -1.0, 1.0, label="Offset", fine=0.002, coarse=0.02)
    power: float = number(1.0, 0.05, 8.0, label="Power", fine=0.005, coarse=0.05)


class SlopeOffsetPower(Step):
    """The colour decision list of the American Society of Cinematographers, version 1.2, on code values."""

    title: ClassVar[str] = "Slope, offset, power"
    purpose: ClassVar[Purpose] = "mix"
    summary: ClassVar[str] = "ASC CDL with saturation"

    kind: Literal["slope_offset_power"] = "slope_offset_power"
    red: SopRow = Field(default_factory=SopRow, title="Red")
    green: SopRow = Field(default_factory=SopRow, title="Green")
    blue: SopRow = Field(default_factory=SopRow, title="Blue")
    saturation: float = number(1.0, 0.0, 4.0, label="Saturation", fine=0.01, coarse=0.1)
    clamp: bool = Field(True, title="Clamp to 0–1")

    def neutral(self) -> bool:
        return self.red == self.green == self.blue == SopRow() and self.saturation == 1.0

    def correction(self) -> Correction:
        """As one operation."""
        rows = (self.red, self.green, self.blue)

        def three(name: str) -> tuple[float, float, float]:
            r, g, b = (float(getattr(row, name)) for row in rows)
            return r, g, b

        return Correction(three("slope"), three("offset"), three("power"), self.saturation, self.clamp)

    def operations(self, at: Surroundings) -> list[Operation]:
        return [self.correction()]

    def trace(self, at: Surroundings) -> Trace:
        return tone_line(self, at)


def step_of(correction: Correction, label: str = "") -> SlopeOffsetPower:
    """A step with those numbers. Raises ``ValueError`` where one lies outside what a step takes."""
    triples = zip(correction.slope, correction.offset, correction.power, strict=True)
    red, green, blue = (SopRow(slope=s, offset=o, power=p) for s, o, p in triples)
    return SlopeOffsetPower(
        red=red,
        green=green,
        blue=blue,
        saturation=correction.saturation,
        clamp=correction.clamp,
        label=label[:80],
    )
