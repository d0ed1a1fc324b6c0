"""RGB primaries, white points, and the matrices between them."""

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray

F64 = NDArray[np.float64]


@dataclass(frozen=True)
class Primaries:
    """CIE 1931 xy of red, green, blue and white."""

    key: str
    red: tuple[float, float]
    green: tuple[float, float]
    blue: tuple[float, float]
    white: tuple[float, float]


#: ITU-R BT.709-6, item 1.3 and 1.4 (the same as IEC 61966-2-1).
BT709 = Primaries("709", (0.640, 0.330), (0.300, 0.600), (0.150, 0.060), (0.3127, 0.3290))


def xyz(xy: tuple[float, float]) -> F64:
    """XYZ with Y = 1 of a chromaticity."""
    x, y = xy
    return np.array([x / y, 1.0, (1.0 - x - y) / y])


@cache
def to_xyz(primaries: Primaries) -> F64:
    """3×3 from linear RGB to XYZ, white at Y = 1. SMPTE RP 177:1993, section 3.3."""
    columns = np.stack([xyz(primaries.red), xyz(primaries.green), xyz(primaries.blue)], axis=1)
    scaled: F64 = columns * np.linalg.solve(columns, xyz(primaries.white))
    return scaled


#: CIE 248:2022, CAT16: XYZ to cone-like responses.
CAT16 = np.array([[0.401288, 0.650173, -0.051461], [-0.250268, 1.204414, 0.045854], [-0.002079, 0.048952, 0.953127]])


def adaptation(source: tuple[float, float], target: tuple[float, float]) -> F64:
    """3×3 on XYZ that takes the white ``source`` (xy) to the white ``target``, complete adaptation, CAT16."""
    gains = (CAT16 @ xyz(target)) / (CAT16 @ xyz(source))
    matrix: F64 = np.linalg.inv(CAT16) @ np.diag(gains) @ CAT16
    return matrix


@cache
def between(source: Primaries, target: Primaries) -> F64:
    """3×3 from linear RGB of one set of primaries to another; different whites are adapted with CAT16."""
    matrix: F64 = np.linalg.inv(to_xyz(target)) @ adaptation(source.white, target.white) @ to_xyz(source)
    return matrix
