"""Somebody at a browser, for measuring: signed in, with cookies and several connections at once."""

import gzip
import http.client
import threading
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor

from launch.serving import Application

from .bench_delivery import inside

#: A session of a person, as a browser keeps it after signing in.
_SESSION = """
import sys, django
django.setup()
from django.test import Client
from saucer_server.people.rules import Person
client = Client()
client.force_login(Person.objects.get(username=sys.argv[1]))
print(client.cookies["sessionid"].value)
"""


class Visitor:
    """Asks as a browser does. address: of Saucer, as ``http://host:port``. connections: how many at a
    time."""

    def __init__(self, address: str, session: str, connections: int = 6) -> None:
        self._host = address.partition("//")[2]
        self._cookies = {"sessionid": session}
        self._own = threading.local()
        self._pool = ThreadPoolExecutor(connections)

    def ask(self, method: str, path: str, body: bytes | None = None, kind: str = "application/json") -> bytes:
        """The answer; raises where it is none of success. kind: of the body."""
        if not hasattr(self._own, "connection"):
            self._own.connection = http.client.HTTPConnection(self._host, timeout=120)
        headers = {
            "Cookie": "; ".join(f"{k}={v}" for k, v in self._cookies.items()),
            "Accept-Encoding": "gzip",
        }
        if body is not None:
            headers |= {"Content-Type": kind, "X-CSRFToken": self._cookies.get("csrftoken", "")}
        self._own.connection.request(method, path, body=body, headers=headers)
        answer = self._own.connection.getresponse()
        for one in answer.msg.get_all("Set-Cookie", []):
            name, _, value = one.partition(";")[0].partition("=")
            self._cookies[name] = value
        data: bytes = answer.read()
        if answer.status not in (200, 201, 204):
            raise RuntimeError(f"{path}: {answer.status} {data[:200]!r}")
        return gzip.decompress(data) if answer.getheader("Content-Encoding") == "gzip" else data

    def get(self, path: str) -> bytes:
        """What is at a path."""
        return self.ask("GET", path)

    def all(self, paths: Iterable[str]) -> list[bytes]:
        """Several at once."""
        return list(self._pool.map(self.get, paths))


def session_of(application: Application, name: str) -> str:
    """A new session of a person of the demo team."""
    return inside(application, _SESSION, name)


def visitor(application: Application, address: str, name: str, connections: int = 6) -> Visitor:
    """A person of the demo team at a browser, with the cookies that the first page brings."""
    one = Visitor(address, session_of(application, name), connections)
    one.get("/api/session")
    return one
