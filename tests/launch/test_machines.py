"""Two web machines, three workers, the database and the storage, each in a network of its own; one of each
that is doubled is lost.

Linux's network namespaces stand in for machines. They need root and ``ip``; where these are not to be had the
test says so and is skipped.
"""

import contextlib
import hashlib
import io
import json
import os
import shutil
import signal
import subprocess
import time
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import psycopg
import pytest
import requests
from saucer_core.formats import pictures

from launch.places import ROOT, python
from launch.postgres import Postgres
from launch.serving import GUNICORN, settings

WEB, WORKERS = ("web-1", "web-2"), ("worker-1", "worker-2", "worker-3")
LEAD = """
import django
django.setup()
from saucer_server.people.rules import Person, Role
Person.objects.create_user("odile", password="slip-and-glaze", full_name="Odile Marrin", role=Role.LEAD)
"""
#: Shots of the project, and their size: enough work for three.
SHOTS, SIZE = 6, (720, 1280)
#: The first half of the locks that workers take pieces of a delivery by.
PIECES = 0x5A11
#: A dead worker's jobs are given on when it was silent for 45 s, which is looked after once a minute.
PATIENCE = 240


def ip(*words: str) -> None:
    subprocess.run(["ip", *words], check=True, capture_output=True)


def _may_make_networks() -> bool:
    if os.geteuid() != 0 or shutil.which("ip") is None:
        return False
    name = f"saucer-{os.getpid()}-try"
    if subprocess.run(["ip", "netns", "add", name], capture_output=True).returncode:
        return False
    ip("netns", "del", name)
    return True


pytestmark = pytest.mark.skipif(not _may_make_networks(), reason="needs root, ip and network namespaces")


class Network:
    """Machines on one wire, each in a namespace with an address of its own."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.mark = f"s{os.getpid() % 100_000:05d}"
        self.net = f"10.{200 + os.getpid() % 50}.{os.getpid() // 50 % 250}"
        self.addresses: dict[str, str] = {}
        self.processes: list[subprocess.Popen[bytes]] = []
        ip("link", "add", self.mark, "type", "bridge")
        ip("addr", "add", f"{self.net}.1/24", "dev", self.mark)
        ip("link", "set", self.mark, "up")

    def _space(self, name: str) -> str:
        return f"{self.mark}-{name}"

    def machine(self, name: str) -> str:
        """Adds a machine; gives its address."""
        number, space = len(self.addresses) + 10, self._space(name)
        near, far = f"{self.mark}n{number}", f"{self.mark}f{number}"
        ip("netns", "add", space)
        ip("link", "add", near, "type", "veth", "peer", "name", far)
        ip("link", "set", near, "master", self.mark, "up")
        ip("link", "set", far, "netns", space)
        self.addresses[name] = f"{self.net}.{number}"
        for words in (
            ("addr", "add", f"{self.addresses[name]}/24", "dev", far),
            ("link", "set", far, "up"),
            ("link", "set", "lo", "up"),
        ):
            ip("-n", space, *words)
        return self.addresses[name]

    def run(self, name: str, words: list[str | Path], env: dict[str, str], unit: str = "") -> None:
        """Starts a process on a machine; unit: where several run on one."""
        log = (self.folder / f"{name}{unit}.log").open("wb")
        inside = ["ip", "netns", "exec", self._space(name), *map(str, words)]
        self.processes.append(
            subprocess.Popen(
                inside, cwd=ROOT, env={**os.environ, **env}, stdout=log, stderr=subprocess.STDOUT
            )
        )

    def lose(self, name: str) -> None:
        """A machine is gone at once: its wire first, so that nobody is told, then all that ran on it."""
        ip("link", "del", f"{self.mark}n{list(self.addresses).index(name) + 10}")
        self._kill(name)

    def _kill(self, name: str) -> None:
        found = subprocess.run(
            ["ip", "netns", "pids", self._space(name)], check=True, capture_output=True, text=True
        )
        for process in map(int, found.stdout.split()):
            with contextlib.suppress(ProcessLookupError):
                os.kill(process, signal.SIGKILL)

    def close(self) -> None:
        for name in self.addresses:
            self._kill(name)
        for process in self.processes:
            process.wait(30)
        for name in self.addresses:
            ip("netns", "del", self._space(name))
        ip("link", "del", self.mark)


class Visitor:
    """Somebody signed in, who asks the next web machine where one does not answer."""

    def __init__(self, hosts: list[str], port: int = 8000) -> None:
        self.hosts, self.port, self.cookies = hosts, port, dict[str, str]()
        self.ask("GET", "session")
        self.ask("POST", "sign-in", json={"username": "odile", "password": "slip-and-glaze"})

    def ask(self, method: str, path: str, **more: Any) -> requests.Response:
        """The answer of the first machine that gives one; it must be a good one."""
        for host in self.hosts:
            headers = {"X-CSRFToken": self.cookies.get("csrftoken", "")}
            address = f"http://{host}:{self.port}/api/{path}"
            try:
                answer = requests.request(
                    method, address, headers=headers, cookies=self.cookies, timeout=(2, 60), **more
                )
            except requests.ConnectionError:
                continue
            self.cookies |= answer.cookies.get_dict()
            assert answer.ok, f"{method} {path}: {answer.status_code} {answer.text[:400]}"
            return answer
        raise AssertionError(f"nobody answers {method} {path}")

    def until(self, path: str, holds: Any) -> Any:
        """Asks until the answer is as wanted; gives it."""
        end = time.monotonic() + PATIENCE
        while not holds(said := self.ask("GET", path).json()):
            assert time.monotonic() < end, f"{path} stays {json.dumps(said)[:600]}"
            time.sleep(0.5)
        return said


def _comes(address: str, status: int | None = None) -> None:
    """Waits for an answer, and for that status where one is given: a front answers before the web processes
    behind it do."""
    end = time.monotonic() + 120
    while True:
        try:
            answer = requests.get(address, timeout=20)
            if status in (None, answer.status_code):
                return
        except (requests.ConnectionError, requests.Timeout):
            pass
        assert time.monotonic() < end, f"nothing answers at {address}"
        time.sleep(0.2)


@pytest.fixture
def network(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Network]:
    folder = tmp_path_factory.mktemp("machines")
    for one in (folder, *list(folder.parents)[:3]):
        if one != Path("/tmp"):
            one.chmod(0o711)
    network = Network(folder)
    try:
        yield network
    finally:
        network.close()


def _database(network: Network) -> str:
    host = network.machine("database")
    postgres = Postgres(network.folder / "database", throw_away=True)
    part = postgres.part()
    with (postgres.home / "pg_hba.conf").open("a") as rules:
        rules.write(f"host all all {network.net}.0/24 scram-sha-256\n")
    network.run(
        "database",
        [w.replace("listen_addresses=127.0.0.1", "listen_addresses=*") for w in map(str, part.words)],
        {},
    )
    password = (postgres.folder / "database-password").read_text().strip()
    address = f"postgres://saucer:{password}@{host}:{postgres.port}"
    end = time.monotonic() + 60
    while True:
        try:
            with psycopg.connect(f"{address}/postgres", autocommit=True) as connection:
                connection.execute("create database saucer")
            return f"{address}/saucer"
        except psycopg.OperationalError:
            assert time.monotonic() < end
            time.sleep(0.2)


def _storage(network: Network) -> dict[str, str]:
    host = network.machine("storage")
    network.run("storage", [python(), "-m", "moto.server", "-H", "0.0.0.0", "-p", "9000"], {})
    address = f"http://{host}:9000"
    _comes(address)
    requests.put(f"{address}/saucer", timeout=60).raise_for_status()
    keys = {"AWS_ACCESS_KEY_ID": "stand-in", "AWS_SECRET_ACCESS_KEY": "stand-in"}
    return {
        **keys,
        "SAUCER_S3_BUCKET": "saucer",
        "SAUCER_S3_ADDRESS": address,
        "SAUCER_S3_REGION": "us-east-1",
    }


def _picture(folder: Path, number: int) -> Path:
    y, x = np.mgrid[0 : SIZE[0], 0 : SIZE[1]].astype(np.float32)
    wave = 0.5 + 0.5 * np.sin(x / (90 + number) + y / (70 + 2 * number))
    path = folder / f"shot {number}.png"
    pictures.write(path, np.stack([x / SIZE[1], wave, y / SIZE[0]], axis=-1), "uint16")
    return path


def _busy(database: str) -> str:
    """The address of a worker that has a piece of a delivery under way."""
    end = time.monotonic() + 60
    asked = (
        "select host(client_addr) from pg_locks join pg_stat_activity using (pid) where locktype = "
        "'advisory' and classid = %s"
    )
    with psycopg.connect(database, autocommit=True) as connection:
        while (row := connection.execute(asked, [PIECES]).fetchone()) is None:
            assert time.monotonic() < end, "no worker takes a piece"
            time.sleep(0.02)
    return str(row[0])


def test_work_goes_on_when_a_web_machine_and_a_worker_are_lost(network: Network) -> None:
    database, store = _database(network), _storage(network)

    def env(name: str) -> dict[str, str]:
        own = settings(network.folder, database, "0.0.0.0", 8000) | {
            "SAUCER_DATA": str(network.folder / name),
            "SAUCER_WEB_PROCESSES": "1",
        }
        return {**own, **store, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}"}

    manage = [python(), ROOT / "server" / "manage.py"]
    first = {**os.environ, **env("first")}
    for words in ([*manage, "migrate", "--no-input"], [python(), "-c", LEAD]):
        subprocess.run(words, cwd=ROOT, env=first, check=True, capture_output=True)
    hosts = {name: network.machine(name) for name in (*WEB, *WORKERS)}
    for name in WEB:
        network.run(name, [python(), *GUNICORN, "saucer_server.wsgi", "-b", "0.0.0.0:8000"], env(name))
    for name in WORKERS:
        network.run(name, [*manage, "procrastinate", "worker", "--concurrency", "1"], env(name))
    for name in WEB:
        _comes(f"http://{hosts[name]}:8000/api/health")

    one = Visitor([hosts[name] for name in WEB])
    frames = []
    for number in range(SHOTS):
        with _picture(network.folder, number).open("rb") as file:
            frames.append(
                one.ask(
                    "POST",
                    "frames",
                    data={"name": f"Shot {number}", "encoding": "srgb"},
                    files={"file": file},
                ).json()["id"]
            )
    draft = {
        "steps": [
            {"id": "a", "kind": "exposure", "stops": 0.4},
            {"id": "b", "kind": "saturation", "amount": 0.8},
        ]
    }
    look = one.ask("POST", "looks", json={"name": "Glaze", "draft": draft}).json()
    revision = one.ask("POST", f"looks/{look['id']}/revisions", json={"note": "first"}).json()
    project = one.ask("POST", "projects", json={"name": "Yard", "note": ""}).json()
    at = f"projects/{project['id']}"
    one.ask("POST", f"{at}/shots", json={"frames": frames})
    one.ask(
        "POST", f"{at}/assign", json={"whole": True, "layers": [{"revision": revision["id"], "strength": 1}]}
    )

    # What one machine took in, another one shows; both give the same bytes.
    still = f"revisions/{revision['id']}/still?frame={frames[0]}&width=320"
    other = Visitor([hosts["web-2"], hosts["web-1"]])
    assert one.ask("GET", still).content == other.ask("GET", still).content

    plan = {
        "parts": ["looks", "shots", "stills"],
        "encodings": ["bt709_display", "display_p3", "pq"],
        "held": "anyway",
    }
    number = one.ask("POST", f"{at}/deliveries", json=plan).json()["number"]
    lost = _busy(database)
    network.lose(next(name for name in WORKERS if hosts[name] == lost))
    network.lose("web-1")
    made = one.until(f"{at}/deliveries", lambda all: all[0]["ready"] or all[0]["job"]["state"] == "failed")[0]
    assert made["ready"], made["job"]

    # Every file is there, whole, and once.
    package = zipfile.ZipFile(io.BytesIO(one.ask("GET", f"{at}/deliveries/{number}/file").content))
    (contents,) = [n for n in package.namelist() if n.rpartition("/")[2] == "contents.json"]
    files = json.loads(package.read(contents))["files"]
    assert len(files) == 3 * (1 + 2 * SHOTS) == len({f["path"] for f in files})
    root = contents.rpartition("/")[0]
    for file in files:
        path = f"{root}/{file['path']}" if root else file["path"]
        assert hashlib.sha256(package.read(path)).hexdigest() == file["sha256"]

    # The machine that is left takes new work in, and keeps what was kept before.
    assert one.ask("GET", f"looks/{look['id']}").json()["revisions"][0]["digest"] == revision["digest"]
    (bake,) = one.ask(
        "POST", f"revisions/{revision['id']}/bakes", json={"kinds": ["cube"], "grid": 17}
    ).json()
    assert one.ask("GET", f"bakes/{bake['id']}/file").content.startswith(b"TITLE")
