"""White as a temperature and a tint: the nearest black body, and how far from it.

Chromaticities are CIE 1960 uv here, in which the nearest black body is looked for (CIE 15:2018, 9.5). Tint is
the distance from the black bodies in thousandths (Duv of ANSI C78.377-2008, times -1000): more of it is more
magenta.
"""

import numpy as np

from ..arrays import F64

#: Temperatures that whites are told by, in kelvin.
COOLEST, HOTTEST = 1500.0, 25_000.0
#: A white that lies further from the black bodies has no temperature worth saying (CIE 15:2018, 9.5: 0.05).
FARTHEST_TINT = 50.0
#: Steps of reciprocal temperature at which the nearest black body is looked for, before it is refined.
_STEPS = 400


def _black_body(kelvin: F64) -> F64:
    """Uv ``(…, 2)`` of black bodies. Krystek, "An algorithm to calculate correlated colour temperature",
    Color Research & Application 10 (1985), equations 1 and 2."""
    t = np.asarray(kelvin, np.float64)
    u = (0.860117757 + 1.54118254e-4 * t + 1.28641212e-7 * t**2) / (
        1 + 8.42420235e-4 * t + 7.08145163e-7 * t**2
    )
    v = (0.317398726 + 4.22806245e-5 * t + 4.20481691e-8 * t**2) / (
        1 - 2.89741816e-5 * t + 1.61456053e-7 * t**2
    )
    return np.stack([u, v], axis=-1)


def _across(kelvin: float) -> F64:
    """The direction across the black bodies, towards green, of length 1."""
    warmer, cooler = _black_body(np.array([kelvin * 0.999, kelvin * 1.001]))
    along = (cooler - warmer) / np.linalg.norm(cooler - warmer)
    across: F64 = np.array([along[1], -along[0]])
    return across if across[1] > 0 else -across


def white_of(kelvin: float, tint: float) -> tuple[float, float]:
    """The xy of a white. kelvin: 1,500–25,000; tint: -50–50, more of it is more magenta."""
    u, v = _black_body(np.array(kelvin)) - tint / 1000 * _across(kelvin)
    # CIE 15:2018, 7.2: uv to xy.
    below = 2 * u - 8 * v + 4
    return float(3 * u / below), float(2 * v / below)


def temperature_of(xy: tuple[float, float]) -> tuple[float, float]:
    """Kelvin and tint of a white, see ``white_of``; the nearest that can be said."""
    x, y = xy
    below = -2 * x + 12 * y + 3
    uv = np.array([4 * x / below, 6 * y / below])
    low, high = 1 / HOTTEST, 1 / COOLEST
    # Each look at the locus is a hundred times as near as the one before.
    for _ in range(3):
        places = np.linspace(low, high, _STEPS)
        nearest = int(np.linalg.norm(_black_body(1 / places) - uv, axis=-1).argmin())
        low, high = places[max(nearest - 1, 0)], places[min(nearest + 1, _STEPS - 1)]
    kelvin = float(1 / places[nearest])
    tint = -1000 * float((uv - _black_body(np.array(kelvin))) @ _across(kelvin))
    return kelvin, float(np.clip(tint, -FARTHEST_TINT, FARTHEST_TINT))
