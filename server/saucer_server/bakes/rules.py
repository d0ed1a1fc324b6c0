"""Bakes: files made from a revision, with what was measured."""

import hashlib
from dataclasses import dataclass

from django.db import transaction
from django.db.models import F, QuerySet
from saucer_core.baking.deviation import Deviation, Measuring
from saucer_core.encodings import encoding
from saucer_core.encodings.code_range import CodeRange
from saucer_core.errors import LookError
from saucer_core.formats.offers import FILE_KINDS, About, FileOffer, Given, offers, write

from .. import storage
from ..errors import RuleError
from ..looks.rules import LookValue, Revision, page_of, recipe_of
from ..lookup import by_id
from ..luts.rules import table
from ..people.activity import Happening, note
from ..people.rules import Person, must
from .models import Bake
from .names import PARTS, USUAL, named
from .tables import Method, made, program_of

__all__ = [
    "FILE_KINDS",
    "Bake",
    "Order",
    "describe",
    "fetch",
    "file_names",
    "find",
    "make",
    "of_look",
    "offered",
    "written",
]


@dataclass(frozen=True)
class Order:
    """How files are to be made: their kinds, the table in those that hold one, and what they say and are
    called."""

    kinds: tuple[str, ...]
    grid: int = 33
    method: Method = "sampled"
    code_range: CodeRange = "full"
    title: str = ""
    rights: str = ""
    note: str = ""
    parts: tuple[str, ...] = USUAL


def find(bake_id: int) -> Bake:
    """The bake; raises 404."""
    return by_id(Bake.objects.select_related("revision__look", "made_by"), bake_id, "bake")


def of_look(look_id: int) -> QuerySet[Bake]:
    """All bakes of a look's revisions, the newest first."""
    return Bake.objects.filter(revision__look_id=look_id).select_related("revision__look", "made_by")


def offered(look: LookValue) -> list[FileOffer]:
    """What the look can be written as, and what prevents the rest. Raises ``LookError``."""
    return offers(look, table)


def describe(
    look: LookValue, revision: Revision, rights: str, note: str, source: str | None = None
) -> tuple[str, ...]:
    """The comment lines a file carries: what it was made from, what it expects and gives, and who may pass it
    on."""
    lines = [
        f"Look: {revision.look.name}, revision {revision.number}, by {revision.made_by}",
        f"Checksum of the look: {look.digest()}",
        f"Comes in as: {encoding(source or look.input).label}",
        f"Goes out as: {encoding(look.output).label}",
    ]
    if note:
        lines.append(f"Note: {note}")
    if rights:
        lines.append(f"Rights: {rights}")
    return tuple(lines)


def file_names(look: LookValue, look_name: str, number: int, person: Person, order: Order) -> dict[str, str]:
    """What the file of every kind would be called, by kind. Raises 422 for a part there is not."""
    unknown = [part for part in order.parts if part not in PARTS]
    if unknown or not order.parts:
        raise RuleError(422, f"A file name is made of {', '.join(PARTS)}.")
    values = {
        "look": look_name,
        "revision": f"r{number}",
        "in": encoding(look.input).label,
        "out": encoding(look.output).label,
        "maker": str(person),
    }
    of_table = {"grid": str(order.grid), "method": order.method}
    return {
        key: named(order.parts, {**values, **(of_table if kind.baked else {})}, key, kind.suffix)
        for key, kind in FILE_KINDS.items()
    }


@dataclass(frozen=True)
class Written:
    """Files of a revision that are not kept yet: bytes by kind, their names, and what was measured of the
    table in them."""

    files: dict[str, bytes]
    names: dict[str, str]
    title: str
    measured: Deviation | None


def written(revision: Revision, person: Person, order: Order) -> Written:
    """Files of a revision. Raises ``LookError`` where the look cannot be written so, 422 for a kind there is
    not."""
    if not order.kinds:
        raise RuleError(422, "Choose at least one kind of file.")
    unknown = [key for key in order.kinds if key not in FILE_KINDS]
    if unknown:
        raise RuleError(422, f"Saucer writes {', '.join(FILE_KINDS)}, not “{unknown[0][:40]}”.")
    look = recipe_of(revision)
    names = file_names(look, revision.look.name, revision.number, person, order)
    program = program_of(look)
    holds_table = any(FILE_KINDS[key].baked for key in order.kinds)
    lut = made(look, order.grid, order.method, order.code_range) if holds_table else None
    measured = (
        Measuring(program).compare(made(look, order.grid, order.method), "tetrahedral")
        if holds_table
        else None
    )
    title = order.title.strip() or revision.look.name
    about = About(title, describe(look, revision, order.rights, order.note), revision.look.name, order.note)
    given = Given(look, program, table, lut, order.code_range, about)
    files = {}
    for key in dict.fromkeys(order.kinds):
        try:
            files[key] = write(key, given)
        except LookError as error:
            raise LookError(f"{FILE_KINDS[key].label}: {error}") from None
    return Written(files, names, title, measured)


def make(revision: Revision, person: Person, order: Order) -> list[Bake]:
    """Makes files of a revision, all or none, and measures their table. Raises ``LookError`` where the look
    cannot be written so."""
    must(person, "bake")
    out = written(revision, person, order)
    with transaction.atomic():
        note(
            Happening.LOOK,
            person,
            "baked",
            str(revision),
            more=", ".join(FILE_KINDS[key].label for key in out.files),
            to=page_of(revision),
            revision=revision.pk,
        )
        return [
            _keep(revision, person, order, key, data, out.names[key], out.title, out.measured)
            for key, data in out.files.items()
        ]


def _keep(
    revision: Revision,
    person: Person,
    order: Order,
    key: str,
    data: bytes,
    name: str,
    title: str,
    measured: Deviation | None,
) -> Bake:
    kind = FILE_KINDS[key]
    digest = hashlib.sha256(data).hexdigest()
    return Bake.objects.create(
        revision=revision,
        format=key,
        grid=order.grid if kind.baked else 0,
        method=order.method if kind.baked else "",
        code_range=order.code_range,
        title=title,
        rights=order.rights,
        note=order.note,
        deviation=measured if kind.baked else None,
        name=name,
        file=storage.put(f"bakes/{digest}{kind.suffix}", data),
        bytes=len(data),
        checksum=digest,
        made_by=person,
    )


def fetch(bake_id: int) -> tuple[Bake, bytes]:
    """The file of a bake, which somebody takes away: counted. Raises 404."""
    found = find(bake_id)
    data = storage.get(found.file)
    Bake.objects.filter(pk=found.pk).update(fetched=F("fetched") + 1)
    return found, data
