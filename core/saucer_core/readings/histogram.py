"""Histogram."""

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32, colours
from ..kernels import kernel
from ..luma import luma

BINS = 256


@kernel("void(float32[:, ::1], int64[:, ::1])")
def _count(rgb: F32, bins: NDArray[np.int64]) -> None:
    for i in range(rgb.shape[0]):
        grey = luma(rgb[i, 0], rgb[i, 1], rgb[i, 2])
        for c in range(4):
            v = grey if c == 3 else rgb[i, c]
            v = min(max(v, np.float32(0)), np.float32(1))
            bins[c, int(v * np.float32(BINS - 1) + np.float32(0.5))] += 1


def histogram(rgb: F32) -> NDArray[np.int64]:
    """Counts ``(4, 256)`` of red, green, blue and luma over code values 0–1; values beyond count in the end
    bins."""
    flat = colours(rgb).reshape(-1, 3)
    bins = np.zeros((4, BINS), dtype=np.int64)
    _count(flat, bins)
    return bins
