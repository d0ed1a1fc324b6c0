"""Passes to kept pictures: a signed cookie with which the front hands out a still or a saucer by itself.

The front (``launch/front.py``) checks the signature and the end; a pass says nothing of whose it is, as
everybody who is signed in may see the same pictures.
"""

import base64
import hashlib
import time
from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from .rules import Person

COOKIE = "saucer_pictures"
#: Seconds for which a pass is good. Somebody who is let in no more sees kept pictures at most so long.
GOOD_FOR = 1800
#: Seconds before its end from which it is made anew.
RENEWED = 600


def _secret() -> str:
    return hashlib.sha256(f"pictures {settings.SECRET_KEY}".encode()).hexdigest()[:40]


def signed(until: int) -> str:
    """A pass that is good until then, in seconds since 1970: the sum that nginx's secure_link makes, a full
    stop, and the end."""
    digest = hashlib.md5(f"{until} {_secret()}".encode(), usedforsecurity=False).digest()
    return f"{base64.urlsafe_b64encode(digest).decode().rstrip('=')}.{until}"


def _ends(value: str) -> int:
    until = value.rpartition(".")[2]
    return int(until) if until.isdecimal() and len(until) < 12 and value == signed(int(until)) else 0


class Passes:
    """Gives a pass to whoever is signed in, with an answer that is no picture (those are kept by the front,
    without cookies)."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answers."""
        answer = self._answer(request)
        if not settings.BEHIND_FRONT or answer.get("Content-Type", "").startswith("image/"):
            return answer
        # Only where the answer asked who it is: a pass is no reason to ask the database.
        person, now = getattr(request, "_cached_user", None), int(time.time())
        if isinstance(person, Person):
            if _ends(request.COOKIES.get(COOKIE, "")) < now + RENEWED:
                secure = settings.SECURE_COOKIES
                answer.set_cookie(
                    COOKIE,
                    signed(now + GOOD_FOR),
                    max_age=GOOD_FOR,
                    httponly=True,
                    secure=secure,
                    samesite="Lax",
                )
        elif person is not None and COOKIE in request.COOKIES:
            answer.delete_cookie(COOKIE)
        return answer
