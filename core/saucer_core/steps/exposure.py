"""Exposure."""

from typing import ClassVar, Literal

from ..operations import Operation, coded, gain
from .parameter import number
from .step import Purpose, Step, Surroundings
from .traced import Trace, tone_line


class Exposure(Step):
    """More or less light: a factor of 2 a stop, in linear light."""

    title: ClassVar[str] = "Exposure"
    purpose: ClassVar[Purpose] = "tone"
    summary: ClassVar[str] = "More or less light, in stops"

    kind: Literal["exposure"] = "exposure"
    stops: float = number(0.0, -8.0, 8.0, label="Exposure", unit="stops", fine=0.05, coarse=0.5)

    def operations(self, at: Surroundings) -> list[Operation]:
        return coded(at.encoding.transfer, [gain(2.0**self.stops)])

    def trace(self, at: Surroundings) -> Trace:
        return tone_line(self, at)
