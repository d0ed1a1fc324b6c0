"""Writing down what was done, and reading it back."""

from collections.abc import Callable, Iterable
from datetime import datetime, timedelta

from django.db.models import Q, QuerySet
from django.http import HttpRequest
from django.utils import timezone

from .models import Event, Happening, Person

__all__ = ["KEPT_PAGES", "PAGE", "Event", "Happening", "every", "fetched", "note", "page"]

#: Events that are given at once.
PAGE = 60


def note(
    kind: Happening,
    by: Person | None,
    said: str,
    about: str = "",
    *,
    more: str = "",
    to: str = "",
    revision: int | None = None,
) -> None:
    """Writes an event down. Called inside the transaction that does it: both happen, or neither."""
    Event.objects.create(
        kind=kind, by=by, said=said[:120], about=about[:200], more=more[:300], to=to[:200], revision=revision
    )


#: A script that fetches the same again and again is written down so often.
FETCHED_EVERY = timedelta(hours=1)


def fetched(request: HttpRequest, about: str, *, to: str = "") -> None:
    """Writes down that a file was fetched, where it was by a token: nobody sat before a screen."""
    person = request.user
    if not isinstance(person, Person) or not request.headers.get("Authorization", "").lower().startswith(
        "bearer "
    ):
        return
    said, since = "fetched by a token", timezone.now() - FETCHED_EVERY
    if not Event.objects.filter(by=person, said=said, about=about[:200], at__gt=since).exists():
        note(Happening.DELIVERY, person, said, about, to=to)


#: What gives the pages of things that whoever asks may not see: events that lead there are left out. Rooms
#: above add theirs.
KEPT_PAGES: list[Callable[[], Iterable[str]]] = []


def every(*, kind: str = "", by: int | None = None, since: datetime | None = None) -> QuerySet[Event]:
    """Events, the newest first."""
    rows = Event.objects.select_related("by")
    if kind:
        rows = rows.filter(kind=kind)
    if by is not None:
        rows = rows.filter(by=by)
    for page_of_it in (one for pages in KEPT_PAGES for one in pages()):
        rows = rows.exclude(
            Q(to=page_of_it) | Q(to__startswith=f"{page_of_it}/") | Q(to__startswith=f"{page_of_it}?")
        )
    return rows if since is None else rows.filter(at__gte=since)


def page(rows: QuerySet[Event], before: int | None) -> list[Event]:
    """The next events of such a list; before: only older ones than that."""
    return list((rows if before is None else rows.filter(pk__lt=before))[:PAGE])
