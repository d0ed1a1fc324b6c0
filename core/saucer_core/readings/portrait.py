"""The saucer: a round portrait of what a look does to all hues and greys.

In the disc the angle is OKLCh hue (red at three o'clock, counter-clockwise) and the radius chroma, at one
lightness; each colour is drawn as the look renders it. The rim is the grey ramp, black at the bottom, running
up both sides to white.
"""

import numpy as np

from ..arrays import F32
from ..encodings import encoding
from ..encodings.oklab import from_oklab
from ..look import Look
from ..screen import SCREEN
from ..steps import Tables, no_tables
from ..treatment import Treatment

#: OKLab lightness of the disc.
DISC_LIGHT = 0.72
#: Chroma at its edge: as far as every hue of BT.709 nearly reaches.
DISC_CHROMA = 0.14
#: Radius of the rim, as a part of the half width.
RIM = 0.98
#: Radius of the well.
WELL = 0.835
#: Radius of the disc.
DISC = 0.775


def _cover(radius: F32, edge: float, half: float) -> F32:
    """Share of a pixel inside a circle, a pixel's width soft."""
    share: F32 = np.clip((edge - radius) * half + 0.5, 0, 1).astype(np.float32)
    return share


def portrait(look: Look | None, size: int, *, tables: Tables = no_tables) -> np.ndarray:
    """RGBA uint8 ``(size, size, 4)`` in sRGB; the neutral saucer for ``None``. Raises ``LookError``."""
    half = size / 2
    axis = (np.arange(size, dtype=np.float32) + 0.5 - half) / half
    x, y = np.meshgrid(axis, -axis)
    radius = np.hypot(x, y).astype(np.float32)
    angle = np.arctan2(y, x)
    chroma = DISC_CHROMA * np.minimum(radius / DISC, 1)
    lab = np.stack(
        [np.full_like(chroma, DISC_LIGHT), chroma * np.cos(angle), chroma * np.sin(angle)], axis=-1
    )
    screen = encoding(SCREEN)
    disc = np.clip(from_oklab(lab.reshape(-1, 3).astype(np.float32), screen), 0, 1)
    height = np.clip((1 - np.abs(np.arctan2(x, y)) / np.pi), 0, 1).astype(np.float32)
    rim = np.repeat(height.reshape(-1, 1), 3, axis=1)
    inside = (radius <= (WELL + DISC) / 2).reshape(-1, 1)
    rgb = np.where(inside, disc, rim).astype(np.float32)
    if look is not None:
        rgb = Treatment(look, SCREEN, ends="screen").compile(tables)(rgb)
    rim_cover = _cover(radius, RIM, half) * (1 - _cover(radius, WELL, half))
    cover = rim_cover + _cover(radius, DISC, half)
    out = np.concatenate(
        [np.clip(rgb, 0, 1).reshape(size, size, 3), np.clip(cover, 0, 1)[..., None]], axis=-1
    )
    return np.round(out * 255).astype(np.uint8)
