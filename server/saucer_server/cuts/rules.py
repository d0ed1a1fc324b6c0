"""Cut lists of projects: they come in, are looked at, matched to clips, and let go of."""

from collections.abc import Mapping
from fractions import Fraction
from typing import Any

from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import Q, QuerySet
from saucer_core.errors import FileError
from saucer_core.formats.cutlists import otio, reading
from saucer_core.formats.cutlists.matching import Shelf, Source, source

from .. import storage
from ..clips import rules as clips
from ..clips.rules import Clip
from ..errors import RuleError
from ..jobs.rules import State
from ..lookup import by_id
from ..people.quotas import must_fit
from ..people.rules import Person
from ..projects.payloads import SHOTS
from ..projects.rules import Project, lock, must_work
from .models import Cut
from .values import Met

__all__ = [
    "Cut",
    "Met",
    "choose",
    "current",
    "every",
    "find",
    "kept",
    "let_go",
    "locked",
    "must_be_open",
    "propose",
    "shelf_of",
    "source_of",
]

#: Cuts of one project that are looked at and not taken yet.
OPEN = 10


def every(project: Project) -> QuerySet[Cut]:
    """The cuts of a project, the newest first."""
    return Cut.objects.filter(project=project).select_related("made_by", "taken_by", "job", "project")


def find(project: Project, cut_id: int) -> Cut:
    """One of its cuts; raises 404."""
    return by_id(every(project), cut_id, "cut")


def current(project: Project) -> Cut | None:
    """The cut that the shots of a project follow."""
    return every(project).filter(number=project.cut_number).exclude(number=None).first()


def kept(cut_id: int) -> Cut:
    """A cut that a delivery was asked for with. Raises ``DoesNotExist``."""
    return Cut.objects.get(pk=cut_id)


def locked(cut: Cut) -> Cut:
    """The row of a cut, held until the transaction ends; raises 404."""
    return by_id(Cut.objects.select_for_update(of=("self",)).select_related("project"), cut.pk, "cut")


def must_be_open(cut: Cut) -> None:
    """Raises 409 where a cut was taken, or is being taken."""
    if cut.number is not None:
        raise RuleError(409, f"This is cut {cut.number} already. Bring the next list.")
    if cut.job is not None and cut.job.state in (State.WAITING, State.RUNNING):
        raise RuleError(409, "This cut is being taken. Wait until that is done.")


def source_of(clip: Clip) -> Source | None:
    """A clip as events are matched to it; nothing for one that was not looked through or has no rate."""
    facts = clip.facts
    if facts is None or not facts.rate:
        return None
    rate = Fraction(facts.rate)
    return source(clip.pk, clip.name, clip.file_name, facts.reel, facts.timecode, facts.frames, rate)


def shelf_of(project: Project, rate: Fraction) -> Shelf:
    """The clips that events of a cut of a project may be of: those that all who see the project may see."""
    rows = clips.every().filter(Q(circle=None) | Q(circle=project.circle)).exclude(facts=None)
    return Shelf([found for clip in rows if (found := source_of(clip)) is not None], rate)


def _met(shelf: Shelf, cut: Cut) -> list[Met]:
    found = (shelf.match(event) for event in cut.events)
    return [Met(clip=m.key, by=m.by, asked=m.asked, why=m.why) for m in found]


def propose(project: Project, person: Person, upload: "UploadedFile[Any]", rate: str) -> Cut:
    """A list is looked at: its events are matched to clips, and nothing of the project changes.

    rate: of CMX 3600 lists, which do not say theirs. Raises ``FileError``, 403, and 409 for too many at once.
    """
    must_work(person, project)
    must_fit(person, upload.size or 0)
    with storage.uploaded(upload, otio.SIZE_LIMIT, "a cut list") as (path, name):
        found = reading.read(path, name, Fraction(rate))
        if len(found.events) > SHOTS:
            raise FileError(name, f"has {len(found.events):,} events, and a project holds {SHOTS:,} shots")
    with transaction.atomic():
        # Two who bring lists at once count each other's.
        lock(project)
        if every(project).filter(number=None).count() >= OPEN:
            raise RuleError(
                409, f"{OPEN} cuts of this project are looked at already. Take one, or let go of some."
            )
        cut = Cut(
            project=project,
            title=found.title,
            file_name=name[:200],
            rate=f"{found.rate.numerator}/{found.rate.denominator}",
            drop=found.drop,
            events=list(found.events),
            doubts=list(found.doubts),
            corrections=[],
            made_by=person,
        )
        cut.met = _met(shelf_of(project, found.rate), cut)
        cut.waiting = sum(met.clip is None for met in cut.met)
        cut.save()
    return find(project, cut.pk)


def choose(cut: Cut, person: Person, chosen: Mapping[int, int | None], corrections: list[int] | None) -> Cut:
    """Says which clip an event is of, by its place from 0, or that it waits (``None``); and which events'
    CDLs become trims. Raises 403, 404, 409, and 422 for a clip that does not hold the event's frames."""
    must_work(person, cut.project)
    with transaction.atomic():
        row = locked(cut)
        must_be_open(row)
        if chosen:
            shelf, met = shelf_of(row.project, Fraction(row.rate)), list(row.met)
            for place, key in chosen.items():
                met[_place(row, place)] = by_hand(row, shelf, place, key)
            row.met, row.waiting = met, sum(one.clip is None for one in met)
        if corrections is not None:
            row.corrections = sorted(
                {p for p in corrections if row.events[_place(row, p)].correction is not None}
            )
        row.save(update_fields=["met", "waiting", "corrections"])
    return find(cut.project, cut.pk)


def _place(cut: Cut, place: int) -> int:
    if not 0 <= place < len(cut.events):
        raise RuleError(422, f"This cut has {len(cut.events):,} events, and none at place {place}.")
    return place


def by_hand(cut: Cut, shelf: Shelf, place: int, key: int | None) -> Met:
    """What an event meets when a person says it. Raises 404, 422."""
    event = cut.events[_place(cut, place)]
    if key is None:
        return Met(why="waits, as somebody said")
    found = shelf.of_key(key)
    if found is None:
        raise RuleError(404, "This clip is not there, or it is still looked through. Choose another one.")
    if not found.holds(event, Fraction(cut.rate)):
        raise RuleError(422, f"This clip has {found.range_said()} alone, not the frames of {event.name}.")
    return Met(clip=key, by="hand")


def let_go(cut: Cut, person: Person) -> None:
    """Lets go of a cut that was not taken. Raises 403, 409."""
    must_work(person, cut.project)
    with transaction.atomic():
        row = locked(cut)
        must_be_open(row)
        row.delete()
