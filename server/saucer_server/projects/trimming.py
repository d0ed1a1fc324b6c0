"""Trims of shots: kept, given to others, and suggested."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from pydantic import ValidationError
from saucer_core.readings.evenness import Reading, Suggested, suggest
from saucer_core.trim import Trim

from ..errors import RuleError
from ..frames import rules as frames
from ..luts.rules import table
from ..people.rules import Person
from .assigning import TRIM, record, touched_since
from .evenness import WIDTH, aim_for
from .models import Change, Project, Shot
from .rules import chosen, find_shot, must_work, trim_of, worn

__all__ = ["PARTS", "Ripple", "keep", "parsed", "suggested"]

#: The parts of a trim that can be given to other shots by themselves.
PARTS = {
    "exposure": ("exposure",),
    "balance": ("temperature", "tint"),
    "contrast": ("contrast",),
    "cdl": ("red", "green", "blue", "saturation"),
}


@dataclass(frozen=True)
class Ripple:
    """Trims to keep: the same one on several shots, or parts of it. words: what is done, for the list of
    changes."""

    shots: Sequence[int]
    trim: Trim
    parts: Sequence[str] = tuple(PARTS)
    words: str = ""
    seen: int | None = None


def keep(project: Project, person: Person, ripple: Ripple) -> Change:
    """Keeps a trim on shots; all of them or none. Raises 403, 404, 409 where somebody was quicker, and
    422."""
    must_work(person, project)
    unknown = [p for p in ripple.parts if p not in PARTS]
    if unknown or not ripple.parts:
        raise RuleError(422, f"Parts of a trim are {', '.join(PARTS)}.")
    fields = [f for part in ripple.parts for f in PARTS[part]]
    with transaction.atomic():
        project = Project.objects.select_for_update().get(pk=project.pk)
        shots = chosen(project, list(ripple.shots))
        touched_since(project, person, ripple.seen, [s.pk for s in shots])
        before: dict[str, Any] = {}
        after: dict[str, Any] = {}
        for shot in shots:
            was = trim_of(shot)
            now = was.model_copy(update={f: getattr(ripple.trim, f) for f in fields})
            before[f"{TRIM} {shot.pk}"], after[f"{TRIM} {shot.pk}"] = was.model_dump(), now.model_dump()
            Shot.objects.filter(pk=shot.pk).update(trim=now.model_dump())
        where = shots[0].name if len(shots) == 1 else f"{len(shots)} shots"
        return record(
            project, person, "trim", ripple.words or f"trim of {where}", before, after, [s.pk for s in shots]
        )


def parsed(text: str) -> Trim:
    """A trim said as JSON. Raises 422."""
    try:
        return Trim.model_validate_json(text)
    except ValidationError as error:
        raise RuleError(422, f"This is no trim: {error.errors()[0]['msg']}") from None


def suggested(project: Project, shot_id: int, hero_id: int | None) -> tuple[Suggested, Reading]:
    """The trim that brings a shot to its scene, or to another shot, and what it aims at. Nothing is kept.
    Raises 404, 409."""
    shot = find_shot(project, shot_id)
    hero = find_shot(project, hero_id) if hero_id is not None else None
    wanted = aim_for(project, shot, hero)
    on = worn(list(shot.layers.all()))
    rgb = frames.original(shot.frame, WIDTH)
    look, strength = (on.look, on.strength) if on else (None, 1.0)
    return suggest(look, rgb, shot.frame.encoding, trim_of(shot), wanted, strength, tables=table), wanted
