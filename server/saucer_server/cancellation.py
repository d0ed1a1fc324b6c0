"""Cancellation: work is given up when its asker has gone. The front closes its connection when a browser
closes the one before it.

Only what computes is given up (``marks.computes``); a change that was sent is made, even if the page was
closed meanwhile.
"""

import select
import socket
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from saucer_core.arrays import wanted

from .routes import computing

#: The status that the log has for a request whose asker has gone.
GONE = 499


def _waits(connection: socket.socket) -> bool:
    """Whether the other side of a connection, whose request was read, is still there."""
    poll = select.poll()
    poll.register(connection, select.POLLRDHUP)
    return not poll.poll(0)


class Cancellation:
    """Has the core ask, between two pieces of its work, whether somebody still waits for the answer."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answers."""
        connection = request.META.get("gunicorn.socket")
        if connection is None or not (
            request.method == "GET" or (request.method, request.path) in computing()
        ):
            return self._answer(request)
        mark = wanted.set(lambda: _waits(connection))
        try:
            return self._answer(request)
        finally:
            wanted.reset(mark)
