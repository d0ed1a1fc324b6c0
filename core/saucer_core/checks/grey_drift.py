"""A mid grey that becomes a colour."""

import numpy as np

from .check import Check, Sight, ease, easing, heaviest

KINDS = ("grey drift",)
#: OKLab chroma that mid grey may gain.
DRIFT = 0.11

mend = ease


def find(seen: Sight) -> list[Check]:
    """Measured on the greys in the middle of a ramp."""
    now = seen.traits
    chroma = float(np.hypot(now.warmth, now.tint)) / 1000
    if chroma < DRIFT:
        return []
    text = f"Mid grey drifts: it gains a chroma of {chroma:.2f}, as much as a strong colour has."
    at_fault = heaviest(seen, lambda t: float(np.hypot(t.warmth, t.tint)))
    return [Check("grey drift", text, chroma, at_fault, action=easing(seen.look, at_fault))]
