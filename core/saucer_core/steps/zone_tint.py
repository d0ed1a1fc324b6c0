"""Zone tint."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..arrays import F32, F64
from ..elementary import hold
from ..encodings import encoding
from ..encodings.oklab import LabPass, from_oklab, in_oklab
from ..kernels import inlined, kernel
from ..operations import Operation
from .parameter import degrees, share
from .step import Purpose, Step, Strict, Surroundings
from .traced import Trace, line, shown

#: OKLab chroma that an amount of 100 % adds: as much as a strong tint can be and still hold detail. Saucer's
#: own figure.
FULL_TINT = 0.15
#: OKLab lightness that 100 % adds.
FULL_LIGHT = 0.25


class ZoneTone(Strict):
    """What happens to one zone."""

    hue: float = degrees(60.0, label="Hue")
    amount: float = share(0.0, 0.0, 1.0, label="Tint")
    lightness: float = share(0.0, -1.0, 1.0, label="Lightness")
    saturation: float = share(0.0, -1.0, 1.0, label="Saturation")

    def tint(self) -> tuple[float, float]:
        """What is added to OKLab a and b."""
        angle = np.radians(self.hue)
        return FULL_TINT * self.amount * float(np.cos(angle)), FULL_TINT * self.amount * float(np.sin(angle))


@inlined
def _past(lightness, crossover, overlap):  # type: ignore[no-untyped-def]
    """Smoothly from 0 to 1 over the overlap to both sides of a crossover."""
    t = (lightness - crossover + overlap) / (overlap + overlap)
    t = min(max(t, np.float32(0)), np.float32(1))
    return t * t * (np.float32(3) - t - t)


@kernel("void(float32[::1], float32[:, ::1], float32, float32, float32)")
def _weigh(lightness: F32, out: F32, low: np.float32, high: np.float32, overlap: np.float32) -> None:
    for i in range(lightness.size):
        past_low, past_high = _past(lightness[i], low, overlap), _past(lightness[i], high, overlap)
        out[i, 0], out[i, 1], out[i, 2] = 1 - past_low, past_low * (1 - past_high), past_low * past_high


@kernel("void(float64[:, ::1], float32, float32, float32, float32[:, ::1])")
def _tint(t: F64, low: np.float32, high: np.float32, overlap: np.float32, change: F32) -> None:
    """In place. change: rows shadows, midtones, highlights, overall; columns a, b, L, saturation."""
    one = np.float32(1)
    for i in range(t.shape[1]):
        light = np.float32(t[0, i])
        past_low, past_high = _past(light, low, overlap), _past(light, high, overlap)
        s, m, h = one - past_low, past_low * (one - past_high), past_low * past_high
        gain = one + s * change[0, 3] + m * change[1, 3] + h * change[2, 3] + change[3, 3]
        gain = max(gain, np.float32(0))
        t[1, i] = hold(t[1, i] * gain + s * change[0, 0] + m * change[1, 0] + h * change[2, 0] + change[3, 0])
        t[2, i] = hold(t[2, i] * gain + s * change[0, 1] + m * change[1, 1] + h * change[2, 1] + change[3, 1])
        t[0, i] = hold(t[0, i] + s * change[0, 2] + m * change[1, 2] + h * change[2, 2] + change[3, 2])


ZONES = ("shadows", "midtones", "highlights")


class ZoneTint(Step):
    """Hue, lightness and saturation for shadows, midtones, highlights and overall, in OKLab. Saucer's own
    formula.

    Two crossovers on OKLab lightness with a common overlap; the three weights are smooth and sum to 1
    everywhere.
    """

    title: ClassVar[str] = "Zone tint"
    purpose: ClassVar[Purpose] = "colour"
    summary: ClassVar[str] = "A tint for shadows, midtones and highlights"

    kind: Literal["zone_tint"] = "zone_tint"
    shadows: ZoneTone = Field(default_factory=ZoneTone, title="Shadows")
    midtones: ZoneTone = Field(default_factory=ZoneTone, title="Midtones")
    highlights: ZoneTone = Field(default_factory=ZoneTone, title="Highlights")
    overall: ZoneTone = Field(default_factory=ZoneTone, title="Overall")
    low_crossover: float = share(0.42, 0.05, 0.9, label="Shadows to midtones", help="OKLab lightness")
    high_crossover: float = share(0.75, 0.1, 0.98, label="Midtones to highlights", help="OKLab lightness")
    overlap: float = share(0.2, 0.02, 0.5, label="Overlap")

    def neutral(self) -> bool:
        return all(
            z.amount == 0 and z.lightness == 0 and z.saturation == 0
            for z in (self.shadows, self.midtones, self.highlights, self.overall)
        )

    def weights(self, lightness: F32) -> F32:
        """Shadows, midtones, highlights for OKLab lightness; ``(n,)`` to ``(n, 3)``, each row sums to 1."""
        out = np.empty((lightness.size, 3), dtype=np.float32)
        _weigh(np.ascontiguousarray(lightness, dtype=np.float32), out, *self._edges())
        return out

    def _edges(self) -> tuple[np.float32, np.float32, np.float32]:
        low, high = sorted((self.low_crossover, self.high_crossover))
        return np.float32(low), np.float32(high), np.float32(self.overlap)

    def operations(self, at: Surroundings) -> list[Operation]:
        zones = (self.shadows, self.midtones, self.highlights, self.overall)
        change = np.array(
            [[*z.tint(), FULL_LIGHT * z.lightness, z.saturation] for z in zones], dtype=np.float32
        )
        return in_oklab(at.encoding, [LabPass(_tint, (*self._edges(), change))])

    def trace(self, at: Surroundings) -> Trace:
        lightness = np.linspace(0, 1, 101, dtype=np.float32)
        weights = self.weights(lightness)
        return {
            "lightness": line(lightness),
            **{name: line(weights[:, k]) for k, name in enumerate(ZONES)},
            "swatches": {name: _swatch(getattr(self, name)) for name in (*ZONES, "overall")},
        }


def _swatch(zone: ZoneTone) -> str:
    """The tint as a CSS colour on a light mid grey, for the screen to show."""
    lab = np.array([[0.72 + 0.2 * zone.lightness, *zone.tint()]], dtype=np.float32)
    return shown(from_oklab(lab, encoding("srgb")), encoding("srgb"))
