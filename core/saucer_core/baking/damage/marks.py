"""Marks on a carrier: a watermark, writing, dust, a scratch, a spot that was retouched.

The edge of a mark lies at one place of the picture. The edges of a look (a knee, clipping, steps made on
purpose) are surfaces through the colours: where one crosses a line of red, it crosses the lines of
neighbouring colours too, although these lie far away in the picture. So an edge that no neighbour on the grid
has is one of the picture, not of the look.
"""

import numpy as np
from scipy.ndimage import maximum_filter1d

from ...arrays import F32, F64
from ...tables.carrier import Arrangement

#: Height of an edge that is looked at, in code values.
_HIGH = 2.5 / 255
#: Times that it must exceed the ordinary change from point to point.
_STANDS_OUT = 8.0
#: What a neighbour must have of an edge to have it too.
_SHARED = 0.35
#: Lonely edges that count, as a share times the square of the points a side, because edges of looks are
#: surfaces. Looks stay below 4.
_LONELY = 6.0
#: Points at either end of a line of red that are left out: there the picture jumps whatever happened.
_ENDS = 3


def marked(grid: F32, arrangement: Arrangement) -> bool:
    """Whether something lies over a part of a grid ``(n, n, n, 3)``."""
    return lonely_edges(grid, arrangement) * len(grid) ** 2 > _LONELY


def lonely_edges(grid: F32, arrangement: Arrangement) -> float:
    """Share of the points of a grid ``(n, n, n, 3)`` at which a line of red has an edge that no neighbouring
    slice has."""
    n = arrangement.grid
    if n < 12:
        return 0.0
    # Neighbours in green lie side by side in tiles and strips, neighbours in blue in squares: the other axis
    # is the one to compare.
    lines = np.moveaxis(grid, 1, 0) if arrangement.layout == "hald" else grid
    edges: F64 = np.abs(np.diff(lines, n=2, axis=2)).max(axis=-1)[:, :, _ENDS:-_ENDS].astype(np.float64)
    ordinary = float(np.median(edges))
    near = maximum_filter1d(edges, 2 * (3 + n // 16) + 1, axis=2, mode="nearest")
    here = edges[1:-1]
    beside = np.maximum(near[:-2], near[2:])
    lonely = (here > max(_HIGH, _STANDS_OUT * ordinary)) & (beside < _SHARED * here)
    return float(lonely.mean())
