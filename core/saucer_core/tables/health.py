"""The health of a table: what a reader of it should know before relying on it."""

from dataclasses import asdict, dataclass, replace

import numpy as np
from scipy.ndimage import gaussian_filter

from ..arrays import F32, F64
from ..luma import LUMA
from .lut import Lut, Table, identity_grid, sampled

#: Points of the grey ramp that is looked at.
GREYS = 256
#: A change from one point of that ramp to the next, in code values, below which the ramp stands still.
STILL = 2e-5


@dataclass(frozen=True)
class Health:
    """Measurements of one table, in code values 0–1 unless said otherwise.

    from_identity: mean and largest distance. clipped: share of the grid with a channel at 0 or 1. reversals:
    steps of the grey axis that go down. flats: share of them that stand still between its ends. grey_drift:
    largest spread of the channels on the grey axis. folds: share of cells whose orientation is turned over.
    roughness: standard deviation from a smooth fit. rough_sign: how often second differences change sign from
    point to point (½ for noise, near 0 for intent). grey_steps: distinct steps that an 8-bit grey ramp keeps.
    steepest: largest slope.
    """

    grid: int
    domain: tuple[float, float]
    from_identity: tuple[float, float]
    clipped: float
    reversals: int
    flats: float
    grey_drift: float
    folds: float
    roughness: float
    rough_sign: float
    grey_steps: int
    steepest: float

    def findings(self, clipping: bool = True) -> list[str]:
        """What is worth knowing, in words; without clipping where that is told of the colours of a picture
        instead."""
        found = []
        if self.reversals:
            found.append(f"tones turn back: the grey axis goes down {self.reversals} times")
        if self.flats > 0.1:
            found.append(f"{self.flats:.0%} of the grey axis stands still")
        if self.grey_steps < 128:
            found.append(f"an 8-bit grey ramp keeps {self.grey_steps} of its 256 steps: banding")
        if self.folds > 0.01:
            found.append(
                f"{self.folds:.1%} of the cells are folded: different colours become the same, or "
                "trade places"
            )
        if self.roughness > 0.004 and self.rough_sign > 0.3:
            found.append("it is rough from point to point, as grain or lossy compression leaves it")
        if clipping and self.clipped > 0.3:
            found.append(f"{self.clipped:.0%} of the grid is clipped")
        if self.steepest > 8:
            found.append(f"it is as steep as {self.steepest:.0f} somewhere: noise in the picture will show")
        return found

    def serious(self) -> bool:
        """Whether something speaks against relying on it: clipping and steep places are part of many a
        look."""
        return self.reversals > 0 or self.flats > 0.25 or self.grey_steps < 64 or self.folds > 0.05

    def as_dict(self) -> dict[str, object]:
        """Plain numbers and words, for JSON."""
        return {**asdict(self), "findings": self.findings()}


def smooth_fit(grid: F32, sigma: float = 1.5) -> F32:
    """The grid with its difference from the identity smoothed over ``sigma`` points; edges go on as they
    end."""
    n = len(grid)
    identity = identity_grid(n)
    change = grid - identity
    width = int(np.ceil(3 * sigma))
    # Odd reflection carries slopes over the edge, so that the border is not pulled inward.
    padded = (
        np.pad(change, [(width, width)] * 3 + [(0, 0)], mode="reflect", reflect_type="odd")
        if n > width
        else change
    )
    soft = np.stack(
        [gaussian_filter(padded[..., c].astype(np.float64), sigma, mode="nearest") for c in range(3)], axis=-1
    )
    inside = soft[width:-width, width:-width, width:-width] if n > width else soft
    return np.ascontiguousarray(identity + inside, dtype=np.float32)


def _folds(grid: F32) -> float:
    """Share of cells with a negative Jacobian of R'G'B' over RGB; flat cells do not count."""
    g = grid.astype(np.float64)
    parts = [np.diff(g, axis=a) for a in (2, 1, 0)]
    n = len(grid) - 1
    d_red, d_green, d_blue = parts[0][:n, :n, :n], parts[1][:n, :n, :n], parts[2][:n, :n, :n]
    volume = np.einsum("...i,...i", d_red, np.cross(d_green, d_blue)) * (len(grid) - 1) ** 3
    return float((volume < -1e-3).mean())


def _rough_sign(grid: F32) -> float:
    """How often second differences change sign between neighbours, where they are not nil."""
    changes, counted = 0, 0
    for axis in range(3):
        second = np.diff(grid, n=2, axis=axis)
        a, b = (
            np.take(second, range(second.shape[axis] - 1), axis),
            np.take(second, range(1, second.shape[axis]), axis),
        )
        live = (np.abs(a) > 1e-5) & (np.abs(b) > 1e-5)
        changes += int(((a * b < 0) & live).sum())
        counted += int(live.sum())
    return changes / counted if counted else 0.0


def health(table: Table) -> Health:
    """Measures a table over 0–1 of its reach; one without a grid of its own is sampled on 33 points."""
    lut = (
        table
        if isinstance(table, Lut) and table.grid is not None and table.shaper is None
        else replace(sampled(table, 33))
    )
    grid = lut.grid
    assert grid is not None
    n = len(grid)
    span = (lut.high - lut.low).astype(np.float64)
    identity = identity_grid(n) * span.astype(np.float32) + lut.low
    off = np.abs(grid - identity).max(axis=-1)
    ramp = (
        np.repeat(np.linspace(0, 1, GREYS, dtype=np.float32)[:, None], 3, axis=1) * span.astype(np.float32)
        + lut.low
    )
    greys: F64 = lut.apply(ramp).astype(np.float64)
    luma = greys @ LUMA
    steps = np.diff(luma)
    moving = np.abs(steps) > STILL
    inside = moving.nonzero()[0]
    still = 1 - moving[inside[0] : inside[-1] + 1].mean() if len(inside) else 1.0
    coded = np.round(np.clip(greys, 0, 1) * 255).astype(int)
    rough = np.std(grid - smooth_fit(grid)) if n >= 8 else 0.0
    slopes = [np.abs(np.diff(grid, axis=2 - c)).max() * (n - 1) / span[c] for c in range(3)]
    return Health(
        grid=table.size,
        domain=(float(lut.low.min()), float(lut.high.max())),
        from_identity=(float(off.mean()), float(off.max())),
        clipped=float(((grid <= 1e-6) | (grid >= 1 - 1e-6)).any(axis=-1).mean()),
        reversals=int((steps < -STILL).sum()),
        flats=float(still),
        grey_drift=float(np.ptp(greys, axis=1).max()),
        folds=_folds(grid),
        roughness=float(rough),
        rough_sign=_rough_sign(grid),
        grey_steps=len(np.unique(coded, axis=0)),
        steepest=float(max(slopes)),
    )
