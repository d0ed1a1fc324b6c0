"""Where a picture is clipped or out of gamut, and where two pictures differ."""

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32, colours
from ..difference import difference
from ..encodings import Encoding, convert
from ..kernels import kernel

#: Bit of a pixel that is clipped at black.
BLACK = 1
#: Bit of a pixel that is clipped at white.
WHITE = 2
#: Bit of a pixel out of gamut.
OUTSIDE = 4
#: Each mask's bit, by name.
MASKS = {"black": BLACK, "white": WHITE, "outside": OUTSIDE}
#: How far beyond an end a code value must lie to count.
SLACK = 0.5 / 1023


@kernel("void(float32[:, ::1], float32[:, ::1], uint8[::1], float32)")
def _mark(rgb: F32, screen: F32, out: NDArray[np.uint8], slack: float) -> None:
    for i in range(rgb.shape[0]):
        low = min(rgb[i, 0], rgb[i, 1], rgb[i, 2]) <= slack
        high = max(rgb[i, 0], rgb[i, 1], rgb[i, 2]) >= np.float32(1) - slack
        outside = min(screen[i, 0], screen[i, 1], screen[i, 2]) < np.float32(-4) * slack
        out[i] = (BLACK if low else 0) | (WHITE if high else 0) | (OUTSIDE if outside else 0)


def masks(rgb: F32, at: Encoding, shown_on: Encoding | None = None) -> NDArray[np.uint8]:
    """For each pixel of ``(height, width, 3)`` the sum of: 1 a channel at or below black, 2 at or above
    white, 4 out of gamut.

    Out of gamut is what has a negative channel in the primaries it is shown in.
    """
    own = colours(rgb).reshape(-1, 3)
    screen = own if shown_on is None else colours(convert(rgb, at, shown_on)).reshape(-1, 3)
    out = np.empty(len(own), dtype=np.uint8)
    _mark(own, screen, out, np.float32(SLACK))
    return out.reshape(rgb.shape[:2])


def shares(mask: NDArray[np.uint8]) -> dict[str, float]:
    """What part of the picture each mask covers."""
    return {name: float((mask & bit > 0).mean()) for name, bit in MASKS.items()}


def difference_picture(first: F32, second: F32, at: Encoding, full: float = 10.0) -> F32:
    """How far apart two pictures look, as grey: black for none, white from ``full`` (ΔE) on; float32
    ``(height, width, 3)``."""
    off = difference(first, second, at).reshape(first.shape[:2])
    return np.repeat(np.clip(off / full, 0, 1)[..., None], 3, axis=-1).astype(np.float32)
