"""Starting, following, cancelling and recovering long work."""

import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from enum import StrEnum
from functools import wraps
from typing import Any

from django.db import InterfaceError, OperationalError, close_old_connections
from django.db.models import Count, Q, QuerySet
from django.utils import timezone
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.contrib.django.django_connector import DjangoConnector
from procrastinate.contrib.django.models import ProcrastinateJob
from procrastinate.jobs import JobDeferrer
from procrastinate.manager import JobManager
from psycopg.errors import DiskFull
from saucer_core.errors import CoreError

from ..errors import RuleError
from ..people.quotas import Holding, register
from ..people.rules import Person, is_own, must
from ..storage import FULL, away
from .models import Job, State

__all__ = [
    "AGAIN",
    "Cancelled",
    "Job",
    "Progress",
    "Queue",
    "State",
    "ahead",
    "cancel",
    "defer",
    "enqueue",
    "following",
    "order",
    "recover",
    "running",
    "task",
]

log = logging.getLogger("saucer.jobs")


class Queue(StrEnum):
    """What somebody waits at, and what runs long: a worker is always free for the first
    (``launch/serving.py``)."""

    SOON = "soon"
    LONG = "long"


#: Jobs that one person may have under way.
WAITING = 50


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


_FULL = (
    "The disk is full. Nothing half-made was kept. Ask whoever runs Saucer to make room, then start it again."
)
#: Work whose database goes away is taken up again by itself: after 2, 4, 8 … seconds, for some minutes.
AGAIN = RetryStrategy(max_attempts=7, exponential_wait=2, retry_exceptions={OperationalError, InterfaceError})


def task(queue: Queue) -> Callable[[Callable[..., None]], Any]:
    """Decorator: a function that workers carry out. It ends quietly when it was asked to stop, and starts
    again when the database went."""

    def make(function: Callable[..., None]) -> Any:
        @wraps(function)
        def work(**given: Any) -> None:
            close_old_connections()
            try:
                function(**given)
            except Cancelled:
                return
            except (OperationalError, InterfaceError):
                # The connection is of no use any more; the next try makes its own.
                close_old_connections()
                raise

        return app.task(queue=queue, retry=AGAIN)(work)

    return make


def _reason(error: Exception) -> str:
    if isinstance(error, OSError) and error.errno in FULL:
        return _FULL
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
    except (OperationalError, InterfaceError) as error:
        if isinstance(error.__cause__, DiskFull):
            undo()
            _end(job, State.FAILED, _FULL)
        raise
    except Exception as error:
        undo()
        known = isinstance(error, (CoreError, RuleError, *away()))
        log.exception("job %s failed", job.pk)
        _end(
            job,
            State.FAILED,
            _reason(error) if known else "An error of Saucer's own stopped it; the log has the details.",
        )
        raise
    Job.objects.filter(pk=job.pk).update(done=Job.objects.get(pk=job.pk).total)
    _end(job, State.DONE)


def order(kind: str, title: str, person: Person, total: int = 0) -> Job:
    """A new job; ``enqueue`` gives it to a worker. Raises 429 where the person has too many under way."""
    if _under_way(person).count() >= WAITING:
        raise RuleError(
            429,
            f"You have {WAITING} pieces of work waiting or running. Wait until some are done, or stop some.",
        )
    return Job.objects.create(kind=kind, title=title[:200], asked_by=person, total=total)


def enqueue(job: Job, task: Any, helpers: tuple[Any, int] = (None, 0), **given: Any) -> None:
    """Hands a job to the next free worker. helpers: a task that lends a hand, and how often it is asked for.

    People take turns: somebody's second job comes after everybody's first.
    """
    turn = _under_way(job.asked_by).exclude(pk=job.pk).count()
    job.queue_id = defer(task, -turn, **given)
    job.save(update_fields=["queue_id"])
    helper, many = helpers
    for _ in range(many):
        defer(helper, -turn - 1, **given)


def defer(task: Any, priority: int = 0, **given: Any) -> int:
    """Puts a task into the queue, within the transaction that is open; gives its number there.

    A worker's own way into the queue is a connection beside Django's: another worker would begin the task
    before the rows it needs are there.
    """
    queued = task.configure(priority=priority).job
    return int(JobDeferrer(JobManager(DjangoConnector()), queued).defer(**given))


def find(job_id: int) -> Job:
    """The job as it stands now. Raises ``DoesNotExist``."""
    return Job.objects.get(pk=job_id)


def counted() -> list[tuple[str, int]]:
    """How many jobs there are in each state."""
    return list(Job.objects.order_by().values_list("state").annotate(n=Count("pk")))


def _unfinished() -> QuerySet[Job]:
    return Job.objects.filter(state__in=[State.WAITING, State.RUNNING])


register(Holding("piece of work under way", "pieces of work under way", _unfinished, "asked_by"))


def _under_way(person: Person) -> QuerySet[Job]:
    return _unfinished().filter(asked_by=person)


def ahead(job: Job) -> int:
    """How many pieces of work come before a job that waits."""
    own = ProcrastinateJob.objects.filter(pk=job.queue_id).first() if job.state == State.WAITING else None
    if own is None or own.status != "todo":
        return 0
    waiting = ProcrastinateJob.objects.filter(status="todo", queue_name=own.queue_name)
    return int(waiting.filter(Q(priority__gt=own.priority) | Q(priority=own.priority, pk__lt=own.pk)).count())


def following(person: Person) -> QuerySet[Job]:
    """The jobs a person sees: their own, newest first."""
    return Job.objects.filter(asked_by=person)


def cancel(job: Job, person: Person) -> None:
    """Asks a job to stop at its next step."""
    must(
        person,
        "started.end",
        is_own(person, job.asked_by_id),
        "Only who started this, or a lead, can stop it.",
    )
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
