"""Sessions: in which browsers a person is signed in. Each can be ended by itself."""

from datetime import timedelta
from importlib import import_module
from typing import Any

from django.conf import settings
from django.db import transaction
from django.db.models import Max, QuerySet
from django.http import HttpRequest
from django.utils import timezone

from ..lookup import by_id
from .activity import Happening, note
from .models import Person, UserSession

__all__ = [
    "HERE_NOW",
    "UserSession",
    "end",
    "end_all",
    "last_seen",
    "leave",
    "listed",
    "moved",
    "seen",
    "signed_in",
]

#: Who asked for anything within this time is here now.
HERE_NOW = timedelta(minutes=5)
#: How often that is written down.
NOTED_EVERY = timedelta(minutes=1)

_BROWSERS = (
    ("Edg", "Edge"),
    ("OPR", "Opera"),
    ("Firefox", "Firefox"),
    ("Chrom", "Chromium or Chrome"),
    ("Safari", "Safari"),
)
_SYSTEMS = (
    ("iPhone", "a phone"), ("iPad", "a tablet"), ("Android", "a phone or tablet"), ("Windows", "Windows"),
    ("Mac OS", "macOS"), ("Linux", "Linux"),
)  # fmt: skip


def _words(agent: str) -> str:
    """A browser's own description, in words a person knows."""
    browser = next((name for mark, name in _BROWSERS if mark in agent), "A browser")
    system = next((name for mark, name in _SYSTEMS if mark in agent), "")
    return f"{browser} on {system}" if system else browser


def signed_in(sender: object, request: HttpRequest, user: Person, **_: Any) -> None:
    """Notes that somebody signed in."""
    if not request.session.session_key:
        request.session.save()
    now = timezone.now()
    said = {
        "person": user,
        "browser": _words(request.headers.get("User-Agent", "")),
        "at": now,
        "seen_at": now,
    }
    UserSession.objects.update_or_create(session=request.session.session_key, defaults=said)


def moved(before: str | None, after: str | None) -> None:
    """Notes that a session goes on under another key."""
    UserSession.objects.filter(session=before).update(session=after)


def leave(sender: object, request: HttpRequest, user: Person | None, **_: Any) -> None:
    """Forgets a session that its person ended."""
    UserSession.objects.filter(session=request.session.session_key).delete()


def seen(person: Person, session: str | None) -> None:
    """Notes that somebody asked for something, at most once a minute."""
    now = timezone.now()
    UserSession.objects.filter(person=person, session=session, seen_at__lt=now - NOTED_EVERY).update(
        seen_at=now
    )


def _keys() -> Any:
    return import_module(settings.SESSION_ENGINE).SessionStore


def listed(person: Person) -> QuerySet[UserSession]:
    """A person's sessions that have not run out, the one seen last first."""
    since = timezone.now() - timedelta(seconds=settings.SESSION_COOKIE_AGE)
    return UserSession.objects.filter(person=person, at__gt=since).order_by("-seen_at")


def end(person: Person, session_id: int, by: Person) -> None:
    """Signs a person out in another place, by themselves or by a lead; raises 404."""
    with transaction.atomic():
        session = by_id(UserSession.objects.select_for_update().filter(person=person), session_id, "session")
        _keys()(session.session).delete()
        session.delete()
        if by != person:
            note(Happening.PEOPLE, by, "signed out", str(person))


def end_all(person: Person, but: str | None = None) -> int:
    """Signs a person out everywhere, but for one session; says in how many places they were."""
    rows = UserSession.objects.filter(person=person).exclude(session=but or "")
    for key in rows.values_list("session", flat=True):
        _keys()(key).delete()
    return rows.delete()[0]


def last_seen() -> dict[int, Any]:
    """When each person was here last."""
    return dict(UserSession.objects.values_list("person").annotate(at=Max("seen_at")))
