"""What is heavy, deep or large is refused at the door, in words, before the work begins."""

import importlib
import json
import shutil
from collections import namedtuple
from contextlib import nullcontext
from datetime import timedelta
from threading import Lock, Thread
from time import sleep

import numpy as np
import pytest
from django.urls import get_resolver
from django.utils import timezone
from saucer_core.formats import pictures
from saucer_core.look import GROUP_LIMIT, WHOLE_LIMIT, Look
from saucer_server import bodies, routes
from saucer_server.caches import DRAWING, DRAWN_BYTES, Budget
from saucer_server.errors import RuleError
from saucer_server.people import uploads
from saucer_server.people.rules import Person
from saucer_server.storage import arriving

mending = importlib.import_module("saucer_server.looks.migrations.0008_groups_apart")


def nested(depth):
    """A step inside so many groups."""
    step = {"id": "x", "kind": "exposure", "stops": 0.5}
    for k in range(depth):
        step = {"id": f"g{k}", "kind": "group", "steps": [step]}
    return {"steps": [step]}


@pytest.mark.parametrize("depth", [GROUP_LIMIT, GROUP_LIMIT + 1, 120, 130, 199, 300, 1000, 50_000])
def test_groups_are_nested_so_deep_and_no_deeper(designer, depth):
    """As text, so that what no JSON library writes arrives as well."""
    inner = '{"kind":"group","steps":[' * depth + "]}" * depth
    token = designer.client.cookies["csrftoken"].value
    for path, body in (
        ("/looks", '{"name":"x","draft":{"steps":[%s]}}'),
        ("/live", '{"look":{"steps":[%s]}}'),
        ("/whole", '{"steps":[%s]}'),
    ):
        answer = designer.client.generic(
            "POST",
            f"/api{path}",
            body % inner,
            content_type="application/json",
            headers={"X-CSRFToken": token},
        )
        assert (
            answer.status_code == (201 if path == "/looks" else 200)
            if depth <= GROUP_LIMIT
            else answer.status_code in (400, 422)
        ), depth
        if answer.status_code >= 400:
            assert 10 < len(answer.json()["message"]) < 400


def test_a_draft_that_was_kept_too_deep_is_mended():
    steps = nested(140)["steps"]
    mended = {"steps": mending.shallow(steps)}
    look = Look.model_validate(mended)
    assert [s.kind for s in look.steps] == ["group"]
    assert json.dumps(mended).count('"group"') == GROUP_LIMIT
    assert json.dumps(mended).count('"exposure"') == 1
    assert mending.shallow(look.model_dump(mode="json")["steps"]) == look.model_dump(mode="json")["steps"]


def test_the_cost_of_what_a_look_borrows_is_counted_before_the_work(designer):
    inner = {"steps": [{"id": f"s{k}", "kind": "exposure"} for k in range(200)]}
    few = {"steps": [{"id": f"b{k}", "kind": "look", "look": inner} for k in range(6)]}
    many = {"steps": [{"id": f"b{k}", "kind": "look", "look": inner} for k in range(60)]}
    assert Look.model_validate(few).cost() == 1206
    answer = designer.post("/live", {"look": many})
    assert answer.status_code == 422
    assert "12,060 steps" in answer.json()["message"]
    assert f"{WHOLE_LIMIT:,}" in answer.json()["message"]


def test_a_picture_with_too_many_pixels_is_refused_before_it_is_read(designer, tmp_path, monkeypatch):
    path = tmp_path / "huge.png"
    pictures.write(path, np.zeros((60, 100, 3), np.float32))
    monkeypatch.setattr(pictures, "PIXEL_LIMIT", 5999)
    monkeypatch.setattr(pictures.Source, "bands", None)
    with path.open("rb") as file:
        answer = designer.upload("/frames", {"file": file, "name": "Huge", "light": "", "encoding": "srgb"})
    assert answer.status_code == 422, answer.content
    assert "100 × 60 pixels are more than" in answer.json()["message"]
    assert str(tmp_path) not in answer.json()["message"]


def test_errors_before_a_rule_have_one_shape(designer, stranger):
    token = designer.client.cookies["csrftoken"].value
    how = {"headers": {"X-CSRFToken": token}}
    broken = designer.client.generic("POST", "/api/looks", "{", content_type="application/json", **how)
    forged = designer.client.generic("POST", "/api/looks", "{}", content_type="application/json")
    nowhere = designer.client.get("/api/nowhere")
    parts = designer.client.generic(
        "POST", "/api/frames", "nonsense", content_type="multipart/form-data; boundary=x", **how
    )
    large = designer.client.generic(
        "POST", "/api/looks", "x" * (9 * 2**20), content_type="application/json", **how
    )
    wrong = designer.client.generic("POST", "/api/frames", "x", content_type="multipart/form-data", **how)
    for answer, statuses in (
        (broken, {400}),
        (forged, {403}),
        (nowhere, {404}),
        (parts, {400, 422}),
        (large, {413}),
        (wrong, {400, 422}),
    ):
        assert answer.status_code in statuses, answer.content
        assert set(answer.json()) == {"message", "detail"}
        assert answer.json()["message"]
        assert answer["X-Request-ID"]


def test_an_error_of_its_own_tells_where_the_log_has_it(designer, monkeypatch, settings):
    designer.client.raise_request_exception = False

    def broken(*_):
        raise ZeroDivisionError("secret words of the inside")

    monkeypatch.setattr("saucer_server.looks.rules.worked_on", broken)
    answer = designer.get("/looks")
    assert answer.status_code == 500
    assert answer["X-Request-ID"] in answer.json()["message"]
    assert "secret words" not in answer.content.decode()


def test_every_answer_says_what_a_page_may_load(stranger):
    for path in ("/", "/api/session", "/api/nowhere"):
        answer = stranger.client.get(path)
        policy = dict(part.strip().split(" ", 1) for part in answer["Content-Security-Policy"].split(";"))
        assert policy["script-src"] == "'self'"
        assert policy["frame-ancestors"] == "'none'"
        assert answer["X-Content-Type-Options"] == "nosniff"


def sends(who, path, size, method="POST", **extra):
    """An announced body, of which nothing may be read before it is known who sends it."""
    token = who.client.cookies["csrftoken"].value

    class Unread:
        def read(self, *_):
            raise AssertionError("read before anybody was asked")

        readline = read

    extra = {
        "CONTENT_LENGTH": str(size),
        "CONTENT_TYPE": "multipart/form-data; boundary=x",
        "wsgi.input": Unread(),
        **extra,
    }
    return who.client.generic(method, f"/api{path}", HTTP_X_CSRFTOKEN=token, **extra)


def test_who_sends_a_large_body_is_known_before_it_is_read(stranger, designer):
    for path in ("/frames", "/sign-in", "/looks", "/nothing/here"):
        answer = sends(stranger, path, 50_000_000)
        assert answer.status_code == 404 if "nothing" in path else answer.status_code == 401
        assert answer.json()["message"]
    assert sends(designer, "/looks", 50_000_000).status_code == 413
    assert sends(designer, "/frames", 5 << 40).status_code == 413


def test_bodies_under_way_fit_the_disk_and_are_few_for_one(designer, other, monkeypatch):
    ines, tomas = (Person.objects.get(username=name) for name in ("ines", "tomas"))
    for k in range(uploads.ONE_PERSON):
        uploads.admit(f"request {k}", ines, 1000)
    # The front asked for this one already.
    uploads.admit("request 0", ines, 1000)
    with pytest.raises(RuleError, match="already") as refused:
        uploads.admit("one more", ines, 1000)
    assert refused.value.status == 429
    uploads.ended("request 3")
    uploads.admit("one more", ines, 1000)
    Usage = namedtuple("Usage", "total used free")
    monkeypatch.setattr(
        shutil, "disk_usage", lambda _: Usage(0, 0, uploads.KEPT_FREE + uploads.COPIES * 9000)
    )
    uploads.admit("fits", tomas, 1000)
    with pytest.raises(RuleError, match="room") as refused:
        uploads.admit("does not", tomas, 1)
    assert refused.value.status == 507
    # A sender who vanished holds nothing up for long.
    uploads.Upload.objects.update(until=timezone.now() - timedelta(seconds=1))
    uploads.admit("fits again", ines, 9000)
    assert uploads.Upload.objects.count() == 1


def test_an_answered_upload_gives_its_room_back(designer, tmp_path):
    path = tmp_path / "noise.png"
    pictures.write(path, np.random.default_rng(1).random((300, 300, 3), dtype=np.float32))
    assert path.stat().st_size > bodies.SMALL
    with path.open("rb") as f:
        answer = designer.upload("/frames", {"file": f, "name": "Noise"})
    assert answer.status_code == 201, answer.json()
    assert uploads.Upload.objects.count() == 0
    assert list(arriving().iterdir()) == []


def test_every_route_that_takes_files_is_known():
    found = routes.taking_files()
    assert ("POST", "api/frames") in found
    assert ("POST", "api/packs/<int:pack_id>/files") in found
    known = set()

    def walk(patterns, before=""):
        for p in patterns:
            if hasattr(p, "url_patterns"):
                walk(p.url_patterns, before + str(p.pattern))
            else:
                known.add(before + str(p.pattern))

    walk(get_resolver().url_patterns)
    assert {route for _, route in found} <= known


def test_pictures_under_way_share_one_budget():
    """Three that fit two by two, work inside work, and one larger than everything, which runs alone."""
    budget, now, most, guard = Budget(10), [0], [0], Lock()

    def work(mebibytes):
        with budget.take(mebibytes << 20), budget.take(9 << 20):
            with guard:
                now[0] += mebibytes
                most[0] = max(most[0], now[0])
            sleep(0.01)
            with guard:
                now[0] -= mebibytes

    for sizes, limit in (([4] * 9, 10), ([30, 4, 30, 4, 4], 30)):
        now[0] = most[0] = 0
        threads = [Thread(target=work, args=(size,)) for size in sizes]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join(30)
        assert not any(thread.is_alive() for thread in threads)
        assert 4 < most[0] <= limit


def test_a_wide_picture_takes_its_bytes_from_the_budget(designer, frame, look, revision, monkeypatch):
    taken = []

    def take(size):
        taken.append(size)
        return nullcontext()

    monkeypatch.setattr(DRAWING, "take", take)
    for answer in (
        designer.get(f"/frames/{frame.pk}/still?width=64"),
        designer.get(f"/revisions/{revision.pk}/still?frame={frame.pk}&width=60"),
        designer.get(f"/looks/{look.pk}/still?frame={frame.pk}&width=4096"),
        designer.get(f"/frames/{frame.pk}/places?input=srgb&width=32"),
        designer.post("/exact?width=50", {"look": {"steps": []}, "frame": frame.pk}),
        designer.post("/masks?width=50", {"look": {"steps": []}, "frame": frame.pk}),
        designer.post("/picture?width=50", {"look": {"steps": []}, "frame": frame.pk}),
    ):
        assert answer.status_code == 200, answer.content
    # A frame of 64 × 36 is never drawn larger than it is.
    assert [size // DRAWN_BYTES for size in taken] == [
        64 * 36,
        60 * 34,
        64 * 36,
        32 * 18,
        50 * 28,
        50 * 28,
        50 * 28,
    ]
