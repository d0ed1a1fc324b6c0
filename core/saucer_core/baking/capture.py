"""Capture: a look taken from a carrier that went through another program, and what happened to the picture on its way.

A look depends on colour alone. Whatever depends on the place of a pixel is damage, and each kind leaves its own trace: noise and grain
differ between neighbours on the grid; lossy compression leaves steps every eight pixels; shading follows the place in the picture
and so tears neighbours apart that sit far from each other; softening and sharpening mix what stands side by side in the picture
though far apart in colour. The limits are Saucer's own, found on carriers damaged on purpose.
"""

from dataclasses import asdict, dataclass
from typing import Any, Literal

import numpy as np

from ..arrays import F32, F64
from ..difference import difference
from ..encodings import encoding
from ..tables.carrier import Arrangement, carrier_part, recognise
from ..tables.health import smooth_fit
from ..tables.lut import Lut

Verdict = Literal["accept", "smooth", "refuse"]
#: Size of a step of an 8-bit code.
STEP = 1 / 255
#: Standard deviation of rounding to 8 bits.
ROUNDING = STEP / np.sqrt(12)
_SEEN = "bt709_display"
#: Terms of the smooth look in each of the three colours, and places of the grid that it is fitted to.
_ORDER, _SAMPLES = 7, 9_000
#: Colours that a palette holds, and values of a channel up to which a picture counts as posterised.
_FEW, _POSTERISED = 256, 32
#: Share of the light by which shading must fall off or lean to count, and how much it, or a glow, must explain: clean carriers of
#: looks lie below 1.01.
_FALLS, _LEANS, _EXPLAINS = 0.025, 0.03, 1.03


@dataclass(frozen=True)
class Finding:
    """One kind of damage: its name, how much of it (in 8-bit codes where that fits), and words for a designer."""

    kind: Literal[
        "size", "palette", "posterising", "profile", "noise", "compression", "rounding", "shading", "gradient", "glow", "softening",
        "sharpening", "not a carrier",
    ]  # fmt: skip
    amount: float
    words: str
    serious: bool


@dataclass(frozen=True)
class Capture:
    """What came back: the table, how it was laid out, what was found, and whether to rely on it.

    smoothed and change: offered where noise can be taken out: the table without it, and how much that itself changes colours
    (ΔE2000, mean and largest). picture: the carrier as it came back; unexplained: what of it no smooth look gives, signed; both float32
    ``(height, width, 3)``, ``None`` where it is no carrier.
    """

    verdict: Verdict
    findings: tuple[Finding, ...]
    arrangement: Arrangement | None = None
    lut: Lut | None = None
    smoothed: Lut | None = None
    change: tuple[float, float] = (0.0, 0.0)
    picture: F32 | None = None
    unexplained: F32 | None = None

    def reasons(self) -> list[str]:
        """All findings in words."""
        return [f.words for f in self.findings]

    def as_dict(self) -> dict[str, Any]:
        """Plain values, for JSON."""
        return {
            "verdict": self.verdict, "findings": [asdict(f) for f in self.findings],
            "layout": self.arrangement.layout if self.arrangement else None, "grid": self.arrangement.grid if self.arrangement else 0,
            "smoothing changes": self.change,
        }  # fmt: skip


def _in_eight_bits(rgb: F32) -> bool:
    """Whether every value is one that 8 bits have."""
    codes = rgb.reshape(-1).astype(np.float64) * 255
    return bool((np.abs(codes - np.round(codes)) < 4e-3).mean() > 0.999)


def _colours(rgb: F32) -> int:
    """How many different colours there are, to 16 bits."""
    codes = np.round(np.clip(rgb.reshape(-1, 3), 0, 1) * 65535).astype(np.int64)
    return len(np.unique(codes[:, 0] << 32 | codes[:, 1] << 16 | codes[:, 2]))


def _steps(rgb: F32) -> list[int]:
    """How many different values each channel has, to 16 bits."""
    codes = np.round(np.clip(rgb.reshape(-1, 3), 0, 1) * 65535)
    return [len(np.unique(codes[:, c])) for c in range(3)]


def _noise(grid: F32) -> float:
    """Standard deviation of what differs from point to point: fourth differences, which smooth looks hardly have."""
    found = []
    for axis in range(3):
        fourth = np.diff(grid.astype(np.float64), n=4, axis=axis) / np.sqrt(70)
        inside = np.take(grid, range(2, grid.shape[axis] - 2), axis)
        live = fourth[(inside > 0.02) & (inside < 0.98)]
        if live.size > 100:
            found.append(np.median(np.abs(live)) / 0.6745)
    return float(np.median(found)) if found else 0.0


def _blocks(rest: F32, arrangement: Arrangement) -> float:
    """How much larger the steps of the residual are at every eighth column and row than between; 1 for none.

    Where the grid itself jumps (the end of a line of red, of a slice) steps are large whatever happened: they do not count.
    """
    seams = (arrangement.level if arrangement.layout == "hald" else arrangement.grid, arrangement.grid)
    ratios = []
    for axis in (0, 1):
        step = np.abs(np.diff(rest, axis=axis)).mean(axis=(1 - axis, 2))
        places = np.arange(len(step)) + 1
        step, places = step[places % seams[axis] != 0], places[places % seams[axis] != 0]
        at = places % 8 == 0
        if at.any() and (~at).any():
            ratios.append(float(step[at].mean() / max(step[~at].mean(), 1e-9)))
    return max(ratios, default=1.0)


@dataclass(frozen=True)
class _Placed:
    """What follows the place in the picture: falling off toward the corners and leaning to one side, as shares of the light, and light
    laid over it; each with how much less of the picture a smooth look leaves unexplained once that is taken into account (1: nothing).
    """

    corners: float = 0.0
    lean: float = 0.0
    shading_explains: float = 1.0
    glow_explains: float = 1.0


def _placed(grid: F32, arrangement: Arrangement) -> _Placed:
    """A smooth look and what follows the place, fitted at once.

    The look is a polynomial of the colour that came in (Chebyshev, as smooth looks are met by few terms) and of that times what came
    out; shading is what came out times the place; a glow is a smooth sum over the place alone.
    """
    n = arrangement.grid
    if arrangement.layout == "strip":
        # Along a strip place and blue are the same: nothing can be told apart.
        return _Placed()
    rng = np.random.default_rng(1)
    chosen = rng.choice(n**3, min(n**3, _SAMPLES), replace=False)
    b, g, r = np.unravel_index(chosen, (n, n, n))
    basis = np.polynomial.chebyshev.chebvander(np.linspace(-1, 1, n), _ORDER - 1)
    orders = [(i, j, k) for i in range(_ORDER) for j in range(_ORDER) for k in range(_ORDER) if i + j + k < _ORDER + 1]
    smooth = np.stack([basis[r, i] * basis[g, j] * basis[b, k] for i, j, k in orders], axis=1)
    given = [basis[r, 1], basis[g, 1], basis[b, 1]]
    bent = np.stack([*given, *(p * q for k, p in enumerate(given) for q in given[k:])], axis=1)
    column, row = arrangement.places()
    x = (column[chosen] + 0.5) / arrangement.width * 2 - 1
    y = (row[chosen] + 0.5) / arrangement.height * 2 - 1
    away = (x * x + y * y) / 2
    waves = [np.cos(np.pi * k * (x + 1) / 2) for k in range(1, 6)]
    if arrangement.layout == "tiles":
        # What runs down a Hald follows blue and cannot be told from a look; down tiles it can.
        down = [np.cos(np.pi * k * (y + 1) / 2) for k in range(1, 6)]
        waves += [*down, *(p * q for p in waves[:3] for q in down[:3])]
    found = []
    for c in range(3):
        value = grid.reshape(-1, 3)[chosen, c].astype(np.float64)
        live = (value > 0.04) & (value < 0.97)
        if live.sum() < 2 * len(orders):
            continue
        look = np.concatenate([smooth, value[:, None] * bent], axis=1)[live]
        shading = np.stack([value * away, value * away**2, value * x, value * y], axis=1)[live]
        _, left = _least(look, value[live])
        solved, left_by_shading = _least(np.concatenate([look, shading], axis=1), value[live])
        _, left_by_glow = _least(np.concatenate([look, np.stack(waves, axis=1)[live]], axis=1), value[live])
        near, far, across, _ = solved[-4:]
        found.append((near + far, across, left / left_by_shading, left / left_by_glow))
    if not found:
        return _Placed()
    return _Placed(*(float(v) for v in np.median(np.array(found), axis=0)))


def _least(terms: F64, wanted: F64) -> tuple[F64, float]:
    """The least-squares solution, and the root mean square of what it leaves; never less than a rounding to 16 bits."""
    solved: F64 = np.linalg.lstsq(terms, wanted, rcond=None)[0].astype(np.float64)
    return solved, float(np.sqrt(np.mean((wanted - terms @ solved) ** 2) + (1 / 65535) ** 2))


def _edges(grid: F32) -> tuple[float, float]:
    """How far values at the ends of a line of red are pulled toward each other (softened, above 0) or pushed apart (sharpened).

    In every layout red runs along a line of the picture and jumps back at its end. Second: how far the same guess is off inside, where
    nothing jumps.
    """
    g = grid.astype(np.float64)[1:-1, 1:-1]
    # The quadratic through the third to seventh point, carried on to the first.
    first = 3 * g[:, :, 2] - 3 * g[:, :, 4] + g[:, :, 6] if g.shape[2] > 12 else 2 * g[:, :, 2] - g[:, :, 4]
    last = 3 * g[:, :, -3] - 3 * g[:, :, -5] + g[:, :, -7] if g.shape[2] > 12 else 2 * g[:, :, -3] - g[:, :, -5]
    range_ = g[:, :, -3] - g[:, :, 2]
    live = (np.abs(range_) > 0.2) & (g[:, :, 0] > 0.015) & (g[:, :, -1] < 0.985)
    near = np.where(live, (g[:, :, 0] - first) / np.where(live, range_, 1), 0)
    away = np.where(live, (last - g[:, :, -1]) / np.where(live, range_, 1), 0)
    if not live.any():
        return _clipped_edges(g), 0.0
    count = 2 * int(live.sum())
    guess = 3 * g[:, :, 6] - 3 * g[:, :, 8] + g[:, :, 10] if g.shape[2] > 12 else 2 * g[:, :, 4] - g[:, :, 6]
    inside = np.where(live, np.abs(g[:, :, 4 if g.shape[2] > 12 else 2] - guess) / np.where(live, np.abs(range_), 1), 0)
    return float((near.sum() + away.sum()) / count), float(inside.sum() / (count / 2))


def _clipped_edges(g: F64) -> float:
    """The same where the ends are clipped: only softening can be seen, as ends that are not black and white."""
    low, high = g[:, :, 0], g[:, :, -1]
    reach = float(np.median(g[:, :, -4] - g[:, :, 3]))
    pulled = float(np.median(low[..., 0]) + 1 - np.median(high[..., 0]))
    return pulled if reach > 0.3 and pulled > 0.08 else 0.0


def _identity_like(grid: F32) -> bool:
    """Whether neighbours in the grid are neighbours in colour at all."""
    steps = [np.abs(np.diff(grid, axis=a)).mean() for a in range(3)]
    spread = float(grid.std())
    return spread < 1e-4 or float(np.mean(steps)) < 0.35 * spread + 2 / len(grid)


def capture(rgb: F32, *, depth: str = "16 bit", kind: str = "PNG", profile: str = "", title: str = "") -> Capture:
    """The look that a carrier picture ``(height, width, 3)`` brings back. depth, kind, profile: what its file says of itself."""
    findings: list[Finding] = []
    part = carrier_part(rgb)
    if part is not rgb and (beside := recognise(part)) is not None and _identity_like(beside[1]):
        rgb = part
    colours = _colours(rgb)
    found = recognise(rgb)
    if found is None:
        size = (
            f"{rgb.shape[1]} × {rgb.shape[0]} pixels are no carrier's: it was cropped or resized on its way. Bring it back at its own size"
        )
        return Capture("refuse", (Finding("size", 0, size, True),))
    arrangement, grid = found
    if colours <= _FEW < arrangement.grid**3:
        steps = _steps(rgb)
        if max(steps) <= _POSTERISED and colours == np.prod(steps):
            words = f"each channel has only {' / '.join(map(str, steps))} steps left: it was posterised. Switch that off"
            return Capture("refuse", (Finding("posterising", max(steps), words, True),), arrangement)
        words = f"only {colours} different colours are left: it was saved with a palette. Save it as 16-bit PNG or TIFF"
        return Capture("refuse", (Finding("palette", colours, words, True),), arrangement)
    if not _identity_like(grid):
        return Capture(
            "refuse", (Finding("not a carrier", 0, "the colours are in no order that a carrier has: it is another picture", True),)
        )
    if profile:
        findings.append(
            Finding("profile", 0, f"it carries a colour profile ({profile}): a program may have converted it. Save it without", False)
        )
    lut = Lut(grid, title=title)
    fit = smooth_fit(grid, 2.0)
    x, y = arrangement.places()
    rest = np.zeros_like(rgb)
    rest[y, x] = (grid - fit).reshape(-1, 3)
    coarse = depth != "8 bit" and _in_eight_bits(rgb)
    findings += _place_findings(grid, arrangement)
    spoiled = any(f.kind in ("softening", "sharpening") for f in findings)
    findings += _point_findings(grid, rest, arrangement, depth, kind, coarse, spoiled)
    if any(f.serious for f in findings):
        return Capture("refuse", tuple(findings), arrangement, lut, picture=rgb, unexplained=rest)
    if any(f.kind in ("noise", "compression") for f in findings):
        smoothed = Lut(smooth_fit(grid, _sigma(findings)), title=title)
        assert smoothed.grid is not None
        off = difference(grid, smoothed.grid, encoding(_SEEN))
        return Capture("smooth", tuple(findings), arrangement, lut, smoothed, (float(off.mean()), float(off.max())), rgb, rest)
    return Capture("accept", tuple(findings), arrangement, lut, picture=rgb, unexplained=rest)


def _sigma(findings: list[Finding]) -> float:
    worst = max(f.amount for f in findings if f.kind in ("noise", "compression"))
    return float(np.clip(0.8 + worst / 3, 0.8, 2.0))


def _place_findings(grid: F32, arrangement: Arrangement) -> list[Finding]:
    found = []
    placed = _placed(grid, arrangement)
    pull, sure = _edges(grid)
    limit = 0.018 * (64 / len(grid)) ** 2 + 1.5 * sure + 4 * _noise(grid)
    shaded = placed.shading_explains > _EXPLAINS
    if shaded and abs(placed.corners) > _FALLS:
        how = f"{'darkened' if placed.corners < 0 else 'lightened'} toward the corners by {abs(placed.corners):.0%}"
        found.append(Finding("shading", abs(placed.corners), f"{how}: a vignette was on. Switch it off", True))
    if shaded and abs(placed.lean) > _LEANS and abs(pull) <= limit:
        words = f"lighter to one side by {2 * abs(placed.lean):.0%}: a light or gradient was on. Switch it off"
        found.append(Finding("gradient", abs(placed.lean), words, True))
    if not found and placed.glow_explains > _EXPLAINS and abs(pull) <= limit:
        words = "light is laid over it that follows the place: a glow, haze or lens effect was on. Switch it off"
        found.append(Finding("glow", placed.glow_explains - 1, words, True))
    if pull > limit:
        found.append(Finding("softening", pull, "neighbours in the picture are mixed: it was softened or resized. Switch that off", True))
    elif pull < -limit:
        found.append(Finding("sharpening", -pull, "neighbours in the picture are pushed apart: sharpening was on. Switch it off", True))
    return found


def _point_findings(grid: F32, rest: F32, arrangement: Arrangement, depth: str, kind: str, coarse: bool, spoiled: bool) -> list[Finding]:
    found = []
    noise = _noise(grid)
    allowed = 2.2 * ROUNDING if depth == "8 bit" or coarse else 0.35 * ROUNDING
    blocks = _blocks(rest, arrangement)
    codes = noise / STEP
    if kind == "JPEG" or (blocks > 1.35 and noise > allowed) or (blocks > 2 and noise > 1.5 * ROUNDING):
        serious = codes > 3.0
        found.append(
            Finding(
                "compression",
                codes,
                f"it was compressed with loss (about {codes:.1f} of 255 from point to point). Save it as PNG or TIFF",
                serious,
            )
        )
    elif noise > allowed:
        # Softening and sharpening change the differences from point to point too: they are named by themselves.
        if not spoiled:
            words = f"neighbouring colours differ by about {codes:.1f} of 255 without order: grain or noise was on. Switch it off"
            found.append(Finding("noise", codes, words, codes > 4.0))
    elif coarse:
        found.append(Finding("rounding", 1.0, "it holds 8-bit steps in a deeper file: some program on the way worked in 8 bits", False))
    return found
