"""Where a picture is clipped or out of gamut, and where two pictures differ."""

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32
from ..difference import difference
from ..encodings import Encoding, convert

BLACK, WHITE, OUTSIDE = 1, 2, 4
#: How far beyond an end a code value must lie to count.
SLACK = 0.5 / 1023


def masks(rgb: F32, at: Encoding, shown_on: Encoding | None = None) -> NDArray[np.uint8]:
    """For each pixel of ``(height, width, 3)`` the sum of: 1 a channel at or below black, 2 at or above white, 4 out of gamut.

    Out of gamut is what has a negative channel in the primaries it is shown in.
    """
    out = np.zeros(rgb.shape[:2], dtype=np.uint8)
    out |= np.where((rgb <= SLACK).any(axis=-1), BLACK, 0).astype(np.uint8)
    out |= np.where((rgb >= 1 - SLACK).any(axis=-1), WHITE, 0).astype(np.uint8)
    screen = rgb if shown_on is None else convert(rgb, at, shown_on)
    out |= np.where((screen < -4 * SLACK).any(axis=-1), OUTSIDE, 0).astype(np.uint8)
    return out


def shares(mask: NDArray[np.uint8]) -> dict[str, float]:
    """What part of the picture each mask covers."""
    return {name: float((mask & bit > 0).mean()) for name, bit in (("black", BLACK), ("white", WHITE), ("outside", OUTSIDE))}


def difference_picture(first: F32, second: F32, at: Encoding, full: float = 10.0) -> F32:
    """How far apart two pictures look, as grey: black for none, white from ``full`` (ΔE) on; float32 ``(height, width, 3)``."""
    off = difference(first, second, at).reshape(first.shape[:2])
    return np.repeat(np.clip(off / full, 0, 1)[..., None], 3, axis=-1).astype(np.float32)
