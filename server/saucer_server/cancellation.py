"""Work whose asker has gone is given up: the front closes its connection when a browser closes the one before it."""

import select
import socket
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse
from saucer_core.arrays import wanted

#: What the log says of a request that nobody waits for any more; it reaches nobody.
GONE = 499
#: What is sent to be computed and changes nothing. Anything else that is sent is carried out, whoever has closed the page meanwhile.
COMPUTED = frozenset(f"/api/{name}" for name in ("live", "exact", "picture", "readings", "probe", "masks", "checks", "mend", "saucer"))


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
        if connection is None or not (request.method == "GET" or request.path in COMPUTED):
            return self._answer(request)
        mark = wanted.set(lambda: _waits(connection))
        try:
            return self._answer(request)
        finally:
            wanted.reset(mark)
