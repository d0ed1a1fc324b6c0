"""Ends of the lines of red in a carrier: where each layout puts colours side by side that are far apart.

Whatever mixes a pixel with its neighbours (softening, sharpening, resizing, lossy compression) or moves it
pulls the two ends of a line toward each other, pushes them apart, or makes them restless. Blue's lines lie
apart in every layout: what their ends do is the look's own, and is held against it.
"""

from dataclasses import dataclass

import numpy as np

from ...arrays import F32, F64
from ...tables.carrier import Arrangement, grid_of
from .noise import GROWS, mixed

#: Code values that ends may be pulled. Honest looks stay below all three limits.
_PULLED = 0.004
#: Times what blue's ends are pulled.
_OWN = 1.5
#: Steps of rounding.
_ROUNDED = 15.0
_NOISY = 1.5
#: How restless ends may be: times blue's.
_RESTLESS = 1.35
#: How restless ends may be: times a step of rounding.
_COARSE = 0.47
#: Share of the points that is less restless than what is compared: compression spoils a few ends much.
_SELDOM = 0.97
#: Change along a line from which its ends tell something, in code values.
_RISES = 0.15
#: The quadratic through the fourth to sixth point of a line, carried on to its first, second and third.
_CARRIED_ON = np.array([[10.0, -15.0, 6.0], [6.0, -8.0, 3.0], [3.0, -3.0, 1.0]])
#: Places at both ends of a line where a picture that was moved tears it.
_BOTH = [0, 1, 2, 3, 4, 5, -6, -5, -4, -3, -2, -1]
#: How much smoother the ends of lines must become where a picture is moved back.
_SMOOTHER = 0.7
#: Share of the lines that must tell something.
_SHARE = 0.02
#: Code value above which an end is not clipped at black.
_LOW = 0.015
#: Code value below which an end is not clipped at white.
_HIGH = 0.985


@dataclass(frozen=True)
class LineEnds:
    """What the ends of lines do. pulled: toward each other (above 0) or apart (below), as a share of the
    line's change, the smaller of both ends where they agree; own: the same for blue's lines, the look's own.
    restless, own_restless: what differs from line to line there without order, in code values.
    """

    pulled: float
    own: float
    restless: float
    own_restless: float

    def mixed(self, rounding: float, noise: float) -> int:
        """1 where neighbours in the picture were mixed, -1 where they were pushed apart, 0 for neither.

        rounding: a step of its codes; noise: its standard deviation.
        """
        if abs(self.pulled) <= _PULLED + _OWN * abs(self.own) + _ROUNDED * max(rounding, _NOISY * noise):
            return 0
        return 1 if self.pulled > 0 else -1

    def torn_up(self, rounding: float) -> bool:
        """Whether the ends are restless, as lossy compression leaves them; told of 8-bit steps only,
        ``rounding`` being one."""
        return self.restless > _RESTLESS * (self.own_restless + _COARSE * rounding)


def _pull(g: F64) -> float:
    """For lines along the last axis but one, ``(m, n, 3)``: how far both ends are pulled inward beyond what
    the inside lets expect."""
    return max((_pull_at(g, place) for place in range(len(_CARRIED_ON))), key=abs)


def _pull_at(g: F64, place: int) -> float:
    change = g[:, -4] - g[:, 3]
    moves = np.abs(change) > _RISES
    found = []
    for line, sign in ((g, 1.0), (g[:, ::-1], -1.0)):
        expected = np.tensordot(line[:, 3:6], _CARRIED_ON[place], axes=(1, 0))
        live = moves & (line[:, place] > _LOW) & (line[:, place] < _HIGH)
        if live.mean() < _SHARE:
            return 0.0
        found.append(float(np.median(((line[:, place] - expected) * sign)[live] / change[live])))
    return min(found, key=abs) if found[0] * found[1] > 0 else 0.0


def line_ends(grid: F32) -> LineEnds:
    """Measures a grid ``(n, n, n, 3)``, axes blue, green, red."""
    g = grid.astype(np.float64)
    n = len(g)
    lines = {"red": g.reshape(-1, n, 3), "blue": np.moveaxis(g, 0, 2).reshape(-1, n, 3)}
    restless, own = (
        float(
            np.quantile(np.abs(np.concatenate([mixed(side, axes).ravel() for side in sides])), _SELDOM)
            / GROWS ** len(axes)
        )
        for sides, axes in (((g[:, :, :3], g[:, :, -3:]), (0, 1)), ((g[:3], g[-3:]), (1, 2)))
    )
    return LineEnds(_pull(lines["red"]), _pull(lines["blue"]), restless, own)


def shifted(rgb: F32, arrangement: Arrangement) -> tuple[int, int]:
    """By how many pixels, across and down, a carrier was moved within its picture; ``(0, 0)`` where it lies
    as it should."""

    def unrest(across: int, down: int, along_green: bool) -> float:
        grid = grid_of(np.roll(rgb, (-down, -across), (0, 1)), arrangement)
        if along_green:
            return float(np.abs(np.diff(grid, n=2, axis=1)).mean())
        return float(np.abs(np.diff(grid, n=2, axis=2)[:, :, _BOTH]).mean())

    sideways, upright = [(k, 0) for k in (-3, -2, -1, 1, 2, 3)], [(0, k) for k in (-2, -1, 1, 2)]
    for places, along_green in ((sideways, False), (upright, True)):
        left = {place: unrest(*place, along_green) for place in places}
        best = min(left, key=lambda place: left[place])
        if left[best] < _SMOOTHER * unrest(0, 0, along_green):
            return best
    return 0, 0
