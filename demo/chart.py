"""The test chart, computed: grey ramps, hues at several chromas, skin, foliage, sky, near-neutrals.

Colours are laid out in OKLCh (see docs/colour.md) and given in sRGB. The skin row is a range of lightness and
hue chosen by us so that it spans light to dark; it is not measured from anybody.
"""

from collections.abc import Sequence

import numpy as np
from saucer_core.arrays import F32
from saucer_core.encodings import encoding
from saucer_core.encodings.oklab import from_oklab

#: Pixels.
WIDTH = 1280
#: Pixels.
HEIGHT = 720
GROUND = 0.42

#: Lightness, chroma, hue of each patch.
SKIN = [
    (0.88, 0.035, 60),
    (0.82, 0.05, 55),
    (0.76, 0.065, 56),
    (0.69, 0.075, 52),
    (0.61, 0.08, 50),
    (0.53, 0.075, 48),
    (0.45, 0.065, 46),
    (0.38, 0.055, 44),
    (0.31, 0.04, 42),
]
FOLIAGE = [
    (0.78, 0.12, 118),
    (0.68, 0.12, 125),
    (0.58, 0.11, 130),
    (0.48, 0.09, 135),
    (0.38, 0.07, 140),
    (0.3, 0.05, 142),
]
SKY = [
    (0.88, 0.035, 240),
    (0.8, 0.06, 242),
    (0.72, 0.085, 245),
    (0.63, 0.105, 250),
    (0.53, 0.11, 255),
    (0.42, 0.1, 260),
]
NEAR_NEUTRAL = [(0.6, 0.018, h) for h in range(0, 360, 30)]
HUES = 36
CHROMAS = ((0.78, 0.06), (0.72, 0.1), (0.66, 0.14))


def _srgb(lch: Sequence[tuple[float, float, float]]) -> F32:
    light, chroma, hue = np.array(lch, dtype=np.float32).T
    angle = np.radians(hue)
    lab = np.stack([light, chroma * np.cos(angle), chroma * np.sin(angle)], axis=1).astype(np.float32)
    return np.clip(from_oklab(lab, encoding("srgb")), 0, 1)


def _row(picture: F32, colours: F32, top: int, height: int, left: int, right: int, gap: int) -> None:
    edges = np.linspace(left, right + gap, len(colours) + 1).astype(int)
    for colour, a, b in zip(colours, edges, edges[1:], strict=False):
        picture[top : top + height, a : b - gap] = colour


def chart() -> F32:
    """The chart in sRGB code values, float32 ``(720, 1280, 3)``."""
    picture = np.full((HEIGHT, WIDTH, 3), GROUND, dtype=np.float32)
    left, right = 40, WIDTH - 40
    ramp = np.linspace(0, 1, right - left, dtype=np.float32)
    picture[36:92, left:right] = ramp[None, :, None]
    _row(
        picture,
        np.repeat(np.linspace(0, 1, 21, dtype=np.float32)[:, None], 3, axis=1),
        100,
        56,
        left,
        right,
        0,
    )
    for k, (light, chroma) in enumerate(CHROMAS):
        hues = _srgb([(light, chroma, 360 * h / HUES) for h in range(HUES)])
        _row(picture, hues, 176 + 60 * k, 54, left, right, 0)
    _row(picture, _srgb(SKIN), 380, 120, left, right, 8)
    _row(picture, _srgb(FOLIAGE), 520, 72, left, 632, 8)
    _row(picture, _srgb(SKY), 520, 72, 648, right, 8)
    _row(picture, _srgb(NEAR_NEUTRAL), 612, 72, left, right, 8)
    return picture
