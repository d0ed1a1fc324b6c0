"""Skin bent so far that faces no longer look like faces."""

import numpy as np

from ..look import Look
from ..steps.saturation import Saturation
from .check import Check, Sight, ease, easing, heaviest, replaced, with_steps

KINDS = ("skin",)
#: Degrees that a look may turn the hue of skin.
SKIN_TURN = 34.0
#: Times the chroma of skin before a look that it may have after it, at most.
SKIN_MOST = 2.2
#: The same, at least.
SKIN_LEAST = 0.3
#: Guard of a saturation step below which the step is guarded first.
GUARDED = 0.7
#: The guard that it then gets.
GUARD = 0.9
GUARDING = "Guard skin"


def find(seen: Sight) -> list[Check]:
    """Measured on five skins, against the look's own mid grey."""
    now = seen.traits
    if now.monochrome:
        return []
    turned = abs(now.skin_hue) > SKIN_TURN
    if not turned and SKIN_LEAST <= now.skin_saturation <= SKIN_MOST:
        return []
    what = f"turned by {now.skin_hue:+.0f}°" if turned else f"at {now.skin_saturation:.0%} of its colour"
    text = f"Skin is {what}: faces will not look like faces."
    guard = next(
        (s.id for s in seen.look.steps if s.on and isinstance(s, Saturation) and s.skin_guard < GUARDED), ""
    )
    if guard:
        return [Check("skin", text, abs(now.skin_hue), guard, action=GUARDING)]
    at_fault = heaviest(
        seen, lambda t: abs(t.skin_hue) / SKIN_TURN + abs(float(np.log(max(t.skin_saturation, 1e-3))))
    )
    return [Check("skin", text, abs(now.skin_hue), at_fault, action=easing(seen.look, at_fault))]


def mend(seen: Sight, check: Check) -> Look:
    """Guards skin in the saturation step at fault, or eases the step that bends it most."""
    if check.action != GUARDING:
        return ease(seen, check)
    return with_steps(
        seen.look,
        replaced(seen.look.steps, check.step, lambda s: [s.model_copy(update={"skin_guard": GUARD})]),
    )
