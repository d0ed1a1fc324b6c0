"""Capture: a look taken from a carrier that went through another program, and what happened to the picture on its way.

A look depends on colour alone. Whatever depends on the place of a pixel is damage, and each kind leaves its own trace: noise and grain
differ between neighbours on the grid; lossy compression leaves steps every eight pixels; shading follows the place in the picture
and so tears neighbours apart that sit far from each other; softening and sharpening mix what stands side by side in the picture
though far apart in colour. The limits are the house's, found on carriers damaged on purpose.
"""

from dataclasses import asdict, dataclass
from typing import Any, Literal

import numpy as np

from ..arrays import F32, F64
from ..difference import difference
from ..encodings import encoding
from ..tables.carrier import Arrangement, recognise
from ..tables.health import smooth_fit
from ..tables.lut import Lut

Verdict = Literal["accept", "smooth", "refuse"]
#: Size of a step of an 8-bit code.
STEP = 1 / 255
#: Standard deviation of rounding to 8 bits.
ROUNDING = STEP / np.sqrt(12)
_SEEN = "bt709_display"
_ORDER = 7
_SAMPLES = 9_000


@dataclass(frozen=True)
class Finding:
    """One kind of damage: its name, how much of it (in 8-bit codes where that fits), and words for a designer."""

    kind: Literal[
        "size", "palette", "profile", "noise", "compression", "rounding", "shading", "gradient", "softening", "sharpening", "not a carrier"
    ]  # fmt: skip
    amount: float
    words: str
    serious: bool


@dataclass(frozen=True)
class Capture:
    """What came back: the table, how it was laid out, what was found, and whether to rely on it.

    smoothed and change: offered where noise can be taken out: the table without it, and how much that itself changes colours
    (ΔE2000, mean and largest).
    """

    verdict: Verdict
    findings: tuple[Finding, ...]
    arrangement: Arrangement | None = None
    lut: Lut | None = None
    smoothed: Lut | None = None
    change: tuple[float, float] = (0.0, 0.0)

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


def _blocks(rest: F32) -> float:
    """How much larger the steps of the residual are at every eighth column and row than between; 1 for none."""
    ratios = []
    for axis in (0, 1):
        step = np.abs(np.diff(rest, axis=axis)).mean(axis=(1 - axis, 2))
        at = np.arange(len(step)) % 8 == 7
        if at.any() and (~at).any():
            ratios.append(float(step[at].mean() / max(step[~at].mean(), 1e-9)))
    return max(ratios, default=1.0)


def _cosines(n: int, order: int) -> F64:
    x = (np.arange(n) + 0.5) / n
    return np.cos(np.pi * np.outer(x, np.arange(order)))


def _shading(grid: F32, arrangement: Arrangement) -> tuple[float, float]:
    """Falling off toward the corners and leaning to one side, as shares of the light: a smooth look and a shading fitted at once.

    The look is a sum of cosines over the cube; the shading a sum over the picture, times the value.
    """
    n = arrangement.grid
    if arrangement.layout == "strip":
        # Along a strip place and blue are the same: nothing can be told apart.
        return 0.0, 0.0
    rng = np.random.default_rng(1)
    chosen = rng.choice(n**3, min(n**3, _SAMPLES), replace=False)
    b, g, r = np.unravel_index(chosen, (n, n, n))
    basis = _cosines(n, _ORDER)
    orders = [(i, j, k) for i in range(_ORDER) for j in range(_ORDER) for k in range(_ORDER) if i + j + k < _ORDER + 1]
    smooth = np.stack([basis[r, i] * basis[g, j] * basis[b, k] for i, j, k in orders], axis=1)
    column, row = arrangement.places()
    x = (column[chosen] + 0.5) / arrangement.width * 2 - 1
    y = (row[chosen] + 0.5) / arrangement.height * 2 - 1
    out, lean = [], []
    for c in range(3):
        value = grid.reshape(-1, 3)[chosen, c].astype(np.float64)
        live = (value > 0.04) & (value < 0.97)
        if live.sum() < 2 * len(orders):
            continue
        away = (x * x + y * y) / 2
        place = np.stack([value * away, value * away**2, value * x, value * y], axis=1)
        solved, *_ = np.linalg.lstsq(np.concatenate([smooth, place], axis=1)[live], value[live], rcond=None)
        near, far, across, _ = solved[-4:]
        out.append(near + far)
        # What runs down a Hald or tiles follows blue or green and cannot be told from a look; what runs across it can.
        lean.append(across)
    if not out:
        return 0.0, 0.0
    return float(np.median(out)), float(np.median(lean))


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
    colours = _colours(rgb)
    found = recognise(rgb)
    if found is None:
        size = (
            f"{rgb.shape[1]} × {rgb.shape[0]} pixels are no carrier's: it was cropped or resized on its way. Bring it back at its own size"
        )
        return Capture("refuse", (Finding("size", 0, size, True),))
    arrangement, grid = found
    if colours <= 256 < arrangement.grid**3:
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
    findings += _point_findings(grid, rest, depth, kind, coarse, spoiled=any(f.serious for f in findings))
    if any(f.serious for f in findings):
        return Capture("refuse", tuple(findings), arrangement, lut)
    if any(f.kind in ("noise", "compression") for f in findings):
        smoothed = Lut(smooth_fit(grid, _sigma(findings)), title=title)
        assert smoothed.grid is not None
        off = difference(grid, smoothed.grid, encoding(_SEEN))
        return Capture("smooth", tuple(findings), arrangement, lut, smoothed, (float(off.mean()), float(off.max())))
    return Capture("accept", tuple(findings), arrangement, lut)


def _sigma(findings: list[Finding]) -> float:
    worst = max(f.amount for f in findings if f.kind in ("noise", "compression"))
    return float(np.clip(0.8 + worst / 3, 0.8, 2.0))


def _place_findings(grid: F32, arrangement: Arrangement) -> list[Finding]:
    found = []
    corners, lean = _shading(grid, arrangement)
    pull, sure = _edges(grid)
    limit = 0.018 * (64 / len(grid)) ** 2 + 1.5 * sure + 4 * _noise(grid)
    if corners < -0.025:
        found.append(Finding("shading", -corners, f"darkened toward the corners by {-corners:.0%}: a vignette was on. Switch it off", True))
    elif corners > 0.025:
        found.append(Finding("shading", corners, f"lightened toward the corners by {corners:.0%}: a vignette was on. Switch it off", True))
    if abs(lean) > 0.03 and abs(pull) <= limit:
        found.append(
            Finding("gradient", abs(lean), f"lighter to one side by {2 * abs(lean):.0%}: a light or gradient was on. Switch it off", True)
        )
    if pull > limit:
        found.append(Finding("softening", pull, "neighbours in the picture are mixed: it was softened or resized. Switch that off", True))
    elif pull < -limit:
        found.append(Finding("sharpening", -pull, "neighbours in the picture are pushed apart: sharpening was on. Switch it off", True))
    return found


def _point_findings(grid: F32, rest: F32, depth: str, kind: str, coarse: bool, spoiled: bool) -> list[Finding]:
    found = []
    noise = _noise(grid)
    allowed = 2.2 * ROUNDING if depth == "8 bit" or coarse else 0.35 * ROUNDING
    blocks = _blocks(rest)
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
