"""What is written down of every request: one line of JSON, with the identifier under which a person can ask
about it."""

import json
import logging
import re
import time
import uuid
from collections.abc import Callable
from contextvars import ContextVar
from datetime import UTC, datetime

from django.http import HttpRequest, HttpResponse

from . import request_metrics

log = logging.getLogger("saucer.requests")
_request: ContextVar[str] = ContextVar("request", default="")

#: Addresses whose last part lets somebody in: an invitation, a link for a new password, a feed. It stands in
#: no log.
SECRETS = re.compile(r"(/come-in/|/feed/)[A-Za-z0-9_%~.=-]+")
#: Requests that take longer, in seconds, are warnings.
SLOW = 5.0


class JsonFormatter(logging.Formatter):
    """A log record as one line of JSON: when, how grave, who says it, what, and for which request."""

    def format(self, record: logging.LogRecord) -> str:
        """The line."""
        said = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "from": record.name,
            "says": record.getMessage(),
        }
        if _request.get():
            said["request"] = _request.get()
        said |= getattr(record, "more", {})
        if record.exc_info:
            said["trace"] = self.formatException(record.exc_info)
        return SECRETS.sub(r"\1…", json.dumps(said, ensure_ascii=False))


def request_id() -> str:
    """The identifier of the request that is being answered; empty outside of one."""
    return _request.get()


class Watching:
    """Gives every request an identifier, which its answer carries, and writes down who asked for what, and
    how long it took."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answers."""
        given = request.headers.get("X-Request-ID", "")
        # One that the front made; anything else might be made up to confuse the log.
        name = given if given.isalnum() and len(given) == 32 else uuid.uuid4().hex
        mark = _request.set(name)
        begun = time.perf_counter()
        try:
            answer = self._answer(request)
            answer["X-Request-ID"] = name
            self._write(request, answer.status_code, time.perf_counter() - begun)
            return answer
        finally:
            _request.reset(mark)

    def _write(self, request: HttpRequest, status: int, seconds: float) -> None:
        match = request.resolver_match
        route = match.route if match is not None else ""
        request_metrics.count(request.method or "", route, status, seconds)
        level = logging.WARNING if status >= 500 or seconds > SLOW else logging.INFO
        person = getattr(request, "_cached_user", None)
        more = {
            "method": request.method,
            "path": request.path[:300],
            "status": status,
            "ms": round(seconds * 1000, 1),
            "person": getattr(person, "pk", None),
        }
        log.log(level, "answered", extra={"more": more})
