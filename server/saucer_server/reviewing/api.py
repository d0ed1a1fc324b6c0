"""Notes and reviews over HTTP."""

from datetime import date, datetime
from typing import Annotated

from django.db.models import QuerySet
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field, model_validator

from ..fields import Share, Text
from ..frames import rules as frames
from ..looks import rules as looks
from ..looks.revisions_api import RevisionOut
from ..lookup import Id
from ..people.rules import Person, person_of
from . import notes, rules
from .notes import Note
from .rules import Review

router = Router(tags=["reviews"])

Words = Annotated[Text, Field(max_length=4000)]


class ReplyOut(Schema):
    """A reply to a note."""

    id: int
    text: str
    by: str
    mine: bool
    at: datetime
    revision: int

    @staticmethod
    def resolve_by(note: Note) -> str:
        """The person's name."""
        return str(note.by)

    @staticmethod
    def resolve_mine(note: Note, context: dict[str, object]) -> bool:
        """Whether the person who asks wrote it."""
        return note.by_id == person_of(context["request"]).pk

    @staticmethod
    def resolve_revision(note: Note) -> int:
        """The number of the revision that was looked at."""
        return note.revision.number


class NoteOut(ReplyOut):
    """A note; its spot, from 0 to 1 from the left and the top of a frame, where it has one."""

    frame: int | None
    x: float | None
    y: float | None
    settled_by: str | None
    replies: list[ReplyOut]

    @staticmethod
    def resolve_frame(note: Note) -> int | None:
        """The frame's number; none too where the frame is gone."""
        return note.frame_id

    @staticmethod
    def resolve_settled_by(note: Note) -> str | None:
        """The person's name."""
        return str(note.settled_by) if note.settled_by else None


class ReplyIn(Schema):
    """Words on a revision."""

    revision: Id
    text: Text = Field(min_length=1, max_length=4000)


class NoteIn(ReplyIn):
    """A note, and its spot if it has one."""

    frame: Id | None = None
    x: Share | None = None
    y: Share | None = None

    @model_validator(mode="after")
    def _whole_spot(self) -> "NoteIn":
        if len({self.frame is None, self.x is None, self.y is None}) != 1:
            raise ValueError("a spot is a frame with x and y")
        return self


class NoteText(Schema):
    """What a note says from now on."""

    text: Text = Field(min_length=1, max_length=4000)


class SettleIn(Schema):
    """Whether nothing is left to do."""

    settled: bool


class PersonOut(Schema):
    """Somebody who may be asked."""

    id: int
    name: str

    @staticmethod
    def resolve_name(person: Person) -> str:
        """The person's name."""
        return str(person)


class AskIn(Schema):
    """Whom to ask, by when, and what to look at."""

    of: Id
    due: date | None = None
    words: Words = ""


class AnswerIn(Schema):
    """The decision, and its reason where it goes back."""

    approve: bool
    words: Words = ""


class RetireIn(Schema):
    """The look to use instead."""

    successor: Id | None = None


class ReviewOut(Schema):
    """A review. mine: asked of the person who looks at it."""

    id: int
    revision: RevisionOut
    asked_by: str
    asked_of: str
    mine: bool
    own: bool
    asked_at: datetime
    due: date | None
    words: str
    stand: str
    answer: str
    answered_by: str | None
    answered_at: datetime | None

    @staticmethod
    def resolve_asked_by(review: Review) -> str:
        """The person's name."""
        return str(review.asked_by)

    @staticmethod
    def resolve_asked_of(review: Review) -> str:
        """The person's name."""
        return str(review.asked_of)

    @staticmethod
    def resolve_mine(review: Review, context: dict[str, object]) -> bool:
        """Whether it is asked of the person who looks at it."""
        return review.asked_of_id == person_of(context["request"]).pk

    @staticmethod
    def resolve_own(review: Review, context: dict[str, object]) -> bool:
        """Whether that person asked for it."""
        return review.asked_by_id == person_of(context["request"]).pk

    @staticmethod
    def resolve_answered_by(review: Review) -> str | None:
        """The person's name."""
        return str(review.answered_by) if review.answered_by else None


class WaitingOut(Schema):
    """What waits for the person who asks: to be decided, and answers not seen yet."""

    asked: list[ReviewOut]
    answered: list[ReviewOut]


@router.get("/waiting", response=WaitingOut)
def waiting(request: HttpRequest) -> dict[str, QuerySet[Review]]:
    """What waits for the person who asks."""
    return rules.waiting(person_of(request))


@router.get("/waiting/others", response=list[ReviewOut])
def waiting_for_others(request: HttpRequest) -> QuerySet[Review]:
    """What waits for others, the longest waiting first."""
    return rules.elsewhere(person_of(request))


@router.get("/deciders", response=list[PersonOut])
def deciders(request: HttpRequest) -> QuerySet[Person]:
    """Who may be asked for a review."""
    return rules.deciders()


@router.get("/looks/{int:look_id}/reviews", response=list[ReviewOut])
def reviews(request: HttpRequest, look_id: int) -> QuerySet[Review]:
    """The reviews of a look, the newest first."""
    return rules.of_look(looks.find(look_id))


@router.post("/revisions/{int:revision_id}/reviews", response={201: ReviewOut})
def ask(request: HttpRequest, revision_id: int, payload: AskIn) -> Status[Review]:
    """Asks somebody to decide on a revision."""
    revision = looks.find_revision(revision_id)
    return Status(201, rules.ask(revision, person_of(request), payload.of, payload.due, payload.words))


@router.post("/reviews/{int:review_id}/answer", response=ReviewOut)
def answer(request: HttpRequest, review_id: int, payload: AnswerIn) -> Review:
    """Approves, or sends back with a reason."""
    return rules.answer(rules.find(review_id), person_of(request), payload.approve, payload.words)


@router.post("/reviews/{int:review_id}/withdraw", response=ReviewOut)
def withdraw(request: HttpRequest, review_id: int) -> Review:
    """Takes back what was asked."""
    return rules.withdraw(rules.find(review_id), person_of(request))


@router.post("/reviews/{int:review_id}/seen", response={204: None})
def seen(request: HttpRequest, review_id: int) -> Status[None]:
    """Notes that who asked has seen the answer."""
    rules.seen(rules.find(review_id), person_of(request))
    return Status(204, None)


@router.post("/revisions/{int:revision_id}/retire", response=RevisionOut)
def retire(request: HttpRequest, revision_id: int, payload: RetireIn) -> looks.Revision:
    """Retires a revision, and names the look to use instead."""
    rules.retire(looks.find_revision(revision_id), person_of(request), payload.successor)
    return looks.find_revision(revision_id)


@router.get("/looks/{int:look_id}/notes", response=list[NoteOut])
def all_notes(request: HttpRequest, look_id: int) -> QuerySet[Note]:
    """Notes on a look with their replies, the oldest first."""
    return notes.of_look(looks.find(look_id))


@router.post("/looks/{int:look_id}/notes", response={201: NoteOut})
def pin(request: HttpRequest, look_id: int, payload: NoteIn) -> Status[Note]:
    """Pins a note."""
    spot = None
    if payload.frame is not None and payload.x is not None and payload.y is not None:
        spot = (frames.seen_by(person_of(request), payload.frame), payload.x, payload.y)
    revision = looks.find_revision(payload.revision)
    return Status(201, notes.pin(looks.find(look_id), revision, person_of(request), payload.text, spot))


@router.post("/looks/{int:look_id}/notes/{int:note_id}/replies", response={201: ReplyOut})
def reply(request: HttpRequest, look_id: int, note_id: int, payload: ReplyIn) -> Status[Note]:
    """Replies to a note."""
    revision = looks.find_revision(payload.revision)
    return Status(201, notes.reply(looks.find(look_id), note_id, revision, person_of(request), payload.text))


@router.put("/looks/{int:look_id}/notes/{int:note_id}/settled", response=NoteOut)
def settle(request: HttpRequest, look_id: int, note_id: int, payload: SettleIn) -> Note:
    """Settles a note, or opens it again."""
    return notes.settle(looks.find(look_id), note_id, person_of(request), payload.settled)


@router.put("/looks/{int:look_id}/notes/{int:note_id}", response=ReplyOut)
def change(request: HttpRequest, look_id: int, note_id: int, payload: NoteText) -> Note:
    """Writes one's own note anew."""
    return notes.change(looks.find(look_id), note_id, person_of(request), payload.text)


@router.delete("/looks/{int:look_id}/notes/{int:note_id}", response={204: None})
def drop(request: HttpRequest, look_id: int, note_id: int) -> Status[None]:
    """Takes a note away."""
    notes.drop(looks.find(look_id), note_id, person_of(request))
    return Status(204, None)
