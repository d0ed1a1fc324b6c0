"""Deciding on a pack: having it read, choosing among what it brings, having that kept."""

from dataclasses import dataclass

from django.db import transaction

from ..errors import RuleError
from ..frames.rules import Frame
from ..jobs import rules as jobs
from ..people.rules import Person
from . import tasks
from .models import Pack, PackItem, Stage
from .reading import measure_again
from .rules import locked, may_decide


def order(pack: Pack, person: Person, what: Stage, frame: Frame | None = None) -> Pack:
    """Asks a worker to read a pack or to keep what is chosen of it."""
    may_decide(pack, person)
    with transaction.atomic():
        row = locked(pack, (Stage.GATHERING, Stage.READY), f"This pack is {pack.stage} already.")
        if what == Stage.READING:
            if not row.files.filter(read=False).exists():
                raise RuleError(409, "There is no file in it that was not read yet.")
            row.frame = frame or row.frame
        else:
            _may_be_kept(row)
        verb = "Read" if what == Stage.READING else "Keep"
        job = jobs.order(f"pack, {what}", f"{verb} {row.name}", person)
        task = tasks.read_pack if what == Stage.READING else tasks.keep_pack
        jobs.enqueue(job, task, pack_id=row.pk)
        row.job, row.stage = job, what
        row.save()
    return row


def _may_be_kept(row: Pack) -> None:
    if not row.origin.strip():
        raise RuleError(422, "Say where the pack comes from: it is written down with every look.")
    if not row.items.filter(chosen=True, kept=False, reason="").exists():
        raise RuleError(409, "Nothing of it is chosen.")


@dataclass(frozen=True)
class Said:
    """What is said of looks of a pack; ``None`` leaves it as it is."""

    chosen: bool | None = None
    expects: str | None = None
    gives: str | None = None
    name: str | None = None


def change_items(pack: Pack, ids: list[int], said: Said) -> list[PackItem]:
    """Chooses looks of a pack or leaves them out, renames one, or says what tables expect and give. Gives
    those that were changed."""
    with transaction.atomic():
        row = locked(pack, (Stage.READY,), "This pack is not ready for a decision.")
        rows = list(row.items.select_for_update().filter(pk__in=ids, reason="", kept=False))
        for item in rows:
            if said.chosen is not None:
                item.chosen = said.chosen
            if said.name is not None:
                item.name = said.name.strip()[:120] or item.name
            if item.guess is not None or item.kind == "correction":
                item.expects, item.gives = said.expects or item.expects, said.gives or item.gives
                if item.kind == "correction":
                    item.gives = item.expects
        if said.expects or said.gives:
            measure_again(rows)
        PackItem.objects.bulk_update(
            rows, ["chosen", "name", "expects", "gives", "guess", "words", "colours", "far", "twin"]
        )
    return rows
