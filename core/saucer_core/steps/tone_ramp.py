"""Tone ramp."""

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import AfterValidator, Field

from ..arrays import F32, F64
from ..encodings.oklab import LabPass, in_oklab
from ..kernels import kernel
from ..operations import Operation
from .colour import Colour
from .hue_wheel import css
from .parameter import share
from .step import Purpose, Step, Strict, Surroundings, Values
from .traced import Trace

_PLACES = 1024


class Stop(Strict):
    """A colour at a tone."""

    at: float = share(0.0, 0.0, 1.0, label="Tone", help="OKLab lightness")
    colour: Colour = Field(default_factory=Colour)


def _rising(stops: list[Stop]) -> list[Stop]:
    if any(b.at - a.at < 0.002 for a, b in zip(stops, stops[1:], strict=False)):
        raise ValueError("the stops of a ramp must rise, at least 0.2 % apart")
    return stops


def _grey() -> list[Stop]:
    return [Stop(at=0.0, colour=Colour(lightness=0.0)), Stop(at=1.0, colour=Colour(lightness=1.0))]


@kernel("void(float64[:, ::1], float32[:, ::1], float32)")
def _ramp(t: F64, table: F32, amount: float) -> None:
    for i in range(t.shape[1]):
        u = min(max(np.float32(t[0, i]), np.float32(0)), np.float32(1)) * np.float32(_PLACES)
        k = min(int(u), _PLACES - 1)
        f = u - np.float32(k)
        for c in range(3):
            t[c, i] += amount * (table[c, k] + f * (table[c, k + 1] - table[c, k]) - t[c, i])


class ToneRamp(Step):
    """Every tone gets the colour that the ramp has there: two or more stops over OKLab lightness, mixed in
    OKLab."""

    title: ClassVar[str] = "Tone ramp"
    purpose: ClassVar[Purpose] = "mix"
    summary: ClassVar[str] = "Tones become the colours of a ramp"
    begins: ClassVar[Values] = {
        "amount": 0.5,
        "stops": [
            {"at": 0.0, "colour": {"lightness": 0.06, "chroma": 0.03, "hue": 260.0}},
            {"at": 1.0, "colour": {"lightness": 0.98, "chroma": 0.03, "hue": 85.0}},
        ],
    }

    kind: Literal["tone_ramp"] = "tone_ramp"
    amount: float = share(0.0, 0.0, 1.0, label="Amount", help="how far tones go toward the ramp")
    stops: Annotated[list[Stop], Field(min_length=2, max_length=12), AfterValidator(_rising)] = Field(
        default_factory=_grey
    )

    def neutral(self) -> bool:
        return self.amount == 0

    def table(self, places: int = _PLACES) -> F32:
        """OKLab over lightness 0–1, ``(3, places + 1)``."""
        x = np.linspace(0, 1, places + 1)
        at = [s.at for s in self.stops]
        lab = np.array([s.colour.lab() for s in self.stops])
        return np.array([np.interp(x, at, lab[:, c]) for c in range(3)], dtype=np.float32)

    def operations(self, at: Surroundings) -> list[Operation]:
        return in_oklab(at.encoding, [LabPass(_ramp, (self.table(), np.float32(self.amount)))])

    def trace(self, at: Surroundings) -> Trace:
        return {
            "ramp": css(self.table(32).T),
            "stops": css(np.array([s.colour.lab() for s in self.stops], dtype=np.float32)),
        }
