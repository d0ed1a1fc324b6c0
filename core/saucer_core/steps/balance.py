"""Balance."""

from typing import ClassVar, Literal

import numpy as np
from numpy.typing import ArrayLike
from scipy.optimize import least_squares

from ..arrays import F64
from ..encodings import Encoding
from ..encodings.primaries import CAT16, adaptation, to_xyz, xyz
from ..operations import Operation, apply, coded, matrix
from .parameter import number
from .step import Purpose, Step, Surroundings
from .traced import Trace, shown, swatches


def daylight(kelvin: float) -> tuple[float, float]:
    """Xy of the CIE daylight locus, 4000–25000 K. CIE 15:2018, equations 4.4 and 4.5."""
    t = 1e3 / kelvin
    if kelvin <= 7000:
        x = 0.244063 + 0.09911 * t + 2.9678 * t**2 - 4.6070 * t**3
    else:
        x = 0.237040 + 0.24748 * t + 1.9018 * t**2 - 2.0064 * t**3
    return x, -3.000 * x * x + 2.870 * x - 0.275


def _uv(xy: tuple[float, float]) -> F64:
    """CIE 1960 u, v."""
    x, y = xy
    below = -2 * x + 12 * y + 3
    return np.array([4 * x / below, 6 * y / below])


def _xy(uv: F64) -> tuple[float, float]:
    u, v = uv
    below = 2 * u - 8 * v + 4
    return float(3 * u / below), float(2 * v / below)


#: Reciprocal megakelvins of the middle of the scale, which is Saucer's own.
MIRED = 1e6 / 6504.0
#: Reciprocal megakelvins that 100 goes to either side.
MIRED_REACH = 90.0
TINT_REACH = 0.03
#: Where along each of the two the editor is told what a grey becomes.
TRACED = (-100.0, -50.0, 0.0, 50.0, 100.0)


def target_white(temperature: float, tint: float) -> tuple[float, float]:
    """Xy that neutral goes to: along the daylight locus in reciprocal megakelvins, across it in CIE 1960
    uv."""
    mired = MIRED + MIRED_REACH * temperature / 100
    here, near = _uv(daylight(1e6 / mired)), _uv(daylight(1e6 / (mired + 1)))
    along = (near - here) / np.linalg.norm(near - here)
    # Turned so that positive leans to magenta, away from green.
    across = np.array([along[1], -along[0]])
    return _xy(here + across * TINT_REACH * tint / 100)


def neutralising(rgb: ArrayLike, at: Encoding) -> tuple[float, float]:
    """Temperature and tint of the balance that makes a colour ``(3,)`` of that encoding grey, held to what
    the step can do.

    Raises ``ValueError`` for black, and for a colour so strong that no white gives it.
    """
    light = at.decode(np.asarray(rgb, dtype=np.float32).reshape(1, 3))[0].astype(np.float64)
    seen = CAT16 @ to_xyz(at.primaries) @ light
    if light.max() < 1e-3 or (seen <= 0).any():
        raise ValueError("that spot is too dark or too strong a colour to be taken for grey")
    # The gains that take what was seen to the encoding's own white are those from the middle to the white
    # looked for.
    x, y, z = np.linalg.solve(
        CAT16, (CAT16 @ xyz(target_white(0, 0))) * (CAT16 @ xyz(at.primaries.white)) / seen
    )
    goal = _uv((x / (x + y + z), y / (x + y + z)))

    def off(numbers: F64) -> F64:
        found: F64 = (_uv(target_white(*numbers)) - goal) * 100
        return found

    found = least_squares(off, np.zeros(2), bounds=([-100, -100], [100, 100]))
    return round(float(found.x[0]), 1), round(float(found.x[1]), 1)


class Balance(Step):
    """Warmer or cooler, greener or more magenta: CAT16 adaptation in linear light; the luminance of white is
    kept."""

    title: ClassVar[str] = "Balance"
    purpose: ClassVar[Purpose] = "colour"
    summary: ClassVar[str] = "Warmer or cooler, greener or more magenta"

    kind: Literal["balance"] = "balance"
    temperature: float = number(
        0.0, -100.0, 100.0, label="Temperature", fine=1, coarse=10, help="cooler – warmer"
    )
    tint: float = number(0.0, -100.0, 100.0, label="Tint", fine=1, coarse=10, help="greener – more magenta")

    def operations(self, at: Surroundings) -> list[Operation]:
        rgb_xyz = to_xyz(at.encoding.primaries)
        change = adaptation(target_white(0, 0), target_white(self.temperature, self.tint))
        return coded(at.encoding.transfer, [matrix(np.linalg.inv(rgb_xyz) @ change @ rgb_xyz)])

    def trace(self, at: Surroundings) -> Trace:
        grey = at.encoding.encode(np.full((1, 3), 0.5, dtype=np.float32))
        along = {
            name: [self.model_copy(update={name: v}) for v in TRACED] for name in ("temperature", "tint")
        }
        here, *there = (
            apply(step.operations(at), grey)[0] for step in (self, *along["temperature"], *along["tint"])
        )
        ends = swatches(np.array(there), at.encoding)
        return {
            "neutral": shown(here, at.encoding),
            "temperature": ends[: len(TRACED)],
            "tint": ends[len(TRACED) :],
        }
