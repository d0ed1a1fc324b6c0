"""Borrowed tables: how they come in, how steps get them, and who may take them out."""

import hashlib
import json
import tempfile
from pathlib import Path
from typing import Any

from django.core.files.storage import default_storage
from django.core.files.uploadedfile import UploadedFile
from django.db.models import QuerySet
from saucer_core.formats import cube
from saucer_core.formats.recipe import table_in, table_out
from saucer_core.formats.registry import format_of, read_table
from saucer_core.tables.lut import Table

from .. import storage
from ..caches import TABLES
from ..errors import RuleError
from ..lookup import by_id
from ..people.rules import Person, may_lead, must_design
from .models import BorrowedLut

__all__ = ["BorrowedLut", "add", "adopt", "every", "find", "remove", "table"]

#: Suffix of tables that came inside a recipe and are kept as it holds them.
EMBEDDED = ".embedded.json"


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


def add(upload: "UploadedFile[Any]", person: Person, *, name: str, expects: str, gives: str, rights: str, origin: str) -> BorrowedLut:
    """Takes a LUT file in; raises ``FileError``. A table that is there already is not added twice."""
    must_design(person)
    with storage.uploaded(upload, cube.SIZE_LIMIT, "a LUT file") as (path, file_name):
        known = format_of(file_name)
        data = path.read_bytes()
        lut = read_table(path, file_name)
    digest = lut.digest()
    there = BorrowedLut.objects.filter(digest=digest).first()
    if there is not None and default_storage.exists(there.file):
        raise RuleError(409, f"This table is here already, as “{there.name}”.", id=there.pk)
    file = storage.put(f"luts/{digest[:2]}/{hashlib.sha256(data).hexdigest()}{known.suffix}", data)
    fields = {
        "name": (name.strip() or lut.title or Path(file_name).stem)[:200], "file": file, "file_name": file_name[:200],
        "size": lut.size, "expects": expects, "gives": gives, "rights": rights, "origin": origin, "added_by": person,
    }  # fmt: skip
    return BorrowedLut.objects.update_or_create(digest=digest, defaults=fields)[0]


def adopt(lut: Table, person: Person, *, expects: str, gives: str, rights: str, origin: str) -> BorrowedLut | None:
    """Keeps a table that a recipe embeds, number for number; ``None`` where it is here already."""
    must_design(person)
    digest = lut.digest()
    there = BorrowedLut.objects.filter(digest=digest).first()
    if there is not None and default_storage.exists(there.file):
        return None
    data = json.dumps(table_out(lut)).encode()
    file = storage.put(f"luts/{digest[:2]}/{hashlib.sha256(data).hexdigest()}{EMBEDDED}", data)
    fields = {
        "name": (lut.title.strip() or "table")[:200], "file": file, "file_name": f"{lut.title.strip()[:150] or 'table'}, embedded",
        "size": lut.size, "expects": expects, "gives": gives, "rights": rights, "origin": origin, "added_by": person,
    }  # fmt: skip
    return BorrowedLut.objects.update_or_create(digest=digest, defaults=fields)[0]


def remove(lut: BorrowedLut, person: Person) -> None:
    """Takes a LUT out of the catalogue; looks that borrow it say so until it comes back."""
    if lut.added_by_id != person.pk and not may_lead(person):
        raise RuleError(403, "Only who brought this LUT, or a lead, can remove it.")
    lut.delete()
