"""Makes room: results that can be made again, files that nothing names any more, deliveries of long ago, and
sessions that have ended.

Every look at a folder and every removal is one file at a time; whoever needs a removed result makes it anew.
"""

import os
import time
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path

from django.apps import apps
from django.contrib.sessions.models import Session
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils import timezone

from ..caches import MIB
from ..delivering.rules import let_go_of_old, shas_in_use
from ..storage import arriving

#: MiB that results may take which can be made again.
DERIVED_MIB = int(os.environ.get("SAUCER_DERIVED_MIB", 4096))
#: Seconds after which one of them goes that nobody asked for.
UNASKED = 30 * 86_400
#: A file is written before the row that names it: one younger than this, in seconds, may still get its row.
YOUNG = 86_400
#: Columns that name files, by the folder that the files lie in.
NAMED_BY = {
    "frames": (
        "frames.Frame.file",
        "frames.Frame.original",
        "intake.IntakeFile.file",
        "intake.IntakeFile.read_file",
    ),
    "clips": (
        "clips.Clip.file",
        "clips.Clip.stamps",
        "clips.Clip.proxy",
        "clips.Clip.proxy_index",
        "clips.Clip.samples",
    ),
    "luts": ("luts.BorrowedLut.file",),
    "bakes": ("bakes.Bake.file",),
    "packs": ("packs.Pack.licence_file", "packs.PackFile.file", "packs.PackItem.file"),
    "outgoing": ("outgoing.Outgoing.file",),
    "unbaked": ("inspecting.Unbaking.rest",),
}


@dataclass
class Swept:
    """How many files went, and their bytes."""

    files: int = 0
    bytes: int = 0

    def take(self, path: Path, size: int) -> None:
        """Removes a file; one that is gone already is no matter."""
        path.unlink(missing_ok=True)
        self.files += 1
        self.bytes += size


def _files(folder: str) -> Iterator[tuple[Path, os.stat_result]]:
    top = Path(default_storage.path(folder))
    for path in top.rglob("*"):
        try:
            facts = path.stat()
        except FileNotFoundError:
            continue
        if path.is_file():
            yield path, facts


def derived(now: float | None = None, mebibytes: int = DERIVED_MIB) -> Swept:
    """Removes results that nobody asked for lately, then the longest unasked ones until the rest fits."""
    now, swept, left = now or time.time(), Swept(), []
    for path, facts in _files("derived"):
        if now - facts.st_mtime > UNASKED:
            swept.take(path, facts.st_size)
        else:
            left.append((facts.st_mtime, facts.st_size, path))
    over = sum(size for _, size, _ in left) - mebibytes * MIB
    for _, size, path in sorted(left, key=lambda one: one[0]):
        if over <= 0:
            break
        swept.take(path, size)
        over -= size
    return swept


def in_use(folder: str) -> set[str]:
    """Names of the files of a folder that rows name."""
    found = set[str]()
    for column in NAMED_BY[folder]:
        app, model, field = column.split(".")
        found |= set(apps.get_model(app, model)._base_manager.values_list(field, flat=True))
    return found


def unused(now: float | None = None) -> Swept:
    """Removes files that no row names, and parts of files that a dead process left."""
    now, swept = now or time.time(), Swept()
    top = Path(default_storage.path(""))
    for folder in NAMED_BY:
        old = [(path, facts) for path, facts in _files(folder) if now - facts.st_mtime > YOUNG]
        # Asked after the folder was read: what got its row in between is in use.
        named = in_use(folder)
        for path, facts in old:
            if str(path.relative_to(top)) not in named:
                swept.take(path, facts.st_size)
    return swept


def delivered(now: float | None = None) -> Swept:
    """Removes the files of deliveries of long ago that no later one has, and notes and lengths of what was
    made of them."""
    now, swept = now or time.time(), Swept()
    with transaction.atomic():
        let_go_of_old(timezone.now())
        named = shas_in_use()
    for path, facts in _files("delivered"):
        if now - facts.st_mtime > YOUNG and path.name not in named and path.suffix != ".json":
            swept.take(path, facts.st_size)
    return swept


def arrived(now: float | None = None) -> Swept:
    """Removes uploads that a dead process left."""
    now, swept = now or time.time(), Swept()
    for path in arriving().rglob("*"):
        with suppress(FileNotFoundError):
            facts = path.stat()
            if path.is_file() and now - facts.st_mtime > YOUNG:
                swept.take(path, facts.st_size)
    return swept


def sessions() -> int:
    """Forgets sessions that have run out, and where they were; says how many."""
    ended, _ = Session.objects.filter(expire_date__lt=timezone.now()).delete()
    apps.get_model("people", "UserSession").objects.exclude(
        session__in=Session.objects.values("session_key")
    ).filter(at__lt=timezone.now() - timedelta(hours=1)).delete()
    return ended


def everything() -> dict[str, Swept]:
    """All of it; nothing on disk is looked at where files lie elsewhere, which keeps its own house."""
    sessions()
    swept = {"arrived": arrived()}
    try:
        default_storage.path("")
    except NotImplementedError:
        return swept
    return swept | {"results": derived(), "unused": unused(), "deliveries": delivered()}
