"""Capture: a look taken from a carrier that went through another program, and what happened to the picture on
its way.

A look depends on colour alone. Whatever depends on the place of a pixel is damage, and each kind leaves its
own trace (``damage``). The limits are Saucer's own, found on carriers damaged on purpose; docs/colour.md has
the table of what is told.
"""

from dataclasses import asdict, dataclass
from typing import Literal

import numpy as np

from ..arrays import F32
from ..difference import difference
from ..encodings import encoding
from ..tables.carrier import Arrangement, carrier_part, recognise
from ..tables.health import smooth_fit
from ..tables.lut import Lut
from .damage.line_ends import line_ends, shifted
from .damage.marks import marked
from .damage.noise import noise
from .damage.seams import Light, light, seams

Verdict = Literal["accept", "smooth", "ask", "refuse"]
FindingKind = Literal[
    "size",
    "palette",
    "posterising",
    "profile",
    "noise",
    "compression",
    "rounding",
    "shading",
    "gradient",
    "glow",
    "local",
    "softening",
    "sharpening",
    "filtering",
    "shifted",
    "mark",
    "not a carrier",
    "untold",
]
#: Size of a step of an 8-bit code.
STEP = 1 / 255
#: Size of a step of a 16-bit code.
FINE = 1 / 65535
#: Standard deviation of rounding to 8 bits.
ROUNDING = STEP / np.sqrt(12)
_SEEN = "bt709_display"
#: Colours that a palette holds.
_FEW = 256
#: Values of a channel up to which a picture counts as posterised.
_POSTERISED = 32
#: Distance from a smooth table, in 8-bit codes, within which few colours come from rounding a look that gives
#: few.
_ROUNDED = 2.0
#: Points a side from which damage that follows the place can be told.
_TELLING = 12
#: Damage that changes the differences from point to point too, so that noise cannot be told beside it.
_SPOILS = ("softening", "sharpening", "filtering", "mark", "shifted")
#: Share of the jumps at seams that a kind of light must explain to be named.
_EXPLAINS = 0.6
#: How much larger steps are at the edges of blocks than inside where noise is called compression.
_BLOCKY = 1.35
#: What is said of every strip.
_UNTOLD = (
    "in a strip the place follows blue: a vignette, a light from one side, a glow or local contrast cannot "
    "be told from a look. "
    "To be sure, carry a square"
)


@dataclass(frozen=True)
class Finding:
    """One kind of damage: its name, how much of it (in 8-bit codes where that fits), and words for a
    designer."""

    kind: FindingKind
    amount: float
    words: str
    serious: bool


@dataclass(frozen=True)
class Capture:
    """What came back: the table, how it was laid out, what was found, and whether to rely on it (*ask*: if it
    was meant so).

    smoothed and change: offered where noise can be taken out: the table without it, and how much that itself
    changes colours (ΔE2000, mean and largest). picture: the carrier as it came back; unexplained: what of it
    no smooth look gives, signed; both float32 ``(height, width, 3)``, ``None`` where it is no carrier.
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

    def as_dict(self) -> dict[str, object]:
        """Plain values, for JSON."""
        return {
            "verdict": self.verdict,
            "findings": [asdict(f) for f in self.findings],
            "layout": self.arrangement.layout if self.arrangement else None,
            "grid": self.arrangement.grid if self.arrangement else 0,
            "smoothing changes": self.change,
        }


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


def _blocks(rest: F32, arrangement: Arrangement) -> float:
    """How much larger the steps of the residual are at every eighth column and row than between; 1 for none.

    Where the grid itself jumps (the end of a line of red, of a slice) steps are large whatever happened: they
    do not count.
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


def _identity_like(grid: F32) -> bool:
    """Whether neighbours in the grid are neighbours in colour at all."""
    steps = [np.abs(np.diff(grid, axis=a)).mean() for a in range(3)]
    spread = float(grid.std())
    return spread < 1e-4 or float(np.mean(steps)) < 0.35 * spread + 2 / len(grid)


def capture(
    rgb: F32, *, depth: str = "16 bit", kind: str = "PNG", profile: str = "", title: str = ""
) -> Capture:
    """The look that a carrier picture ``(height, width, 3)`` brings back. depth, kind, profile: what its file
    says of itself."""
    findings: list[Finding] = []
    part = carrier_part(rgb)
    if part is not rgb and (beside := recognise(part)) is not None and _identity_like(beside[1]):
        rgb = part
    found = recognise(rgb)
    if found is None:
        size = (
            f"{rgb.shape[1]} × {rgb.shape[0]} pixels are no carrier's: it was cropped or resized on its "
            "way. Bring it back at its own size"
        )
        return Capture("refuse", (Finding("size", 0, size, True),))
    arrangement, grid = found
    fit = smooth_fit(grid, 2.0)
    few = _few_colours(rgb, grid, fit)
    if few is not None and few.serious:
        return Capture("refuse", (few,), arrangement)
    if few is None and not _identity_like(grid):
        return Capture(
            "refuse",
            (
                Finding(
                    "not a carrier",
                    0,
                    "the colours are in no order that a carrier has: it is another picture",
                    True,
                ),
            ),
        )
    if profile:
        findings.append(
            Finding(
                "profile",
                0,
                f"it carries a colour profile ({profile}): a program may have converted it. Save it without",
                False,
            )
        )
    lut = Lut(grid, title=title)
    x, y = arrangement.places()
    rest = np.zeros_like(rgb)
    rest[y, x] = (grid - fit).reshape(-1, 3)
    coarse = depth == "8 bit" or _in_eight_bits(rgb)
    level = noise(grid)
    placed = (
        [] if few is not None else _place_findings(rgb, grid, arrangement, STEP if coarse else FINE, level)
    )
    findings += placed
    if few is not None:
        findings.append(few)
    else:
        findings += _point_findings(
            grid,
            rest,
            arrangement,
            depth,
            kind,
            coarse,
            level,
            spoiled=any(f.kind in _SPOILS for f in placed),
        )
    if arrangement.layout == "strip" and not any(f.serious for f in findings):
        findings.append(Finding("untold", 0, _UNTOLD, False))
    if any(f.serious for f in findings):
        return Capture("refuse", tuple(findings), arrangement, lut, picture=rgb, unexplained=rest)
    if few is not None:
        return Capture("ask", tuple(findings), arrangement, lut, picture=rgb, unexplained=rest)
    if any(f.kind in ("noise", "compression") for f in findings):
        smoothed = Lut(smooth_fit(grid, _sigma(findings)), title=title)
        assert smoothed.grid is not None
        off = difference(grid, smoothed.grid, encoding(_SEEN))
        return Capture(
            "smooth",
            tuple(findings),
            arrangement,
            lut,
            smoothed,
            (float(off.mean()), float(off.max())),
            rgb,
            rest,
        )
    return Capture("accept", tuple(findings), arrangement, lut, picture=rgb, unexplained=rest)


def _few_colours(rgb: F32, grid: F32, fit: F32) -> Finding | None:
    """Posterising or a palette, where only few colours are left and the look does not give few by itself, as
    a monochrome one does."""
    colours = _colours(rgb)
    if not colours <= _FEW < len(grid) ** 3 or float(np.quantile(np.abs(grid - fit), 0.9)) < _ROUNDED * STEP:
        return None
    greys = float(np.ptp(rgb, axis=-1).max()) < 1.5 * STEP
    if greys and colours > _POSTERISED:
        return None
    steps = _steps(rgb)
    if max(steps) <= _POSTERISED and colours in (np.prod(steps), max(steps)):
        words = (
            f"each channel has only {' / '.join(map(str, steps))} steps left: it was posterised. Take "
            "it if that is meant so"
        )
        return Finding("posterising", max(steps), words, False)
    return Finding(
        "palette",
        colours,
        f"only {colours} different colours are left: it was saved with a palette. Save it as 16-bit "
        "PNG or TIFF",
        True,
    )


def _sigma(findings: list[Finding]) -> float:
    worst = max(f.amount for f in findings if f.kind in ("noise", "compression"))
    return float(np.clip(0.8 + worst / 3, 0.8, 2.0))


def _place_findings(
    rgb: F32, grid: F32, arrangement: Arrangement, rounding: float, level: float
) -> list[Finding]:
    """What follows the place in the picture; ``rounding``: a step of its codes; ``level``: of its noise."""
    if arrangement.grid < _TELLING:
        return []
    across, down = shifted(rgb, arrangement)
    if across or down:
        way = (
            f"{abs(across)} to the {'right' if across > 0 else 'left'}"
            if across
            else f"{abs(down)} {'down' if down > 0 else 'up'}"
        )
        words = (
            f"the picture was moved by {way} (pixels): it was cropped, aligned or stabilised. Bring it "
            "back as it lay"
        )
        return [Finding("shifted", abs(across or down), words, True)]
    found = []
    if marked(grid, arrangement):
        found.append(
            Finding(
                "mark",
                1.0,
                "something lies over a part of it: a watermark, writing, dust or a retouched spot",
                True,
            )
        )
    ends, torn = line_ends(grid), seams(grid, arrangement, rounding)
    mixed = ends.mixed(rounding, level)
    if mixed > 0:
        words = "neighbours in the picture are mixed: it was softened, filtered or resized. Switch that off"
        found.append(Finding("softening", ends.pulled, words, True))
    elif mixed < 0:
        words = "neighbours in the picture are pushed apart: sharpening was on. Switch it off"
        found.append(Finding("sharpening", -ends.pulled, words, True))
    # What mixes neighbours, and a mark, tear seams too: they are named by themselves.
    if not found and torn.follows_place(rounding):
        if seams(grid, arrangement, rounding, inside=True).follows_place(rounding):
            found.append(_lit(light(grid, arrangement)))
        else:
            words = (
                "neighbours in the picture work on each other: sharpening, softening or another filter "
                "was on. Switch it off"
            )
            found.append(Finding("filtering", torn.size / STEP, words, True))
    return found


def _lit(shone: Light) -> Finding:
    """What light over the place is called."""
    if shone.shading > max(_EXPLAINS, shone.glow):
        if abs(shone.corners) >= abs(shone.lean):
            how = (
                f"{'darkened' if shone.corners < 0 else 'lightened'} toward the corners by "
                f"{abs(shone.corners):.0%}"
            )
            return Finding("shading", abs(shone.corners), f"{how}: a vignette was on. Switch it off", True)
        words = "lighter toward one side: a light, a gradient or local tone mapping was on. Switch it off"
        return Finding("gradient", abs(shone.lean), words, True)
    if shone.glow > _EXPLAINS:
        words = (
            "light is laid over it that follows the place: a glow, haze, lens effect or local tone "
            "mapping was on. Switch it off"
        )
        return Finding("glow", shone.glow, words, True)
    words = (
        "equal colours became different ones by their place: local contrast, tone mapping or a filter "
        "was on. Switch it off"
    )
    return Finding("local", 1.0, words, True)


def _point_findings(
    grid: F32,
    rest: F32,
    arrangement: Arrangement,
    depth: str,
    kind: str,
    coarse: bool,
    level: float,
    spoiled: bool,
) -> list[Finding]:
    found = []
    allowed = 2.0 * ROUNDING if coarse else 0.35 * ROUNDING
    restless = coarse and not spoiled and len(grid) >= _TELLING and line_ends(grid).torn_up(STEP)
    codes = level / STEP
    if (
        kind == "JPEG"
        or restless
        or (level > allowed and not spoiled and _blocks(rest, arrangement) > _BLOCKY)
    ):
        words = (
            f"it was compressed with loss (about {codes:.1f} of 255 from point to point). Save it as "
            "PNG or TIFF"
        )
        found.append(Finding("compression", codes, words, codes > 3.0 or restless))
    elif level > allowed:
        # Softening and sharpening change the differences from point to point too: they are named by
        # themselves.
        if not spoiled:
            words = (
                f"neighbouring colours differ by about {codes:.1f} of 255 without order: grain or noise "
                "was on. Switch it off"
            )
            found.append(Finding("noise", codes, words, codes > 4.0))
    elif coarse and depth != "8 bit":
        found.append(
            Finding(
                "rounding",
                1.0,
                "it holds 8-bit steps in a deeper file: some program on the way worked in 8 bits",
                False,
            )
        )
    return found
