"""A look from a pair: the same picture untouched and treated.

The two are laid over each other, then a smooth table is fitted to what became of every colour, by least
squares on the points between which it is read; robustly, so that what a look cannot be does not bend it.
Where no colour tells, a plain model of the whole change (a polynomial of the second order) decides. What
depends on the place is found in what the table leaves.
"""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter, maximum_filter

from ..arrays import F32, F64
from ..difference import difference
from ..encodings import Encoding, convert, encoding
from ..errors import CoreError
from ..tables.lut import Lut, identity_grid
from .fit import neighbours, weights_of_points
from .laying_over import laid_over
from .pair_findings import PATCHES, PairFinding, findings, vignette, worked_on

#: Points a side of the table.
GRID = 33
#: Pixels in the fit at most.
MOST = 160_000
#: Pull of a point's change toward its neighbours'.
SMOOTH = 0.6
#: Pull of a point's change toward the plain model's.
PLAIN = 0.02
#: Rounds of robust weighing.
ROUNDS = 3
#: Rounds of conjugate gradients.
CG_ROUNDS = 80
#: Pixels around work on a part of the picture that are left out with it.
AROUND = 25
#: How far from colours that are known the polynomial is believed, in code values.
REACH = 0.05
#: Weight of colours on a point from which it counts as seen.
SEEN = 0.5
#: Residual, in code values, beyond which a pixel counts less.
TOLERATED = 0.012
#: Falling off, as a part of the light, from which a vignette is spoken of.
SLOPE = 0.035
#: Falling off beyond which none is believed.
STEEPEST = 0.9
#: Share of the rest that it must explain.
EXPLAINS = 0.03
#: Part of it by which quarters of the picture may differ.
AGREES = 0.35
#: Share of the evidence that a quarter must hold to be asked.
ASKED = 0.05
#: Rounds of measuring a vignette.
UNSHADED = 4
#: A change of it that needs no further round.
SETTLED = 0.01


@dataclass(frozen=True)
class Pair:
    """What came of a pair.

    share: of the change, as an eye sees it, that the look explains, 0–1. change, left: mean ΔE2000 between
    the two pictures, and between the treated one and the look's. shift: pixels right and down by which the
    treated picture lies off; scale: how much larger it shows things. seen: share of the cube's points that
    colours tell of; known: their weight on each point, float32 ``(n, n, n)``. before, after: the two laid
    over each other; made: what the look makes; unexplained: what is left, signed; all float32
    ``(height, width, 3)``. findings: what in it cannot be a look.
    """

    lut: Lut
    share: float
    change: float
    left: float
    shift: tuple[float, float]
    scale: float
    seen: float
    known: F32
    before: F32
    after: F32
    made: F32
    unexplained: F32
    findings: tuple[PairFinding, ...]


def _terms(rgb: F64) -> F64:
    r, g, b = rgb.T
    return np.stack([np.ones_like(r), r, g, b, r * r, g * g, b * b, r * g, g * b, b * r], axis=1)


def _plain_model(rgb: F64, change: F64, weight: F64) -> F64:
    """The change of colours as a polynomial of the second order, held small where few colours tell,
    ``(10, 3)``."""
    terms = _terms(rgb)
    square = terms.T @ (terms * weight[:, None]) + 1e-3 * weight.sum() / len(weight) * np.eye(terms.shape[1])
    found: F64 = np.linalg.solve(square, terms.T @ (change * weight[:, None]))
    return found


def _near_what_is_seen(grid: F64, told: F64) -> F64:
    """Each point ``(n, 3)`` brought to within ``REACH`` of one that colours tell of; ``told``: how much they
    do of each.

    Farther away the polynomial would run away: there a colour is changed as the nearest are that are known.
    """
    from scipy.spatial import cKDTree

    known = grid[told > SEEN]
    if not len(known):
        return grid
    away, nearest = cKDTree(known).query(grid)
    found: F64 = (
        known[nearest] + (grid - known[nearest]) * np.minimum(1.0, REACH / np.maximum(away, 1e-9))[:, None]
    )
    return found


@dataclass(frozen=True)
class _Normal:
    """The equations of the table's points: ``read`` from points to colours, their weights, and the square of
    the least-squares sum."""

    read: Any
    weight: F64
    square: Any

    @classmethod
    def of(cls, read: Any, weight: F64, told: F64) -> "_Normal":
        from scipy.sparse import diags, eye

        # A point of which many colours tell needs no pull.
        scale = float(np.median(told[told > SEEN])) if (told > SEEN).any() else 1.0
        pulls = scale * (SMOOTH * 0.1 * neighbours(GRID) + PLAIN * 0.1 * eye(GRID**3))
        return cls(read, weight, read.T @ diags(weight) @ read + pulls)

    def solved(self, wanted: F64) -> F64:
        """The points' values, ``(n³, channels)``, from which colours are read as near to ``wanted`` as can
        be."""
        from scipy.sparse.linalg import cg

        asked = self.read.T @ (wanted * self.weight[:, None])
        found: F64 = np.stack(
            [cg(self.square, column, rtol=1e-4, maxiter=CG_ROUNDS)[0] for column in asked.T], axis=1
        )
        return found


@dataclass(frozen=True)
class _Fitted:
    """The table's values ``(n³, 3)``, how much colours tell of each point, ``(n³,)``, and the equations that
    gave them."""

    values: F64
    told: F64
    normal: _Normal


def _fitted(before: F64, after: F64, rounds: int) -> _Fitted:
    """A table from colours to colours."""
    change = after - before
    weight = np.ones(len(before))
    read = weights_of_points(before.astype(np.float32), GRID)
    grid = identity_grid(GRID).reshape(-1, 3).astype(np.float64)
    for _ in range(rounds):
        model = _plain_model(before, change, weight)
        told = np.asarray(read.T @ weight).reshape(-1)
        base = np.clip(grid + _terms(_near_what_is_seen(grid, told)) @ model, -0.25, 1.25)
        normal = _Normal.of(read, weight, told)
        own = base + normal.solved(after - read @ base)
        off = np.abs(read @ own - after).max(axis=1)
        weight = 1 / (1 + (off / TOLERATED) ** 2)
    return _Fitted(own, np.asarray(read.T @ np.ones(len(before))).reshape(-1), normal)


def _away(height: int, width: int) -> F64:
    """Square of the distance from the middle, 1 in the corners."""
    y, x = np.mgrid[0:height, 0:width]
    found: F64 = ((x - width / 2) ** 2 + (y - height / 2) ** 2) / ((width / 2) ** 2 + (height / 2) ** 2)
    return found


def _lit_by(rgb: F32, at: Encoding, amount: F64) -> F32:
    """A picture whose light is multiplied, place by place: ``amount`` ``(h, w)``."""
    return at.encode(at.decode(rgb) * amount.astype(np.float32)[..., None])


def _falls_off(calm: "_Calm", found: _Fitted, at: Encoding) -> tuple[float, bool]:
    """By what part of the light the corners are darker than a look makes them, and whether it is so in every
    quarter of the picture.

    A table and a falling off are fitted together: what the table could take for a look is taken out of both
    sides first (R. Frisch and F. V. Waugh, "Partial time regressions as compared with individual trends",
    Econometrica 1 (1933)).
    """
    height, width = calm.after.shape[:2]
    away, nudge, chosen = _away(height, width), 0.02, (calm.rows, calm.columns)
    slope = (_lit_by(calm.after, at, 1 - nudge * away) - _lit_by(calm.after, at, 1 + nudge * away)) / (
        2 * nudge
    )
    normal, wanted, after = found.normal, slope[chosen].astype(np.float64), calm.after[chosen]
    by_place = wanted - normal.read @ normal.solved(wanted)
    left = after - normal.read @ found.values
    # What is clipped no longer shows the light that it had.
    weight = normal.weight * np.all((after > 0.03) & (after < 0.97), axis=-1)
    along, own = ((by_place * side).sum(axis=1) * weight for side in (left, by_place))
    fall = float(along.sum() / max(own.sum(), 1e-9))
    rest = float(((left**2).sum(axis=1) * weight).sum())
    quarter = 2 * (calm.rows > height / 2) + (calm.columns > width / 2)
    parts = [(along[quarter == q].sum(), own[quarter == q].sum()) for q in range(4)]
    agree = all(abs(a / o - fall) <= AGREES * abs(fall) for a, o in parts if o > ASKED * own.sum())
    return fall, agree and fall * along.sum() > EXPLAINS * rest


def _soft(rgb: F32) -> F32:
    return np.stack([gaussian_filter(rgb[..., c], 1.2) for c in range(3)], axis=-1).astype(np.float32)


@dataclass(frozen=True)
class _Calm:
    """The two pictures, smoothed a little, and where both are calm: there a shift of part of a pixel and
    compression do no harm.

    inside: those pixels, ``(h, w)``; rows, columns: where those are that count in the fit.
    """

    before: F32
    after: F32
    inside: NDArray[np.bool_]
    rows: NDArray[np.int64]
    columns: NDArray[np.int64]

    @classmethod
    def of(cls, one: F32, other: F32) -> "_Calm":
        before, after = _soft(one), _soft(other)
        edges = np.maximum(*(np.abs(p - s).max(axis=-1) for p, s in ((one, before), (other, after))))
        return cls._inside(before, after, edges < max(float(np.quantile(edges, 0.7)), 0.004))

    @classmethod
    def _inside(cls, before: F32, after: F32, inside: NDArray[np.bool_]) -> "_Calm":
        rows, columns = np.nonzero(inside)
        among = np.linspace(0, len(rows) - 1, min(len(rows), MOST)).astype(np.int64)
        return cls(before, after, inside, rows[among], columns[among])

    def without(self, left_out: NDArray[np.bool_]) -> "_Calm":
        """The same without some pixels, ``(h, w)``."""
        return self._inside(self.before, self.after, self.inside & ~left_out)

    def fitted(self, rounds: int = ROUNDS) -> _Fitted:
        """The table from one picture to the other."""
        at = self.rows, self.columns
        return _fitted(self.before[at].astype(np.float64), self.after[at].astype(np.float64), rounds)


def _guessing(told: NDArray[np.floating[Any]], rgb: F32) -> F64:
    """How much a table guesses at colours ``(..., 3)``: 0 where colours told of its points, 1 where none did.

    told: how much they did of each point.
    """
    weight = weights_of_points(np.clip(rgb.reshape(-1, 3), 0, 1), GRID)
    known: F64 = np.asarray(weight @ (told.reshape(-1) > SEEN).astype(np.float64))
    return np.clip(1 - known, 0, 1).reshape(rgb.shape[:-1])


def pair(before: F32, after: F32, expects: str, gives: str, *, title: str = "") -> Pair:
    """A look from a picture in the encoding ``expects`` and what became of it, in ``gives``; float32
    ``(height, width, 3)`` each.

    Raises ``CoreError`` where they do not show the same.
    """
    if min(*before.shape[:2], *after.shape[:2]) < 48:
        raise CoreError("A pair needs pictures of at least 48 pixels a side.")
    one, other, shift, scale = laid_over(np.clip(before, 0, 1), np.clip(after, 0, 1))
    at = encoding(gives)
    calm, fall, even = _Calm.of(one, other), 0.0, other
    found = calm.fitted()
    for _ in range(UNSHADED):
        more, believed = _falls_off(calm, found, at)
        if not fall and not (believed and SLOPE <= abs(more) <= STEEPEST):
            break
        # The first table took a part of the falling off for a look: without it both are found better.
        fall += more
        even = _lit_by(other, at, 1 / (1 - fall * _away(*other.shape[:2])))
        calm = replace(calm, after=_soft(even))
        done = abs(more) < SETTLED
        found = calm.fitted(ROUNDS if done else 1)
        if done:
            break
    local = worked_on(even - _lut(found).apply(one), _guessing(found.told, one) < 0.5)
    if local.mean() > PATCHES:
        # Without that part the rest of the picture is a better witness.
        rest = calm.without(maximum_filter(local, AROUND))
        if len(rest.rows) > len(calm.rows) // 4:
            found = rest.fitted()
    lut = replace(_lut(found), title=title)
    told = found.told.astype(np.float32)
    made = lut.apply(one)
    shown = convert(_soft(one), encoding(expects), at)
    smooth = [np.clip(s, 0, 1).astype(np.float32) for s in (shown, _soft(other), lut.apply(_soft(one)))]
    change, left = (float(difference(s, smooth[1], at).mean()) for s in (smooth[0], smooth[2]))
    known = told.reshape(GRID, GRID, GRID)
    return Pair(
        lut=lut,
        share=float(np.clip(1 - left / max(change, 1e-6), 0, 1)),
        change=change,
        left=left,
        shift=shift,
        scale=scale,
        seen=float((known > SEEN).mean()),
        known=known,
        before=one,
        after=other,
        made=made,
        unexplained=(other - made).astype(np.float32),
        findings=(
            *([vignette(fall)] if fall else []),
            *findings(one, made, even, _guessing(found.told, one) < 0.5),
        ),
    )


def _lut(found: _Fitted) -> Lut:
    return Lut(np.ascontiguousarray(found.values.reshape(GRID, GRID, GRID, 3), np.float32))


def guessed(found: Pair, rgb: F32) -> F64:
    """How much the look guesses at colours ``(..., 3)`` in what it expects: 0 where colours told of them, 1
    where none did near."""
    return _guessing(found.known, rgb)


def guessed_cube(found: Pair, count: int = 6, size: int = 66) -> F64:
    """Where the look guesses in the cube of what it expects: slices of blue from 0 to 1 side by side, red to
    the right, green up.

    ``(size, count × size)``: 0 where colours told, 1 where none did.
    """
    up, right, blue = np.meshgrid(
        np.linspace(1, 0, size), np.linspace(0, 1, size), np.linspace(0, 1, count), indexing="ij"
    )
    rgb = np.stack([right, up, blue], axis=-1).astype(np.float32)
    return np.concatenate(list(np.moveaxis(guessed(found, np.ascontiguousarray(rgb)), 2, 0)), axis=1)
