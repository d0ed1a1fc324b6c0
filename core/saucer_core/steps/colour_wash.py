"""Colour wash."""

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from ..arrays import F32
from ..operations import Operation
from .blend import Blend
from .colour import Colour
from .step import Purpose, Step, Surroundings, Values
from .traced import Trace, shown


@dataclass(frozen=True)
class Fill(Operation):
    """Every colour becomes one colour."""

    red: float
    green: float
    blue: float

    def run(self, tile: F32) -> None:
        tile[0], tile[1], tile[2] = self.red, self.green, self.blue


class ColourWash(Step):
    """One colour, put over with the step's blend and strength. White multiplied, the default, changes
    nothing."""

    title: ClassVar[str] = "Colour wash"
    purpose: ClassVar[Purpose] = "mix"
    summary: ClassVar[str] = "One colour laid over the picture"
    begins: ClassVar[Values] = {"colour": {"lightness": 0.9, "chroma": 0.06, "hue": 75.0}}

    kind: Literal["colour_wash"] = "colour_wash"
    blend: Blend = "multiply"
    colour: Colour = Field(default_factory=Colour, title="Colour")

    def neutral(self) -> bool:
        return self.blend == "multiply" and self.colour.lightness == 1.0 and self.colour.chroma == 0.0

    def operations(self, at: Surroundings) -> list[Operation]:
        r, g, b = (float(v) for v in self.colour.code(at.encoding))
        return [Fill(r, g, b)]

    def trace(self, at: Surroundings) -> Trace:
        return {"colour": shown(self.colour.code(at.encoding)[None], at.encoding)}
