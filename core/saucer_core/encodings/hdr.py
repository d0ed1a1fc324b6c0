"""The transfer functions of ITU-R BT.2100-2: PQ (table 4) and HLG (table 5)."""

import math
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from ..arrays import F32, F64
from ..elementary import exp2_wide, hold, log2
from ..kernels import kernel
from ..operations import Operation, Pass
from ..transfer import Transfer
from .scalar import loop

_M1, _M2 = 2610 / 16384, 2523 / 4096 * 128
_C1, _C2, _C3 = 3424 / 4096, 2413 / 4096 * 32, 2392 / 4096 * 32
#: cd/m² of linear 1.0 (Saucer's own choice).
UNIT = 100.0
#: cd/m² of the largest code of PQ (SMPTE ST 2084:2014).
PEAK = 10_000.0
_ONE = np.float32(1)
_NIL = np.float32(0)
_TINY = np.float32(1e-30)


@loop()
def _pq_decode(x: F32) -> None:
    for i in range(x.size):
        v = min(abs(x[i]), _ONE)
        p = exp2_wide(log2(max(v, _TINY)) / _M2)
        n = np.float32(max(p - _C1, 0.0) / (_C2 - _C3 * p))
        y = np.float32(exp2_wide(log2(max(n, _TINY)) / _M1) * (PEAK / UNIT))
        y = y if n > _TINY else _NIL
        x[i] = y if x[i] >= _NIL else -y


@loop()
def _pq_encode(x: F32) -> None:
    for i in range(x.size):
        y = min(abs(x[i]) * np.float32(UNIT / PEAK), _ONE)
        p = exp2_wide(log2(max(y, _TINY)) * _M1)
        p = p if y > _TINY else 0.0
        v = np.float32(exp2_wide(_M2 * log2(np.float32((_C1 + _C2 * p) / (1.0 + _C3 * p)))))
        # Black is 7e-7 by the formula; it is given as 0, so that decoding it gives black again.
        v = v if y > _TINY else _NIL
        x[i] = v if x[i] >= _NIL else -v


@dataclass(frozen=True)
class PerceptualQuantizer(Transfer):
    """SMPTE ST 2084:2014, and BT.2100-2 table 4. Code beyond 1 has no meaning and counts as the peak of
    10,000 cd/m²."""

    name: ClassVar[str] = "PQ"
    to_light, to_code = _pq_decode, _pq_encode
    lossless: ClassVar[bool] = False


PQ = PerceptualQuantizer()

_A = 0.17883277
_B = 1 - 4 * _A
_C = 0.5 - _A * math.log(4 * _A)
_LN2 = math.log(2.0)


def hlg_scene(code: float) -> float:
    """Scene light 0–1 of an HLG code value: the inverse of the OETF, BT.2100-2 table 5."""
    return code * code / 3 if code <= 0.5 else (math.exp((code - _C) / _A) + _B) / 12


#: Scene light of the HDR reference white, 75 % HLG (ITU-R BT.2408-7, table 1). Linear 1.0 is that white, so
#: that mid grey and white lie where other scene encodings have them (Saucer's own choice).
HLG_WHITE = hlg_scene(0.75)
_WHITE = np.float32(HLG_WHITE)
#: Code beyond which light would lie above what a step can give.
_HLG_TOP = np.float32(9)


@loop()
def _hlg_decode(x: F32) -> None:
    for i in range(x.size):
        v = min(abs(x[i]), _HLG_TOP)
        low = v * v * np.float32(1 / 3)
        high = np.float32((exp2_wide((np.float64(v) - _C) / (_A * _LN2)) + _B) / 12.0)
        y = (low if v <= np.float32(0.5) else high) / _WHITE
        x[i] = y if x[i] >= _NIL else -y


@loop()
def _hlg_encode(x: F32) -> None:
    for i in range(x.size):
        e = abs(x[i]) * _WHITE
        low = np.sqrt(np.float32(3) * e)
        high = np.float32(_A * _LN2 * log2(max(np.float32(12) * e - np.float32(_B), np.float32(0.1))) + _C)
        y = low if e <= np.float32(1 / 12) else high
        x[i] = y if x[i] >= _NIL else -y


@dataclass(frozen=True)
class HybridLogGamma(Transfer):
    """BT.2100-2 table 5, the OETF: scene light, with 1.0 at the HDR reference white."""

    name: ClassVar[str] = "HLG"
    to_light, to_code = _hlg_decode, _hlg_encode


HLG = HybridLogGamma()

#: Peak of the display that HLG is shown on, cd/m² (BT.2100-2, table 5).
HLG_PEAK = 1000.0


def system_gamma(peak: float) -> float:
    """System gamma of HLG on a display of that peak, cd/m²: 1.2 at 1,000.

    BT.2100-2, table 5, note 5f, from 400 to 2,000 cd/m²; beyond that the extended formula of ITU-R BT.2390-8,
    6.2.
    """
    if 400 <= peak <= 2000:
        return 1.2 + 0.42 * math.log10(peak / 1000)
    return float(1.2 * 1.111 ** math.log2(peak / 1000))


_LUMINANCE = np.array([0.2627, 0.6780, 0.0593])
_RED, _GREEN, _BLUE = (np.float32(w) for w in _LUMINANCE)


def hlg_display(light: F64, peak: float = HLG_PEAK) -> F64:
    """Light of the display, 1.0 = 100 cd/m², of HLG scene light ``(n, 3)`` in BT.2020 primaries (1.0 = HDR
    reference white).

    The OOTF of BT.2100-2, table 5, for a black of zero.
    """
    scene = light * HLG_WHITE
    luminance = np.maximum(scene @ _LUMINANCE, 0.0)
    shown: F64 = peak / UNIT * luminance[:, None] ** (system_gamma(peak) - 1) * scene
    return shown


@kernel("void(float32[:, ::1], float32, float32)")
def _scaled_by_luminance(t: F32, factor: float, power: float) -> None:
    for i in range(t.shape[1]):
        r, g, b = t[0, i], t[1, i], t[2, i]
        y = max(abs(_RED * r + _GREEN * g + _BLUE * b), _DARKEST)
        f = factor * np.float32(exp2_wide(power * log2(y)))
        t[0, i], t[1, i], t[2, i] = hold(f * r), hold(f * g), hold(f * b)


#: Luminance below which the OOTF is a line through black: it would be infinitely steep backwards.
_DARKEST = np.float32(1e-6)


def ootf() -> tuple[float, float]:
    """Factor and power of luminance by which scene light (1.0 = reference white) becomes light of the display
    (1.0 = 100 cd/m²)."""
    gamma = system_gamma(HLG_PEAK)
    return HLG_PEAK / UNIT * HLG_WHITE**gamma, gamma - 1


def shown() -> Operation:
    """Scene light in BT.2020 primaries, 1.0 the reference white, to light of the HLG display, 1.0 = 100
    cd/m²: the OOTF."""
    factor, power = ootf()
    return Pass(_scaled_by_luminance, (np.float32(factor), np.float32(power)))


def unshown() -> Operation:
    """The inverse of ``shown``."""
    factor, power = ootf()
    back = power / (1 + power)
    return Pass(_scaled_by_luminance, (np.float32(factor ** (back - 1)), np.float32(-back)))
