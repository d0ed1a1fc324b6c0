"""Presets: those that come with Saucer, one's own, and the team's."""

from dataclasses import dataclass
from typing import Any

from django.core.files.uploadedfile import UploadedFile
from django.db.models import Q, TextField
from django.db.models.functions import Cast
from django.dispatch import receiver
from pydantic import ValidationError
from saucer_core.encodings import encoding
from saucer_core.formats import recipe
from saucer_core.look import Look
from saucer_core.presets import StepContent, shipped, step_of
from saucer_core.program import trace
from saucer_core.steps import Surroundings
from saucer_core.steps.traced import Trace

from ..errors import RuleError
from ..fields import safe_name, take
from ..lookup import by_id
from ..luts import recipes
from ..luts.rules import holding, table
from ..people.rules import Person, is_own, must
from ..removals import rules as removals
from ..removals.kinds import Kind, register
from .models import Preset
from .payloads import NewPreset, PresetPatch

__all__ = ["Offer", "Preset", "add", "bring_in", "change", "file_of", "find", "offered", "remove"]

#: Presets that a person may keep.
PRESET_LIMIT = 300


def _room_for(owner_id: int) -> None:
    if Preset.objects.filter(owner=owner_id).count() >= PRESET_LIMIT:
        raise RuleError(409, f"You keep {PRESET_LIMIT} presets already. Remove some first.")


BIN = register(
    Kind("preset", "preset", Preset.objects, "owner", returning=lambda preset: _room_for(preset.owner_id))
)


@dataclass(frozen=True)
class Offer:
    """A preset as it is offered: whose it is (empty for one that comes with Saucer), and what its editor
    would draw."""

    id: int
    kind: str
    name: str
    note: str
    content: StepContent
    owner: str
    shared: bool
    mine: bool
    trace: Trace


def _whole(content: StepContent) -> StepContent:
    """The step with every parameter, as editors take it."""
    return step_of({"id": "preset", **content}).model_dump(mode="json", exclude={"id"})


def _trace(content: StepContent, encoding_key: str) -> Trace:
    return trace(step_of({"id": "preset", **content}), Surroundings(encoding(encoding_key), table))


def find(preset_id: int, person: Person) -> Preset:
    """The person's own preset or one of the team's; raises 404."""
    return by_id(Preset.objects.filter(Q(owner=person) | Q(shared=True)), preset_id, "preset")


def offered(person: Person, kind: str, encoding_key: str) -> list[Offer]:
    """The presets for a kind of step (all kinds for an empty one): own ones, the team's, then those that come
    with Saucer."""
    kept = Preset.objects.filter(
        Q(owner=person) | Q(shared=True), **({"kind": kind} if kind else {})
    ).select_related("owner")
    own = [
        Offer(
            p.pk,
            p.kind,
            p.name,
            p.note,
            p.content,
            str(p.owner),
            p.shared,
            p.owner_id == person.pk,
            _trace(p.content, encoding_key),
        )
        for p in sorted(kept, key=lambda p: (p.owner_id != person.pk, p.name.lower()))
    ]
    given = [
        Offer(0, p.kind, p.name, p.note, _whole(p.content), "", True, False, _trace(p.content, encoding_key))
        for p in shipped()
        if not kind or p.kind == kind
    ]
    return own + given


def add(person: Person, new: NewPreset) -> Preset:
    """Keeps a step as a preset."""
    must(person, "look.make")
    _room_for(person.pk)
    try:
        kept = _whole(new.content)
    except ValidationError as error:
        first = error.errors()[0]
        raise RuleError(
            422, f"This is no step: {'.'.join(str(p) for p in first['loc'])}: {first['msg']}"
        ) from None
    return Preset.objects.create(
        owner=person, name=new.name, note=new.note, kind=kept["kind"], content=kept, shared=new.shared
    )


def bring_in(upload: "UploadedFile[Any]", person: Person) -> tuple[Preset, list[str]]:
    """A preset of one's own from a file, with all it borrows; and in words what came along. Raises
    ``FileError``; nothing is kept then."""

    def keep(found: recipe.RecipeFile) -> Preset:
        if not found.preset:
            raise RuleError(422, "This file holds a whole look. Bring it in where looks are started.")
        (step,) = found.look.steps
        name = found.name[:80] or step.label[:80] or step.title
        content = step.model_dump(mode="json", exclude={"id"})
        return add(person, NewPreset(name=name, note=found.note[:300], content=content))

    return recipes.bring_in(upload, person, keep)


def file_of(preset: Preset) -> tuple[str, str]:
    """Name and text of a file that holds the preset and all it borrows. Raises ``LookError`` where a table is
    gone."""
    look = Look(steps=[step_of({"id": "preset", **preset.content})])
    return f"{safe_name(preset.name)}{recipe.SUFFIX}", recipe.dumps(
        look, name=preset.name, note=preset.note, tables=table, preset=True
    )


def change(preset: Preset, person: Person, patch: PresetPatch) -> Preset:
    """Renames a preset, or shares it; only its owner may."""
    if preset.owner_id != person.pk:
        raise RuleError(403, "Only who keeps this preset can change it. Keep a copy under your own name.")
    preset.save(update_fields=take(preset, patch, "name", "note", "shared"))
    return preset


def remove(preset: Preset, person: Person) -> None:
    """Puts a preset into the bin."""
    must(
        person,
        "started.end",
        is_own(person, preset.owner_id),
        "Only who keeps this preset, or a lead, can remove it.",
    )
    removals.put(BIN, preset, person, lambda users: f"“{preset.name}” is in use.")


@receiver(holding)
def _holding(digest: str, **_: object) -> list[str]:
    """Presets that name a table, those in the bin too: they may come back."""
    rows = (
        Preset.objects.ever()
        .annotate(said=Cast("content", TextField()))
        .filter(said__contains=digest)
        .order_by("name")
    )
    return [f"the preset “{preset.name}”{' in the bin' if preset.removed_at else ''}" for preset in rows]
