"""RGB primaries, white points, and the matrices between them."""

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from ..arrays import F64

Adaptation = Literal["cat16", "bradford"]


@dataclass(frozen=True)
class Primaries:
    """CIE 1931 xy of red, green, blue and white."""

    key: str
    red: tuple[float, float]
    green: tuple[float, float]
    blue: tuple[float, float]
    white: tuple[float, float]


D65 = (0.3127, 0.3290)
#: ITU-R BT.709-6, item 1.3 and 1.4 (the same as IEC 61966-2-1).
BT709 = Primaries("709", (0.640, 0.330), (0.300, 0.600), (0.150, 0.060), D65)
#: ITU-R BT.2020-2, table 3 (the same in BT.2100).
BT2020 = Primaries("2020", (0.708, 0.292), (0.170, 0.797), (0.131, 0.046), D65)
#: SMPTE EG 432-1:2010, with D65.
P3_D65 = Primaries("p3", (0.680, 0.320), (0.265, 0.690), (0.150, 0.060), D65)
#: SMPTE RP 431-2:2011, with the projector's white.
P3_DCI = Primaries("p3 dci", (0.680, 0.320), (0.265, 0.690), (0.150, 0.060), (0.314, 0.351))
#: IEC 61966-2-5:2007 (opRGB).
OPRGB = Primaries("oprgb", (0.640, 0.330), (0.210, 0.710), (0.150, 0.060), D65)
#: SMPTE ST 2065-1:2021, table 1; the same in Academy TB-2018-001 and colour-science 0.4.7.
_ACES_WHITE = (0.32168, 0.33767)
#: SMPTE ST 2065-1:2021, table 1.
AP0 = Primaries("ap0", (0.7347, 0.2653), (0.0, 1.0), (0.0001, -0.0770), _ACES_WHITE)
#: Academy S-2014-004 (ACEScg), table 1.
AP1 = Primaries("ap1", (0.713, 0.293), (0.165, 0.830), (0.128, 0.044), _ACES_WHITE)


def xyz(xy: tuple[float, float]) -> F64:
    """XYZ with Y = 1 of a chromaticity."""
    x, y = xy
    return np.array([x / y, 1.0, (1.0 - x - y) / y])


@lru_cache(maxsize=256)
def to_xyz(primaries: Primaries) -> F64:
    """3×3 from linear RGB to XYZ, white at Y = 1. SMPTE RP 177:1993, section 3.3."""
    # Through x, y, z rather than X/Y: a primary may lie at y = 0 or below.
    columns = np.array([[x, y, 1.0 - x - y] for x, y in (primaries.red, primaries.green, primaries.blue)]).T
    scaled: F64 = columns * np.linalg.solve(columns, xyz(primaries.white))
    return scaled


#: CIE 248:2022, CAT16: XYZ to cone-like responses.
CAT16 = np.array(
    [[0.401288, 0.650173, -0.051461], [-0.250268, 1.204414, 0.045854], [-0.002079, 0.048952, 0.953127]]
)
#: K. M. Lam, "Metamerism and colour constancy", University of Bradford (1985), as in ISO 15076-1:2010, annex
#: E.
BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])


def adaptation(source: tuple[float, float], target: tuple[float, float], method: Adaptation = "cat16") -> F64:
    """3×3 on XYZ that takes the white ``source`` (xy) to the white ``target``, complete adaptation."""
    cones = CAT16 if method == "cat16" else BRADFORD
    gains = (cones @ xyz(target)) / (cones @ xyz(source))
    matrix: F64 = np.linalg.inv(cones) @ np.diag(gains) @ cones
    return matrix


@lru_cache(maxsize=256)
def between(source: Primaries, target: Primaries, method: Adaptation = "cat16") -> F64:
    """3×3 from linear RGB of one set of primaries to another; different whites are adapted."""
    matrix: F64 = (
        np.linalg.inv(to_xyz(target)) @ adaptation(source.white, target.white, method) @ to_xyz(source)
    )
    return matrix
