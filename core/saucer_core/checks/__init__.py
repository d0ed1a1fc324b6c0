"""Checks: measured warnings with a way out, one module each, which finds and mends.

Limits are Saucer's own; what is within them is the designer's business alone.
"""

from collections.abc import Sequence
from types import ModuleType

from ..arrays import F32
from ..errors import LookError
from ..look import Look
from ..steps import Tables, no_tables
from . import clipped_tones, clipping, folded_hues, gamut, grey_drift, meets, skin, tone, unbaked
from .check import Check, Kind, sight

__all__ = ["Check", "Kind", "checks", "mend"]

#: The checks that need no more than the look, and those that evaluate it; the gravest first.
_PLAIN: tuple[ModuleType, ...] = (meets,)
_MEASURED: tuple[ModuleType, ...] = (clipped_tones, tone, folded_hues, skin, grey_drift, gamut, clipping)
_NOTES: tuple[ModuleType, ...] = (unbaked,)
_BY_KIND = {kind: module for module in (*_PLAIN, *_MEASURED, *_NOTES) for kind in module.KINDS}


def checks(look: Look, pictures: Sequence[F32] = (), *, tables: Tables = no_tables) -> list[Check]:
    """All that is worth a designer's attention, the gravest first. pictures: float32 ``(..., 3)`` in
    ``look.input``, trimmed."""
    seen = sight(look, pictures, tables)
    found = [c for module in _PLAIN for c in module.find(seen)]
    notes = [c for module in _NOTES for c in module.find(seen)]
    if any(c.kind == "ending" for c in found):
        return [*found, *notes]
    try:
        return [*found, *(c for module in _MEASURED for c in module.find(seen)), *notes]
    except LookError as error:
        return [Check("ending", str(error), 1.0)]


def mend(
    look: Look, kind: Kind, step: str = "", pictures: Sequence[F32] = (), *, tables: Tables = no_tables
) -> Look:
    """The look with the action of a check done, named by its kind and step. pictures: those it was found on.

    Raises ``LookError`` where there is no such check (any more), or where it has no action.
    """
    seen, module = sight(look, pictures, tables), _BY_KIND[kind]
    check = next((c for c in module.find(seen) if c.kind == kind and c.step == step), None)
    if check is None:
        raise LookError("There is nothing to mend here (any more).")
    if not check.action:
        raise LookError("No single action mends this.")
    return Look.model_validate(module.mend(seen, check).model_dump())
