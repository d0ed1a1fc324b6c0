"""Revisions over HTTP."""

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router, Schema, Status
from pydantic import Field
from saucer_core.encodings import EncodingKey
from saucer_core.look import Look as LookValue
from saucer_core.stack import STACK

from ..fields import Text
from ..people.rules import person_of
from . import rules
from .rules import Revision

router = Router(tags=["looks"])


class RevisionOut(Schema):
    """A revision without its steps."""

    id: int
    look_id: int
    look_name: str
    number: int
    digest: str
    note: str
    status: str
    input: EncodingKey
    output: EncodingKey
    made_by: str
    made_at: datetime
    moved_by: str
    moved_at: datetime | None

    @staticmethod
    def resolve_moved_by(revision: Revision) -> str:
        """Who gave it the status that it has; empty for a draft that was never asked about."""
        return str(revision.moved_by) if revision.moved_by else ""

    @staticmethod
    def resolve_look_name(revision: Revision) -> str:
        """The name that the look has now."""
        return revision.look.name

    @staticmethod
    def resolve_made_by(revision: Revision) -> str:
        """The person's name."""
        return str(revision.made_by)


class KeepIn(Schema):
    """A note for a new revision."""

    note: Text = Field("", max_length=4000)


class StatusIn(Schema):
    """Where a revision is to go."""

    status: str


@router.post("/looks/{int:look_id}/revisions", response={201: RevisionOut})
def keep(request: HttpRequest, look_id: int, payload: KeepIn) -> Status[Revision]:
    """Keeps the draft as a revision."""
    return Status(201, rules.keep_revision(rules.find(look_id), person_of(request), payload.note))


@router.get("/revisions/stack", response=LookValue)
def stack(
    request: HttpRequest, revision: Annotated[list[int], Query(min_length=1, max_length=STACK)]
) -> LookValue:
    """Those revisions over one another as one look, the first one first."""
    return rules.stack_of(revision)


@router.get("/revisions/{int:revision_id}", response=RevisionOut)
def revision(request: HttpRequest, revision_id: int) -> Revision:
    """A revision without its steps."""
    return rules.find_revision(revision_id)


@router.get("/revisions/{int:revision_id}/recipe", response=LookValue)
def revision_recipe(request: HttpRequest, revision_id: int) -> LookValue:
    """The steps of a revision."""
    return rules.recipe_of(rules.find_revision(revision_id))


@router.put("/revisions/{int:revision_id}/status", response=RevisionOut)
def status(request: HttpRequest, revision_id: int, payload: StatusIn) -> Revision:
    """Moves a revision on: in review, approved, retired."""
    rules.set_status(rules.find_revision(revision_id), person_of(request), payload.status)
    return rules.find_revision(revision_id)
