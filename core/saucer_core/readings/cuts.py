"""Jumps at cuts: where a shot under its look ends otherwise than the next one begins.

The limits are those by which a shot stands out of its scene (``evenness.LIMITS``), and a cut must jump
further than the others of its scene do: a scene that goes from wide to near all the time has no jump for
that.
"""

from collections.abc import Sequence

import numpy as np

from .evenness import FEWEST, LIMITS, SPREAD, Apart, Reading, leaning, turn

__all__ = ["Ends", "jumps"]

#: What the first frame of a shot shows, and what its last frame does.
Ends = tuple[Reading, Reading]


def jumps(shots: Sequence[Ends]) -> list[list[Apart]]:
    """For each shot of a scene, in their order, what jumps where it begins, the most telling first; the first
    shot has nothing before it."""
    steps = [_step(before[1], after[0]) for before, after in zip(shots, shots[1:], strict=False)]
    found: list[list[Apart]] = [[] for _ in shots[:1]]
    for at, step in enumerate(steps):
        others = steps[:at] + steps[at + 1 :]
        said = [one for one in step if abs(one.by) > _limit(one, others)]
        found.append(sorted(said, key=lambda one: -abs(one.by) / LIMITS[one.what]))
    return found


def _limit(one: Apart, others: Sequence[Sequence[Apart]]) -> float:
    like = [abs(other.by) for step in others for other in step if other.what == one.what]
    usual = SPREAD * float(np.median(like)) if len(like) >= FEWEST else 0.0
    return max(LIMITS[one.what], usual)


def _step(before: Reading, after: Reading) -> list[Apart]:
    """By how much, and in what, ``after`` differs from ``before``."""
    said = []
    if before.skin is not None and after.skin is not None:
        by = turn(after.skin, before.skin)
        said.append(
            Apart("skin", by, f"skin {abs(by):.0f}° {'yellower' if by > 0 else 'redder'} after the cut")
        )
    if before.grey is not None and after.grey is not None:
        a, b = after.grey[0] - before.grey[0], after.grey[1] - before.grey[1]
        by = float(np.hypot(a, b))
        said.append(Apart("grey", by, f"greys lean {by:.1f} to {leaning(a, b)} after the cut"))
    by = after.tone - before.tone
    said.append(Apart("tone", by, f"{abs(by):.0f} % {'lighter' if by > 0 else 'darker'} after the cut"))
    return said
