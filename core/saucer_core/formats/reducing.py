"""Pictures made smaller by whole numbers: blocks of pixels become one, their mean."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32
from ..kernels import kernel


def _block_means(values: Any, by: int, out: Any) -> None:
    wide, channels = values.shape[1], values.shape[2]
    rows = values.reshape(values.shape[0], wide * channels)
    sums = np.zeros(wide * channels, np.uint32)
    for i in range(out.shape[0]):
        top, bottom = i * by, min(i * by + by, values.shape[0])
        sums[:] = 0
        # Whole rows first: they lie in memory one after the other.
        for y in range(top, bottom):
            row = rows[y]
            for x in range(wide * channels):
                sums[x] += row[x]
        for j in range(out.shape[1]):
            left, right = j * by, min(j * by + by, wide)
            count = (bottom - top) * (right - left)
            for k in range(channels):
                total = np.uint64(0)
                for x in range(left, right):
                    total += sums[x * channels + k]
                out[i, j, k] = total / count


_OF_8_BIT = kernel("(uint8[:,:,::1], int64, float32[:,:,::1])")(_block_means)
_OF_16_BIT = kernel("(uint16[:,:,::1], int64, float32[:,:,::1])")(_block_means)


def means_of_codes(codes: "NDArray[np.uint8] | NDArray[np.uint16]", by: int) -> F32:
    """Means of ``by`` × ``by`` blocks of codes of 8 or 16 bit ``(height, width, channels)``, as float32 0–1;
    blocks at the ends may be smaller. The sums are exact."""
    high, wide, channels = codes.shape
    out = np.empty((-(-high // by), -(-wide // by), channels), np.float32)
    loop = _OF_8_BIT if codes.dtype == np.uint8 else _OF_16_BIT
    loop(np.ascontiguousarray(codes), by, out)
    out /= np.float32(np.iinfo(codes.dtype).max)
    return out


def means(values: F32, by: int) -> F32:
    """Means of ``by`` × ``by`` blocks of the first two axes; blocks at the ends may be smaller."""
    if by == 1:
        return values
    for axis in (0, 1):
        size = values.shape[axis]
        starts = np.arange(0, size, by)
        counts = np.minimum(starts + by, size) - starts
        shape = [1] * values.ndim
        shape[axis] = len(starts)
        values = (np.add.reduceat(values, starts, axis=axis) / counts.reshape(shape)).astype(np.float32)
    return values
