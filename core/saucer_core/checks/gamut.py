"""Parts of a frame that the display cannot show."""

import numpy as np

from ..look import Look
from ..steps.encode import Encode
from .check import Check, Sight, with_steps

KINDS = ("gamut",)
#: Share of a picture that may lie outside the gamut.
SHARE = 0.08
#: Code values below black from which a pixel counts as outside.
DEPTH = 0.05


def find(seen: Sight) -> list[Check]:
    """Measured on the pictures, in the look's output."""
    program = seen.program
    if program.end.response != "display" or not seen.samples:
        return []
    outside = [float((program(p) < -DEPTH).any(axis=1).mean()) for p in seen.samples]
    worst = int(np.argmax(outside))
    if outside[worst] <= SHARE:
        return []
    text = f"{outside[worst]:.0%} of a frame lies outside what the display can show and is cut."
    return [
        Check("gamut", text, outside[worst], picture=worst, mask="outside", action="Fit the gamut at the end")
    ]


def mend(seen: Sight, check: Check) -> Look:
    """Fits the gamut at the end."""
    return with_steps(seen.look, [*seen.look.steps, Encode(to=seen.look.output, fit=True)])
