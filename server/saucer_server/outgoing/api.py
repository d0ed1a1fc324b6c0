"""Packs that go out, over HTTP."""

from datetime import datetime
from typing import Annotated

from django.core.files.storage import default_storage
from django.db.models import QuerySet
from django.http import FileResponse, HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field
from saucer_core.tables.lut import GRID_LIMIT

from ..errors import missing
from ..fields import Text, safe_name
from ..jobs.api import JobOut
from ..lookup import Id
from ..people import activity
from ..people.rules import person_of
from . import rules
from .rules import Outgoing

router = Router(tags=["packs that go out"])


class OutgoingIn(Schema):
    """What is to go out: collections, single looks, kinds of files beside the recipes, frames of the contact
    sheet."""

    name: Text = Field(min_length=1, max_length=120)
    collections: list[Annotated[Text, Field(max_length=80)]] = Field([], max_length=100)
    looks: list[Id] = Field([], max_length=rules.LOOKS)
    kinds: list[Annotated[Text, Field(max_length=20)]] = Field([], max_length=12)
    grid: int = Field(33, ge=3, le=GRID_LIMIT)
    frames: list[Id] = Field([], max_length=12)
    anyway: bool = False


class OutgoingOut(Schema):
    """A pack and its job. changes: what is otherwise than in the last one of the same name."""

    id: int
    name: str
    collections: list[str]
    kinds: list[str]
    job: JobOut
    ready: bool
    bytes: int
    count: int
    left_out: list[str]
    changes: list[str]
    made_by: str
    made_at: datetime

    @staticmethod
    def resolve_ready(row: Outgoing) -> bool:
        """Whether its file is there."""
        return bool(row.file)

    @staticmethod
    def resolve_count(row: Outgoing) -> int:
        """How many looks are in it."""
        return len(row.contents.get("looks", []))

    @staticmethod
    def resolve_left_out(row: Outgoing) -> list[str]:
        """What could not be written, in words."""
        return [
            f"{one['look']}: {why}"
            for one in row.contents.get("looks", [])
            for why in one.get("left out", [])
        ]

    @staticmethod
    def resolve_made_by(row: Outgoing) -> str:
        """The person's name."""
        return str(row.made_by)


@router.get("", response=list[OutgoingOut])
def all_packs(request: HttpRequest) -> QuerySet[Outgoing]:
    """Packs that went out, the newest first."""
    return rules.every()[:50]


@router.post("", response={201: OutgoingOut})
def order(request: HttpRequest, payload: OutgoingIn) -> Status[Outgoing]:
    """Asks for a pack."""
    return Status(201, rules.order(person_of(request), rules.Order(**payload.dict())))


@router.get("/{int:outgoing_id}", response=OutgoingOut)
def one_pack(request: HttpRequest, outgoing_id: int) -> Outgoing:
    """A pack."""
    return rules.find(outgoing_id)


@router.get("/{int:outgoing_id}/file")
def file(request: HttpRequest, outgoing_id: int) -> FileResponse:
    """The pack as ZIP."""
    row = rules.find(outgoing_id)
    if not row.file:
        raise missing("file of this pack")
    if row.circle_id is None:
        activity.fetched(request, row.name, to="/catalogue/pack-out")
    return FileResponse(
        default_storage.open(row.file), as_attachment=True, filename=f"{safe_name(row.name)}.zip"
    )
