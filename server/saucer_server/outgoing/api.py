"""Packs that go out, over HTTP."""

from datetime import datetime

from django.core.files.storage import default_storage
from django.db.models import QuerySet
from django.http import FileResponse, HttpRequest
from ninja import Router, Schema, Status

from ..errors import missing
from ..fields import safe_name
from ..jobs.api import JobOut
from ..openapi import BINARY, gives
from ..people import activity
from ..people.rules import person_of
from . import rules
from .payloads import Order
from .rules import Outgoing

router = Router(tags=["packs that go out"])


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
        return len(row.contents.looks) if row.contents else 0

    @staticmethod
    def resolve_left_out(row: Outgoing) -> list[str]:
        """What could not be written, in words."""
        looks = row.contents.looks if row.contents else ()
        return [f"{one.look}: {why}" for one in looks for why in one.left_out]

    @staticmethod
    def resolve_made_by(row: Outgoing) -> str:
        """The person's name."""
        return str(row.made_by)


@router.get("", response=list[OutgoingOut])
def all_packs(request: HttpRequest) -> QuerySet[Outgoing]:
    """Packs that went out, the newest first."""
    return rules.every()[:50]


@router.post("", response={201: OutgoingOut})
def order(request: HttpRequest, payload: Order) -> Status[Outgoing]:
    """Asks for a pack."""
    return Status(201, rules.order(person_of(request), payload))


@router.get("/{int:outgoing_id}", response=OutgoingOut)
def one_pack(request: HttpRequest, outgoing_id: int) -> Outgoing:
    """A pack."""
    return rules.find(outgoing_id)


@router.get("/{int:outgoing_id}/file", openapi_extra=gives(BINARY))
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
