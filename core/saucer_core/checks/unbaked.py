"""A finish, which is shown and never baked."""

from ..errors import LookError
from ..look import Look
from .check import Check, Sight

KINDS = ("finish",)


def find(seen: Sight) -> list[Check]:
    """Says which effects are on."""
    active = [name.replace("_", " ") for name, _ in seen.look.finish.active()]
    return (
        [Check("finish", f"Shown, never baked: {', '.join(active)}.", float(len(active)), note=True)]
        if active
        else []
    )


def mend(seen: Sight, check: Check) -> Look:
    """There is nothing to mend."""
    raise LookError("A finish needs no mending: it is shown and never baked.")
