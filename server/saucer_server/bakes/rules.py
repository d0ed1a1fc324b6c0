"""Bakes: files made from a revision, with what was measured."""

import hashlib

from django.db.models import QuerySet
from saucer_core.baking.bake import USUAL_GRIDS, bake
from saucer_core.baking.deviation import Deviation, Measuring
from saucer_core.encodings import encoding
from saucer_core.formats.registry import TABLE_FORMATS, format_for
from saucer_core.treatment import Treatment

from .. import storage
from ..errors import RuleError
from ..looks.rules import Recipe, Revision, recipe_of
from ..lookup import by_id
from ..luts.rules import table
from ..people.rules import Person, must_design
from .models import Bake

__all__ = ["Bake", "compare", "describe", "file_name", "find", "make", "of_look", "safe_name"]


def find(bake_id: int) -> Bake:
    """The bake; raises 404."""
    return by_id(Bake.objects.select_related("revision__look", "made_by"), bake_id, "bake")


def of_look(look_id: int) -> QuerySet[Bake]:
    """All bakes of a look's revisions, the newest first."""
    return Bake.objects.filter(revision__look_id=look_id).select_related("revision__look", "made_by")


def compare(look: Recipe) -> dict[int, Deviation]:
    """The deviation at each usual grid size. Raises ``LookError``."""
    program = Treatment(look).compile(table)
    measuring = Measuring(program)
    return {size: measuring.compare(bake(program, size)) for size in USUAL_GRIDS}


def describe(look: Recipe, revision: Revision, rights: str, note: str, source: str | None = None) -> tuple[str, ...]:
    """The comment lines a file carries: where it comes from, what it expects and gives, and who may pass it on."""
    lines = [
        f"Look: {revision.look.name}, revision {revision.number}, by {revision.made_by}",
        f"Comes in as: {encoding(source or look.input).label}",
        f"Goes out as: {encoding(look.output).label}",
    ]
    if note:
        lines.append(f"Note: {note}")
    if rights:
        lines.append(f"Rights: {rights}")
    return tuple(lines)


def make(revision: Revision, person: Person, *, format_key: str, grid: int, title: str, rights: str, note: str) -> Bake:
    """Bakes a revision to a file and measures it. Raises ``LookError``; nothing half-made stays."""
    must_design(person)
    if format_key and format_key not in TABLE_FORMATS:
        raise RuleError(422, f"Saucer bakes {', '.join(TABLE_FORMATS)}, not “{format_key}”.")
    look = recipe_of(revision)
    title = title.strip() or revision.look.name
    program = Treatment(look).compile(table)
    lut = bake(program, grid, title=title, comments=describe(look, revision, rights, note))
    known = TABLE_FORMATS[format_key] if format_key else format_for(lut)
    data = known.text(lut).encode()
    deviation = Measuring(program).compare(lut)
    file = storage.put(f"bakes/{hashlib.sha256(data).hexdigest()}{known.suffix}", data)
    return Bake.objects.create(
        revision=revision, format=known.key, grid=grid, title=title, rights=rights,
        deviation=deviation.as_dict(), file=file, bytes=len(data), made_by=person,
    )  # fmt: skip


def file_name(bake_row: Bake) -> str:
    """What the file is called when somebody takes it away."""
    suffix = TABLE_FORMATS[bake_row.format].suffix
    return f"{safe_name(bake_row.revision.look.name)}_r{bake_row.revision.number}_{bake_row.grid}{suffix}"


def safe_name(name: str) -> str:
    """A file name that every system takes."""
    kept = "".join(c if c.isalnum() or c in "-_" else "_" for c in name.strip())
    return kept.strip("_")[:80] or "look"
