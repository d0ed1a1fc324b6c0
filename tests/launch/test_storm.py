"""Parts are killed at random, the disk fills and slow strangers hold on while people save, keep, bake and
note; what was acknowledged is there afterwards.

A short piece runs with all tests; ``./saucer test --storm`` goes on for ten minutes. The disk is a small one
in memory, which needs root; without it the storm goes on with a disk that does not fill.
"""

import contextlib
import json
import os
import random
import shutil
import signal
import socket
import subprocess
import threading
import time
import urllib.error
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any

import pytest

from launch import leftovers
from launch.postgres import Postgres

from .test_starting import Started, answers, stop

SECONDS = 600 if os.environ.get("SAUCER_STORM") else 25
#: Seconds between two kills.
CALM = (1.0, 5.0)
WORKERS = 3
#: MiB of the disk that fills; seconds between two times, and for how long it is full.
DISK, ROOM, FULL = 1500, (4.0, 9.0), 1.5
#: Answers of a part that is away; 0 where there was none.
AWAY = (0, 502, 503, 504)
#: Strangers who send a byte now and then.
SLOW = 12


class Somebody:
    """A person of the demo team at the interface, who asks again until there is an answer that is not about
    being away."""

    def __init__(self, port: int, name: str) -> None:
        self.base = f"http://127.0.0.1:{port}/api"
        self.jar = CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        until, status = time.monotonic() + 60, 0
        # The database may still be recovering, or the disk just have been full: that is said, and is over
        # soon.
        while status in AWAY and time.monotonic() < until:
            self.ask("GET", "/session")
            status, _ = self.ask("POST", "/sign-in", {"username": name, "password": "slip-and-glaze"})
            time.sleep(0 if status == 200 else 0.5)
        assert status == 200

    def ask(self, method: str, path: str, body: object = None) -> tuple[int, Any]:
        """Status and what was answered; 0 where nothing was."""
        token = next((c.value for c in self.jar if c.name == "csrftoken"), "")
        data = None if body is None else json.dumps(body).encode()
        headers = {"Content-Type": "application/json", "X-CSRFToken": str(token)}
        request = urllib.request.Request(self.base + path, data, headers, method=method)
        try:
            with self.opener.open(request, timeout=30) as answer:
                return answer.status, json.loads(answer.read() or b"null")
        except urllib.error.HTTPError as error:
            return error.code, None
        except (OSError, ValueError):
            return 0, None


class Acknowledged:
    """What the server said it has, by one person, and how often it could not be reached."""

    def __init__(self) -> None:
        self.looks: dict[int, tuple[int, float]] = {}
        self.revisions: list[tuple[int, int]] = []
        self.bakes: list[int] = []
        self.notes: list[tuple[int, int]] = []
        self.statuses: dict[int, int] = {}

    def saw(self, status: int) -> bool:
        """Counts an answer; whether it says yes."""
        self.statuses[status] = self.statuses.get(status, 0) + 1
        return 200 <= status < 300


def work(who: Somebody, until: float, kept: Acknowledged, seed: int) -> None:
    """Makes a look, then saves, keeps, bakes and notes until time is up; waits a little where Saucer is
    away."""
    dice = random.Random(seed)
    look = revision = None
    version, amount = 1, 0.0
    while time.monotonic() < until:
        if look is None:
            status, said = who.ask("POST", "/looks", {"name": f"Storm {seed}", "draft": {"steps": []}})
            if kept.saw(status):
                look, version = said["id"], said["draft_version"]
                kept.looks[look] = (version, 0.0)
        elif dice.random() < 0.7:
            amount = round(dice.uniform(-4, 4), 3)
            draft = {"steps": [{"id": "a", "kind": "exposure", "stops": amount}]}
            status, said = who.ask(
                "PUT", f"/looks/{look}/draft", {"version": version, "draft": draft, "tab": str(seed)}
            )
            if kept.saw(status):
                version = said["version"]
                kept.looks[look] = (version, amount)
            else:
                # It may have been saved though nobody said so: what is there now counts from here on.
                status, said = who.ask("GET", f"/looks/{look}")
                if status == 200:
                    version = said["draft_version"]
                    steps = said["draft"]["steps"]
                    assert version >= kept.looks[look][0], "an acknowledged save is gone"
                    kept.looks[look] = (version, steps[0]["stops"] if steps else 0.0)
        elif dice.random() < 0.5 or revision is None:
            status, said = who.ask("POST", f"/looks/{look}/revisions", {"note": "storm"})
            if kept.saw(status):
                revision = said["id"]
                kept.revisions.append((look, said["number"]))
        elif dice.random() < 0.5:
            status, said = who.ask("POST", f"/revisions/{revision}/bakes", {"kinds": ["cube"], "grid": 17})
            if kept.saw(status):
                kept.bakes += [b["id"] for b in said]
        else:
            status, said = who.ask("POST", f"/looks/{look}/notes", {"revision": revision, "text": "storm"})
            if kept.saw(status):
                kept.notes.append((look, said["id"]))
        if status in (0, 502, 503, 507):
            time.sleep(0.3)


def last_words(folder: Path) -> str:
    """How full the disk is, and the end of every log: what somebody looks for who wonders why nothing
    answers."""
    disk = shutil.disk_usage(folder)
    said = [f"{disk.free // 2**20} of {disk.total // 2**20} MiB free"]
    for log in sorted(folder.glob("*.log")):
        said.append(f"== {log.name}")
        said += [line[:300] for line in log.read_text(errors="replace").splitlines()[-6:]]
    return "\n".join(said)


def victims(data: Path) -> list[int]:
    """Everything that may be killed: the parts, and the processes that they have started."""
    return [
        *leftovers.servers(data),
        *leftovers.standing_in(data / "front"),
        *leftovers.database(Postgres(data).home),
    ]


def fill(folder: Path, until: float, times: list[float]) -> None:
    """Takes all that is left of a disk, again and again, and gives it back after a while."""
    dice, filler = random.Random(3), folder / "filler"
    while time.monotonic() < until - FULL - 4:
        time.sleep(dice.uniform(*ROOM))
        with contextlib.suppress(OSError), filler.open("wb", buffering=0) as out:
            while True:
                out.write(bytes(4 * 2**20))
        with contextlib.suppress(OSError), filler.open("ab", buffering=0) as out:
            while True:
                out.write(bytes(512))
        times.append(time.monotonic())
        time.sleep(FULL)
        filler.unlink()


def dawdle(port: int, until: float) -> None:
    """Somebody who begins to send and hardly goes on."""
    while time.monotonic() < until:
        with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), timeout=5) as line:
            line.sendall(b"POST /api/looks HTTP/1.1\r\nHost: localhost\r\nContent-Length: 100000\r\n\r\n")
            while time.monotonic() < until:
                line.sendall(b" ")
                time.sleep(0.7)
        time.sleep(0.2)


@pytest.fixture
def place(tmp_path_factory):
    folder = tmp_path_factory.mktemp("storm")
    for one in (folder, *list(folder.parents)[:3]):
        if one != Path("/tmp"):
            one.chmod(0o711)
    mount = ["mount", "-t", "tmpfs", "-o", f"size={DISK}m,mode=711", "storm", str(folder)]
    small = os.geteuid() == 0 and subprocess.run(mount, capture_output=True).returncode == 0
    yield folder, small
    stop(folder)
    if small:
        subprocess.run(["umount", "--lazy", str(folder)], check=True)


def test_what_was_acknowledged_outlives_what_is_killed(place):
    folder, small = place
    started = Started(folder, demo=True)
    started.said("Saucer runs at")
    assert answers(started)
    # What it says of parts that end is read, or it would wait for somebody to read it.
    threading.Thread(target=lambda: [None for _ in started.process.stdout], daemon=True).start()
    people = [Somebody(started.port, name) for name in ("ines", "tomas", "odile")[:WORKERS]]
    kept = [Acknowledged() for _ in people]
    until = time.monotonic() + SECONDS
    threads = [
        threading.Thread(target=work, args=(p, until, k, n))
        for n, (p, k) in enumerate(zip(people, kept, strict=True))
    ]
    full: list[float] = []
    threads += [threading.Thread(target=dawdle, args=(started.port, until)) for _ in range(SLOW)]
    threads += [threading.Thread(target=fill, args=(folder, until, full))] if small else []
    for thread in threads:
        thread.start()
    dice, kills = random.Random(7), 0
    while time.monotonic() < until - 4:
        time.sleep(dice.uniform(*CALM))
        there = victims(folder)
        if there:
            os.kill(dice.choice(there), signal.SIGKILL)
            kills += 1
    for thread in threads:
        thread.join(120)
        assert not thread.is_alive()
    assert started.process.poll() is None
    assert answers(started, 120), last_words(folder)
    assert kills >= SECONDS // 8
    assert len(full) >= SECONDS // 25 or not small
    asked = Somebody(started.port, "odile")
    for one in kept:
        assert one.looks, "nothing was acknowledged: the test shows nothing"
        for look, (version, amount) in one.looks.items():
            status, said = asked.ask("GET", f"/looks/{look}")
            assert status == 200
            assert said["draft_version"] == version
            assert (said["draft"]["steps"] or [{"stops": 0.0}])[0]["stops"] == amount
            numbers = {r["number"] for r in said["revisions"]}
            assert {n for at, n in one.revisions if at == look} <= numbers
        for bake in one.bakes:
            with asked.opener.open(f"{asked.base}/bakes/{bake}/file", timeout=30) as answer:
                assert b"LUT_3D_SIZE 17" in answer.read()
        for look, number in one.notes:
            status, said = asked.ask("GET", f"/looks/{look}/notes")
            assert number in {n["id"] for n in said}
    statuses: dict[int, int] = {}
    for one in kept:
        for status, count in one.statuses.items():
            statuses[status] = statuses.get(status, 0) + count
    print(
        f"{kills} kills in {SECONDS} s, the disk full {len(full)} times; answers by status (0: none): "
        f"{dict(sorted(statuses.items()))}"
    )
    # An error of Saucer's own is none of the ways to say that a part is away.
    assert statuses.get(500, 0) == 0
