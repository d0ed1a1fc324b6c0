"""Steps as one list of operations."""

from collections.abc import Sequence

from ..encodings import conversion
from ..operations import Operation, fuse
from .blend import Eased
from .step import Step, Surroundings


def operations_of(step: Step, at: Surroundings) -> list[Operation]:
    """One step with its switch, blend and strength: ``mix(x, blend(x, f(x)), strength)`` in the encoding after it."""
    if not step.on or step.neutral():
        return []
    if step.strength == 1.0 and step.blend == "normal":
        return step.operations(at)
    plain = conversion(at.encoding, step.output(at.encoding))
    if step.strength == 0.0:
        return plain
    return [Eased(fuse(step.operations(at)), fuse(plain), step.blend, step.strength)]


def after(step: Step, at: Surroundings) -> Surroundings:
    """What the step below is given."""
    return Surroundings(step.output(at.encoding), at.tables) if step.on else at


def in_order(steps: Sequence[Step], at: Surroundings) -> list[Operation]:
    """Steps from first to last."""
    found: list[Operation] = []
    for step in steps:
        found += operations_of(step, at)
        at = after(step, at)
    return found
