"""Notes on looks, and replies to them."""

from django.db import transaction
from django.db.models import QuerySet

from ..errors import RuleError
from ..frames import rules as frames
from ..frames.rules import Frame
from ..looks.rules import Look, Revision, lock_one, page_of
from ..lookup import by_id
from ..people import activity
from ..people.activity import Happening
from ..people.rules import Person
from ..removals import rules as removals
from . import remarks
from .models import Note

__all__ = ["Note", "change", "drop", "of_look", "pin", "reply", "settle"]

#: Notes of one look.
NOTES = 500


def of_look(look: Look) -> QuerySet[Note]:
    """Notes with their replies, the oldest first."""
    rows = Note.objects.filter(look=look, reply_to=None).select_related("revision", "by", "settled_by")
    return rows.prefetch_related("replies__by", "replies__revision")


def _find(look: Look, note_id: int) -> Note:
    return by_id(look.notes.all(), note_id, "note")


def pin(
    look: Look, revision: Revision, person: Person, text: str, spot: tuple[Frame, float, float] | None
) -> Note:
    """A note on a revision, on a spot of a frame or on the look as a whole."""
    if revision.look_id != look.pk:
        raise RuleError(422, "This revision is one of another look.")
    if look.notes.count() >= NOTES:
        raise RuleError(
            409, f"There are {NOTES} notes on this look already. Settle some and take them away first."
        )
    frame, x, y = spot or (None, None, None)
    with transaction.atomic():
        removals.hold(frames.BIN, [] if frame is None else [frame.pk])
        activity.note(
            Happening.REVIEW,
            person,
            "noted on",
            str(revision),
            more=text.strip(),
            to=page_of(revision),
            revision=revision.pk,
        )
        return Note.objects.create(
            look=look, revision=revision, frame=frame, x=x, y=y, text=text.strip(), by=person
        )


def reply(look: Look, note_id: int, revision: Revision, person: Person, text: str) -> Note:
    """A reply to a note."""
    note = _find(look, note_id)
    if note.reply_to_id is not None:
        raise RuleError(422, "Reply to the note itself.")
    with transaction.atomic():
        # The look before its parts, as everybody takes them.
        lock_one(look.pk)
        note = by_id(look.notes.all(), note_id, "note")
        return Note.objects.create(look=look, revision=revision, text=text.strip(), reply_to=note, by=person)


def settle(look: Look, note_id: int, person: Person, settled: bool) -> Note:
    """Says that nothing is left to do about a note, or that there is again."""
    with transaction.atomic():
        note = by_id(look.notes.select_for_update(of=("self",)), note_id, "note")
        remarks.settle(note, person, settled)
    return note


def change(look: Look, note_id: int, person: Person, text: str) -> Note:
    """Writes one's own note anew."""
    note = _find(look, note_id)
    remarks.write_anew(note, person, text)
    return note


def drop(look: Look, note_id: int, person: Person) -> None:
    """Takes a note away with its replies: one's own, or any as a lead."""
    remarks.take_away(_find(look, note_id), person)
