"""Trims of shots: kept, given to others, and suggested."""

from dataclasses import dataclass

from django.db import transaction
from pydantic import ValidationError
from saucer_core.readings.evenness import Reading, suggest
from saucer_core.trim import Trim

from ..errors import RuleError
from ..frames import rules as frames
from ..luts.rules import table
from ..people.rules import Person
from .arranging import set_trim
from .assigning import record, touched_since
from .evenness import WIDTH, aim_for
from .models import Change, Project
from .payloads import Ripple, TrimPart
from .rules import chosen, find_shot, must_work, worn
from .states import State

__all__ = ["Suggestion", "keep", "parsed", "suggested"]

#: What each part of a trim is made of.
PARTS: dict[TrimPart, tuple[str, ...]] = {
    "exposure": ("exposure",),
    "balance": ("temperature", "tint"),
    "contrast": ("contrast",),
    "cdl": ("red", "green", "blue", "saturation"),
}


def keep(project: Project, person: Person, ripple: Ripple) -> Change:
    """Keeps a trim on shots; all of them or none. Raises 403, 404, and 409 where somebody was
    quicker."""
    must_work(person, project)
    fields = [f for part in ripple.parts for f in PARTS[part]]
    with transaction.atomic():
        project = Project.objects.select_for_update().get(pk=project.pk)
        shots = chosen(project, list(ripple.shots))
        touched_since(project, person, ripple.seen, [s.pk for s in shots])
        before, after = [], []
        for shot in shots:
            now = shot.trim.model_copy(update={f: getattr(ripple.trim, f) for f in fields})
            was, then = set_trim(shot, now)
            before.append(was)
            after.append(then)
        where = shots[0].name if len(shots) == 1 else f"{len(shots)} shots"
        states = State(trims=tuple(before)), State(trims=tuple(after))
        words = ripple.words or f"trim of {where}"
        return record(project, person, "trim", words, *states, [s.pk for s in shots])


def parsed(text: str) -> Trim:
    """A trim said as JSON. Raises 422."""
    try:
        return Trim.model_validate_json(text)
    except ValidationError as error:
        raise RuleError(422, f"This is no trim: {error.errors()[0]['msg']}") from None


@dataclass(frozen=True)
class Suggestion:
    """A trim that would bring a shot to others: what the shot shows now, what it would show, and what that
    aims at."""

    trim: Trim
    before: Reading
    after: Reading
    aim: Reading


def suggested(project: Project, shot_id: int, hero_id: int | None) -> Suggestion:
    """The trim that brings a shot to its scene, or to another shot. Nothing is kept. Raises 404, 409."""
    shot = find_shot(project, shot_id)
    hero = find_shot(project, hero_id) if hero_id is not None else None
    wanted = aim_for(project, shot, hero)
    on = worn(list(shot.layers.all()))
    rgb = frames.original(shot.frame, WIDTH)
    look, strength = (on.look, on.strength) if on else (None, 1.0)
    found = suggest(look, rgb, shot.frame.encoding, shot.trim, wanted, strength, tables=table)
    return Suggestion(found.trim, found.before, found.after, wanted)
