"""Noise of a carrier: what differs from point to point of its grid without order."""

import numpy as np

from ...arrays import F32, F64

#: Weights of a second difference; the root of their square sum is what white noise grows by along one axis.
GROWS = 6.0**0.5


def mixed(values: F64, axes: tuple[int, ...]) -> F64:
    """Second differences along several axes at once."""
    for axis in axes:
        values = np.diff(values, n=2, axis=axis)
    return values


def noise(grid: F32) -> float:
    """Standard deviation of what differs from point to point of a grid ``(n, n, n, 3)``, in code values.

    Second differences along green and blue at once, and along red too: a smooth look has next to none of
    them, whatever it does along one axis, and neighbours in green or blue lie in different lines of the
    picture, so that grain with a grain size counts in full.
    """
    inside = (grid > 0.02) & (grid < 0.98)
    found = []
    for axes in ((0, 1), (0, 1, 2)):
        mixed, live = grid.astype(np.float64), inside
        for axis in axes:
            n = mixed.shape[axis]
            live = (
                np.take(live, range(n - 2), axis)
                & np.take(live, range(1, n - 1), axis)
                & np.take(live, range(2, n), axis)
            )
            mixed = np.diff(mixed, n=2, axis=axis)
        if live.sum() < 100:
            return 0.0
        found.append(float(np.median(np.abs(mixed[live]))) / 0.6745 / GROWS ** len(axes))
    return float(min(found))
