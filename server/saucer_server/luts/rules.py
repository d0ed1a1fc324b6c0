"""Borrowed tables: how they come in, how steps get them, and who may take them out."""

import hashlib
import json
import tempfile
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from django.core.files.storage import default_storage
from django.core.files.uploadedfile import UploadedFile
from django.db.models import QuerySet
from django.dispatch import Signal
from saucer_core.formats import cube
from saucer_core.formats.recipe import table_in, table_out
from saucer_core.formats.registry import format_of, read_table
from saucer_core.tables.lut import Table

from .. import storage
from ..caches import TABLES
from ..errors import RuleError
from ..lookup import by_id
from ..people.quotas import Holding, must_fit
from ..people.quotas import register as count
from ..people.rules import Person, is_own, must
from ..removals import rules as removals
from ..removals.kinds import Kind, register
from .models import BorrowedLut

__all__ = [
    "BorrowedLut",
    "add",
    "adopt",
    "every",
    "find",
    "here",
    "hold",
    "holding",
    "remove",
    "table",
    "take",
]

#: Asks what holds a table, by its ``digest``, before it is removed: each receiver gives names, in words.
holding = Signal()
#: Names of holders that an answer tells.
NAMED = 6
#: Suffix of tables that came inside a recipe and are kept as it holds them.
EMBEDDED = ".embedded.json"
BIN = register(Kind("lut", "LUT", BorrowedLut.objects, "added_by", size=lambda lut: int(lut.bytes)))
count(Holding("borrowed LUT", "borrowed LUTs", BorrowedLut.objects.ever, "added_by", "bytes"))


def find(lut_id: int) -> BorrowedLut:
    """The borrowed LUT; raises 404."""
    return by_id(BorrowedLut.objects.all(), lut_id, "LUT")


def every() -> QuerySet[BorrowedLut]:
    """All of them, by name."""
    return BorrowedLut.objects.select_related("added_by")


@TABLES.remembers
def _read_kept(file: str, file_name: str) -> Table:
    data = storage.get(file)
    if file.endswith(EMBEDDED):
        return table_in(json.loads(data), file_name)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / Path(file).name
        path.write_bytes(data)
        return read_table(path, file_name)


def table(digest: str) -> Table | None:
    """The borrowed table of that digest, or ``None`` where it or its file is gone."""
    row = BorrowedLut.objects.filter(digest=digest).first() if "\0" not in digest else None
    if row is None or not default_storage.exists(row.file):
        return None
    return _read_kept(row.file, row.file_name)


def here(digest: str) -> BorrowedLut | None:
    """The borrowed LUT of that digest, if it and its file are here."""
    there = BorrowedLut.objects.filter(digest=digest).first()
    return there if there is not None and default_storage.exists(there.file) else None


def add(upload: "UploadedFile[Any]", person: Person, **about: str) -> BorrowedLut:
    """Takes a LUT file in, by ``take``; raises ``FileError``. A table that is there already is not added
    twice."""
    must(person, "bring_in")
    must_fit(person, upload.size or 0)
    with storage.uploaded(upload, cube.SIZE_LIMIT, "a LUT file") as (path, file_name):
        lut = read_table(path, file_name)
        there = here(lut.digest())
        if there is not None:
            raise RuleError(409, f"This table is here already, as “{there.name}”.", id=there.pk)
        return take(lut, path.read_bytes(), file_name, person, **about)


def take(
    lut: Table,
    data: bytes,
    file_name: str,
    person: Person,
    *,
    name: str,
    expects: str,
    gives: str,
    rights: str,
    origin: str,
) -> BorrowedLut:
    """Keeps a table with the file that it was read from; the one that is here already where there is one."""
    suffix = format_of(file_name).suffix
    about = {"name": name, "expects": expects, "gives": gives, "rights": rights, "origin": origin}
    return _keep(lut, data, suffix, file_name, person, about)


def adopt(
    lut: Table, person: Person, *, expects: str, gives: str, rights: str, origin: str
) -> BorrowedLut | None:
    """Keeps a table that came inside another file, number for number; ``None`` where it is here already."""
    if here(lut.digest()) is not None:
        return None
    about = {"name": lut.title, "expects": expects, "gives": gives, "rights": rights, "origin": origin}
    file_name = f"{lut.title.strip()[:150] or 'table'}, embedded"
    return _keep(lut, json.dumps(table_out(lut)).encode(), EMBEDDED, file_name, person, about)


def _keep(
    lut: Table, data: bytes, suffix: str, file_name: str, person: Person, about: dict[str, str]
) -> BorrowedLut:
    must(person, "bring_in")
    digest = lut.digest()
    there = here(digest)
    if there is not None:
        return there
    file = storage.put(f"luts/{digest[:2]}/{hashlib.sha256(data).hexdigest()}{suffix}", data)
    # A table without a name of its own goes by the one that its file gives it.
    named = (
        about["name"].strip()
        or lut.title.strip()
        or ("table" if suffix == EMBEDDED else Path(file_name).stem)
    )
    fields = {
        **about,
        "name": named[:200],
        "file": file,
        "file_name": file_name[:200],
        "size": lut.size,
        "bytes": len(data),
        "added_by": person,
    }
    # One that is in the bin comes back.
    fields |= {"removed_at": None, "removed_by": None}
    return BorrowedLut.objects.ever().update_or_create(digest=digest, defaults=fields)[0]


def hold(digests: Iterable[str]) -> set[str]:
    """Keeps tables from being removed until the transaction ends; gives those of them that are there."""
    wanted = set(digests)
    if not wanted:
        return set()
    return set(
        BorrowedLut.objects.select_for_update(no_key=True)
        .filter(digest__in=wanted)
        .order_by("pk")
        .values_list("digest", flat=True)
    )


def remove(lut: BorrowedLut, person: Person) -> None:
    """Puts a LUT into the bin; 409 saying what holds it where something does."""
    must(
        person,
        "started.end",
        is_own(person, lut.added_by_id),
        "Only who brought this LUT, or a lead, can remove it.",
    )

    def check() -> None:
        names = [name for _, found in holding.send(BorrowedLut, digest=lut.digest) for name in found or []]
        if names:
            more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
            raise RuleError(
                409, f"“{lut.name}” is in {', '.join(names[:NAMED])}{more}. Take it out there first."
            )

    removals.put(BIN, lut, person, lambda users: f"“{lut.name}” is in use.", check)
