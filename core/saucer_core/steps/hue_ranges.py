"""Hue ranges."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..arrays import F32
from ..encodings.oklab import LabPass, in_oklab
from ..operations import Operation
from .hue_wheel import hues, ring, turning, window
from .parameter import degrees, number, share
from .step import PLAIN, Purpose, Step, Strict, Surroundings, Values
from .traced import Trace, line


class HueChange(Strict):
    """What happens to a part of the hue circle."""

    shift: float = number(0.0, -180.0, 180.0, label="Hue shift", unit="°", fine=1.0, coarse=10.0)
    saturation: float = share(0.0, -1.0, 2.0, label="Saturation")
    lightness: float = share(0.0, -1.0, 1.0, label="Lightness")


class HueRange(HueChange):
    """A part of the hue circle, and what happens to it."""

    name: str = Field("", max_length=40, pattern=PLAIN)
    hue: float = degrees(30.0, label="Hue")
    width: float = number(40.0, 0.0, 360.0, label="Width", unit="°", fine=1.0, coarse=10.0)
    feather: float = number(30.0, 1.0, 180.0, label="Feather", unit="°", fine=1.0, coarse=10.0)


class HueRanges(Step):
    """Hue, saturation and lightness for parts of the hue circle, in OKLCh; neutrals stay. Saucer's own
    formula.

    Each range weighs 1 over its width and falls smoothly over its feather; where ranges overlap the weights
    are shared so that they sum to 1, and *everything else* has what is left of 1.
    """

    title: ClassVar[str] = "Hue ranges"
    purpose: ClassVar[Purpose] = "colour"
    summary: ClassVar[str] = "Parts of the hue circle turned, strengthened, drained"
    begins: ClassVar[Values] = {"ranges": [{"hue": 40.0}]}

    kind: Literal["hue_ranges"] = "hue_ranges"
    ranges: list[HueRange] = Field(default_factory=list, max_length=12)
    rest: HueChange = Field(default_factory=HueChange, title="Everything else")

    def neutral(self) -> bool:
        return all(r.shift == 0 and r.saturation == 0 and r.lightness == 0 for r in (*self.ranges, self.rest))

    def weights(self, hue: F32) -> F32:
        """For hues ``(n,)`` in degrees: ``(ranges + 1, n)``, the last row everything else; each column sums
        to 1."""
        rows = [window(hue, r.hue, r.width, r.feather) for r in self.ranges]
        raw = np.array(rows, dtype=np.float32).reshape(len(rows), len(hue))
        total = raw.sum(axis=0)
        shared = raw / np.maximum(total, 1.0)
        return np.concatenate([shared, np.maximum(1.0 - total, 0.0)[None]]).astype(np.float32)

    def change(self) -> LabPass:
        """The change on OKLab."""
        weights = self.weights(hues())
        parts: list[HueChange] = [*self.ranges, self.rest]
        numbers = np.array([[p.shift, p.saturation, p.lightness] for p in parts], dtype=np.float32)
        shift, saturation, lightness = numbers.T @ weights
        return turning(shift, np.maximum(1 + saturation, 0), lightness)

    def operations(self, at: Surroundings) -> list[Operation]:
        return in_oklab(at.encoding, [self.change()])

    def trace(self, at: Surroundings) -> Trace:
        hue = hues(120)
        return {
            "hue": line(hue),
            "weights": [line(w) for w in self.weights(hue)],
            **ring(None if self.neutral() else self.change()),
        }
