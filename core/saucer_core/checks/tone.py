"""Greys that come out in another order, or too far apart."""

import numpy as np

from ..arrays import F32
from ..luma import LUMA32
from .check import Check, Sight, culprit, ease, easing, greys

KINDS = ("tone turns back", "banding")
#: Code value by which a lighter grey may come out darker.
BACK = 2e-3
#: Largest jump between neighbouring 8-bit greys, in 8-bit codes.
JUMP = 7.0

mend = ease


def _back(out: F32) -> bool:
    return float(np.diff(np.clip(out, 0, 1) @ LUMA32).min()) < -BACK


def _jump(out: F32) -> float:
    return float(np.diff(np.clip(out, 0, 1), axis=0).max()) * 255


def find(seen: Sight) -> list[Check]:
    """Measured on a grey ramp."""
    program = seen.program
    out = greys(program)
    found = []
    if _back(out):
        fall = -float(np.minimum(np.diff(np.clip(out, 0, 1) @ LUMA32), 0).sum()) * 255
        step = culprit(seen, _back)
        text = f"Tones turn back: a lighter grey comes out darker, by {fall:.0f} of 255 in all."
        found.append(Check("tone turns back", text, fall, step, action=easing(seen.look, step)))
    if program.source.response == "display" and _jump(out) > JUMP:
        step = culprit(seen, lambda rgb: _jump(rgb) > JUMP)
        text = f"Neighbouring 8-bit greys come out up to {_jump(out):.0f} codes apart: soft shades will band."
        found.append(Check("banding", text, _jump(out), step, action=easing(seen.look, step)))
    return found
