"""What in a treated picture no look can be: grain, softening, work on a part of it, a vignette."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter, uniform_filter

from ..arrays import F32, F64
from .laying_over import lightness

FindingKind = Literal["vignette", "grain", "local work", "blur"]
#: Grain that is spoken of, in codes of 255.
GRAIN = 0.8
#: Times more fine detail than the look makes, from which it is spoken of.
MORE = 1.25
#: Code value by which a patch must be off to count.
OFF = 0.02
#: Share of the picture that such patches must fill.
PATCHES = 0.02
#: Share of a patch that must be known.
KNOWN = 0.4
#: Of the fine detail that the look makes, less than this is softening.
SOFTENED = 0.6


@dataclass(frozen=True)
class PairFinding:
    """Something in the treated picture that no look can be: how much of it, and words for a designer."""

    kind: FindingKind
    amount: float
    words: str


def vignette(fall: float) -> PairFinding:
    """The part of the light that the corners lack, negative where they have more."""
    way = "darker" if fall > 0 else "lighter"
    return PairFinding(
        "vignette", abs(fall), f"a vignette: the corners are {way} by {abs(fall):.0%} of the light"
    )


def worked_on(rest: F32, known: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Patches of a picture that are off from what the look makes of them, ``(h, w)``. known: pixels whose
    colours the look knows."""
    part = uniform_filter(gaussian_filter(known.astype(np.float64), 4), 17)
    held = np.where(known[..., None], rest, 0).astype(np.float64)
    broad = (
        np.stack([uniform_filter(gaussian_filter(held[..., c], 4), 17) for c in range(3)], axis=-1)
        / np.maximum(part, KNOWN)[..., None]
    )
    found: NDArray[np.bool_] = (np.abs(broad).max(axis=-1) > OFF) & (part > KNOWN)
    return found


def findings(before: F32, made: F32, after: F32, known: NDArray[np.bool_]) -> list[PairFinding]:
    """What depends on more than the colour: ``before`` untouched, ``made`` by the look, ``after`` without a
    vignette; ``(h, w, 3)``."""
    found: list[PairFinding] = []
    luma, source = lightness(made), lightness(before)
    lit = (luma > 0.04) & (luma < 0.96)
    flat = lit & (np.abs(_fine(source)) < 0.006)
    if flat.sum() > 500:
        # By the median: grain is everywhere, what compression leaves is beside edges.
        has, makes = (
            1.4826 * 255 * float(np.median(np.abs(_fine(v)[flat]))) for v in (lightness(after), luma)
        )
        noise = float(np.sqrt(max(has**2 - makes**2, 0)))
        if noise > GRAIN and has > MORE * makes:
            found.append(
                PairFinding(
                    "grain",
                    noise,
                    f"grain or noise: {noise:.1f} of 255 that the untouched picture does not have",
                )
            )
    local = worked_on(after - made, known)
    share = float(local.mean())
    if share > PATCHES:
        rows, columns = np.nonzero(local)
        height, width = local.shape
        where = (
            f"{_side(rows.mean() / height, 'top', 'bottom')} {_side(columns.mean() / width, 'left', 'right')}"
        ).strip() or "middle"
        found.append(
            PairFinding(
                "local work",
                share,
                f"work on a part of the picture: {share:.0%} of it, most toward the {where}",
            )
        )
    sharp = [float(np.abs(v - gaussian_filter(v, 1)).mean()) for v in (luma, lightness(after))]
    if sharp[1] < SOFTENED * sharp[0]:
        found.append(
            PairFinding(
                "blur",
                sharp[1] / max(sharp[0], 1e-9),
                "softening: fine detail of the untouched picture is gone",
            )
        )
    return found


def _fine(luma: F64) -> F64:
    found: F64 = luma - gaussian_filter(luma, 1.5)
    return found


def _side(at: float, low: str, high: str) -> str:
    return low if at < 0.4 else high if at > 0.6 else ""
