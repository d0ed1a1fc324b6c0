"""Monochrome."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..arrays import F64
from ..encodings.oklab import LabPass, from_oklab, in_oklab, polar
from ..kernels import kernel
from ..luma import BLUE, GREEN, RED
from ..operations import Operation, apply, matrix
from .hue_wheel import circle
from .parameter import degrees, share
from .step import Purpose, Step, Surroundings, Values
from .traced import Trace, line, ramp, swatches

#: OKLab chroma that a toning of 100 % gives mid grey.
FULL_TONING = 0.12
#: Hues and greys that the editor draws.
TRACED_HUES = 36


@kernel("void(float64[:, ::1], float32, float32)")
def _tone(t: F64, a: float, b: float) -> None:
    """Most in the middle, nothing at black and white."""
    for i in range(t.shape[1]):
        light = min(max(np.float32(t[0, i]), np.float32(0)), np.float32(1))
        w = np.float32(4) * light * (np.float32(1) - light)
        t[1, i] += w * a
        t[2, i] += w * b


class Monochrome(Step):
    """Grey from weighted channels, on code values, with toning in OKLab if wanted.

    With *sum lock* the weights are scaled to sum to 100 %, so that white stays white.
    """

    title: ClassVar[str] = "Monochrome"
    purpose: ClassVar[Purpose] = "colour"
    summary: ClassVar[str] = "Grey from weighted channels, toned if you like"
    begins: ClassVar[Values] = {"amount": 1.0}

    kind: Literal["monochrome"] = "monochrome"
    amount: float = share(0.0, 0.0, 1.0, label="Drained", help="how much of the colour is taken away")
    sum_lock: bool = Field(True, title="Sum lock")
    red: float = share(RED, -1.0, 2.0, label="Red")
    green: float = share(GREEN, -1.0, 2.0, label="Green")
    blue: float = share(BLUE, -1.0, 2.0, label="Blue")
    toning_hue: float = degrees(70.0, label="Toning hue")
    toning: float = share(0.0, 0.0, 1.0, label="Toning")

    def neutral(self) -> bool:
        return self.amount == 0 and self.toning == 0

    def weights(self) -> list[float]:
        """The weights in use."""
        raw = [self.red, self.green, self.blue]
        total = sum(raw)
        return [w / total for w in raw] if self.sum_lock and abs(total) > 1e-3 else raw

    def operations(self, at: Surroundings) -> list[Operation]:
        grey = np.outer(np.ones(3), self.weights())
        found: list[Operation] = (
            [matrix((1 - self.amount) * np.eye(3) + self.amount * grey)] if self.amount else []
        )
        if self.toning:
            _, a, b = polar(0, FULL_TONING * self.toning, self.toning_hue)
            found += in_oklab(at.encoding, [LabPass(_tone, (np.float32(a), np.float32(b)))])
        return found

    def trace(self, at: Surroundings) -> Trace:
        operations = self.operations(at)
        before = from_oklab(circle(TRACED_HUES), at.encoding)
        return {
            "weights": line(np.array(self.weights(), dtype=np.float32)),
            "tones": swatches(apply(operations, ramp(TRACED_HUES)), at.encoding),
            "before": swatches(before, at.encoding),
            "after": swatches(apply(operations, before), at.encoding),
        }
