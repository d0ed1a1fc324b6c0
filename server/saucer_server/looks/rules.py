"""Drafts, revisions and borrowed tables: how they are kept and who may change them."""

import hashlib
import tempfile
from functools import lru_cache
from pathlib import Path
from typing import Any, TypeVar

from django.core.files.storage import default_storage
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import Max
from saucer_core.errors import FileError, LookError, MissingTable
from saucer_core.formats import cube
from saucer_core.formats.registry import format_of, read_table
from saucer_core.look import Look as Recipe
from saucer_core.look import check
from saucer_core.tables.lut import Table

from .. import storage
from ..errors import RuleError, missing
from ..people.rules import Person, may_lead, must_design
from .models import Bake, BorrowedLut, Look, Revision, SetAside, Status

__all__ = [
    "Bake", "BorrowedLut", "Look", "Recipe", "Revision", "SetAside", "Status", "add_lut", "create", "find", "find_bake",
    "find_lut", "find_revision", "keep_revision", "latest", "recipe_of", "save_draft", "set_status", "table",
]  # fmt: skip


M = TypeVar("M", Look, Revision, Bake, BorrowedLut)


def _by_id(model: type[M], key: int, what: str) -> M:
    found = model._default_manager.filter(pk=key).first() if 0 < key < 2**63 else None
    if found is None:
        raise missing(what)
    return found


def find(look_id: int) -> Look:
    """The look; raises 404."""
    return _by_id(Look, look_id, "look")


def find_revision(revision_id: int) -> Revision:
    """The revision; raises 404."""
    return _by_id(Revision, revision_id, "revision")


def find_bake(bake_id: int) -> Bake:
    """The bake; raises 404."""
    return _by_id(Bake, bake_id, "bake")


def find_lut(lut_id: int) -> BorrowedLut:
    """The borrowed LUT; raises 404."""
    return _by_id(BorrowedLut, lut_id, "LUT")


def recipe_of(revision: Revision) -> Recipe:
    """What the revision computes."""
    return Recipe.model_validate(revision.recipe)


def latest(look: Look) -> Revision | None:
    """The newest revision, if there is one."""
    return look.revisions.order_by("-number").first()


def create(person: Person, name: str, draft: Recipe, note: str = "", parent: Look | None = None) -> Look:
    """A new look with a first draft; a variation where it has a parent."""
    must_design(person)
    named = name.strip() or "Untitled look"
    return Look.objects.create(name=named, note=note, maker=person, draft=draft.model_dump(mode="json"), draft_by=person, parent=parent)


def save_draft(look_id: int, person: Person, draft: Recipe, based_on: int) -> Look:
    """Saves the draft over version ``based_on``.

    Where somebody saved since, the late draft is set aside and a 409 says what happened; both versions are kept.
    """
    must_design(person)
    data = draft.model_dump(mode="json")
    with transaction.atomic():
        look = Look.objects.select_for_update().filter(pk=look_id).first() if 0 < look_id < 2**63 else None
        if look is None:
            raise missing("look")
        if look.draft_version == based_on:
            look.draft, look.draft_by, look.draft_version = data, person, based_on + 1
            look.save(update_fields=["draft", "draft_by", "draft_version", "draft_at"])
            return look
        if look.draft == data:
            return look
        newest = SetAside.objects.filter(look=look, kept_by=person, based_on=based_on).first()
        aside = newest or SetAside(look=look, kept_by=person, based_on=based_on)
        aside.draft = data
        aside.save()
    raise RuleError(
        409,
        f"{look.draft_by} saved this draft while you were working on it. Your version is set aside, nothing is lost: "
        "choose which one goes on.",
        version=look.draft_version,
        by=str(look.draft_by),
        draft=look.draft,
        set_aside=aside.pk,
    )


def keep_revision(look: Look, person: Person, note: str) -> Revision:
    """Makes the draft as it stands an immutable revision. Raises ``LookError`` where it cannot be computed."""
    must_design(person)
    with transaction.atomic():
        look = Look.objects.select_for_update().get(pk=look.pk)
        draft = Recipe.model_validate(look.draft)
        check(draft)
        for step in draft.lut_steps():
            if table(step.table) is None:
                raise MissingTable(step.id, step.name)
        number = (look.revisions.aggregate(top=Max("number"))["top"] or 0) + 1
        return Revision.objects.create(look=look, number=number, recipe=look.draft, digest=draft.digest(), note=note, made_by=person)


_MOVES = {
    Status.DRAFT: {Status.IN_REVIEW, Status.APPROVED},
    Status.IN_REVIEW: {Status.APPROVED, Status.DRAFT},
    Status.APPROVED: {Status.RETIRED},
    Status.RETIRED: {Status.APPROVED},
}


def set_status(revision: Revision, person: Person, status: str) -> None:
    """Moves a revision on: designers ask for review and take it back, leads decide."""
    must_design(person)
    if status not in _MOVES[Status(revision.status)]:
        raise RuleError(409, f"A revision that is {revision.status} cannot become {status}.")
    if status in (Status.APPROVED, Status.RETIRED) and not may_lead(person):
        raise RuleError(403, "Leads approve and retire looks. Ask for a review instead.")
    Revision.objects.filter(pk=revision.pk).update(status=status)


@lru_cache(maxsize=24)
def _read_kept(file: str, file_name: str) -> Table:
    data = storage.get(file)
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


def add_lut(upload: "UploadedFile[Any]", person: Person, *, name: str, expects: str, gives: str, rights: str, origin: str) -> BorrowedLut:
    """Takes a LUT file in; raises ``FileError``. A table that is there already is not added twice."""
    must_design(person)
    file_name = Path(upload.name or "table").name
    known = format_of(file_name)
    if (upload.size or 0) > cube.SIZE_LIMIT:
        raise FileError(file_name, f"larger than {cube.SIZE_LIMIT // 2**20} MiB, the most a LUT file may be")
    data = upload.read()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"table{known.suffix}"
        path.write_bytes(data)
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


def remove_lut(lut: BorrowedLut, person: Person) -> None:
    """Takes a LUT out of the catalogue; looks that borrow it say so until it comes back."""
    if lut.added_by_id != person.pk and not may_lead(person):
        raise RuleError(403, "Only who brought this LUT, or a lead, can remove it.")
    lut.delete()


def sound(look: Recipe) -> str:
    """Why the look cannot be computed as it stands; empty where it can."""
    try:
        check(look)
        for step in look.lut_steps():
            if table(step.table) is None:
                raise MissingTable(step.id, step.name)
    except LookError as error:
        return str(error)
    return ""
