"""Packs: what comes in, what is said of it, and who may decide on it."""

import hashlib
import re
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from django.core.files import File
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import Count, QuerySet
from saucer_core.errors import FileError
from saucer_core.formats import pack as packed
from saucer_core.formats import zips
from saucer_core.formats.incoming import holds_looks

from ..errors import RuleError, missing
from ..fields import take
from ..jobs.rules import State
from ..jobs.rules import cancel as cancel_job
from ..lookup import by_id
from ..people.quotas import Holding, must_fit, register
from ..people.rules import Person, is_own, must
from .models import Pack, PackFile, PackItem, Stage
from .payloads import PackPatch

__all__ = [
    "Pack",
    "PackFile",
    "PackItem",
    "Stage",
    "add_file",
    "begin",
    "collection_for",
    "drop",
    "find",
    "find_item",
    "forget_files",
    "holds",
    "items_of",
    "locked",
    "may_decide",
    "say",
    "waiting",
]

#: Packs that a designer may have waiting.
PACK_LIMIT = 20
#: Bytes of one file.
FILE_LIMIT = packed.ZIP_LIMIT
TAG_LIMIT = 8
register(
    Holding(
        "file of a pack that waits",
        "files of packs that wait",
        PackFile.objects.all,
        "pack__brought_by",
        "size",
    )
)


def may_decide(pack: Pack, person: Person) -> None:
    """Raises 403 for others than who brought a pack, and leads."""
    must(person, "bring_in")
    must(
        person,
        "started.end",
        is_own(person, pack.brought_by_id),
        "Only who brought this pack, or a lead, can look into it and decide on it.",
    )


def find(pack_id: int, person: Person) -> Pack:
    """A pack that the person may decide on; raises 404, 403."""
    pack = by_id(Pack.objects.select_related("job", "brought_by"), pack_id, "pack")
    may_decide(pack, person)
    return pack


def find_item(item_id: int, person: Person) -> PackItem:
    """A look that a pack brings and that waits for a decision; raises 404, 403."""
    item = by_id(PackItem.objects.select_related("pack"), item_id, "look of a pack")
    may_decide(item.pack, person)
    if not item.file or not default_storage.exists(item.file):
        raise missing("look of a pack")
    return item


def locked(pack: Pack, stages: Iterable[Stage], else_say: str) -> Pack:
    """The pack, held until the transaction ends; raises 409 saying what to do where it stands elsewhere."""
    row = Pack.objects.select_for_update().get(pk=pack.pk)
    if Stage(row.stage) not in stages:
        raise RuleError(409, else_say)
    return row


def waiting(person: Person) -> QuerySet[Pack]:
    """The person's packs that wait for a decision, the newest first."""
    unkept = Pack.objects.filter(brought_by=person).exclude(stage=Stage.KEPT)
    return unkept.select_related("job", "brought_by").annotate(count=Count("items"))


def items_of(pack: Pack) -> QuerySet[PackItem]:
    """What a pack brings, by folder."""
    return pack.items.defer("colours").all()


def begin(person: Person, name: str) -> Pack:
    """A new pack, into which files are put next."""
    must(person, "bring_in")
    if waiting(person).count() >= PACK_LIMIT:
        raise RuleError(409, f"{PACK_LIMIT} packs of yours wait for a decision. Keep or drop some first.")
    return Pack.objects.create(name=name.strip()[:200] or "Files", brought_by=person)


def _digest(upload: "UploadedFile[Any]") -> str:
    found = hashlib.sha256()
    for chunk in upload.chunks():
        found.update(chunk)
    upload.seek(0)
    return found.hexdigest()


def add_file(pack: Pack, said: str, upload: "UploadedFile[Any]") -> None:
    """Puts a file into a pack; ``said``: its path there. What a system left in a folder is passed over.
    Raises ``FileError``."""
    where = zips.place(said or upload.name or "file")
    if where is None:
        return
    folder, name = where
    must_fit(pack.brought_by, upload.size or 0)
    if (upload.size or 0) > FILE_LIMIT:
        raise FileError(
            name, f"larger than {FILE_LIMIT // 2**30} GiB, the most a pack may be. Bring it in as several"
        )
    file = f"packs/{pack.pk}/{_digest(upload)}{Path(name).suffix.lower()[:20]}"
    if not default_storage.exists(file):
        default_storage.save(file, File(upload.file))
    with transaction.atomic():
        row = locked(
            pack,
            (Stage.GATHERING, Stage.READY),
            "This pack is being read or kept: more files go into a new one.",
        )
        if row.files.count() >= packed.COUNT_LIMIT:
            raise RuleError(
                413, f"A pack holds at most {packed.COUNT_LIMIT:,} files. Bring the rest in as another one."
            )
        PackFile.objects.get_or_create(
            pack=row, folder=folder, name=name, file=file, defaults={"size": upload.size or 0}
        )


def say(pack: Pack, patch: PackPatch) -> Pack:
    """Says something of the whole pack."""
    with transaction.atomic():
        row = locked(
            pack,
            (Stage.GATHERING, Stage.READING, Stage.READY),
            "This pack is being kept: it cannot be changed any more.",
        )
        said = take(row, patch, "origin", "rights", "licence", "tags", "collections", "review")
        row.tags = sorted({" ".join(t.lower().split())[:40] for t in row.tags} - {""})[:TAG_LIMIT]
        # A worker may be writing other fields of the same row.
        row.save(update_fields=[*said, "tags"])
    return row


def drop(pack: Pack, person: Person) -> None:
    """Lets go of a pack with all that was not kept of it; work on it is stopped first."""
    may_decide(pack, person)
    if pack.job is not None and pack.job.state in (State.WAITING, State.RUNNING):
        cancel_job(pack.job, person)
        raise RuleError(409, "It is being worked on. That was asked to stop: drop it once it has.")
    with transaction.atomic():
        row = locked(
            pack, (Stage.GATHERING, Stage.READY), "This pack was kept: its looks are in the catalogue."
        )
        names = _files_of(row)
        row.delete()
    for name in names:
        default_storage.delete(name)


def _files_of(pack: Pack) -> set[str]:
    """The stored files that only this pack has; items unpacked from a ZIP lie beside the ZIP."""
    own = [
        *pack.files.values_list("file", flat=True),
        *pack.items.exclude(file="").values_list("file", flat=True),
    ]
    return {name for name in own if name.startswith(f"packs/{pack.pk}/")}


def forget_files(pack: Pack) -> None:
    """Removes the stored files of a pack that was kept; what it was stays written down."""
    for name in _files_of(pack):
        default_storage.delete(name)


def collection_for(folder: str) -> str:
    """The collection that a folder becomes where nobody says another: its last name, written as a person
    would."""
    last = folder.rpartition("/")[2]
    words = " ".join(re.sub(r"[_\s-]+", " ", last).split())
    return words[:1].upper() + words[1:80]


def holds(name: str) -> bool:
    """Whether a file can hold looks or a pack of them."""
    return holds_looks(name) or name.lower().endswith(".zip")
