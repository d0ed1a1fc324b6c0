"""Hue curves."""

from dataclasses import replace
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import AfterValidator, Field

from ..arrays import F32, F64
from ..elementary import hold
from ..encodings.oklab import LabPass, in_oklab
from ..kernels import kernel
from ..operations import Operation
from .hue_wheel import hues, ring, turning
from .interpolant import interpolant, periodic
from .step import Purpose, Step, Surroundings
from .traced import Trace, line

#: Chroma at the right end of the saturation axis.
FULL_CHROMA = 0.3
_STEPS = 256


def _apart(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    places = [x for x, _ in points]
    if any(b - a < 1e-3 for a, b in zip(places, places[1:], strict=False)):
        raise ValueError("the points of a curve must rise from left to right, at least 0.001 apart")
    return points


def _number(low: float, high: float) -> Any:
    return Field(ge=low, le=high, allow_inf_nan=False)


Hue = Annotated[float, _number(0.0, 359.99)]
Share = Annotated[float, _number(0.0, 1.0)]
Degrees = Annotated[float, _number(-180.0, 180.0)]
Factor = Annotated[float, _number(0.0, 3.0)]
Light = Annotated[float, _number(-1.0, 1.0)]
_several = Field(max_length=24)
HueShifts = Annotated[list[tuple[Hue, Degrees]], _several, AfterValidator(_apart)]
HueGains = Annotated[list[tuple[Hue, Factor]], _several, AfterValidator(_apart)]
HueLights = Annotated[list[tuple[Hue, Light]], _several, AfterValidator(_apart)]
Gains = Annotated[list[tuple[Share, Factor]], _several, AfterValidator(_apart)]


@kernel("void(float64[:, ::1], float32[::1], float32[::1])")
def _strengthen(t: F64, by_light: F32, by_chroma: F32) -> None:
    nil, most = np.float32(0), np.float32(_STEPS)
    for i in range(t.shape[1]):
        a, b = np.float32(t[1, i]), np.float32(t[2, i])
        u = min(max(np.float32(t[0, i]), nil), np.float32(1)) * most
        v = min(np.sqrt(a * a + b * b) / np.float32(FULL_CHROMA), np.float32(1)) * most
        j, k = min(int(u), _STEPS - 1), min(int(v), _STEPS - 1)
        gain = by_light[j] + (u - np.float32(j)) * (by_light[j + 1] - by_light[j])
        gain *= by_chroma[k] + (v - np.float32(k)) * (by_chroma[k + 1] - by_chroma[k])
        t[1, i], t[2, i] = hold(t[1, i] * gain), hold(t[2, i] * gain)


class HueCurves(Step):
    """Curves over hue (which close on themselves), over lightness, and over saturation, in OKLCh. Neutrals
    stay.

    hue → hue shift in degrees; hue → saturation and lightness → saturation and saturation → saturation as
    factors; hue → lightness as a share. The curves are monotone cubics. An empty curve changes nothing.
    """

    title: ClassVar[str] = "Hue curves"
    purpose: ClassVar[Purpose] = "colour"
    summary: ClassVar[str] = "Curves over hue, lightness and saturation"

    kind: Literal["hue_curves"] = "hue_curves"
    hue_hue: HueShifts = Field(default_factory=list, title="Hue by hue")
    hue_saturation: HueGains = Field(default_factory=list, title="Saturation by hue")
    hue_lightness: HueLights = Field(default_factory=list, title="Lightness by hue")
    lightness_saturation: Gains = Field(default_factory=list, title="Saturation by lightness")
    saturation_saturation: Gains = Field(default_factory=list, title="Saturation by saturation")

    def around(self, name: str, hue: F32) -> F32:
        """A curve over hue at hues in degrees; flat where it has no points."""
        points, rest = getattr(self, name), 1.0 if name == "hue_saturation" else 0.0
        if not points:
            return np.full(len(hue), rest, dtype=np.float32)
        return interpolant(periodic(points, 360.0), "monotone")(hue)

    def along(self, name: str, x: F32) -> F32:
        """A factor over lightness or saturation, 0–1; its ends go on flat."""
        points = getattr(self, name)
        if not points:
            return np.ones(len(x), dtype=np.float32)
        if len(points) == 1:
            return np.full(len(x), points[0][1], dtype=np.float32)
        return replace(interpolant(points, "monotone"), beyond=(0.0, 0.0))(x)

    def _turn(self) -> LabPass:
        hue = hues()
        return turning(
            self.around("hue_hue", hue), self.around("hue_saturation", hue), self.around("hue_lightness", hue)
        )

    def operations(self, at: Surroundings) -> list[Operation]:
        x = np.linspace(0, 1, _STEPS + 1, dtype=np.float32)
        inside: list[LabPass] = []
        if self.hue_hue or self.hue_saturation or self.hue_lightness:
            inside.append(self._turn())
        if self.lightness_saturation or self.saturation_saturation:
            inside.append(
                LabPass(
                    _strengthen,
                    (self.along("lightness_saturation", x), self.along("saturation_saturation", x)),
                )
            )
        return in_oklab(at.encoding, inside)

    def trace(self, at: Surroundings) -> Trace:
        hue, x = hues(120), np.linspace(0, 1, 65, dtype=np.float32)
        over = {name: line(self.around(name, hue)) for name in ("hue_hue", "hue_saturation", "hue_lightness")}
        along = {
            name: line(self.along(name, x)) for name in ("lightness_saturation", "saturation_saturation")
        }
        return {"hue": line(hue), "x": line(x), **over, **along, **ring(self._turn())}
