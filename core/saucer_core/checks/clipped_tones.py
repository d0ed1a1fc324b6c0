"""A step that works on tones which an earlier step has clipped."""

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32
from ..look import Look
from ..program import Program
from .check import Check, Sight, name_of, numbered, with_steps

KINDS = ("clipped tones",)
#: Share of a picture that may be flat before such a step.
FLAT_SHARE = 0.02
#: Change of code value below which a tone counts as flat.
FLAT_GAIN = 0.0012
#: How much brighter the light is made to see which tones still answer: a quarter of a stop.
BRIGHTER = np.float32(1.19)
_TONE = ("exposure", "contrast", "levels", "curves", "balance", "slope_offset_power", "lift_gamma_gain")


def _flat(part: Program | None, given: F32, brighter: F32) -> NDArray[np.bool_]:
    """Which pixels no longer change when their light does."""
    a, b = (given, brighter) if part is None else (part(given), part(brighter))
    found: NDArray[np.bool_] = np.abs(a - b).max(axis=1) < FLAT_GAIN
    return found


def find(seen: Sight) -> list[Check]:
    """The first such step, with the step before it that clips."""
    look, program = seen.look, seen.program
    top = [s for s in look.steps if s.on and not s.neutral()]
    wanted = [k for k, s in enumerate(top) if k and s.kind in _TONE]
    if not wanted or not seen.samples:
        return []
    at = program.source
    brighter = [at.encode(at.decode(g) * BRIGHTER) for g in seen.samples]
    first = [_flat(None, g, b) for g, b in zip(seen.samples, brighter, strict=True)]
    # What each step leaves flat, measured once: the step at fault is the first after which a picture is flat.
    flat_after: dict[str, list[float]] = {}
    for step in top[: max(wanted)]:
        part = program.upto(step.id)
        after = [_flat(part, g, b) for g, b in zip(seen.samples, brighter, strict=True)]
        flat_after[step.id] = [float((f & ~f0).mean()) for f, f0 in zip(after, first, strict=True)]
    for k in wanted:
        shares = flat_after[top[k - 1].id]
        worst = int(np.argmax(shares))
        if shares[worst] < FLAT_SHARE:
            continue
        clips = next(s for s in top[:k] if flat_after[s.id][worst] > FLAT_SHARE / 2)
        text = (
            f"{numbered(look, top[k].id)} works on clipped tones: {shares[worst]:.0%} is already flat "
            "before it."
        )
        return [
            Check(
                "clipped tones",
                text,
                shares[worst],
                top[k].id,
                worst,
                "white",
                f"Move above {name_of(clips)}",
                clips.id,
            )
        ]
    return []


def mend(seen: Sight, check: Check) -> Look:
    """Moves the step above the one that clips."""
    moving = next(s for s in seen.look.steps if s.id == check.step)
    rest = [s for s in seen.look.steps if s.id != check.step]
    k = next(i for i, s in enumerate(rest) if s.id == check.target)
    return with_steps(seen.look, [*rest[:k], moving, *rest[k:]])
