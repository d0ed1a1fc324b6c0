"""The condition of a look or table, point by point: how it does, whether that is in doubt, and where in the
cube it shows."""

from dataclasses import dataclass, field

import numpy as np

from ..arrays import F32, F64
from ..baking.bake import bake
from ..baking.deviation import Measuring
from ..program import Program
from ..tables.health import Health, health
from ..tables.lut import Lut, Table, sampled
from .clipped import Clipped

#: Points a side on which a look is measured.
GRID = 33
#: Points a side of the smaller grid that is tried.
SMALLER = 17
#: Places of one kind that are shown at most.
PLACES = 40
_CHANNELS = ("red", "green", "blue")


@dataclass(frozen=True)
class Point:
    """One thing that was looked at: in a few words, how it does, whether that is in doubt, and colours (in
    the look's input, 0–1) where it shows.
    """

    key: str
    words: str
    value: str
    doubtful: bool = False
    places: list[tuple[float, float, float]] = field(default_factory=list)


def table_of(program: Program) -> Lut:
    """A look as a table, to be measured like one that was brought in."""
    return bake(program, GRID)


def condition(program: Program, clipping: Clipped, table: Table | None = None) -> list[Point]:
    """Everything that is worth looking at, what is in doubt first. table: measured itself where the look is
    one."""
    measured = table if table is not None else table_of(program)
    found = health(measured)
    lut = (
        measured
        if isinstance(measured, Lut) and measured.grid is not None and measured.shaper is None
        else sampled(measured, GRID)
    )
    grid = lut.grid
    assert grid is not None
    span = (lut.high - lut.low).astype(np.float32)
    points = [
        _clips(clipping, grid, lut.low, span),
        _steepest(found, grid, lut.low, span),
        Point("greys", "greys leave neutral", f"by {found.grey_drift:.0%} of the range"),
        _order(found, lut),
        _folded(found, grid, lut.low, span),
        Point("steps", "an 8-bit grey ramp keeps", f"{found.grey_steps} of 256", found.grey_steps < 128),
        Point("rough", "rough from point to point", "yes" if _rough(found) else "no", _rough(found)),
        _smaller(program),
    ]
    return sorted(points, key=lambda p: not p.doubtful)


def _rough(found: Health) -> bool:
    return found.roughness > 0.004 and found.rough_sign > 0.3


def _where(mask: np.ndarray, low: F32, span: F32) -> list[tuple[float, float, float]]:
    """Colours of grid points of a mask ``(blue, green, red)``, spread evenly over all of them."""
    at = np.argwhere(mask)
    if not len(at):
        return []
    chosen = at[np.linspace(0, len(at) - 1, min(PLACES, len(at))).astype(int)]
    places = chosen[:, ::-1] / (np.array(mask.shape[::-1]) - 1) * span + low
    return [(float(r), float(g), float(b)) for r, g, b in np.round(places, 4)]


def _clips(clipping: Clipped, grid: F32, low: F32, span: F32) -> Point:
    mask = np.asarray(((grid <= 1e-6) | (grid >= 1 - 1e-6)).any(axis=-1))
    words = f"clips, most in {clipping.hue}" if clipping.share >= 0.01 else "clips"
    value = f"{clipping.share:.0%} of colours" if clipping.share >= 0.01 else "hardly anything"
    return Point(
        "clips",
        words,
        value,
        clipping.share > 0.03 or clipping.skin,
        _where(mask, low, span) if clipping.share >= 0.01 else [],
    )


def _steepest(found: Health, grid: F32, low: F32, span: F32) -> Point:
    n = len(grid)
    best, channel, place = 0.0, 0, (0, 0, 0)
    for c in range(3):
        slopes = np.abs(np.diff(grid, axis=2 - c)).max(axis=-1) * (n - 1) / span[c]
        k = int(slopes.argmax())
        if slopes.flat[k] > best:
            best, channel = float(slopes.flat[k]), c
            blue, green, red = (int(v) for v in np.unravel_index(k, slopes.shape))
            place = blue, green, red
    mask = np.zeros(grid.shape[:3], bool)
    mask[place] = True
    at = place[2 - channel] / (n - 1)
    return Point(
        "steepest",
        f"steepest, {_CHANNELS[channel]} at {at:.0%}",
        f"{best:.1f} ×",
        found.steepest > 8,
        _where(mask, low, span),
    )


def _order(found: Health, lut: Lut) -> Point:
    ramp = (
        np.repeat(np.linspace(0, 1, 65, dtype=np.float32)[:, None], 3, axis=1) * (lut.high - lut.low)
        + lut.low
    )
    luma: F64 = lut.apply(np.ascontiguousarray(ramp)).astype(np.float64).mean(axis=1)
    back = np.flatnonzero(np.diff(luma) < -2e-5)
    places = [(float(r), float(g), float(b)) for r, g, b in np.round(ramp[back], 4)][:PLACES]
    value = f"turned back {found.reversals} times" if found.reversals else "yes"
    return Point("order", "tones in order", value, found.reversals > 0, places)


def _folded(found: Health, grid: F32, low: F32, span: F32) -> Point:
    g = grid.astype(np.float64)
    n = len(grid) - 1
    along = [np.diff(g, axis=a)[:n, :n, :n] for a in (2, 1, 0)]
    volume = np.einsum("...i,...i", along[0], np.cross(along[1], along[2])) * n**3
    share = found.folds
    mask = volume < -1e-3
    return Point(
        "folded",
        "folded colours",
        f"{share:.1%}" if share >= 0.0005 else "none",
        share > 0.01,
        _where(mask, low, span),
    )


def _smaller(program: Program) -> Point:
    mean = Measuring(program, power=12).compare(bake(program, SMALLER)).delta_mean
    return Point("fits", f"fits a grid of {SMALLER} within", f"ΔE {mean:.2f}", mean > 1.0)
