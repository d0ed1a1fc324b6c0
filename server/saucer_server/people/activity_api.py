"""Reading what was done."""

from datetime import datetime, timedelta
from typing import Annotated

from django.http import HttpRequest
from django.utils import timezone
from ninja import Query, Router, Schema
from pydantic import Field

from ..lookup import Id
from . import activity as kept
from .activity import Event, Happening
from .rules import person_of

router = Router(tags=["activity"])


class EventOut(Schema):
    """Who did what, and when. by: nobody where somebody outside did it who holds an address."""

    id: int
    kind: Happening
    by: str
    said: str
    about: str
    more: str
    to: str
    revision: int | None
    at: datetime

    @staticmethod
    def resolve_by(event: Event) -> str:
        """The name of who did it."""
        return str(event.by) if event.by else ""


class ActivityAsked(Schema):
    """Which events. days: how far back."""

    kind: Happening | None = None
    by: Id | None = None
    days: Annotated[int, Field(ge=1, le=3660)] | None = None
    before: Id | None = None


class ActivityOut(Schema):
    """Events, the newest first, and how many there are in all."""

    events: list[EventOut]
    count: int


@router.get("/activity", response=ActivityOut)
def activity(request: HttpRequest, asked: Query[ActivityAsked]) -> dict[str, object]:
    """What was done, the newest first."""
    person_of(request)
    since = timezone.now() - timedelta(days=asked.days) if asked.days else None
    rows = kept.every(kind=asked.kind or "", by=asked.by, since=since)
    return {"events": kept.page(rows, asked.before), "count": rows.count()}
