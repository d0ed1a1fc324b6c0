"""Who may do what, and what strangers see."""

import re
from datetime import timedelta

import pytest
from cachetools import TTLCache
from django.contrib.sessions.models import Session
from django.db import connection
from django.utils import timezone
from saucer_server.api import api as interface
from saucer_server.bench.api import router as bench
from saucer_server.looks.models import Look
from saucer_server.people.models import FailedSignIn
from saucer_server.people.recent import TAKEN_FOR, RecentSession

#: Feeds and invitations ask for a secret in the address instead (tests/server/test_delivering.py,
#: tests/server/test_people.py).
OPEN = {
    ("get", "/api/health"),
    ("get", "/api/ready"),
    ("get", "/api/come-in/{secret}"),
    ("post", "/api/come-in/{secret}"),
    ("get", "/api/session"),
    ("post", "/api/sign-in"),
    ("get", "/api/saucer/neutral"),
    ("get", "/api/feed/{token}"),
    ("get", "/api/feed/{token}/files/{sha256}"),
}


def every_operation():
    paths = interface.get_openapi_schema()["paths"]
    return [
        (method, path) for path, methods in paths.items() for method in methods if (method, path) not in OPEN
    ]


@pytest.mark.parametrize(("method", "path"), every_operation())
def test_a_stranger_is_asked_to_sign_in(stranger, method, path):
    filled = re.sub(r"\{\w+\}", "1", path)
    answer = stranger.send(method.upper(), filled.removeprefix("/api"), {})
    assert answer.status_code == 401, answer.content
    assert answer.json()["message"] == "Sign in to go on."


def test_signing_in_and_out(applier, stranger):
    wrong = stranger.post("/sign-in", {"username": "vera", "password": "no"})
    assert wrong.status_code == 401
    assert "do not belong together" in wrong.json()["message"]
    assert (
        stranger.post("/sign-in", {"username": "vera", "password": "clay-and-water"}).json()["role"]
        == "Editor or photographer"
    )
    assert stranger.get("/me").json()["may_design"] is False
    assert stranger.post("/sign-out").status_code == 204
    assert stranger.get("/me").status_code == 401


def test_forged_requests_are_refused(designer):
    assert designer.client.post("/api/looks", "{}", content_type="application/json").status_code == 403


def test_an_applier_cannot_change_looks(applier, look, revision):
    tries = [
        applier.post("/looks", {"name": "x"}),
        applier.send(
            "PUT", f"/looks/{look.pk}/draft", {"version": look.draft_version, "draft": {"steps": []}}
        ),
        applier.send("PATCH", f"/looks/{look.pk}", {"name": "mine"}),
        applier.post(f"/looks/{look.pk}/revisions"),
        applier.post(f"/revisions/{revision.pk}/bakes", {"kinds": ["cube"], "grid": 9}),
        applier.send("PUT", f"/catalogue/{look.pk}/tags", {"tags": ["x"]}),
        applier.send("PUT", f"/revisions/{revision.pk}/status", {"status": "approved"}),
    ]
    assert {t.status_code for t in tries} == {403}
    assert "look designers" in tries[0].json()["message"]
    assert Look.objects.get().name == "Warm shelf"
    assert applier.get(f"/looks/{look.pk}").json()["may_edit"] is False


def test_only_leads_approve_and_start_projects(designer, lead, revision):
    path = f"/revisions/{revision.pk}/status"
    assert designer.send("PUT", path, {"status": "approved"}).status_code == 403
    assert designer.send("PUT", path, {"status": "in review"}).json()["status"] == "in review"
    assert lead.send("PUT", path, {"status": "approved"}).json()["status"] == "approved"
    assert lead.send("PUT", path, {"status": "draft"}).status_code == 409
    assert designer.post("/projects", {"name": "P"}).status_code == 403
    assert lead.post("/projects", {"name": "P"}).status_code == 201


@pytest.mark.parametrize(
    "path",
    [
        "/looks/9",
        "/revisions/9",
        "/projects/9",
        "/frames/9/still",
        "/bakes/9/file",
        f"/looks/{2**70}",
        "/revisions/9/recipe",
    ],
)
def test_what_is_not_there_says_so(designer, path):
    answer = designer.get(path)
    assert answer.status_code == 404
    assert "not here any more" in answer.json()["message"]


def test_pages_are_the_application_and_the_interface_is_not(designer):
    assert designer.client.get("/api/nothing").status_code == 404
    assert b"<div id=" in designer.client.get("/bench/1").content


EMPTY = {"look": {"input": "srgb", "output": "srgb", "steps": []}}


def test_signing_out_is_known_to_the_bench_at_once(designer):
    assert designer.post("/live", EMPTY).status_code == 200
    assert designer.post("/sign-out").status_code == 204
    assert designer.post("/live", EMPTY).status_code == 401


def test_the_bench_asks_for_a_session_once_in_a_while(designer, monkeypatch, django_assert_num_queries):
    time = [1000.0]
    [remembered] = [way for way in bench.auth if isinstance(way, RecentSession)]
    monkeypatch.setattr(remembered, "_people", TTLCache(8, TAKEN_FOR, timer=lambda: time[0]))
    assert designer.post("/live", EMPTY).status_code == 200
    with django_assert_num_queries(0):
        assert designer.post("/live", EMPTY).status_code == 200
    # Signed out by another process, which this one cannot hear of.
    Session.objects.all().delete()
    assert designer.post("/live", EMPTY).status_code == 200
    time[0] += TAKEN_FOR + 0.1
    assert designer.post("/live", EMPTY).status_code == 401


# Guessing


def guess(who, name="vera", password="no"):
    return who.post("/sign-in", {"username": name, "password": password})


def test_guessing_a_password_becomes_slow(stranger, applier, lead):
    for _ in range(5):
        assert guess(stranger).status_code == 401
    waiting = guess(stranger, password="clay-and-water")
    assert waiting.status_code == 429
    assert re.search(r"Try again in \d+ second", waiting.json()["message"])
    # Another person is not in the way.
    assert guess(stranger, "odile", "clay-and-water").status_code == 200
    FailedSignIn.objects.update(until=timezone.now() - timedelta(seconds=1))
    assert guess(stranger).status_code == 401
    row = FailedSignIn.objects.get(what="name vera from 127.0.0.1")
    assert row.until is not None
    assert (row.until - row.last).total_seconds() == 2
    FailedSignIn.objects.update(until=None)
    assert guess(stranger, password="clay-and-water").status_code == 200
    assert not FailedSignIn.objects.filter(what__startswith="name vera").exists()


def test_who_guesses_from_an_office_locks_nobody_else_out(stranger, applier, lead):
    for k in range(40):
        guess(stranger, f"nobody {k}")
    assert guess(stranger, "nobody else").status_code == 429
    assert guess(stranger, "vera", "clay-and-water").status_code == 200
    # Who typed a wrong password there waits like everybody, and then gets in.
    assert guess(stranger, "odile").status_code == 401
    assert guess(stranger, "odile", "clay-and-water").status_code == 429
    FailedSignIn.objects.update(until=timezone.now() - timedelta(seconds=1))
    assert guess(stranger, "odile", "clay-and-water").status_code == 200


def test_a_clock_that_was_set_back_locks_nobody_out(stranger, applier):
    for _ in range(5):
        guess(stranger)
    FailedSignIn.objects.update(
        last=timezone.now() + timedelta(days=1), until=timezone.now() + timedelta(days=1, seconds=1)
    )
    assert guess(stranger, password="clay-and-water").status_code == 200


def test_no_password_is_hashed_while_somebody_must_wait(stranger, applier, monkeypatch):
    for _ in range(5):
        guess(stranger)
    monkeypatch.setattr("saucer_server.people.api.authenticate", None)
    assert guess(stranger).status_code == 429


def test_names_tried_from_one_address_are_counted_together(stranger, db):
    for k in range(30):
        assert guess(stranger, f"nobody {k}").status_code == 401
    assert guess(stranger, "somebody else").status_code == 429


def test_a_quiet_hour_forgets(stranger, applier):
    for _ in range(5):
        guess(stranger)
    FailedSignIn.objects.update(last=timezone.now() - timedelta(hours=2), until=None)
    assert guess(stranger).status_code == 401
    assert FailedSignIn.objects.get(what="name vera").wrong == 1


# Whether it stands


def test_it_says_that_it_is_alive_and_what_is_missing(stranger, db, monkeypatch):
    assert stranger.get("/health").json() == {"alive": True}
    answer = stranger.get("/ready")
    assert answer.status_code == 503
    assert answer.json() == {"database": True, "storage": True, "worker": False}
    with connection.cursor() as cursor:
        cursor.execute("insert into procrastinate_workers (last_heartbeat) values (now())")
    assert stranger.get("/ready").status_code == 200

    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("saucer_server.storage.WholeFileStorage._save", full)
    assert stranger.get("/ready").json()["storage"] is False
