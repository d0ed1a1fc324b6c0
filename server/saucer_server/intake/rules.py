"""Intakes: what comes in, what is said of it, and who may decide on it."""

import hashlib
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import Count, QuerySet
from saucer_core.formats import pictures, zips

from .. import storage
from ..errors import RuleError, missing
from ..frames import rules as frames
from ..frames.reading_rules import ReadingRule
from ..frames.values import SetName
from ..jobs import rules as jobs
from ..jobs.rules import State
from ..lookup import by_id
from ..people.quotas import Holding, must_fit, register
from ..people.rules import Person, must
from . import drawing
from .models import Intake, IntakeFile, Stage
from .values import Said, SameFile

__all__ = [
    "FILES",
    "Intake",
    "IntakeFile",
    "Stage",
    "add_file",
    "begin",
    "drop",
    "every",
    "files_of",
    "find",
    "find_file",
    "keep",
    "keep_for_shots",
    "order",
    "say",
    "say_of_all",
]

#: Intakes that one person may have open.
OPEN = 20
#: Files that one intake may hold.
FILES = 5_000
#: Workers that help the one that leads the reading.
HELPERS = 3

register(
    Holding(
        "file that waits to be a frame",
        "files that wait to be frames",
        IntakeFile.objects.all,
        "intake__person",
        "bytes",
    )
)


def every(person: Person) -> QuerySet[Intake]:
    """A person's open intakes, the newest first, each with how many files it has."""
    rows = Intake.objects.filter(person=person).select_related("job", "project")
    return rows.annotate(count=Count("files"))


def find(intake_id: int, person: Person) -> Intake:
    """An intake of that person; raises 404: what somebody else brings in is theirs alone."""
    return by_id(every(person), intake_id, "intake")


def files_of(intake: Intake) -> QuerySet[IntakeFile]:
    """Its files, in the order in which they came."""
    return intake.files.all()


def find_file(intake: Intake, file_id: int) -> IntakeFile:
    """One of its files; raises 404."""
    return by_id(intake.files.all(), file_id, "file")


def begin(person: Person, project: int | None = None, reading: Sequence[ReadingRule] = ()) -> Intake:
    """A new intake, into which files are put next. project: whose shots they become; reading: its rules."""
    must(person, "bring_in")
    if every(person).count() >= OPEN:
        raise RuleError(409, f"{OPEN} intakes of yours are open. Keep or let go of some first.")
    made = Intake.objects.create(person=person, project_id=project, reading=list(reading))
    return find(made.pk, person)


def _locked(intake: Intake) -> Intake:
    """The intake, held until the transaction ends; raises 404 where it was kept or let go meanwhile."""
    row = Intake.objects.select_for_update().filter(pk=intake.pk).first()
    if row is None:
        raise missing("intake")
    return row


def add_file(intake: Intake, said: str, upload: "UploadedFile[Any]") -> None:
    """Puts a file into an intake; ``said``: its path there.

    What a system left in a folder is passed over, and so is a file that is there already. Raises
    ``FileError``, and 413 beyond ``FILES``.
    """
    where = zips.place(said or upload.name or "file")
    if where is None:
        return
    folder, name = where
    must_fit(intake.person, upload.size or 0)
    with storage.uploaded(upload, pictures.SIZE_LIMIT, "a picture") as (path, _):
        with path.open("rb") as f:
            digest = hashlib.file_digest(f, "sha256").hexdigest()
            f.seek(0)
            kept = storage.put_file(f"frames/{digest[:2]}/{digest}{Path(name).suffix.lower()[:20]}", f)
        size = path.stat().st_size
    with transaction.atomic():
        row = _locked(intake)
        if row.files.count() >= FILES:
            raise RuleError(
                413, f"An intake holds at most {FILES:,} files. Bring the rest in as another one."
            )
        twin = frames.twin_of(digest)
        row.files.get_or_create(
            folder=folder[:200],
            name=name[:200],
            digest=digest,
            defaults={
                "file": kept,
                "bytes": size,
                "twin": SameFile(frame=twin.pk, name=twin.name) if twin else None,
                "chosen": twin is None,
            },
        )


def order(intake: Intake) -> None:
    """Has the files read that wait; nothing happens where that is under way or none waits."""
    from .tasks import help_with_intake, read_intake

    with transaction.atomic():
        row = _locked(intake)
        waiting = row.files.filter(stage=Stage.WAITING).count()
        job = row.job
        under_way = job is not None and job.state in (State.WAITING, State.RUNNING) and not job.cancel_asked
        if not waiting or under_way:
            return
        row.job = jobs.order("intake", "Reading files that become frames", row.person, waiting)
        row.save(update_fields=["job"])
        helpers = min(HELPERS, waiting - 1)
        jobs.enqueue(row.job, read_intake, (help_with_intake, helpers), intake_id=row.pk)


def say(intake: Intake, ids: list[int], said: Said, chosen: bool | None) -> list[IntakeFile]:
    """Says something of files, chooses them or leaves them out; what is ``None`` stays as it is. A file whose
    white balance or part changes is read again. Gives those that were changed."""
    new = said.model_dump(exclude_none=True)
    again = said.layer is not None or said.white is not None
    with transaction.atomic():
        row = _locked(intake)
        found = list(row.files.select_for_update().filter(pk__in=ids))
        for file in found:
            file.said = Said.model_validate({**file.said.model_dump(), **new})
            if chosen is not None:
                file.chosen = chosen
            if again and file.stage != Stage.WAITING:
                file.stage, file.reason = Stage.WAITING, ""
            file.save(update_fields=["said", "chosen", "stage", "reason"])
    if again:
        order(intake)
    return found


def say_of_all(intake: Intake, sets: list[SetName]) -> Intake:
    """Names the sets that all of its frames are put into."""
    with transaction.atomic():
        row = _locked(intake)
        row.sets = sorted({" ".join(name.split()) for name in sets} - {""})
        row.save(update_fields=["sets"])
    return find(intake.pk, intake.person)


def keep(intake: Intake) -> list[frames.Frame]:
    """Makes frames of all files that are chosen and were read, and lets go of the rest. Raises 409 where none
    is chosen, some are still being read, or they are to become shots."""
    if intake.project_id is not None:
        raise RuleError(409, "These pictures become shots of a project. Keep them there.")
    return _kept(intake)


def keep_for_shots(intake: Intake) -> list[frames.Frame]:
    """The same for files that become shots: their frames are seen in the project alone."""
    return _kept(intake, of_shot=True)


def _kept(intake: Intake, *, of_shot: bool = False) -> list[frames.Frame]:
    with transaction.atomic():
        row = _locked(intake)
        chosen = list(row.files.select_for_update().filter(chosen=True).exclude(stage=Stage.REFUSED))
        if any(file.stage == Stage.WAITING for file in chosen):
            raise RuleError(409, "Some of the chosen files are still being read. Wait, or leave them out.")
        if not chosen:
            raise RuleError(409, "No file is chosen.")
        made = [_frame(file, row, of_shot) for file in chosen]
        row.delete()
    return made


def _frame(file: IntakeFile, intake: Intake, of_shot: bool) -> frames.Frame:
    known, said = file.known, file.said
    if known is None:
        raise missing("picture of this file")
    key = drawing.encoding_of(file)
    by = known.encoding_by
    if said.encoding:
        by = frames.SAID
    elif file.guess and file.guess.sure < 1:
        by = f"guessed: {file.guess.why}"[:200]
    whole = known.model_copy(update={"encoding": key, "encoding_by": by, "part": said.part or known.part})
    return frames.take_in(
        whole,
        name=said.name or "",
        light=said.light or "",
        person=intake.person,
        sets=intake.sets,
        of_shot=of_shot,
    )


def drop(intake: Intake) -> None:
    """Lets go of an intake with all its files; work on it stops."""
    with transaction.atomic():
        row = _locked(intake)
        job = row.job
        row.delete()
    if job is not None and job.state in (State.WAITING, State.RUNNING):
        jobs.cancel(job, intake.person)
