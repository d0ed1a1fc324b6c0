"""Which part of a picture small cards show: skin where there is some, else where most is going on.

The figures are Saucer's own, chosen on the demo's frames.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy import ndimage

from ..arrays import F32, F64
from .evenness import lab_of, regions

#: Width of the picture that is enough to find it.
WIDTH = 160
#: Shares of a picture that a patch of skin has: less is a speck, more is a wall of that colour.
SKIN_SHARE = (0.006, 0.3)
#: Half the width of what joins two patches without making them one, as a share of the picture's shorter side.
PARTED = 0.04
#: How much of the box around it a face fills, at least, and how many times as wide as high it is: less with a
#: neck and shoulders below it.
FILLS, SHAPES = 0.4, (0.25, 1.6)
#: How far detail is gathered, as a share of the picture's shorter side.
GATHERED = 0.15
#: What is left of detail at the edges of the picture, where it counts less.
AT_EDGES = 0.5


@dataclass(frozen=True)
class Subject:
    """Where a picture's subject is. x, y: 0–1, from the left and from the top. by: what it was told by."""

    x: float
    y: float
    by: Literal["skin", "detail"]


def subject(rgb: F32, key: str) -> Subject:
    """The subject of a picture ``(height, width, 3)`` in an encoding, about ``WIDTH`` wide."""
    lab = lab_of(rgb, key)
    found = _skin(regions(lab)[0])
    by: Literal["skin", "detail"] = "skin"
    if found is None:
        found, by = _detail(lab), "detail"
    high, wide = rgb.shape[:2]
    return Subject(float((found[1] + 0.5) / wide), float((found[0] + 0.5) / high), by)


def _skin(mask: np.ndarray) -> tuple[float, float] | None:
    """The middle of the likeliest face; ``None`` where no patch of skin could be one."""
    across = np.arange(-(radius := max(1, round(PARTED * min(mask.shape)))), radius + 1)
    disc = across[:, None] ** 2 + across**2 <= radius**2
    patches, count = ndimage.label(ndimage.binary_opening(mask, disc))
    if not count:
        return None
    sizes = np.bincount(patches.ravel())[1:]
    best, found = 0.0, None
    for size, (down, aside) in zip(sizes, ndimage.find_objects(patches), strict=True):
        x = (aside.start + aside.stop - 1) / 2
        # What stands in the middle is more likely meant.
        likely = _like_a_face(int(size), down, aside, mask.shape) * (1 - abs(x / mask.shape[1] - 0.5))
        if likely > best:
            # A head is about as high as it is wide; what is below it is neck and shoulders.
            high = min(down.stop - down.start, aside.stop - aside.start)
            best, found = likely, (down.start + (high - 1) / 2, x)
    return found


def _like_a_face(size: int, down: slice, across: slice, picture: tuple[int, ...]) -> float:
    """How likely a patch of that size, in that box, is a face; 0 where it is not compact, or cut off at the
    top or at the sides."""
    high, wide = down.stop - down.start, across.stop - across.start
    share = size / (picture[0] * picture[1])
    fits = (
        min(down.start, across.start) > 0
        and across.stop < picture[1]
        and SKIN_SHARE[0] <= share <= SKIN_SHARE[1]
        and size >= FILLS * high * wide
        and SHAPES[0] <= wide / high <= SHAPES[1]
    )
    return share if fits else 0.0


def _detail(lab: F64) -> tuple[float, float]:
    """Where lightness and colour change most, gathered over a part of the picture."""
    high, wide = lab.shape[:2]
    change = sum(ndimage.gaussian_gradient_magnitude(lab[..., k], 1) for k in range(3))
    gathered = ndimage.gaussian_filter(change, GATHERED * min(high, wide), mode="constant")
    down, across = (np.hanning(n + 2)[1:-1] for n in (high, wide))
    weighed = gathered * (AT_EDGES + (1 - AT_EDGES) * np.outer(down, across))
    y, x = np.unravel_index(int(weighed.argmax()), weighed.shape)
    return float(y), float(x)
