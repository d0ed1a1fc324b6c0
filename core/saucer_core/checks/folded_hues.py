"""Hues that run backwards, so that different colours become the same."""

import numpy as np

from ..encodings import encoding
from ..encodings.oklab import to_oklab
from ..readings.traits import from_lch, on_screen
from ..screen import SCREEN
from ..steps.hue_ranges import HueRanges
from .check import Check, Sight, ease, easing

KINDS = ("folded hues",)
#: Degrees of the hue circle that may run backwards.
BACKWARDS = 25.0
#: OKLab chroma below which a hue does not count.
COLOURLESS = 0.02

mend = ease


def find(seen: Sight) -> list[Check]:
    """Measured on 72 hues of one lightness and chroma."""
    wheel = from_lch(tuple((0.66, 0.09, float(h)) for h in range(0, 360, 5)))
    lab = to_oklab(np.clip(on_screen(seen.look, wheel, seen.tables), 0, 1), encoding(SCREEN))
    if float(np.hypot(lab[:, 1], lab[:, 2]).mean()) < COLOURLESS:
        return []
    # A tint over everything is no fold: hues are judged around their own middle.
    lab[:, 1:] -= lab[:, 1:].mean(axis=0)
    turn = np.degrees(np.arctan2(lab[:, 2], lab[:, 1]))
    step = (np.diff(np.concatenate([turn, turn[:1]])) + 180) % 360 - 180
    strong = np.hypot(lab[:, 1], lab[:, 2]) > COLOURLESS
    backwards = float(-step[(step < 0) & strong].sum())
    if backwards < BACKWARDS:
        return []
    at_fault = next((s.id for s in seen.look.steps if s.on and isinstance(s, HueRanges)), "")
    text = (
        f"Hues are folded: {backwards:.0f}° of the circle run backwards, different colours become the same."
    )
    return [Check("folded hues", text, backwards, at_fault, action=easing(seen.look, at_fault))]
