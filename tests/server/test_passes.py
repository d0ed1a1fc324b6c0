"""Passes to kept pictures, and which pictures may be kept by the front."""

import base64
import hashlib
import json
import logging
import time
from datetime import timedelta
from pathlib import Path

import pytest
from django.utils import timezone
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateEvent
from saucer_server import bodies, front_store
from saucer_server.frames.models import Frame
from saucer_server.frames.rules import version_of
from saucer_server.jobs import rules as jobs
from saucer_server.people import passes, uploads
from saucer_server.people.rules import Person
from saucer_server.watching import JsonFormatter

from launch import front


@pytest.fixture
def behind(settings):
    settings.BEHIND_FRONT = True


def test_both_sides_sign_in_the_same_way(settings):
    """nginx, ngx_http_secure_link_module: the MD5 of the expression in base64url without padding, then the
    end."""
    until = 1_900_000_000
    secret = front.pass_secret(settings.SECRET_KEY)
    digest = hashlib.md5(f"{until} {secret}".encode()).digest()
    assert passes.signed(until) == f"{base64.urlsafe_b64encode(digest).decode().rstrip('=')}.{until}"
    assert f'secure_link_md5 "$secure_link_expires {secret}"' in front.configuration(
        Path("/nowhere"), listen="127.0.0.1:1", behind=2, secret=secret
    )


def test_a_pass_comes_with_an_answer_to_somebody_and_with_no_picture(designer, stranger, frame, behind):
    designer.get(f"/frames/{frame.pk}/still?width=32&v=1")
    assert passes.COOKIE not in designer.client.cookies
    designer.get("/me")
    cookie = designer.client.cookies[passes.COOKIE]
    assert cookie["httponly"]
    assert cookie["samesite"] == "Lax"
    until = int(cookie.value.rpartition(".")[2])
    assert 0 < until - time.time() <= passes.GOOD_FOR
    stranger.get("/session")
    assert passes.COOKIE not in stranger.client.cookies


@pytest.mark.parametrize(
    ("value", "anew"),
    [
        (lambda now: passes.signed(now + passes.GOOD_FOR - 5), False),
        (lambda now: passes.signed(now + passes.RENEWED - 5), True),
        (lambda now: passes.signed(now - 5), True),
        (lambda now: f"made-up.{now + 10**6}", True),
        (lambda now: "nonsense", True),
        (lambda now: f"{passes.signed(now)[:-2]}9999999999999999", True),
    ],
)
def test_a_pass_is_made_anew_before_it_ends_or_where_it_is_none(designer, behind, value, anew):
    given = value(int(time.time()))
    designer.client.cookies[passes.COOKIE] = given
    answer = designer.get("/me")
    assert (passes.COOKIE in answer.cookies) is anew


def test_signing_out_takes_the_pass_away(designer, behind):
    designer.get("/me")
    designer.post("/sign-out")
    answer = designer.get("/session")
    assert answer.status_code == 200
    assert designer.client.cookies[passes.COOKIE].value == ""


def test_only_pictures_under_a_version_that_all_may_see_are_kept_by_the_front(designer, frame, revision):
    kept = lambda path: designer.get(path).get("X-Accel-Expires")  # noqa: E731
    mark, look = version_of(frame), revision.digest[:8]
    assert kept(f"/frames/{frame.pk}/still?width=32&v={mark}") == "604800"
    assert kept(f"/frames/{frame.pk}/still?width=32") is None
    assert kept(f"/revisions/{revision.pk}/still?frame={frame.pk}&width=32&v={look}{mark}") == "604800"
    assert kept(f"/revisions/{revision.pk}/saucer?v={look}") == "604800"
    Frame.objects.update(passing=True)
    assert kept(f"/frames/{frame.pk}/still?width=32&v={mark}") is None
    assert kept(f"/revisions/{revision.pk}/still?frame={frame.pk}&width=32&v={look}{mark}") is None


def test_a_picture_is_kept_by_nobody_under_the_address_of_another_version(designer, lead, frame, revision):
    """Trimmed, then asked for by the address of before: that would be shown to everybody once the trim is
    undone."""
    project = lead.post("/projects", {"name": "Kept"}).json()["id"]
    shot = lead.post(f"/projects/{project}/shots", {"frames": [frame.pk]}).json()["shots"][0]
    before = {"frame": f"/frames/{frame.pk}/still?width=32&v={version_of(frame)}"}
    before["shot"] = f"/projects/{project}/shots/{shot['id']}/still?width=32&v={shot['version']}"
    before["revision"] = (
        f"/revisions/{revision.pk}/still?frame={frame.pk}&width=32&v={revision.digest[:8]}{version_of(frame)}"
    )
    assert {designer.get(path).get("X-Accel-Expires") for path in before.values()} == {"604800"}
    lead.send(
        "PATCH", f"/frames/{frame.pk}", {"trim": {"exposure": 2, "temperature": 0, "tint": 0, "contrast": 1}}
    )
    lead.post(
        f"/projects/{project}/trim",
        {"shots": [shot["id"]], "trim": {"exposure": 1.5, "temperature": 0, "tint": 0, "contrast": 1}},
    )
    for path in [*before.values(), f"/revisions/{revision.pk}/saucer?v=1"]:
        answer = designer.get(path)
        assert answer.status_code == 200
        assert answer.get("X-Accel-Expires") is None, path
        assert answer["Cache-Control"] == "private, no-store", path
    now = lead.get(f"/projects/{project}").json()["shots"][0]["version"]
    assert designer.get(before["shot"].replace(shot["version"], now)).get("X-Accel-Expires") == "604800"


def test_who_asks_is_taken_from_the_front_and_from_nowhere_else(settings, rf):
    from saucer_server.people.address import address_of

    claimed = rf.get(
        "/", headers={"X-Real-IP": "10.1.2.3", "X-Forwarded-For": "10.9.9.9"}, REMOTE_ADDR="127.0.0.1"
    )
    settings.BEHIND_FRONT = False
    assert address_of(claimed) == "127.0.0.1"
    settings.BEHIND_FRONT = True
    assert address_of(claimed) == "10.1.2.3"


def test_without_a_front_proxies_that_are_named_are_believed_and_no_others(settings, rf):
    """As nginx's real_ip_recursive: from the nearest on, the first that is no proxy of ours."""
    from ipaddress import ip_network

    from saucer_server.people.address import address_of

    settings.BEHIND_FRONT, settings.PROXIES = False, [ip_network("10.0.0.0/24"), ip_network("192.168.1.5")]
    for nearest, said, found in (
        ("10.0.0.7", "203.0.113.9", "203.0.113.9"),
        ("10.0.0.7", "1.2.3.4, 203.0.113.9, 192.168.1.5", "203.0.113.9"),
        ("10.0.0.7", "", "10.0.0.7"),
        ("203.0.113.50", "1.2.3.4", "203.0.113.50"),
        ("10.0.0.7", "made up", "made up"),
    ):
        assert address_of(rf.get("/", headers={"X-Forwarded-For": said}, REMOTE_ADDR=nearest)) == found


# Figures


def test_figures_are_told_to_who_shows_the_token(client, designer, settings):
    assert client.get("/metrics").status_code == 404
    settings.METRICS = "a token"
    assert client.get("/metrics").status_code == 404
    assert client.get("/metrics", headers={"Authorization": "Bearer another"}).status_code == 404
    designer.get("/me")
    text = client.get("/metrics", headers={"Authorization": "Bearer a token"}).content.decode()
    assert 'saucer_requests_total{method="GET",route="api/me",status="200"}' in text
    assert "saucer_request_seconds_bucket" in text


def test_queues_memory_and_disk_are_told(client, designer, settings):
    settings.METRICS = "a token"
    person = Person.objects.get(username="ines")
    for k in range(2):
        jobs.enqueue(
            jobs.order("delivery", f"{k}", person),
            app.tasks["saucer_server.delivering.tasks.deliver"],
            delivery_id=0,
        )
    ProcrastinateEvent.objects.filter(type="deferred").update(at=timezone.now() - timedelta(seconds=90))
    lines = client.get("/metrics", headers={"Authorization": "Bearer a token"}).content.decode().split("\n")
    told = dict(line.rsplit(" ", 1) for line in lines if line and not line.startswith("#"))
    assert told['saucer_queue_length{queue="long",state="waiting"}'] == "2.0"
    assert 90 <= float(told['saucer_queue_oldest_seconds{queue="long"}']) < 120
    assert float(told['saucer_disk_bytes{what="free"}']) > 0
    assert any(name.startswith("saucer_memory_bytes") and float(size) > 2**20 for name, size in told.items())


def test_what_lets_somebody_in_stands_in_no_log(client, lead, caplog):
    path = lead.post("/invitations", {"for_name": "Somebody"}).json()["path"]
    secret = path.rpartition("/")[2]
    with caplog.at_level(logging.INFO):
        for asked in (
            path,
            f"/api{path}",
            f"/api/come-in/{secret}%20x",
            f"/api/feed/{secret}",
            f"/api/feed/{secret}/files/{'a' * 64}",
        ):
            client.get(asked)
    text = "\n".join(JsonFormatter().format(record) for record in caplog.records)
    assert text.count("/come-in/…") >= 3
    assert "/feed/…" in text
    assert secret not in text


def test_a_line_of_json_says_who_asked_for_what(designer, caplog):
    with caplog.at_level(logging.INFO, "saucer.requests"):
        answer = designer.get("/me")
    record = next(r for r in caplog.records if r.name == "saucer.requests" and r.more["path"] == "/api/me")
    said = json.loads(JsonFormatter().format(record))
    assert said["status"] == 200
    assert said["person"] == Person.objects.get(username="ines").pk
    assert said["ms"] > 0
    assert len(answer["X-Request-ID"]) == 32
    # What a stranger claims is no identifier of ours.
    assert (
        designer.client.get("/api/me", headers={"X-Request-ID": "drop\ntable"})["X-Request-ID"]
        != "drop\ntable"
    )
    given = "a" * 32
    assert designer.client.get("/api/me", headers={"X-Request-ID": given})["X-Request-ID"] == given


def test_front_and_web_processes_mean_the_same_bodies():
    """The front is set up before the server is there to be asked: its limits are those of the server."""
    assert front.SMALL == bodies.SMALL
    assert front.UPLOAD * uploads.MIB == uploads.LARGEST


def test_what_the_front_kept_goes_by_what_it_shows(settings, tmp_path):
    """Files as nginx writes them: a head, the key of the answer, the answer."""
    settings.DATA = tmp_path
    addresses = [
        "/api/frames/1/still?width=64&v=a",
        "/api/frames/11/still?width=64&v=a",
        "/api/revisions/7/still?frame=1&width=64",
        "/api/revisions/7/still?frame=12&width=64",
        "/api/revisions/70/saucer?v=x",
        "/api/projects/3/shots/5/still?v=x",
        "/api/projects/30/shots/5/still?v=x",
    ]
    folder = tmp_path / "front" / "pictures" / "a" / "bc"

    def left(**gone):
        folder.mkdir(parents=True, exist_ok=True)
        for k, address in enumerate(addresses):
            (folder / f"{k}").write_bytes(
                b"\x05\0\0\0" * 20 + f"\nKEY: {address}\nHTTP/1.1 200 OK\r\n\r\n".encode() + b"\xff\xd8"
            )
        front_store.forget(**gone)
        return sorted(int(f.name) for f in folder.iterdir())

    assert left() == [0, 1, 2, 3, 4, 5, 6]
    assert left(frames=[1]) == [1, 3, 4, 5, 6]
    assert left(revisions=[7]) == [0, 1, 4, 5, 6]
    assert left(projects=[3], frames=[11, 12]) == [0, 2, 4, 6]
