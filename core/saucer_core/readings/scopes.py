"""Waveform, parade and vectorscope: counts for the screen to draw.

Of a picture ``(height, width, 3)`` in code values 0–1. Values beyond count at the edge.
"""

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32, colours
from ..encodings import Encoding
from ..encodings.oklab import from_oklab as codes_of
from ..encodings.oklab import polar, to_oklab
from ..kernels import kernel
from ..luma import BLUE, GREEN, RED, luma
from ..steps.saturation import SKIN_HUE

Counts = NDArray[np.int32]
LEVELS = 256
Plane = Literal["bt709", "oklab"]


@kernel("void(float32[:, :, ::1], int32[:, :, ::1])")
def _waves(rgb: F32, counts: Counts) -> None:
    columns, levels = counts.shape[1], counts.shape[2]
    # Column by column, so that the counts of one stay in the cache.
    for x in range(rgb.shape[1]):
        k = x * columns // rgb.shape[1]
        for y in range(rgb.shape[0]):
            grey = luma(rgb[y, x, 0], rgb[y, x, 1], rgb[y, x, 2])
            for c in range(4):
                v = grey if c == 3 else rgb[y, x, c]
                v = min(max(v, np.float32(0)), np.float32(1))
                counts[c, k, int(v * np.float32(levels - 1) + np.float32(0.5))] += 1


def waveform(rgb: F32, columns: int = 256, levels: int = LEVELS) -> Counts:
    """Counts ``(4, columns, levels)``: red, green, blue (the parade) and luma (the waveform), level 0 at the
    bottom."""
    counts = np.zeros((4, columns, levels), dtype=np.int32)
    _waves(colours(rgb), counts)
    return counts


@kernel("void(float32[:, ::1], float32[:, ::1], int32[:, ::1], float32)")
def _vectors(rgb: F32, m: F32, counts: Counts, reach: float) -> None:
    size = counts.shape[0]
    half = np.float32(size - 1) * np.float32(0.5)
    for i in range(rgb.shape[0]):
        r, g, b = rgb[i, 0], rgb[i, 1], rgb[i, 2]
        x = (m[0, 0] * r + m[0, 1] * g + m[0, 2] * b) / reach
        y = (m[1, 0] * r + m[1, 1] * g + m[1, 2] * b) / reach
        x, y = min(max(x, np.float32(-1)), np.float32(1)), min(max(y, np.float32(-1)), np.float32(1))
        counts[int(half - y * half + np.float32(0.5)), int(half + x * half + np.float32(0.5))] += 1


#: Blue and red colour differences, BT.709-6 item 3.3.
_DIFFERENCES = np.array(
    [[-RED / 1.8556, -GREEN / 1.8556, 0.5], [0.5, -GREEN / 1.5748, -BLUE / 1.5748]], dtype=np.float32
)
_AB = np.array([[0, 1, 0], [0, 0, 1]], dtype=np.float32)
#: What the edge of the scope stands for: ±0.5 of a colour difference, or this OKLab chroma.
OKLAB_REACH = 0.3


def vectorscope(rgb: F32, at: Encoding, plane: Plane = "bt709", size: int = 192) -> Counts:
    """Counts ``(size, size)``, row 0 at the top: Cb to the right and Cr up, or OKLab a to the right and b
    up."""
    counts = np.zeros((size, size), dtype=np.int32)
    flat = colours(rgb).reshape(-1, 3)
    if plane == "bt709":
        _vectors(flat, _DIFFERENCES, counts, np.float32(0.5))
    else:
        _vectors(np.ascontiguousarray(to_oklab(flat, at)), _AB, counts, np.float32(OKLAB_REACH))
    return counts


def skin_line(at: Encoding, plane: Plane = "bt709") -> tuple[float, float]:
    """The direction in which skin of every depth lies on the scope, a unit vector (right, up); Saucer's own
    hue of skin."""
    if plane == "oklab":
        turn = np.radians(SKIN_HUE)
        return float(np.cos(turn)), float(np.sin(turn))
    lab = np.array([polar(0.65, 0.07, SKIN_HUE)], dtype=np.float32)
    x, y = _DIFFERENCES @ codes_of(lab, at)[0]
    length = float(np.hypot(x, y))
    return float(x) / length, float(y) / length


def targets(at: Encoding, plane: Plane = "bt709") -> list[tuple[str, float, float]]:
    """Where the 75 % bars (ITU-R BT.1729: red, yellow, green, cyan, blue, magenta) lie on the scope, −1 to
    1."""
    bars = {
        "red": (1, 0, 0),
        "yellow": (1, 1, 0),
        "green": (0, 1, 0),
        "cyan": (0, 1, 1),
        "blue": (0, 0, 1),
        "magenta": (1, 0, 1),
    }
    found = []
    for name, bar in bars.items():
        code = np.array([bar], dtype=np.float32) * np.float32(0.75)
        if plane == "bt709":
            x, y = _DIFFERENCES @ code[0] / 0.5
        else:
            x, y = to_oklab(code, at)[0, 1:] / OKLAB_REACH
        found.append((name, round(float(x), 4), round(float(y), 4)))
    return found
