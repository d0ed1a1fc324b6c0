"""What arrives with a request: little from anybody, files only where a route takes them, and only from who is
signed in.

The front asks ``page`` before it stores a large body; ``Bodies`` says the same to what reaches a web process
without a front.
"""

import json
from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.urls import Resolver404, resolve

from .errors import RuleError
from .people import tokens, uploads
from .people.rules import Person
from .problems import missing, problem
from .routes import taking_files
from .watching import request_id

#: Bytes that anybody may send; the front keeps so much in memory and asks about more.
SMALL = 100_000
#: Bytes of a request that carries no file.
PLAIN = settings.DATA_UPLOAD_MAX_MEMORY_SIZE
#: Methods that carry a body.
_SENDING = ("POST", "PUT", "PATCH", "DELETE")


def _asker(request: HttpRequest, method: str, path: str, route: str) -> Person:
    kind, _, secret = request.headers.get("Authorization", "").partition(" ")
    if kind.lower() == "bearer":
        return tokens.holder(secret, method, path, route)
    if not isinstance(request.user, Person):
        raise RuleError(401, "Sign in to go on.")
    return request.user


def admit(request: HttpRequest, method: str, path: str, length: str) -> None:
    """Lets a body in, or raises 401, 403, 404, 411, 413, 429, 507. length: as the header says it, empty where
    it is not said."""
    if length and not length.isdecimal():
        raise RuleError(400, "That is no request Saucer can read.")
    if length and int(length[:20]) <= SMALL:
        return
    try:
        route = resolve(path).route
    except Resolver404:
        raise RuleError(404, "There is nothing at this address.") from None
    person = _asker(request, method, path, route)
    if not length:
        raise RuleError(411, "Say with the request how many bytes it sends (Content-Length).")
    size = int(length[:20])
    if (method, route) in taking_files():
        uploads.admit(request_id(), person, size)
    elif size > PLAIN:
        raise RuleError(
            413, f"That is more than a request without a file may hold ({PLAIN // uploads.MIB} MiB)."
        )


class Bodies:
    """Lets no large body be read before it is known who sends it, and gives its room back when it is
    answered."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answers."""
        length = request.headers.get("Content-Length", "")
        chunked = "chunked" in request.headers.get("Transfer-Encoding", "")
        if request.method not in _SENDING or not (
            chunked or (length.isdecimal() and int(length[:20]) > SMALL)
        ):
            return self._answer(request)
        try:
            admit(request, request.method, request.path_info, "" if chunked else length)
        except RuleError as error:
            return problem(error.status, error.message)
        try:
            return self._answer(request)
        finally:
            uploads.ended(request_id())


def page(request: HttpRequest) -> HttpResponse:
    """What the front asks before it stores a large body: 204, or 403 with the answer that it is to give. For
    the front alone."""
    if not settings.BEHIND_FRONT:
        return missing(request)
    asked = request.headers
    try:
        admit(
            request,
            asked.get("X-Asked-Method", ""),
            asked.get("X-Asked-Path", "").partition("?")[0],
            asked.get("X-Asked-Length", ""),
        )
    except RuleError as error:
        answer = HttpResponse(status=403)
        answer["X-Refused"], answer["X-Refused-Words"] = (
            str(error.status),
            json.dumps({"message": error.message, "detail": {}}),
        )
        return answer
    return HttpResponse(status=204)
