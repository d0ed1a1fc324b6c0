"""Making room, and what works where there is none."""

import errno
import os
import socket
import time
from datetime import timedelta
from pathlib import Path

import pytest
from botocore.config import Config
from botocore.exceptions import BotoCoreError
from django.contrib.sessions.models import Session
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.utils import timezone
from saucer_server import storage
from saucer_server.delivering.models import Delivery
from saucer_server.housekeeping import sweep
from saucer_server.jobs.models import Job
from saucer_server.jobs.rules import running
from saucer_server.people.models import UserSession
from saucer_server.people.rules import Person

DAY = 86_400


def put(name: str, size: int = 10, days: float = 0) -> Path:
    """A kept file that was last asked for so many days ago."""
    storage.put(name, b"x" * size)
    path = Path(default_storage.path(name))
    then = time.time() - days * DAY
    os.utime(path, (then, then))
    return path


def test_results_that_nobody_asks_for_go(db):
    old, fresh = put("derived/stills/a.jpg", days=40), put("derived/stills/b.jpg", days=20)
    assert sweep.derived().files == 1
    assert not old.exists()
    assert fresh.exists()


def test_asking_for_a_result_keeps_it(db):
    path = put("derived/stills/a.jpg", days=29)
    assert storage.kept("derived/stills/a.jpg", lambda: b"made anew") == b"x" * 10
    assert time.time() - path.stat().st_mtime < 60
    assert sweep.derived(now=time.time() + 20 * DAY).files == 0


def test_the_longest_unasked_results_go_until_the_rest_fits(db):
    paths = [put(f"derived/stills/{k}.jpg", 2**19, days=k) for k in range(6)]
    swept = sweep.derived(mebibytes=2)
    assert swept.files == 2
    assert swept.bytes == 2 * 2**19
    assert [p.exists() for p in paths] == [True, True, True, True, False, False]


def test_files_that_nothing_names_go_once_they_are_not_young(db, frame):
    used = Path(default_storage.path(frame.file))
    os.utime(used, (0, 0))
    orphan, young = put("frames/aa/gone.png", days=3), put("frames/aa/coming.png", days=0.5)
    part = put("bakes/.part-of-a-dead-process", days=3)
    assert sweep.unused().files == 2
    assert used.exists()
    assert young.exists()
    assert not orphan.exists()
    assert not part.exists()


def test_every_column_that_names_files_is_known():
    """A new model whose files nobody counts would lose them in the first night."""
    from django.apps import apps
    from django.db.models import CharField

    known = {column for columns in sweep.NAMED_BY.values() for column in columns}
    looks_like = {"file", "stamps", "licence_file", "rest", "proxy", "proxy_index", "samples"}
    looks_like |= {"original", "read_file"}
    found = {
        f"{model._meta.app_label}.{model.__name__}.{field.name}"
        for model in apps.get_models()
        for field in model._meta.get_fields()
        if isinstance(field, CharField) and field.name in looks_like
    }
    # Files of a delivery lie under their checksums; ``shas_in_use`` counts them.
    assert found - {"delivering.Delivery.file"} == known


@pytest.mark.django_db(transaction=True)
def test_files_of_old_deliveries_go_and_the_delivery_says_so(lead, frame, revision):
    from .conftest import in_a_project
    from .test_delivering import delivered

    project = in_a_project("Kiln", [frame], revision)
    rows = [delivered(lead, project.pk, {"parts": ["looks"]}) for _ in range(3)]
    first, newest = rows[0], rows[-1]
    Delivery.objects.update(made_at=timezone.now() - timedelta(days=100))
    own = put(f"delivered/ab/{'ab' * 32}", days=3)
    shared = Path(default_storage.path("delivered"))
    before = [p for p in shared.rglob("*") if p.is_file() and p.suffix != ".json" and p != own]
    for path in before:
        os.utime(path, (0, 0))
    sweep.delivered()
    assert not own.exists()
    # All three hold the same table, which the newest still names.
    assert all(p.exists() for p in before)
    answers = {d["number"]: d["ready"] for d in lead.get(f"/projects/{project.pk}/deliveries").json()}
    assert answers[first.number] is False
    assert answers[newest.number] is True
    assert lead.get(f"/projects/{project.pk}/deliveries/{newest.number}/file").status_code == 200


def test_sessions_that_ran_out_are_forgotten(applier, stranger):
    stranger.post("/sign-in", {"username": "vera", "password": "clay-and-water"})
    Session.objects.update(expire_date=timezone.now() - timedelta(days=1))
    UserSession.objects.update(at=timezone.now() - timedelta(days=30))
    assert sweep.sessions() >= 1
    assert Session.objects.count() == 0
    assert UserSession.objects.count() == 0


# A full disk


@pytest.fixture
def full(monkeypatch):
    """From now on nothing can be kept."""

    def no_room(*_):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr("saucer_server.storage.WholeFileStorage._save", no_room)


def test_looking_works_on_a_full_disk(designer, look, revision, frame, full):
    for path in (
        f"/frames/{frame.pk}/still?width=32",
        f"/frames/{frame.pk}/places?input=srgb&width=32",
        f"/revisions/{revision.pk}/saucer",
        f"/revisions/{revision.pk}/still?frame={frame.pk}&width=32",
        f"/looks/{look.pk}",
        "/catalogue",
        "/session",
    ):
        assert designer.get(path).status_code == 200, path
    body = {"look": {"steps": []}, "frame": frame.pk}
    assert designer.post("/live", body).status_code == 200
    # What is in the database alone is kept all the same.
    assert designer.send("PATCH", f"/looks/{look.pk}", {"note": "still here"}).status_code == 200


def test_what_cannot_be_kept_says_so_and_leaves_nothing(designer, revision, full):
    answer = designer.post(f"/revisions/{revision.pk}/bakes", {"kinds": ["cube"], "grid": 9})
    assert answer.status_code == 507
    assert "The disk is full" in answer.json()["message"]
    assert "Errno" not in answer.content.decode()
    assert revision.bakes.count() == 0


def test_work_that_meets_a_full_disk_says_so(designer):
    job = Job.objects.create(kind="x", title="x", asked_by=Person.objects.get(username="ines"))
    with pytest.raises(OSError, match="No space"), running(job.pk, lambda: None):
        raise OSError(errno.ENOSPC, "No space left on device")
    job.refresh_from_db()
    assert job.state == "failed"
    assert job.reason.startswith("The disk is full")


# A bucket on a machine that is away


@pytest.fixture
def cut_off(settings):
    """From now on files lie in a bucket that cannot be reached."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        address = f"http://127.0.0.1:{free.getsockname()[1]}"
    settings.BUCKET = "saucer"
    where = {
        "bucket_name": "saucer",
        "endpoint_url": address,
        "region_name": "us-east-1",
        "access_key": "a",
        "secret_key": "b",
    }
    options = {**where, "client_config": Config(retries={"total_max_attempts": 1})}
    settings.STORAGES = {
        **settings.STORAGES,
        "default": {"BACKEND": "storages.backends.s3.S3Storage", "OPTIONS": options},
    }


def test_a_bucket_that_is_away_is_said_and_nothing_is_left(designer, look, revision, frame, cut_off):
    for answer in (
        designer.get(f"/frames/{frame.pk}/still?width=48"),
        designer.post(f"/revisions/{revision.pk}/bakes", {"kinds": ["cube"], "grid": 9}),
    ):
        assert answer.status_code == 503
        assert answer.json()["message"].startswith("A file could not be kept or read. Nothing was changed")
    assert revision.bakes.count() == 0
    assert designer.get("/ready").json()["storage"] is False
    # What is in the database alone is kept all the same.
    assert designer.send("PATCH", f"/looks/{look.pk}", {"note": "still here"}).status_code == 200


def test_work_that_cannot_reach_its_bucket_says_so(designer, cut_off):
    job = Job.objects.create(kind="x", title="x", asked_by=Person.objects.get(username="ines"))
    with pytest.raises(BotoCoreError), running(job.pk, lambda: None):
        default_storage.save("standing/mark", ContentFile(b"."))
    job.refresh_from_db()
    assert (job.state, job.reason) == ("failed", "A file could not be kept or read. Start it again.")
