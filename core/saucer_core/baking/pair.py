"""A look from a pair: the same picture untouched and treated.

The two are laid over each other (their sizes give the scale, phase correlation the shift: C. D. Kuglin and D. C. Hines, "The phase
correlation image alignment method", 1975), then a smooth table is fitted to what became of every colour, by least squares on the points
between which it is read; robustly, so that what a look cannot be does not bend it. Where no colour tells, a plain model of the
whole change (a polynomial of the second order) decides. What depends on the place is found in what the table leaves.
"""

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from scipy.ndimage import gaussian_filter, map_coordinates, uniform_filter

from ..arrays import F32, F64
from ..difference import difference
from ..encodings import convert, encoding
from ..errors import CoreError
from ..tables.lut import Lut, identity_grid
from .fit import neighbours, weights_of_points

#: Points a side of the table, pixels of the longer side that are looked at, and at most so many pixels in the fit.
GRID, LONGEST, MOST = 33, 960, 160_000
#: Scales that are tried around the one that the sizes give, how strong the peak of the correlation must be, and finer steps around
#: the best of them.
SCALES, PEAK = (1.0, 0.985, 1.015, 0.97, 1.03), 0.05
FINER = (-0.01, -0.0075, -0.005, -0.0025, 0.0025, 0.005, 0.0075, 0.01)
#: Pull of a point's change toward its neighbours', toward the plain model's, and rounds of robust weighing and conjugate gradients.
SMOOTH, PLAIN, ROUNDS, CG_ROUNDS = 0.6, 0.02, 3, 80
#: Correlation of light and dark from which two pictures without outlines are taken for the same.
ALIKE = 0.9
#: Local contrast, in code values, that one pixel in a hundred must have for a picture to have outlines.
OUTLINES = 0.006
#: Pixels at the rim that are left out: a blur reaches over the edge there.
RIM = 4
#: How far from colours that are known the polynomial is believed, in code values.
REACH = 0.05
#: Weight of colours on a point from which it counts as seen.
SEEN = 0.5
#: Residual, in code values, beyond which a pixel counts less.
TOLERATED = 0.012
#: Falling off from which a vignette is spoken of, as a part of the light, how much of the rest it must explain, and rounds of
#: taking it off.
SLOPE, EXPLAINS, UNSHADED = 0.035, 0.1, 3

FindingKind = Literal["vignette", "grain", "local work", "blur"]


@dataclass(frozen=True)
class PairFinding:
    """Something in the treated picture that no look can be: how much of it, and words for a designer."""

    kind: FindingKind
    amount: float
    words: str


@dataclass(frozen=True)
class Pair:
    """What came of a pair.

    share: of the change, as an eye sees it, that the look explains, 0–1. change, left: mean ΔE2000 between the two pictures, and
    between the treated one and the look's. shift: pixels right and down by which the treated picture lies off; scale: how much larger it
    shows things. seen: share of the cube's points that colours tell of; known: their weight on each point, float32 ``(n, n, n)``.
    before, after: the two laid over each other; made: what the look makes; unexplained: what is left, signed; all
    float32 ``(height, width, 3)``. findings: what in it cannot be a look.
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


def _luma(rgb: F32) -> F64:
    found: F64 = rgb.astype(np.float64) @ (0.25, 0.6, 0.15)
    return found


def _outlines(rgb: F32) -> F64:
    """Edges of a picture, whatever its tones: local contrast brought to one strength."""
    luma = _luma(rgb)
    fine = luma - gaussian_filter(luma, 3)
    spread = np.sqrt(gaussian_filter(fine**2, 6)) + 0.004
    window = np.hanning(luma.shape[0])[:, None] * np.hanning(luma.shape[1])[None, :]
    found: F64 = fine / spread * window
    return found


def _resized(rgb: F32, height: int, width: int) -> F32:
    """Scaled by linear interpolation, after a blur where it is made smaller."""
    down = max(rgb.shape[0] / height, rgb.shape[1] / width)
    soft = np.stack([gaussian_filter(rgb[..., c], max(0.0, (down - 1) / 2)) for c in range(3)], axis=-1) if down > 1.05 else rgb
    rows = (np.arange(height) + 0.5) * rgb.shape[0] / height - 0.5
    columns = (np.arange(width) + 0.5) * rgb.shape[1] / width - 0.5
    at = np.meshgrid(rows, columns, indexing="ij")
    return np.stack([map_coordinates(soft[..., c], at, order=1, mode="nearest") for c in range(3)], axis=-1).astype(np.float32)


def _correlated(one: F64, other: F64) -> tuple[float, float, float]:
    """Shift of the other picture down and right, and the strength of the peak, 0–1."""
    product = np.fft.rfft2(one) * np.conj(np.fft.rfft2(other))
    field = np.fft.irfft2(product / (np.abs(product) + 1e-9), s=one.shape)
    row, column = np.unravel_index(int(field.argmax()), field.shape)
    peak = float(field[row, column])

    def fine(before: float, at: float, after: float) -> float:
        bend = before - 2 * at + after
        return 0.0 if bend == 0 else float(np.clip(0.5 * (before - after) / bend, -0.5, 0.5))

    height, width = field.shape
    down = row + fine(field[(row - 1) % height, column], peak, field[(row + 1) % height, column])
    right = column + fine(field[row, (column - 1) % width], peak, field[row, (column + 1) % width])
    down, right = (down - height if down > height / 2 else down), (right - width if right > width / 2 else right)
    return -float(down), -float(right), peak


def _at_scale(one: F32, outlines: F64, after: F32, scale: float) -> tuple[float, float, float, float, F32]:
    """How well the treated picture fits at a scale: the peak, the scale, its shift down and right, and the picture."""
    h, w = one.shape[:2]
    other = _resized(after, round(h / scale), round(w / scale))
    found = np.zeros_like(one)
    ch, cw = min(h, other.shape[0]), min(w, other.shape[1])
    top, left = (h - ch) // 2, (w - cw) // 2
    from_top, from_left = (other.shape[0] - ch) // 2, (other.shape[1] - cw) // 2
    found[top : top + ch, left : left + cw] = other[from_top : from_top + ch, from_left : from_left + cw]
    down, right, peak = _correlated(outlines, _outlines(found))
    return peak, scale, down, right, found


def _plain(rgb: F32) -> bool:
    """Whether a picture has no outlines to speak of."""
    luma = _luma(rgb)
    return bool(np.quantile(np.abs(luma - gaussian_filter(luma, 3)), 0.99) < OUTLINES)


def _alike(one: F32, other: F32) -> bool:
    """Whether light and dark lie at the same places."""
    a, b = (gaussian_filter(_luma(p), 4)[4:-4, 4:-4].ravel() for p in (one, other))
    return bool(np.corrcoef(a, b)[0, 1] > ALIKE)


def _laid_over(before: F32, after: F32) -> tuple[F32, F32, tuple[float, float], float]:
    """Both pictures at one size with the parts that both show; the shift right and down, and the scale. Raises ``CoreError``."""
    height, width = before.shape[:2]
    ratio = (width / height) / (after.shape[1] / after.shape[0])
    if not 0.8 < ratio < 1.25:
        raise CoreError(
            f"The two pictures have different shapes, {width} × {height} and {after.shape[1]} × {after.shape[0]}: "
            "bring the same frame, untouched and treated, whole."
        )
    small = min(1.0, LONGEST / max(height, width))
    h, w = max(16, round(height * small)), max(16, round(width * small))
    one = _resized(before, h, w)
    outlines = _outlines(one)
    tried = []
    for scale in SCALES:
        tried.append(_at_scale(one, outlines, after, scale))
        if scale == 1.0 and tried[0][0] > 4 * PEAK:
            break
    best = max(tried, key=lambda t: t[0])
    if best[1] != 1.0:
        best = max([best, *(_at_scale(one, outlines, after, best[1] + off) for off in FINER)], key=lambda t: t[0])
    if best[0] < PEAK or _plain(one):
        # A picture without outlines, a sky or soft light say, has nothing to lay over each other by: light and dark must agree as they lie.
        best = (PEAK if _alike(one, tried[0][4]) else 0.0), 1.0, 0.0, 0.0, tried[0][4]
    peak, scale, down, right, found = best
    if peak < PEAK or abs(down) > h / 4 or abs(right) > w / 4:
        raise CoreError("These are not the same picture: their outlines do not fit each other. Bring one frame, untouched and treated.")
    rows, columns = np.meshgrid(np.arange(h) + down, np.arange(w) + right, indexing="ij")
    moved = np.stack([map_coordinates(found[..., c], [rows, columns], order=1, mode="nearest") for c in range(3)], axis=-1)
    # What only one of the two shows is left out.
    rows_left, columns_left = (max(0, -(-(n - round(n / scale)) // 2)) + RIM for n in (h, w))
    top, bottom = rows_left + max(0, int(np.ceil(-down))), h - rows_left - max(0, int(np.ceil(down)))
    first, last = columns_left + max(0, int(np.ceil(-right))), w - columns_left - max(0, int(np.ceil(right)))
    inside = slice(top, bottom), slice(first, last)
    shift = right / small, down / small
    grown = after.shape[1] / width * scale
    return np.ascontiguousarray(one[inside]), np.ascontiguousarray(moved[inside], np.float32), shift, grown


def _terms(rgb: F64) -> F64:
    r, g, b = rgb.T
    return np.stack([np.ones_like(r), r, g, b, r * r, g * g, b * b, r * g, g * b, b * r], axis=1)


def _plain_model(rgb: F64, change: F64, weight: F64) -> F64:
    """The change of colours as a polynomial of the second order, held small where few colours tell, ``(10, 3)``."""
    terms = _terms(rgb)
    square = terms.T @ (terms * weight[:, None]) + 1e-3 * weight.sum() / len(weight) * np.eye(terms.shape[1])
    found: F64 = np.linalg.solve(square, terms.T @ (change * weight[:, None]))
    return found


def _near_what_is_seen(grid: F64, told: F64) -> F64:
    """Each point ``(n, 3)`` brought to within ``REACH`` of one that colours tell of; ``told``: how much they do of each.

    Farther away the polynomial would run away: there a colour is changed as the nearest are that are known.
    """
    from scipy.spatial import cKDTree

    known = grid[told > SEEN]
    if not len(known):
        return grid
    away, nearest = cKDTree(known).query(grid)
    found: F64 = known[nearest] + (grid - known[nearest]) * np.minimum(1.0, REACH / np.maximum(away, 1e-9))[:, None]
    return found


def _fitted(before: F64, after: F64) -> tuple[F32, F32]:
    """The table's values ``(n³, 3)`` and how much colours tell of each point, ``(n³,)``."""
    from scipy.sparse import diags, eye
    from scipy.sparse.linalg import cg

    change = after - before
    weight = np.ones(len(before))
    read = weights_of_points(before.astype(np.float32), GRID)
    grid = identity_grid(GRID).reshape(-1, 3).astype(np.float64)
    own = grid
    for _ in range(ROUNDS):
        model = _plain_model(before, change, weight)
        told = np.asarray(read.T @ weight).reshape(-1)
        base = np.clip(grid + _terms(_near_what_is_seen(grid, told)) @ model, -0.25, 1.25)
        # A point of which many colours tell needs no pull.
        scale = float(np.median(told[told > SEEN])) if (told > SEEN).any() else 1.0
        square = read.T @ diags(weight) @ read + scale * (SMOOTH * 0.1 * neighbours(GRID) + PLAIN * 0.1 * eye(GRID**3))
        asked = read.T @ ((after - read @ base) * weight[:, None])
        moved = np.stack([cg(square, asked[:, c], rtol=1e-4, maxiter=CG_ROUNDS)[0] for c in range(3)], axis=1)
        own = base + moved
        off = np.abs(read @ own - after).max(axis=1)
        weight = 1 / (1 + (off / TOLERATED) ** 2)
    told = np.asarray(read.T @ np.ones(len(before))).reshape(-1)
    return own.astype(np.float32), told.astype(np.float32)


def _away(height: int, width: int) -> F64:
    """Square of the distance from the middle, 1 in the corners."""
    y, x = np.mgrid[0:height, 0:width]
    found: F64 = ((x - width / 2) ** 2 + (y - height / 2) ** 2) / ((width / 2) ** 2 + (height / 2) ** 2)
    return found


def _lit(luma: F64) -> np.ndarray:
    return (luma > 0.04) & (luma < 0.96)


def _falls_off(made: F32, after: F32) -> tuple[float, float]:
    """By what part of the light the corners differ from what a look makes of them, and how much of the rest that explains."""
    luma, grey = _luma(made), (after - made).astype(np.float64).mean(axis=-1)
    lit, away = _lit(luma), _away(*luma.shape)
    if lit.sum() < 500:
        return 0.0, 0.0
    basis = ((away - away[lit].mean()) * luma)[lit]
    slope = float((basis * grey[lit]).sum() / max((basis**2).sum(), 1e-9))
    explained = 1 - float(((grey[lit] - slope * basis) ** 2).sum() / max((grey[lit] ** 2).sum(), 1e-12))
    return slope, explained


def _findings(before: F32, made: F32, after: F32, vignette: float) -> tuple[PairFinding, ...]:
    """What in the treated picture depends on the place; ``after``: without the vignette that was found."""
    found: list[PairFinding] = []
    if vignette:
        way = "darker" if vignette < 0 else "lighter"
        found.append(PairFinding("vignette", abs(vignette), f"a vignette: the corners are {way} by {abs(vignette):.0%} of the light"))
    rest = (after - made).astype(np.float64)
    height, width = rest.shape[:2]
    luma = _luma(made)
    lit = _lit(luma)
    grey = rest.mean(axis=-1)
    fine = grey - gaussian_filter(grey, 1.5)
    source = _luma(before)
    flat = lit & (np.abs(source - gaussian_filter(source, 1.5)) < 0.006)
    noise = float(fine[flat].std()) * 255 if flat.sum() > 500 else 0.0
    was = float((source - gaussian_filter(source, 1.5))[flat].std()) * 255 if flat.sum() > 500 else 0.0
    if noise > 0.8 and noise > 1.6 * was:
        found.append(PairFinding("grain", noise, f"grain or noise: {noise:.1f} of 255 that the untouched picture does not have"))
    broad = np.stack([uniform_filter(gaussian_filter(rest[..., c], 4), 17) for c in range(3)], axis=-1)
    local = np.abs(broad).max(axis=-1) > 0.02
    share = float(local.mean())
    if share > 0.015:
        rows, columns = np.nonzero(local)
        where = f"{_side(rows.mean() / height, 'top', 'bottom')} {_side(columns.mean() / width, 'left', 'right')}".strip() or "middle"
        found.append(PairFinding("local work", share, f"work on a part of the picture: {share:.0%} of it, most toward the {where}"))
    sharp = [float(np.abs(v - gaussian_filter(v, 1)).mean()) for v in (_luma(made), _luma(after))]
    if sharp[1] < 0.6 * sharp[0]:
        found.append(PairFinding("blur", sharp[1] / max(sharp[0], 1e-9), "softening: fine detail of the untouched picture is gone"))
    return tuple(found)


def _side(at: float, low: str, high: str) -> str:
    return low if at < 0.4 else high if at > 0.6 else ""


def _soft(rgb: F32) -> F32:
    return np.stack([gaussian_filter(rgb[..., c], 1.2) for c in range(3)], axis=-1).astype(np.float32)


def _table(one: F32, other: F32) -> tuple[Lut, F32]:
    """The table from one picture to the other, and how much colours tell of each of its points.

    Colours are compared where both pictures are calm: there a shift of part of a pixel and lossy compression do no harm.
    """
    soft = [_soft(p) for p in (one, other)]
    edges = np.maximum(*(np.abs(p - s).max(axis=-1) for p, s in zip((one, other), soft, strict=True)))
    calm = edges < max(float(np.quantile(edges, 0.7)), 0.004)
    before, after = soft[0][calm].astype(np.float64), soft[1][calm].astype(np.float64)
    if len(before) > MOST:
        chosen = np.linspace(0, len(before) - 1, MOST).astype(int)
        before, after = before[chosen], after[chosen]
    values, told = _fitted(before, after)
    return Lut(np.ascontiguousarray(values.reshape(GRID, GRID, GRID, 3))), told


def pair(before: F32, after: F32, expects: str, gives: str, *, title: str = "") -> Pair:
    """A look from a picture in the encoding ``expects`` and what became of it, in ``gives``; float32 ``(height, width, 3)`` each.

    Raises ``CoreError`` where they do not show the same.
    """
    if min(*before.shape[:2], *after.shape[:2]) < 48:
        raise CoreError("A pair needs pictures of at least 48 pixels a side.")
    one, other, shift, scale = _laid_over(np.clip(before, 0, 1), np.clip(after, 0, 1))
    lut, told = _table(one, other)
    lut = replace(lut, title=title)
    vignette, even = 0.0, other
    for _ in range(UNSHADED):
        slope, explained = _falls_off(lut.apply(one), even)
        if abs(slope) < SLOPE or explained < EXPLAINS:
            break
        # The first table took a part of the falling off for a look: without it both are found better.
        vignette += slope
        even = (other / np.maximum(1 + vignette * _away(*other.shape[:2]), 0.2)[..., None]).astype(np.float32)
        lut, told = _table(one, even)
        lut = replace(lut, title=title)
    made = lut.apply(one)
    at = encoding(gives)
    shown = convert(_soft(one), encoding(expects), at)
    smooth = [np.clip(s, 0, 1).astype(np.float32) for s in (shown, _soft(other), lut.apply(_soft(one)))]
    change, left = (float(difference(s, smooth[1], at).mean()) for s in (smooth[0], smooth[2]))
    known = told.reshape(GRID, GRID, GRID)
    return Pair(
        lut=lut, share=float(np.clip(1 - left / max(change, 1e-6), 0, 1)), change=change, left=left, shift=shift, scale=scale,
        seen=float((known > SEEN).mean()), known=known, before=one, after=other, made=made, unexplained=(other - made).astype(np.float32),
        findings=_findings(one, made, even, vignette),
    )  # fmt: skip


def guessed(found: Pair, rgb: F32) -> F64:
    """How much the look guesses at colours ``(..., 3)`` in what it expects: 0 where colours told of them, 1 where none did near."""
    weight = weights_of_points(np.clip(rgb.reshape(-1, 3), 0, 1), GRID)
    told: F64 = np.asarray(weight @ (found.known.reshape(-1) > SEEN).astype(np.float64))
    return np.clip(1 - told, 0, 1).reshape(rgb.shape[:-1])


def guessed_cube(found: Pair, count: int = 6, size: int = 66) -> F64:
    """Where the look guesses in the cube of what it expects: slices of blue from 0 to 1 side by side, red to the right, green up.

    ``(size, count × size)``: 0 where colours told, 1 where none did.
    """
    up, right, blue = np.meshgrid(np.linspace(1, 0, size), np.linspace(0, 1, size), np.linspace(0, 1, count), indexing="ij")
    rgb = np.stack([right, up, blue], axis=-1).astype(np.float32)
    return np.concatenate(list(np.moveaxis(guessed(found, np.ascontiguousarray(rgb)), 2, 0)), axis=1)
