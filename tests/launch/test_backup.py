"""``./saucer backup``, ``restore`` and ``lead``: everything comes back elsewhere; what is damaged is refused
and leaves nothing."""

import hashlib
import io
import json
import os
import socket
import subprocess
import sys
import tarfile
import urllib.request
from pathlib import Path

import psycopg
import pytest

from launch.places import python
from launch.postgres import free_port
from launch.serving import Application

from .test_starting import stop
from .test_supervisor import until

ROOT = Path(__file__).parents[2]
#: Every object of the database but sessions and what a start writes by itself, as text.
EVERYTHING = """
import django, hashlib, json
django.setup()
from django.apps import apps
from django.core import serializers
left_out = {"sessions", "procrastinate", "contenttypes", "auth"}
for model in sorted(apps.get_models(), key=lambda m: m._meta.label):
    if model._meta.app_label in left_out or model._meta.label == "people.Seat":
        continue
    rows = serializers.serialize("json", model._base_manager.order_by("pk"))
    print(model._meta.label, len(json.loads(rows)), hashlib.sha256(rows.encode()).hexdigest())
"""


def saucer(*words, given=""):
    kept = {
        k: v
        for k, v in os.environ.items()
        if k not in ("DATABASE_URL", "SAUCER_DATA", "DJANGO_SETTINGS_MODULE")
    }
    return subprocess.run(
        [sys.executable, str(ROOT / "saucer"), *map(str, words)],
        capture_output=True,
        text=True,
        env=kept,
        input=given,
    )


@pytest.fixture(scope="module")
def place(tmp_path_factory):
    folder = tmp_path_factory.mktemp("backup")
    for one in (folder, *list(folder.parents)[:3]):
        if one != Path("/tmp"):
            one.chmod(0o711)
    return folder


@pytest.fixture
def own_database(monkeypatch):
    for name in ("DATABASE_URL", "SAUCER_DATA", "DJANGO_SETTINGS_MODULE"):
        monkeypatch.delenv(name, raising=False)


def objects(application: Application) -> str:
    env = {**os.environ, **application.env, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}"}
    return subprocess.run(
        [python(), "-c", EVERYTHING], env=env, cwd=ROOT, capture_output=True, text=True, check=True
    ).stdout


def rests(application: Application) -> bool:
    """Whether nothing waits in its queue or runs: the proxies of the clips of the demo are made."""
    with psycopg.connect(application.env["DATABASE_URL"]) as database:
        asked = "SELECT count(*) FROM procrastinate_jobs WHERE status IN ('todo', 'doing')"
        row = database.execute(asked).fetchone()
    return row == (0,)


def files(data: Path) -> dict[str, str]:
    top = data / "files"
    kept = [
        p
        for p in top.rglob("*")
        if p.is_file() and not str(p.relative_to(top)).startswith(("derived/", "standing/"))
    ]
    return {str(p.relative_to(top)): hashlib.sha256(p.read_bytes()).hexdigest() for p in kept}


def test_everything_comes_back_elsewhere(place, own_database):
    """The demo is backed up while it runs, restored elsewhere, and compared object by object and file by
    file."""
    here = Application(place / "here", "127.0.0.1", free_port())
    archive = place / "saucer.tar"
    try:
        here.start()
        assert until(lambda: rests(here), 180)
        before, kept = objects(here), files(place / "here")
        done = saucer("backup", archive, "--data", place / "here")
        assert done.returncode == 0, done.stderr
        assert "holds the database" in done.stdout
        assert objects(here) == before
    finally:
        here.stop()
    assert archive.stat().st_mode & 0o077 == 0
    assert "is there already" in saucer("backup", archive, "--data", place / "here").stderr
    restored = saucer("restore", archive, "--data", place / "there")
    assert restored.returncode == 0, restored.stderr
    assert "there is a Saucer in" in saucer("restore", archive, "--data", place / "there").stderr
    there = Application(place / "there", "127.0.0.1", free_port())
    try:
        address = there.start()
        assert objects(there) == before
        assert before.count("\n") > 25
        assert "looks.Revision" in before
        assert files(place / "there") == kept
        assert len(kept) > 20
        with urllib.request.urlopen(f"{address}/api/session", timeout=60) as answer:
            assert answer.status == 200
    finally:
        there.stop()


def answers(port: int) -> bool:
    with socket.socket() as asking:
        return asking.connect_ex(("127.0.0.1", port)) == 0


@pytest.fixture
def bucket(monkeypatch):
    """From now on files lie in a bucket of a stand-in."""
    address = f"http://127.0.0.1:{(port := free_port())}"
    stand_in = subprocess.Popen(
        [python(), "-m", "moto.server", "-p", str(port)], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
    )
    until(lambda: answers(port), 30)
    urllib.request.urlopen(urllib.request.Request(f"{address}/saucer", method="PUT"), timeout=60).close()
    where = {"SAUCER_S3_BUCKET": "saucer", "SAUCER_S3_ADDRESS": address, "SAUCER_S3_REGION": "us-east-1"}
    for name, value in {**where, "AWS_ACCESS_KEY_ID": "a", "AWS_SECRET_ACCESS_KEY": "b"}.items():
        monkeypatch.setenv(name, value)
    yield
    stand_in.kill()
    stand_in.wait()


def held(archive: Path) -> dict[str, object]:
    with tarfile.open(archive) as found:
        return {
            n: about
            for n, about in json.load(found.extractfile("manifest.json"))["holds"].items()
            if n.startswith("files/")
        }


def test_files_go_into_a_bucket_and_come_out_of_it(place, own_database, bucket):
    archive = place / "saucer.tar"
    assert archive.is_file(), "the first test makes it"
    restored = saucer("restore", archive, "--data", place / "bucketed")
    assert restored.returncode == 0, restored.stderr
    assert not (place / "bucketed" / "files").exists()
    again = saucer("backup", place / "again.tar", "--data", place / "bucketed")
    assert again.returncode == 0, again.stderr
    assert len(held(archive)) > 20
    assert held(place / "again.tar") == held(archive)
    assert [p.name for p in place.iterdir() if p.name.startswith((".again", "tmp"))] == []


def damaged(archive: Path, target: Path, how) -> Path:
    with tarfile.open(archive) as source, tarfile.open(target, "w") as out:
        for member in source:
            data = source.extractfile(member).read()
            name, data = how(member.name, data)
            if name is not None:
                member.name, member.size = name, len(data)
                out.addfile(member, io.BytesIO(data))
    return target


@pytest.mark.parametrize(
    ("how", "words"),
    [
        (lambda n, d: (n, d[:-1] + b"x" if n.startswith("files/frames") else d), "is damaged: files/frames"),
        (lambda n, d: (None if n.startswith("files/frames") else n, d), "is damaged: files/frames"),
        (lambda n, d: (None if n == "manifest.json" else n, d), "is no whole backup"),
        (lambda n, d: ("../outside" if n.startswith("files/clips") else n, d), "which no backup holds"),
        (
            lambda n, d: (n, json.dumps({"saucer_backup": 99}).encode() if n == "manifest.json" else d),
            "of another kind",
        ),
    ],
)
def test_a_damaged_archive_is_refused_and_leaves_nothing(place, own_database, how, words):
    archive = place / "saucer.tar"
    assert archive.is_file(), "the first test makes it"
    broken = damaged(archive, place / "broken.tar", how)
    answer = saucer("restore", broken, "--data", place / "nowhere")
    assert answer.returncode == 1
    assert words in answer.stderr
    assert not (place / "nowhere").exists()
    assert not (place / "outside").exists()


def test_half_an_archive_and_something_else_are_refused(place, own_database):
    data = (place / "saucer.tar").read_bytes()
    for content in (data[: len(data) // 2], b"no archive", b""):
        (place / "half.tar").write_bytes(content)
        answer = saucer("restore", place / "half.tar", "--data", place / "nowhere")
        assert answer.returncode == 1
        assert "half.tar" in answer.stderr
        assert not (place / "nowhere").exists()


def test_the_first_lead_is_made_by_a_command(place, own_database):
    """``--empty`` lets nobody in until there is a lead; afterwards they sign in."""
    data = place / "empty"
    assert "start it once" in saucer("lead", "odile", "--data", data, given="glaze-and-ember\n").stderr
    application = Application(data, "127.0.0.1", free_port())
    try:
        address = application.start(demo=False)
        assert "too short" in saucer("lead", "odile", "--data", data, given="short\n").stderr
        made = saucer("lead", "odile", "--called", "Odile Marrin", "--data", data, given="glaze-and-ember\n")
        assert made.returncode == 0, made.stderr
        assert "Odile Marrin is a lead" in made.stdout
        jar = urllib.request.HTTPCookieProcessor()
        ask = urllib.request.build_opener(jar)
        ask.open(f"{address}/api/session").read()
        token = next(c.value for c in jar.cookiejar if c.name == "csrftoken")
        body = json.dumps({"username": "odile", "password": "glaze-and-ember"}).encode()
        headers = {"Content-Type": "application/json", "X-CSRFToken": token}
        answer = ask.open(urllib.request.Request(f"{address}/api/sign-in", body, headers))
        assert json.loads(answer.read())["may_lead"] is True
    finally:
        application.stop()
        stop(data)
