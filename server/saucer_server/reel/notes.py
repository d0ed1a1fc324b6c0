"""Notes on moments of a project, and replies to them."""

from django.db import transaction
from django.db.models import Q, QuerySet

from ..errors import RuleError
from ..looks import rules as looks
from ..looks.rules import LookValue
from ..lookup import by_id
from ..people import activity
from ..people.activity import Happening
from ..people.rules import Person
from ..projects import rules as projects
from ..projects.rules import Layer, Project, Shot
from ..reviewing import remarks
from .models import ReelNote
from .payloads import ReelNoteIn, Wore

__all__ = ["ReelNote", "change", "drop", "of_project", "pin", "reply", "settle", "waiting", "worn_then"]

#: Notes of one project.
NOTES = 2000
#: Open notes that a person is told of at once.
WAITING = 50


def of_project(project: Project) -> QuerySet[ReelNote]:
    """Notes with their replies, the oldest first."""
    rows = ReelNote.objects.filter(project=project, reply_to=None).select_related("shot", "by", "settled_by")
    return rows.prefetch_related("replies__by")


def waiting(person: Person) -> QuerySet[ReelNote]:
    """Open notes of others on the projects that a person works on, the newest first."""
    theirs = Q(project__members=person) | Q(project__made_by=person)
    rows = ReelNote.objects.filter(theirs, reply_to=None, settled_by=None).exclude(by=person).distinct()
    return rows.select_related("project", "by").order_by("-at")[:WAITING]


def _locked(project: Project, note_id: int) -> ReelNote:
    """The note, held until the transaction ends."""
    rows = ReelNote.objects.filter(project=project).select_for_update(of=("self",))
    return by_id(rows, note_id, "note")


def _find(project: Project, note_id: int) -> ReelNote:
    return by_id(ReelNote.objects.filter(project=project), note_id, "note")


def _within(shot: Shot, said: ReelNoteIn) -> None:
    """Raises 422 for frames that the shot does not have."""
    if not shot.first <= said.first <= said.last <= shot.last:
        raise RuleError(422, f"{shot.name} has frames {shot.first} to {shot.last}; a note must lie there.")


def pin(project: Project, person: Person, said: ReelNoteIn) -> ReelNote:
    """A note on a moment of a shot; what is on the shot then is kept with it. Raises 404, 409, 422."""
    shot = projects.find_shot(project, said.shot)
    _within(shot, said)
    if ReelNote.objects.filter(project=project).count() >= NOTES:
        raise RuleError(409, f"There are {NOTES} notes on this project already. Take some away first.")
    place = f"{shot.number} {shot.name}"
    with transaction.atomic():
        activity.note(
            Happening.REVIEW,
            person,
            "noted on",
            f"{shot.name} in {project.name}",
            more=said.text.strip(),
            to=f"/projects/{project.pk}/reel?shot={shot.pk}",
        )
        return ReelNote.objects.create(
            project=project,
            shot=shot,
            place=place,
            first=said.first,
            last=said.last,
            x=said.x,
            y=said.y,
            wore=[
                Wore(revision=layer.revision_id, strength=layer.strength, words=str(layer.revision))
                for layer in shot.layers.all()
            ],
            trim=shot.trim,
            text=said.text.strip(),
            by=person,
        )


def reply(project: Project, note_id: int, person: Person, text: str) -> ReelNote:
    """A reply to a note. Raises 404, and 422 for a reply to a reply."""
    with transaction.atomic():
        note = _locked(project, note_id)
        if note.reply_to_id is not None:
            raise RuleError(422, "Reply to the note itself.")
        return ReelNote.objects.create(
            project=project, shot=note.shot, place=note.place, text=text.strip(), reply_to=note, by=person
        )


def settle(project: Project, note_id: int, person: Person, settled: bool) -> ReelNote:
    """Says that nothing is left to do about a note, or that there is again."""
    with transaction.atomic():
        note = _locked(project, note_id)
        remarks.settle(note, person, settled)
    return note


def change(project: Project, note_id: int, person: Person, text: str) -> ReelNote:
    """Writes one's own note anew."""
    note = _find(project, note_id)
    remarks.write_anew(note, person, text)
    return note


def drop(project: Project, note_id: int, person: Person) -> None:
    """Takes a note away with its replies: one's own, or any as a lead."""
    remarks.take_away(_find(project, note_id), person)


def worn_then(project: Project, note_id: int) -> LookValue:
    """What was on the shot when a note was written, as one look. Raises 404, also for a revision that is
    gone, and 409 where nothing was on it."""
    note = _find(project, note_id)
    layers = [Layer(revision=looks.find_revision(one.revision), strength=one.strength) for one in note.wore]
    on = projects.worn(layers)
    if on is None:
        raise RuleError(409, "Nothing was on the shot when this note was written.")
    return on.look.model_copy(update={"strength": on.look.strength * on.strength})
