"""What changed between revisions, and taking parts over, over HTTP."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field
from saucer_core.changes import Change
from saucer_core.look import Look as LookValue
from saucer_core.merge import Part

from ..fields import Width, binary
from ..frames import rules as frames
from ..looks import rules as looks
from ..looks.revisions_api import RevisionOut
from ..lookup import Id
from ..openapi import JPEG, gives
from ..people.rules import person_of
from . import history

router = Router(tags=["history"])

Keys = Annotated[list[Annotated[str, Field(max_length=80)]], Field(max_length=400)]


class DifferenceOut(Schema):
    """What changed: in words, and over fixed colours in ΔE2000 (none where it cannot be computed)."""

    changes: list[Change]
    mean: float | None
    largest: float | None


class HistoryLine(Schema):
    """A revision and what changed since the one before it."""

    revision: RevisionOut
    since: DifferenceOut | None


class ComparisonOut(Schema):
    """Parts in which a draft differs from a revision; whether their common beginning is known; the draft's
    version."""

    parts: list[Part]
    version: int
    known: bool


class TakeIn(Schema):
    """Which parts of which revision."""

    revision: Id
    parts: Keys


class TakeOverIn(TakeIn):
    """The same, to be saved over that version of the draft."""

    version: int = Field(ge=0, lt=2**31)


class Taken(Schema):
    """The version of the draft that was saved."""

    version: int


@router.get("/looks/{int:look_id}/history", response=list[HistoryLine])
def kept(request: HttpRequest, look_id: int) -> list[dict[str, object]]:
    """The revisions of a look with what changed from one to the next, the newest first."""
    return [{"revision": r, "since": d} for r, d in history.history(looks.find(look_id))]


@router.get("/revisions/{int:revision_id}/since/{int:other_id}", response=DifferenceOut)
def since(request: HttpRequest, revision_id: int, other_id: int) -> history.Difference:
    """What changed from the other revision to this one."""
    before, after = (looks.recipe_of(looks.find_revision(pk)) for pk in (other_id, revision_id))
    return history.between(before, after)


@router.get("/revisions/{int:revision_id}/against/{int:other_id}", openapi_extra=gives(JPEG))
def against(
    request: HttpRequest, revision_id: int, other_id: int, frame: int, width: Width = 480, v: str = ""
) -> HttpResponse:
    """How far a frame under one revision is from the same under another, JPEG: white from ΔE 8 on."""
    one, other = looks.find_revision(revision_id), looks.find_revision(other_id)
    return binary(history.against(one, other, frames.seen_by(person_of(request), frame), width), "image/jpeg")


@router.get("/looks/{int:look_id}/taking", response=ComparisonOut)
def compare(request: HttpRequest, look_id: int, revision: Annotated[int, Query()]) -> history.Comparison:
    """In which parts the draft of a look differs from a revision, and who changed each since their common
    beginning."""
    return history.compared(looks.find(look_id), looks.find_revision(revision))


@router.post("/looks/{int:look_id}/taking", response=LookValue)
def try_taking(request: HttpRequest, look_id: int, payload: TakeIn) -> LookValue:
    """The draft with these parts taken over, to be looked at; nothing is kept."""
    return history.with_parts(looks.find(look_id), payload.revision, payload.parts)


@router.put("/looks/{int:look_id}/taking", response=Taken)
def take(request: HttpRequest, look_id: int, payload: TakeOverIn) -> Taken:
    """Takes parts of a revision over into the draft; 409 where somebody saved it since."""
    row = history.take_over(
        looks.find(look_id), person_of(request), payload.revision, payload.parts, payload.version
    )
    return Taken(version=row.draft_version)
