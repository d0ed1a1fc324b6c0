"""Counts of a scope as densities to draw: soft, so that a few do not look like loose dots, and logarithmic,
so that rare ones show."""

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32, in_pieces
from ..elementary import log2
from ..kernels import kernel

#: How far the logarithm lifts what is rare.
GAIN = 5.0
#: Counts a place of a waveform, for a column, that are drawn as bright as can be.
WAVE_FULL = 9.0
#: Counts a place of a vectorscope that are drawn as bright as can be.
VECTOR_FULL = 90.0

Codes = NDArray[np.uint8]


@kernel("void(int32[:, ::1], float32[:, ::1], float32[:, ::1])")
def _spread(counts: NDArray[np.int32], along: F32, soft: F32) -> None:
    """Each count over five places of its line (1 2 3 2 1) and three lines (1 2 1); what would fall off an end
    stays on it.

    along: two places wider than the counts on both sides.
    """
    lines, places = counts.shape
    for line in range(lines):
        row = along[line]
        row[:] = np.float32(0)
        for place in range(places):
            row[place + 2] = np.float32(counts[line, place])
        for place in range(places):
            soft[line, place] = (
                row[place]
                + row[place + 4]
                + (row[place + 1] + row[place + 3]) * np.float32(2)
                + row[place + 2] * np.float32(3)
            )
        first, second = row[2], row[3]
        soft[line, 0] += first * np.float32(3) + second
        last, before = row[places + 1], row[places]
        soft[line, places - 1] += last * np.float32(3) + before
    for line in range(lines):
        for place in range(places):
            along[line, place] = soft[line, place]
    for line in range(lines):
        above, below = max(line - 1, 0), min(line + 1, lines - 1)
        for place in range(places):
            total = along[above, place] + along[below, place] + along[line, place] * np.float32(2)
            soft[line, place] = total / np.float32(36)


@kernel("void(float32[::1], uint8[::1], float32)")
def _code(soft: F32, out: Codes, top: np.float32) -> None:
    for i in range(soft.size):
        code = np.float32(log2(soft[i] * np.float32(GAIN) + np.float32(1))) * top + np.float32(0.5)
        held = min(max(code, np.float32(1)), np.float32(255))
        out[i] = np.uint8(np.int32(held if soft[i] > np.float32(0) else np.float32(0)))


def lift(full: float) -> float:
    """What turns a code back into a density: ``((1 + lift) ** (code / 255) - 1) / lift`` is the share of
    ``full``."""
    return GAIN * full


def density(counts: NDArray[np.int32], full: float) -> Codes:
    """How bright counts ``(planes, lines, places)`` are drawn, uint8 of the same shape.

    0 where nothing is near, 1 for the least, 255 for ``full`` counts a place and more, logarithmic between.
    """
    if counts.ndim != 3:
        raise ValueError(f"counts have planes, lines and places, not shape {counts.shape}")
    given = np.ascontiguousarray(counts, dtype=np.int32)
    planes, lines, places = given.shape
    out = np.empty(given.shape, dtype=np.uint8)
    top = np.float32(255 / np.log2(1 + lift(full)))

    def work(first: int, last: int) -> None:
        along, soft = (
            np.empty((lines, places + 4), dtype=np.float32),
            np.empty((lines, places), dtype=np.float32),
        )
        for plane in range(first, last):
            _spread(given[plane], along, soft)
            _code(soft.reshape(-1), out[plane].reshape(-1), top)

    in_pieces(work, planes, 1)
    return out
