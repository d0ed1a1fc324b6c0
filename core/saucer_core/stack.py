"""Several looks on one shot, one over the other, as one look."""

from collections.abc import Sequence
from dataclasses import dataclass

from .look import AnyStep, Group, Look, LookStep

#: Looks that are stacked on one place.
STACK = 6


@dataclass(frozen=True)
class Layer:
    """A revision of a look and the strength it is put on at, 0–1."""

    look: Look
    strength: float = 1.0
    name: str = ""
    revision: int = 0


def stacked(layers: Sequence[Layer]) -> Look:
    """One look that does all layers, the first one first.

    One layer alone is the look itself, eased. Of several the first one gives the encodings; each further one
    is put over it as a borrowed look is: what comes in is brought to what that look expects, and what it
    gives is brought back. The finish is that of the last layer that has one. Raises ``ValueError`` for none,
    and where the looks together are more than one look holds.
    """
    if not layers:
        raise ValueError("a stack needs a look")
    first, *over = layers
    if not over:
        return first.look.model_copy(update={"strength": first.look.strength * first.strength})
    eased = first.look.strength * first.strength
    below: list[AnyStep] = list(first.look.steps)
    if eased < 1:
        below = [Group(id="layer-1", label=first.name[:80], steps=below, strength=eased)]
    put = [
        LookStep(
            id=f"layer-{k}", look=one.look, strength=one.strength, name=one.name[:160], revision=one.revision
        )
        for k, one in enumerate(over, 2)
    ]
    finish = next(
        (one.look.finish for one in reversed(layers) if one.look.finish.active()), first.look.finish
    )
    return Look.model_validate(
        Look.model_construct(
            input=first.look.input,
            output=first.look.output,
            steps=[*below, *put],
            strength=1.0,
            finish=finish,
        ).model_dump()
    )
