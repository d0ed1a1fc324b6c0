"""The camera logarithm: film log, ACEScct, and the curves that camera makers publish.

The form is that of the Common LUT Format (SMPTE ST 2136-1:2024, Log node, cameraLinToLog and cameraLogToLin):
a logarithm above a break, a straight line below it.
"""

import math
from dataclasses import dataclass
from typing import Any, ClassVar

import numpy as np

from ..arrays import F32
from ..elementary import exp2_near, hold, log2_near
from ..transfer import Transfer
from .scalar import loop


@loop(7)
def _decode(
    x: F32, rate: float, start: float, slope: float, offset: float, cut: float, straight: float, lift: float
) -> None:
    one = np.float32(1)
    code_cut, gentle, narrow = straight * cut + lift, one / slope, one / straight
    for i in range(x.size):
        v = x[i]
        light = (exp2_near((v - start) * rate) - offset) * gentle if v > code_cut else (v - lift) * narrow
        x[i] = hold(light)


@loop(7)
def _encode(
    x: F32, rate: float, start: float, slope: float, offset: float, cut: float, straight: float, lift: float
) -> None:
    slow = np.float32(1) / rate
    for i in range(x.size):
        v = x[i]
        code = log2_near(v * slope + offset) * slow + start
        x[i] = code if v > cut else v * straight + lift


@dataclass(frozen=True)
class CameraLog(Transfer):
    """``code = log_slope · log_base(lin_slope · light + lin_offset) + log_offset`` above the light ``cut``,
    straight below.

    linear_slope: code per light of the straight part, ``None`` for the tangent at the break. The straight
    part meets the curve there.
    """

    name: ClassVar[str] = "camera logarithm"
    to_light, to_code = _decode, _encode

    base: float
    log_slope: float
    log_offset: float
    lin_slope: float
    lin_offset: float
    cut: float
    linear_slope: float | None = None

    def straight(self) -> tuple[float, float]:
        """Slope of the straight part, and its code for no light."""
        log, inside = math.log(self.base), self.lin_slope * self.cut + self.lin_offset
        slope = self.linear_slope
        if slope is None:
            slope = self.log_slope * self.lin_slope / (inside * log)
        return slope, self.log_slope * math.log(inside) / log + self.log_offset - slope * self.cut

    def parameters(self) -> tuple[Any, ...]:
        rate = math.log2(self.base) / self.log_slope
        return rate, self.log_offset, self.lin_slope, self.lin_offset, self.cut, *self.straight()


#: Ten-bit code of black in printing density (common practice for scanned negative; so are the next four).
BLACK = 95.0
#: Ten-bit code of white.
WHITE = 685.0
#: Density of one code.
STEP = 0.002
#: Gamma of the film.
GAMMA = 0.6
#: The largest ten-bit code.
CODES = 1023.0

_rate = STEP / GAMMA
_offset = 10.0 ** ((BLACK - WHITE) * _rate)
#: Film log. Below code 0 the curve goes on as its tangent there, so that decode and encode undo each other
#: for every number (Saucer's own choice).
FILM_LOG = CameraLog(
    10.0,
    1 / (_rate * CODES),
    WHITE / CODES,
    1 - _offset,
    _offset,
    (10.0 ** (-WHITE * _rate) - _offset) / (1 - _offset),
)
#: Linear light of full code, the brightest a film-log picture holds, and of code 0, the darkest.
PEAK = (10.0 ** ((CODES - WHITE) * _rate) - _offset) / (1 - _offset)
DARKEST = FILM_LOG.cut

#: Academy S-2016-001: ACEScct, a logarithm with a straight toe.
ACESCCT = CameraLog(2.0, 1 / 17.52, 9.72 / 17.52, 1.0, 0.0, 0.0078125, 10.5402377416545)
