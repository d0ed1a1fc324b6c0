"""Making the pieces of a delivery. Done by workers; several may help with one.

A piece is taken by a lock of the database that lives as long as the worker's connection: nobody makes one
twice, and what a dead worker had under way is free again at once. What a piece gives is kept by what it is
made from: work that begins again goes on where it stopped, and a delivery of unchanged shots makes nothing
anew.
"""

import shutil
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from django.db import transaction
from saucer_core.formats.delivery import DeliveredFile, Part

from .. import storage
from ..jobs import rules as jobs
from ..jobs.locks import taken
from ..jobs.rules import Progress, State, running
from ..projects import rules as projects
from . import kept
from .drop_folder import await_copy, copy_out
from .kept import Kept
from .listing import contents
from .models import Delivery, Piece, PieceState
from .parts import Work, maker_of
from .pieces import OfReview, OfReviewShot, Source
from .plan import PARTS, Plan
from .rules import before
from .since import since

#: The first half of the locks that pieces are taken by.
LOCKS = 0x5A11
#: How long the leading worker waits for its helpers before it looks again.
PAUSE = 0.3


def make(delivery_id: int) -> None:
    """Leads the making of a delivery to its end. May run again after a worker died: what is made is not made
    again."""
    delivery = Delivery.objects.select_related("project", "job").get(pk=delivery_id)

    def undo() -> None:
        Delivery.objects.filter(pk=delivery.pk).update(ready=False, contents=None, bytes=0)

    with running(delivery.job_id, undo) as progress:
        progress.total(delivery.pieces.count())
        while _some(delivery, progress):
            progress.at(
                delivery.pieces.exclude(state=PieceState.WAITING).count(), "waiting for helping workers"
            )
            time.sleep(PAUSE)
        _finish(delivery)
        copied = delivery.plan.drop_folder
        if copied:
            # Before the job is done: whoever follows it must not take the delivery for finished.
            await_copy(delivery)
    if copied:
        copy_out(Delivery.objects.get(pk=delivery.pk))


def help_with(delivery_id: int) -> None:
    """Makes pieces of a delivery as long as there are any; its leading worker makes an end of it."""
    delivery = Delivery.objects.select_related("project", "job").get(pk=delivery_id)
    job = jobs.find(delivery.job_id)
    if job.state in (State.WAITING, State.RUNNING):
        _some(delivery, Progress(job))


def _some(delivery: Delivery, progress: Progress) -> bool:
    """Makes the pieces that nobody else has; gives whether others are still under way."""
    others = False
    for piece in delivery.pieces.filter(state=PieceState.WAITING):
        if isinstance(piece.source, OfReview) and _frames_wait(delivery):
            others = True
            continue
        with taken(LOCKS, piece.pk) as got:
            others = others or not got
            if got and Piece.objects.filter(pk=piece.pk, state=PieceState.WAITING).exists():
                if jobs.find(delivery.job_id).state == State.FAILED:
                    return False
                done = delivery.pieces.exclude(state=PieceState.WAITING).count()
                doing = f"{PARTS[piece.part]}: {piece.path.rpartition('/')[2]}"
                progress.at(done, doing)
                _piece(delivery, piece, lambda: progress.at(done, doing))  # noqa: B023
    return others


def _frames_wait(delivery: Delivery) -> bool:
    """Whether frames of its review clip are still to be made: it is put together after all of them."""
    waiting = delivery.pieces.filter(part="review", state=PieceState.WAITING)
    return any(isinstance(piece.source, OfReviewShot) for piece in waiting)


def _piece(delivery: Delivery, piece: Piece, alive: Callable[[], None]) -> None:
    found = _made(piece.part, piece.source, delivery.plan, alive)
    files = [
        DeliveredFile(path=f"{piece.path}{f.suffix}", sha256=f.sha256, bytes=f.bytes) for f in found.files
    ]
    Piece.objects.filter(pk=piece.pk, state=PieceState.WAITING).update(
        state=PieceState.DONE, files=files, facts=found.facts
    )


def _made(part: Part, source: Source, plan: Plan, alive: Callable[[], None]) -> Kept:
    """What a piece gives: what was made from the same before, or what is made now."""
    maker = maker_of(part, source)
    key = storage.digest_of([part, maker.made_of(source, plan)])
    found = kept.known(key)
    if found is None:
        with tempfile.TemporaryDirectory() as name:
            lengths = kept.lengths(key)
            work = Work(plan, Path(name), lengths, alive, lambda other, of: _made(other, of, plan, alive))
            made = maker.make(source, work)
            found = kept.keep(key, made.files, made.facts)
            shutil.rmtree(lengths, ignore_errors=True)
    return found


def _finish(delivery: Delivery) -> None:
    """Writes the contents down: from here on it is a delivery."""
    with transaction.atomic():
        row = (
            Delivery.objects.select_for_update(of=("self",))
            .select_related("project", "made_by")
            .get(pk=delivery.pk)
        )
        dropped = row.pieces.filter(state=PieceState.DROPPED).values_list("part", flat=True)
        row.left_out = [
            *row.left_out,
            *(f"{PARTS[p]}: left out while it was made" for p in sorted(set(dropped))),
        ]
        row.contents = contents(row)
        row.bytes = sum(f.bytes for f in row.contents.files)
        last = before(row)
        row.changes = since(last.shots if last else None, row.shots)
        row.ready = True
        row.save(update_fields=["left_out", "contents", "bytes", "changes", "ready"])
        projects.say_delivered(row.project, row.number, row.made_at)


def again(delivery_id: int) -> None:
    """Puts a finished delivery on the drop folder once more."""
    copy_out(Delivery.objects.select_related("project").get(pk=delivery_id))
