"""Starting, following, cancelling and recovering long work."""

import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from django.db.models import QuerySet
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob
from saucer_core.errors import CoreError

from ..errors import RuleError
from ..people.rules import Person, is_own, must
from ..storage import FULL, away
from .models import Job, State

__all__ = ["Cancelled", "Job", "Progress", "State", "cancel", "following", "recover", "running"]

log = logging.getLogger("saucer.jobs")


class Cancelled(Exception):
    """The person asked the work to stop."""


class Progress:
    """What a piece of work reports through; each report also looks whether it is to stop."""

    def __init__(self, job: Job) -> None:
        self._job = job

    def total(self, count: int) -> None:
        """How many parts there are."""
        Job.objects.filter(pk=self._job.pk).update(total=count)

    def at(self, done: int, doing: str) -> None:
        """``done`` parts are finished, ``doing`` is next; raises ``Cancelled``."""
        if Job.objects.filter(pk=self._job.pk, cancel_asked=True).exists():
            raise Cancelled
        Job.objects.filter(pk=self._job.pk).update(done=done, doing=doing[:200])


def _end(job: Job, state: State, reason: str = "") -> None:
    Job.objects.filter(pk=job.pk).update(state=state, reason=reason, doing="", ended_at=timezone.now())


def _reason(error: Exception) -> str:
    if isinstance(error, OSError) and error.errno in FULL:
        return "The disk is full. Nothing half-made was kept. Ask whoever runs Saucer to make room, then start it again."
    return "A file could not be kept or read. Start it again." if isinstance(error, away()) else str(error)


@contextmanager
def running(job_id: int, undo: Callable[[], None]) -> Iterator[Progress]:
    """Runs work under a job: its end, its failure with a reason, or its cancelling is written down.

    ``undo`` takes back what was made so far; it is called on anything but a good end.
    """
    job = Job.objects.get(pk=job_id)
    if job.cancel_asked:
        undo()
        _end(job, State.CANCELLED)
        raise Cancelled
    Job.objects.filter(pk=job.pk).update(state=State.RUNNING, reason="")
    try:
        yield Progress(job)
    except Cancelled:
        undo()
        _end(job, State.CANCELLED)
        raise
    except Exception as error:
        undo()
        known = isinstance(error, (CoreError, RuleError, *away()))
        log.exception("job %s failed", job.pk)
        _end(job, State.FAILED, _reason(error) if known else "An error of Saucer's own stopped it; the log has the details.")
        raise
    Job.objects.filter(pk=job.pk).update(done=Job.objects.get(pk=job.pk).total)
    _end(job, State.DONE)


def following(person: Person) -> QuerySet[Job]:
    """The jobs a person sees: their own, newest first."""
    return Job.objects.filter(asked_by=person)


def cancel(job: Job, person: Person) -> None:
    """Asks a job to stop at its next step."""
    must(person, "started.end", is_own(person, job.asked_by_id), "Only who started this, or a lead, can stop it.")
    if job.state in (State.WAITING, State.RUNNING):
        Job.objects.filter(pk=job.pk).update(cancel_asked=True)


def recover() -> int:
    """Marks jobs as failed whose worker died and was not replaced, with the reason. Returns how many."""
    lost = 0
    for job in Job.objects.filter(state__in=[State.WAITING, State.RUNNING], queue_id__isnull=False):
        queued = ProcrastinateJob.objects.filter(pk=job.queue_id).first()
        if queued is None or queued.status in ("failed", "cancelled", "aborted", "succeeded"):
            _end(job, State.FAILED, "The worker stopped before it was finished. Start it again.")
            lost += 1
    return lost
