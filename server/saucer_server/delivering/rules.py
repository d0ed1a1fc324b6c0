"""Deliveries: asked for, followed, stopped, and taken away."""

import io
import zipfile
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import IO

from django.core.files.storage import default_storage
from django.db import transaction
from django.db.models import Count, Max, Q, QuerySet
from saucer_core.formats.delivery import Contents, DeliveredFile, Part

from ..errors import RuleError, missing
from ..jobs import rules as jobs
from ..jobs.rules import State
from ..people.activity import Happening, note
from ..people.rules import Person, is_own, must
from ..projects import rules as projects
from ..projects.rules import Project, must_work
from ..zips import streamed
from . import room
from .contents import Change, lists
from .models import Delivery, Feed, Fetch, Piece, PieceState
from .pieces import Named, OfReviewShot, clashes, pieces, preview
from .plan import PARTS, Plan
from .since import since
from .snapshots import taken

__all__ = [
    "Delivery",
    "Feed",
    "Fetch",
    "Piece",
    "PieceState",
    "before",
    "contents_of",
    "drop",
    "entries",
    "every",
    "file_of",
    "find",
    "has_files",
    "newest",
    "newest_review",
    "order",
    "outlook",
    "parts_of",
    "place_of",
    "zipped",
]

#: Workers that help with one delivery.
HELPERS = 3


def every(project: Project) -> QuerySet[Delivery]:
    """The deliveries of a project, the newest first."""
    return Delivery.objects.filter(project=project).select_related("job", "made_by")


def find(project: Project, number: int) -> Delivery:
    """A delivery of a project; raises 404."""
    row = every(project).filter(number=number).first() if 0 < number < 2**31 else None
    if row is None:
        raise missing("delivery")
    return row


def newest(project: Project) -> Delivery | None:
    """The newest finished delivery that has its files by themselves, but for those that hold a review clip
    alone."""
    return _finished(project).filter(review_alone=False).first()


def newest_review(project: Project) -> Delivery | None:
    """The newest finished delivery that holds a review clip alone."""
    return _finished(project).filter(review_alone=True, gone=False).first()


def before(delivery: Delivery) -> Delivery | None:
    """The finished delivery before that one, among those of its kind."""
    rows = _finished(delivery.project).filter(number__lt=delivery.number)
    return rows.filter(review_alone=delivery.review_alone).first()


def _finished(project: Project) -> QuerySet[Delivery]:
    return every(project).filter(ready=True).exclude(contents=None)


def has_files(delivery: Delivery) -> bool:
    """Whether it can be taken away."""
    return not delivery.gone and (delivery.ready or bool(delivery.file))


#: How long files of a delivery are kept at least.
KEPT_FOR = timedelta(days=90)
#: Newest finished deliveries of each project whose files are kept for good.
KEPT_NEWEST = 2


def let_go_of_old(now: datetime) -> None:
    """Marks deliveries whose files are not needed any more. What was in them stays written down."""
    for project in projects.every():
        newest = every(project).filter(ready=True).values_list("pk", flat=True)[:KEPT_NEWEST]
        old = every(project).filter(made_at__lt=now - KEPT_FOR, gone=False).exclude(pk__in=list(newest))
        old.exclude(job__state__in=[State.WAITING, State.RUNNING]).update(gone=True)


def shas_in_use() -> set[str]:
    """Checksums of the files of deliveries that are kept, and of those that are being made."""
    pieces = Piece.objects.filter(delivery__gone=False).values_list("files", flat=True)
    return {file.sha256 for files in pieces for file in files}


def _count(number: int, what: str) -> str:
    return f"{number:,} {what}" if number == 1 else f"{number:,} {what}s"


def order(project: Project, person: Person, plan: Plan) -> Delivery:
    """Asks for a delivery; workers make it.

    Raises 403, 409 (nothing has a look, looks that must be asked for, two files of one name), and 422.
    """
    from .tasks import deliver, help_deliver

    must_work(person, project)
    if plan.held == "anyway":
        must(person, "held.pass_on")
    with transaction.atomic():
        projects.lock(project)
        room.must_fit(project)
        found = taken(project, plan)
        if found.held and plan.held == "stop":
            names = ", ".join(found.held[:3]) + (
                f" and {len(found.held) - 3} more" if len(found.held) > 3 else ""
            )
            words = (
                f"{names}: who may pass it on must be asked first. Leave these shots out, or let a lead "
                "deliver them."
            )
            raise RuleError(409, words, held=found.held)
        going = found.reel if plan.review_alone else found.shots
        if not going:
            raise RuleError(409, "No shot has a look that can go out. Assign one, then deliver.")
        drafts = list(pieces(project, plan, found.shots, found.reel))
        clash = clashes(drafts)
        if clash:
            raise RuleError(409, clash)
        if not drafts:
            raise RuleError(409, "There is nothing to make: no shot is cut from a clip. Choose another part.")
        number = _next(project)
        job = jobs.order("delivery", f"{project.name}, delivery {number}", person, len(drafts))
        delivery = Delivery.objects.create(
            project=project,
            number=number,
            job=job,
            grid=plan.grid,
            plan=plan,
            review_alone=plan.review_alone,
            cut=project.cut_number,
            shots=going,
            left_out=found.left_out,
            made_by=person,
        )
        Piece.objects.bulk_create(
            Piece(delivery=delivery, place=k, part=d.part, path=d.path, source=d.source)
            for k, d in enumerate(drafts)
        )
        jobs.enqueue(job, deliver, (help_deliver, min(HELPERS, len(drafts) - 1)), delivery_id=delivery.pk)
        size = f"{_count(len(going), 'shot')}, {_count(len({d.part for d in drafts}), 'part')}"
        note(
            Happening.DELIVERY,
            person,
            "delivers",
            f"{project.name}, number {number}",
            more=size,
            to=f"/projects/{project.pk}/deliver",
        )
    return delivery


@dataclass(frozen=True)
class PartCount:
    """A part of a delivery: how many of its pieces are done, were left out, and are there in all."""

    part: Part
    label: str
    done: int
    dropped: int
    total: int


@dataclass(frozen=True)
class HeldLook:
    """A look that must be asked for before it is passed on, and the numbers of the shots it is on."""

    look: str
    shots: list[int]


@dataclass(frozen=True)
class Outlook:
    """What a plan would give: shots, pieces of each part, names, what must be asked for, what is otherwise
    than last time. clash: two files that would have one name, in words. next: the delivery's number."""

    shots: int
    parts: list[PartCount]
    names: list[Named]
    clash: str
    held: list[HeldLook]
    left_out: list[str]
    next: int
    changes: list[Change]


def _next(project: Project) -> int:
    return (every(project).aggregate(top=Max("number"))["top"] or 0) + 1


def outlook(project: Project, plan: Plan) -> Outlook:
    """What a plan would give; nothing is made."""
    found = taken(project, plan)
    drafts = list(pieces(project, plan, found.shots, found.reel))
    whole = pieces(project, plan.model_copy(update={"parts": tuple(PARTS)}), found.shots, found.reel)
    counts = Counter(draft.part for draft in whole if not isinstance(draft.source, OfReviewShot))
    last = newest(project)
    on = {name: [s.number for s in found.shots if name in {x.look for x in s.layers}] for name in found.held}
    return Outlook(
        shots=len(found.shots),
        parts=[PartCount(part, label, 0, 0, counts[part]) for part, label in PARTS.items()],
        names=preview(project, plan, found.shots),
        clash=clashes(drafts),
        held=[HeldLook(name, shots) for name, shots in on.items()],
        left_out=found.left_out,
        next=_next(project),
        changes=since(last.shots, found.shots) if last else [],
    )


def drop(delivery: Delivery, person: Person, part: str) -> None:
    """Lets what is not made yet of a part go; the rest goes on."""
    must(
        person,
        "started.end",
        is_own(person, delivery.made_by_id),
        "Only who asked for this delivery, or a lead, can leave a part out.",
    )
    delivery.pieces.filter(part=part, state=PieceState.WAITING).update(state=PieceState.DROPPED)


def parts_of(delivery: Delivery) -> list[PartCount]:
    """The parts of a delivery and how far they are."""
    done, dropped = (Count("pk", filter=Q(state=s)) for s in (PieceState.DONE, PieceState.DROPPED))
    rows = (
        delivery.pieces.order_by().values_list("part").annotate(done=done, dropped=dropped, total=Count("pk"))
    )
    by_part = {part: counts for part, *counts in rows}
    return [PartCount(part, label, *by_part[part]) for part, label in PARTS.items() if part in by_part]


def contents_of(delivery: Delivery) -> Contents:
    """The list of a delivery that is done; raises 404."""
    if delivery.contents is None or not delivery.ready:
        raise missing("delivery")
    return delivery.contents


def file_of(delivery: Delivery, path: str) -> DeliveredFile:
    """A file of a delivery that is done; raises 404."""
    found = next((f for f in contents_of(delivery).files if f.path == path), None)
    if found is None:
        raise missing("file")
    return found


def place_of(sha: str) -> str:
    """Where a file with that checksum is kept."""
    return f"delivered/{sha[:2]}/{sha}"


def entries(delivery: Delivery) -> Iterator[tuple[str, IO[bytes]]]:
    """Everything in the package of a delivery that is done: paths and open files, the lists first."""
    contents = contents_of(delivery)
    for name, data in lists(contents, delivery.changes, delivery.left_out).items():
        yield name, io.BytesIO(data)
    for file in contents.files:
        yield file.path, default_storage.open(place_of(file.sha256))


def zipped(delivery: Delivery) -> Iterator[bytes]:
    """The package as a ZIP that is made while it is taken away: no more than a piece of one file is in
    memory."""
    return streamed(entries(delivery), zipfile.ZIP_STORED)
