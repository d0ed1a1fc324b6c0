"""Signing in remembered for a moment, for answers that are asked for many times a second."""

from threading import Lock

from cachetools import TTLCache
from django.conf import settings
from django.contrib.auth.signals import user_logged_out
from django.http import HttpRequest
from ninja.security import SessionAuth

from .rules import Person

#: Seconds for which a session is taken at its word. Another process learns of a sign-out at most so much
#: later.
TAKEN_FOR = 5.0
SESSIONS = 1024


class RecentSession(SessionAuth):
    """Lets signed-in people ask, as ``SessionAuth`` does, but reads a session and its person from the
    database at most every few seconds.

    Only for answers that are computed from what was sent: a person signed out elsewhere, or no longer active,
    is still answered for ``TAKEN_FOR`` seconds.
    """

    def __init__(self) -> None:
        super().__init__()
        self._people: TTLCache[str, Person] = TTLCache(SESSIONS, TAKEN_FOR)
        self._lock = Lock()
        user_logged_out.connect(self._forget)

    def authenticate(self, request: HttpRequest, key: str | None) -> Person | None:
        """The person of the request's session; ``None`` for nobody."""
        cookie = request.COOKIES.get(settings.SESSION_COOKIE_NAME, "")
        with self._lock:
            person = self._people.get(cookie)
        if person is not None:
            return person
        found = super().authenticate(request, key)
        if not isinstance(found, Person):
            return None
        with self._lock:
            self._people[cookie] = found
        return found

    def _forget(self, request: HttpRequest, **_: object) -> None:
        with self._lock:
            self._people.pop(request.COOKIES.get(settings.SESSION_COOKIE_NAME, ""), None)
