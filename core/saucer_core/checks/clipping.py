"""Parts of a frame that become plain white."""

import numpy as np

from ..encodings import encoding, meet
from ..look import Look
from ..readings.masks import SLACK
from ..steps.roll_off import RollOff
from .check import Check, Sight, with_steps

KINDS = ("clipping",)
#: Share of a picture that may become white.
SHARE = 0.06
#: Code value from which a pixel was white before.
WHITE = 0.985
#: Code value from which the lights are then softened.
SOFT_FROM = 0.6


def find(seen: Sight) -> list[Check]:
    """Measured on the pictures, against what they are without the look."""
    program = seen.program
    if program.end.response != "display" or not seen.samples:
        return []
    clipped = []
    for given in seen.samples:
        before = (meet(given, program.source, encoding(seen.look.output)) >= WHITE).all(axis=1)
        clipped.append(float(((program(given) >= 1 - SLACK).all(axis=1) & ~before).mean()))
    worst = int(np.argmax(clipped))
    if clipped[worst] <= SHARE:
        return []
    text = f"{clipped[worst]:.0%} of a frame becomes plain white."
    return [Check("clipping", text, clipped[worst], picture=worst, mask="white", action="Soften the lights")]


def mend(seen: Sight, check: Check) -> Look:
    """Rolls the lights off at the end."""
    return with_steps(seen.look, [*seen.look.steps, RollOff(lights=SOFT_FROM)])
