"""What can be inspected: a borrowed LUT, a look by its draft or a revision of it, a look of a pack that is
not kept yet."""

from dataclasses import dataclass
from typing import Literal

from saucer_core.encodings import CameraEncoding, encoding
from saucer_core.look import Look as LookValue
from saucer_core.steps import Tables
from saucer_core.tables.lut import Lut, Table

from ..bench.pictures import wearing_lut
from ..looks import rules as looks
from ..luts import rules as luts
from ..packs import reading
from ..packs import rules as packs
from ..people.rules import Person

SubjectKind = Literal["lut", "look", "revision", "item"]


@dataclass(frozen=True)
class Subject:
    """What is inspected. said: what its file or record says, as pairs of a word and a value. table: where it
    is one table."""

    kind: SubjectKind
    id: int
    name: str
    origin: str
    rights: str
    recipe: LookValue
    tables: Tables
    table: Table | None
    said: list[tuple[str, str]]
    encodings: tuple[CameraEncoding, ...] = ()


def find(kind: SubjectKind, key: int, person: Person) -> Subject:
    """The subject; raises 404, 403, and ``FileError``."""
    if kind == "lut":
        row = luts.find(key)
        table = luts.table(row.digest)
        said = [("file", row.file_name), *_of_table(table)]
        return Subject(kind, key, row.name, row.origin, row.rights, wearing_lut(row), luts.table, table, said)
    if kind == "item":
        item = packs.find_item(key, person)
        one = reading.incoming_of(item)
        place = f"{item.folder}/{item.file_name}" if item.folder else item.file_name
        said = [("file", place), ("kind", one.form or item.form), *_of_table(one.table)]
        origin = f"{item.pack.name}, not kept yet"
        return Subject(
            kind,
            key,
            item.name,
            origin,
            item.pack.rights,
            one.look,
            one.tables,
            one.table,
            said,
            one.encodings,
        )
    if kind == "revision":
        revision = looks.find_revision(key)
        return _of_look(
            kind,
            key,
            revision.look,
            looks.recipe_of(revision),
            f"{revision.look.name}, revision {revision.number}",
        )
    look = looks.find(key)
    return _of_look(kind, key, look, LookValue.model_validate(look.draft), look.name)


def _of_look(kind: SubjectKind, key: int, look: looks.Look, recipe: LookValue, name: str) -> Subject:
    (only,) = recipe.steps if len(recipe.steps) == 1 else (None,)
    worn = (
        only is not None
        and only.kind == "lut"
        and only.strength == 1
        and only.blend == "normal"
        and only.on
        and recipe.strength == 1
    )
    table = luts.table(getattr(only, "table", "")) if worn else None
    said = [("maker", str(look.maker)), ("steps", str(len(recipe.steps))), *_of_table(table)]
    return Subject(kind, key, name, look.origin, look.rights, recipe, luts.table, table, said)


def _of_table(table: Table | None) -> list[tuple[str, str]]:
    if table is None:
        return []
    said = [
        ("title", table.title or "none"),
        ("grid", f"{table.size} × {table.size} × {table.size}" if table.size else "one curve a channel"),
    ]
    if isinstance(table, Lut):
        low, high = float(table.low.min()), float(table.high.max())
        said.append(("domain", f"{low:g} … {high:g}"))
        said.append(("read", table.interpolation))
        if table.shaper is not None:
            said.append(("shaper", f"{len(table.shaper.values):,} points a channel"))
    return said + [("remark", line) for line in table.comments[:6]]


def labels(recipe: LookValue) -> tuple[str, str]:
    """The encodings at both ends of a look, in words."""
    return encoding(recipe.input).label, encoding(recipe.output).label
