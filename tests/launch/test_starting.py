"""``./saucer start``, ``dev`` and ``stop`` as a newcomer meets them: killed, closed, started twice, with its
mark lost."""

import contextlib
import json
import os
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from pathlib import Path

import pytest

from launch import leftovers, serving
from launch.postgres import Postgres, free_port
from launch.say import Stop

ROOT = Path(__file__).parents[2]


class Started:
    """One ``./saucer start`` (or ``dev``) on a data folder of its own; without demo data unless it is asked
    for."""

    def __init__(self, data: Path, command: str = "start", *, demo: bool = False) -> None:
        self.data, self.port = data, free_port()
        kept = {
            k: v
            for k, v in os.environ.items()
            if k not in ("DATABASE_URL", "SAUCER_DATA", "DJANGO_SETTINGS_MODULE")
        }
        words = [sys.executable, str(ROOT / "saucer"), command, "--data", str(data), "--port", str(self.port)]
        words += [] if demo else ["--empty"]
        self.process = subprocess.Popen(
            words,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            env=kept,
            start_new_session=True,
        )

    def said(self, words: str) -> str:
        """What it printed up to a line with those words; fails where it ended before."""
        assert self.process.stdout is not None
        seen = []
        for line in self.process.stdout:
            seen.append(line)
            if words in line:
                return "".join(seen)
        raise AssertionError(f"it ended without saying “{words}”:\n{''.join(seen)}")

    def runs(self) -> bool:
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/api/session", timeout=60) as answer:
                return answer.status == 200
        except (urllib.error.URLError, OSError):
            return False

    def children(self) -> list[int]:
        return [*leftovers.servers(self.data), *leftovers.database(Postgres(self.data).home)]

    def gone(self, seconds: float = 40) -> bool:
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            if not self.children():
                return True
            time.sleep(0.1)
        return False


@pytest.fixture(scope="module")
def data(tmp_path_factory):
    folder = tmp_path_factory.mktemp("saucer")
    # PostgreSQL's own user must be able to look into it.
    for place in (folder, *list(folder.parents)[:3]):
        if place != Path("/tmp"):
            place.chmod(0o711)
    yield folder
    stop(folder)


def stop(data: Path) -> str:
    kept = {k: v for k, v in os.environ.items() if k != "DATABASE_URL"}
    words = [sys.executable, str(ROOT / "saucer"), "stop", "--data", str(data)]
    done = subprocess.run(words, capture_output=True, text=True, timeout=120, env=kept)
    assert done.returncode == 0, done.stderr
    return done.stdout


@pytest.fixture
def started(data):
    one = Started(data)
    one.said("Saucer runs at")
    assert one.runs()
    assert len(one.children()) >= 3
    return one


def test_killed_it_leaves_nothing_and_starts_again_at_once(started, data):
    started.process.kill()
    started.process.wait()
    again = Started(data)
    again.said("Saucer runs at")
    assert again.runs()
    assert not started.runs()
    assert "stopped" in stop(data)
    assert again.gone()
    assert "nothing is running" in stop(data)


def test_the_terminal_closes(started):
    os.kill(started.process.pid, signal.SIGHUP)
    assert started.process.wait(60) in (0, 130)
    assert started.gone()


def test_a_second_start_is_refused_and_a_lost_mark_does_not_matter(started, data):
    for lose in (False, True):
        if lose:
            (data / "running.pid").unlink()
        second = Started(data)
        second.said("runs already with the data in")
        assert second.process.wait(30) == 1
        assert started.runs()
    assert "stopped" in stop(data)
    assert started.gone()
    assert started.process.wait(30) in (0, 130)


def answers(started, seconds=60) -> bool:
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        with (
            contextlib.suppress(OSError),
            urllib.request.urlopen(f"http://127.0.0.1:{started.port}/api/ready", timeout=60) as answer,
        ):
            if answer.status == 200:
                return True
        time.sleep(0.2)
    return False


def test_every_part_is_started_again_alone(started, data):
    """Each part is killed; all of Saucer answers again, and the other parts are the ones that they were."""
    assert answers(started)
    parts = {
        "web": b"saucer_server.wsgi",
        "worker": b"procrastinate",
        "worker-soon": b"--queues",
        "front": b"nginx",
        "postgres": b"postgres",
    }

    def found(words: bytes) -> set[int]:
        everything = [*started.children(), *leftovers.standing_in(data / "front")]
        ours = [p for p in everything if leftovers.parent(p) == started.process.pid]
        other = b"--queues" if words == parts["worker"] else b"\1"
        lines = {p: Path(f"/proc/{p}/cmdline").read_bytes() for p in ours}
        return {p for p, line in lines.items() if words in line and other not in line}

    before = {name: found(words) for name, words in parts.items()}
    assert all(len(pids) == 1 for pids in before.values()), before
    for name, words in parts.items():
        (pid,) = found(words)
        below = [p for p in leftovers.standing_in(data / "front") if p != pid]
        os.kill(pid, signal.SIGKILL)
        until = time.monotonic() + 20
        while found(words) in ({pid}, set()) and time.monotonic() < until:
            time.sleep(0.1)
        (again,) = found(words)
        assert again != pid
        assert answers(started), name
        if name == "front":
            # What the killed one left on the port is gone: the new one answers.
            assert not set(below) & set(leftovers.standing_in(data / "front"))
            time.sleep(3)
            assert found(words) == {again}
    assert {
        (f.name, oct(f.stat().st_mode & 0o777)) for f in data.glob("*.log") if f.stat().st_mode & 0o137
    } == set()
    (web,), (worker,) = found(parts["web"]), found(parts["worker"])
    assert web not in before["web"]
    assert worker not in before["worker"]
    assert "stopped" in stop(data)
    assert started.gone()
    assert not leftovers.standing_in(data / "front")


def test_the_port_of_the_database_stays(started, data):
    port = (data / "database-port").read_text()
    assert "stopped" in stop(data)
    again = Started(data)
    again.said("Saucer runs at")
    assert (data / "database-port").read_text() == port
    stop(data)


def test_strangers_with_half_a_request_keep_nobody_waiting(started, data):
    """Far more slow visitors than the web processes have threads; each sends a head and half of a body, and
    then nothing."""
    slow = []
    try:
        for _ in range(120):
            one = socket.create_connection(("127.0.0.1", started.port), timeout=60)
            one.sendall(
                b"POST /api/sign-in HTTP/1.1\r\nHost: 127.0.0.1\r\n"
                b"Content-Type: application/json\r\nContent-Length: 900\r\n\r\n{"
            )
            slow.append(one)
        for _ in range(5):
            begun = time.monotonic()
            assert started.runs()
            assert time.monotonic() - begun < 5
    finally:
        for one in slow:
            one.close()
    stop(data)


def test_what_is_not_saucer_is_answered_in_one_shape(started, data):
    for path, status in (("/api/nothing", 404), ("/api/looks", 401), ("/api/" + "x" * 40_000, 414)):
        with pytest.raises(urllib.error.HTTPError) as refused:
            urllib.request.urlopen(f"http://127.0.0.1:{started.port}{path}", timeout=60)
        assert refused.value.code == status
        assert set(json.loads(refused.value.read())) == {"message", "detail"}
    for pid in leftovers.servers(data):
        if b"gunicorn" in Path(f"/proc/{pid}/cmdline").read_bytes():
            os.kill(pid, signal.SIGSTOP)
            os.kill(pid, signal.SIGKILL)
    with pytest.raises(urllib.error.HTTPError) as away:
        urllib.request.urlopen(f"http://127.0.0.1:{started.port}/api/session", timeout=60)
    assert away.value.code == 503
    assert "What you changed is kept here" in json.loads(away.value.read())["message"]
    assert answers(started)
    stop(data)


def test_what_a_dead_start_left_is_ended_by_stop(started, data):
    # Its children would end with it: they are told not to, as if they had been started by hand.
    for pid in leftovers.servers(data):
        os.kill(pid, signal.SIGSTOP)
    started.process.kill()
    started.process.wait()
    assert leftovers.servers(data)
    assert "stopped" in stop(data)
    assert started.gone()


def test_a_port_in_use_is_said(data):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        one = Started(data)
        one.process.kill()
        one.process.wait()
        one.port = taken.getsockname()[1]
        words = [
            sys.executable,
            str(ROOT / "saucer"),
            "start",
            "--empty",
            "--data",
            str(data),
            "--port",
            str(one.port),
        ]
        done = subprocess.run(words, capture_output=True, text=True, timeout=120)
        assert done.returncode == 1
        assert "cannot be used" in done.stderr
        assert "--port" in done.stderr
    assert one.gone()


def test_dev_serves_the_sources_and_hands_on_what_is_asked_of_the_server(data):
    one = Started(data, "dev")
    one.said("Saucer runs at")
    with urllib.request.urlopen(f"http://127.0.0.1:{one.port}/", timeout=30) as answer:
        assert b"/src/main.tsx" in answer.read()
    # The same answer through Vite as from the server behind it, to the address that was asked.
    for port in (one.port, one.port + 1):
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/session", timeout=60) as answer:
            assert answer.read() == b'{"person": null, "single_sign_on": "", "passwords": true}'
    assert "stopped" in stop(data)
    assert one.gone()


def test_a_start_on_a_full_disk_or_over_half_a_restore_says_so(tmp_path, monkeypatch):
    def refused() -> str:
        application = serving.Application(tmp_path, "127.0.0.1", free_port())
        try:
            with pytest.raises(Stop) as said:
                application.start(demo=False)
        finally:
            application.stop()
        assert not (tmp_path / "postgres").exists()
        return str(said.value)

    (tmp_path / serving.RESTORING).touch()
    assert "being restored when that was interrupted" in refused()
    monkeypatch.setattr(serving, "ROOM", 2**40)
    assert "starting needs" in refused()


def test_the_key_of_the_environment_is_the_key(tmp_path, monkeypatch):
    """Machines that share one key make the same passes; a file of one of them does not override it."""
    own = serving.settings(tmp_path, "postgres://x", "127.0.0.1", 1)["SAUCER_SECRET_KEY"]
    assert len(own) > 40
    assert (tmp_path / "secret-key").stat().st_mode & 0o077 == 0
    monkeypatch.setenv("SAUCER_SECRET_KEY", "shared by all machines")
    assert (
        serving.settings(tmp_path, "postgres://x", "127.0.0.1", 1)["SAUCER_SECRET_KEY"]
        == "shared by all machines"
    )
    monkeypatch.delenv("SAUCER_SECRET_KEY")
    assert serving.settings(tmp_path, "postgres://x", "127.0.0.1", 1)["SAUCER_SECRET_KEY"] == own
