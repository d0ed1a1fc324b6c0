"""Reading the files of an intake: a worker leads, others help; each file is read once."""

import logging
import time

from django.db import transaction
from saucer_core.errors import FileError
from saucer_core.formats.developing.result import Balance, Wish

from .. import storage
from ..frames.looking import look_through
from ..frames.reading_rules import RULED, encoding_by
from ..jobs.locks import taken
from ..jobs.rules import Progress, State, running
from . import drawing
from .models import Intake, IntakeFile, Stage
from .values import Guessed, Said

log = logging.getLogger("saucer.intake")

#: Advisory locks on files of intakes: the first of the two numbers that name one.
LOCKS = 7_301
#: Seconds between two looks at what helping workers do.
PAUSE = 0.5
#: Why a file was not read that Saucer has stumbled over.
STUMBLED = "An error of Saucer's own stopped it; the log has the details."


def lead(intake_id: int) -> None:
    """Reads all files that wait, with those that come meanwhile. May run again after a worker died."""
    intake = Intake.objects.select_related("job").filter(pk=intake_id).first()
    if intake is None or intake.job is None:
        return
    with running(intake.job.pk, lambda: None) as progress:
        while True:
            _read_waiting(intake, progress)
            if _ended(intake):
                return
            _tell(intake, progress, "waiting for helping workers")
            time.sleep(PAUSE)


def help_with(intake_id: int) -> None:
    """Reads files as long as some wait; the leading worker makes an end of it."""
    intake = Intake.objects.select_related("job").filter(pk=intake_id).first()
    if intake is not None and intake.job is not None and intake.job.state in (State.WAITING, State.RUNNING):
        _read_waiting(intake, Progress(intake.job))


def _ended(intake: Intake) -> bool:
    """Whether no file waits. A file that comes afterwards finds that the work has ended, and orders it
    again."""
    with transaction.atomic():
        row = Intake.objects.select_for_update().filter(pk=intake.pk).first()
        if row is not None and row.files.filter(stage=Stage.WAITING).exists():
            return False
        Intake.objects.filter(pk=intake.pk, job=intake.job).update(job=None)
    return True


def _tell(intake: Intake, progress: Progress, doing: str) -> None:
    rows = IntakeFile.objects.filter(intake=intake)
    progress.total(rows.count())
    progress.at(rows.exclude(stage=Stage.WAITING).count(), doing)


def _read_waiting(intake: Intake, progress: Progress) -> None:
    """Reads the files that nobody else reads."""
    for key in list(intake.files.filter(stage=Stage.WAITING).values_list("pk", flat=True)):
        with taken(LOCKS, key) as got:
            rows = intake.files.select_related("intake")
            file = rows.filter(pk=key, stage=Stage.WAITING).first() if got else None
            if file is not None:
                _tell(intake, progress, file.name)
                _read(file)


def _wish(said: Said) -> Wish:
    white = said.white
    return Wish(said.layer or 0, Balance(white.kelvin, white.tint) if white else None)


def _read(file: IntakeFile) -> None:
    said, seen = file.said, None
    changes: dict[str, object]
    try:
        with storage.on_disk(file.file) as path:
            seen = look_through(path, file.name, wish=_wish(said))
    except FileError as error:
        changes = {"stage": Stage.REFUSED, "reason": error.reason[:400], "chosen": False}
    except (OSError, ValueError, ArithmeticError, LookupError):
        log.exception("%s was not read", file.name)
        changes = {"stage": Stage.REFUSED, "reason": STUMBLED, "chosen": False}
    else:
        known = seen.known
        guess = Guessed(key=seen.guess.key, sure=seen.guess.sure, why=seen.guess.why)
        ruled = encoding_by(file.intake.reading, file.name, file.folder, seen.tag)
        if ruled:
            known = known.model_copy(update={"encoding": ruled, "encoding_by": RULED})
            guess = Guessed(key=ruled, sure=1, why=RULED)
        changes = {
            "stage": Stage.READ,
            "reason": "",
            "known": known,
            "guess": guess,
            "read_file": known.file,
        }
    with transaction.atomic():
        row = IntakeFile.objects.select_for_update().filter(pk=file.pk).first()
        # What was said meanwhile of how it is developed needs another reading.
        if row is not None and _wish(row.said) == _wish(said):
            IntakeFile.objects.filter(pk=file.pk).update(**changes)
    if seen is not None:
        row = IntakeFile.objects.filter(pk=file.pk).first()
        if row is not None and row.known is not None and row.known.digest == seen.known.digest:
            drawing.draw_first(row, seen.small)
