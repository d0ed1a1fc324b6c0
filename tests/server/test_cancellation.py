"""A request whose asker has gone is given up; one that changes anything is carried out all the same."""

import socket

import pytest
from django.http import HttpResponse
from django.test import RequestFactory
from saucer_core.arrays import wanted
from saucer_server.cancellation import Cancellation
from saucer_server.routes import computing


@pytest.fixture
def line():
    near, far = socket.socketpair()
    yield near, far
    near.close()
    far.close()


def heeded(method, path, connection):
    """Whether the core would go on, as it is asked while the request is answered."""
    found = []
    request = getattr(RequestFactory(), method)(path, **{"gunicorn.socket": connection})

    def answer(request):
        found.append(wanted.get()())
        return HttpResponse()

    Cancellation(answer)(request)
    assert wanted.get()()
    return found[0]


def test_whoever_waits_is_answered(line):
    near, far = line
    assert heeded("get", "/api/revisions/1/still", near)
    far.send(b"the next request")
    assert heeded("get", "/api/revisions/1/still", near)


def test_who_has_gone_is_computed_for_no_longer(line):
    near, far = line
    far.close()
    assert not heeded("get", "/api/revisions/1/still", near)
    bench = ("live", "exact", "picture", "readings", "probe", "masks", "checks", "mend", "saucer", "begun")
    names = (*bench, "over-time", "over-time/cause")
    assert computing() == {("POST", f"/api/{name}") for name in names}
    assert not any(heeded("post", path, near) for _, path in computing())


def test_what_was_sent_to_be_kept_is_kept_though_the_page_was_closed(line):
    near, far = line
    far.close()
    for method, path in (
        ("put", "/api/looks/1/draft"),
        ("post", "/api/looks/1/revisions"),
        ("post", "/api/looks/1/leave"),
    ):
        assert heeded(method, path, near)


def test_a_picture_that_nobody_waits_for_is_left(designer, frame, line, settings):
    near, far = line
    settings.MIDDLEWARE = [*settings.MIDDLEWARE, "saucer_server.cancellation.Cancellation"]
    designer.client.handler.load_middleware()

    def exact(stops):
        look = {"steps": [{"id": "a", "kind": "exposure", "stops": stops}]}
        return designer.send(
            "POST", "/exact?width=320", {"look": look, "frame": frame.pk}, **{"gunicorn.socket": near}
        ).status_code

    assert exact(1) == 200
    far.close()
    assert exact(2) == 499
