"""Parts that end are started again, alone and after a growing pause; logs are rotated; nothing is left
behind."""

import signal
import sys
import threading
import time

import pytest

from launch import supervisor
from launch.postgres import Postgres
from launch.supervisor import Part, Supervisor


@pytest.fixture
def watched(tmp_path, monkeypatch):
    monkeypatch.setattr(supervisor, "LOOK", 0.02)
    one = Supervisor(tmp_path)
    yield one
    one.stop()


def until(condition, seconds=10.0):
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if condition():
            return True
        time.sleep(0.02)
    return False


def python(code):
    return [sys.executable, "-u", "-c", code]


def test_a_part_that_ends_starts_again_and_the_others_go_on(watched, tmp_path):
    steady = watched.add(Part("steady", python("import time; time.sleep(60)"), tmp_path))
    frail = watched.add(Part("frail", python("import time; print('here'); time.sleep(60)"), tmp_path))
    log = tmp_path / "frail.log"
    assert until(lambda: log.is_file() and "here" in log.read_text())
    first, other = frail.process, steady.process
    first.kill()
    assert until(lambda: frail.process is not first and frail.runs)
    assert steady.process is other
    assert steady.runs
    assert until(lambda: log.read_text().count("here") == 2)


def test_the_pause_grows_while_a_part_keeps_ending(watched, tmp_path, monkeypatch, capsys):
    monkeypatch.setattr(supervisor, "LONGEST_PAUSE", 0.3)
    part = Part("frail", python("import time; print(time.monotonic())"), tmp_path)
    part.pause = 0.05
    watched.add(part)
    assert until(
        lambda: (tmp_path / "frail.log").is_file() and len((tmp_path / "frail.log").read_text().split()) >= 5
    )
    at = [float(line) for line in (tmp_path / "frail.log").read_text().split()]
    pauses = [b - a for a, b in zip(at, at[1:], strict=False)]
    assert pauses[0] >= 0.05
    assert pauses[1] >= 0.1
    assert pauses[2] >= 0.2
    assert part.pause == 0.3
    assert "frail ended with 0; it starts again in 0.05 s" in capsys.readouterr().out


def test_after_a_steady_while_the_pause_is_short_again(watched, tmp_path, monkeypatch):
    monkeypatch.setattr(supervisor, "STEADY", 0.05)
    part = Part("part", python("import time; time.sleep(60)"), tmp_path)
    part.pause = 16.0
    watched.add(part)
    assert until(lambda: part.pause == supervisor.FIRST_PAUSE)


def test_a_part_that_cannot_be_started_does_not_stop_the_watch(watched, tmp_path):
    part = watched.add(Part("part", python("pass"), tmp_path))
    part.pause = 0.02
    assert until(lambda: not part.runs)
    part.words = [tmp_path / "gone"]
    time.sleep(0.3)
    other = watched.add(Part("other", python("import time; time.sleep(60)"), tmp_path))
    other.process.kill()
    assert until(lambda: other.again_at is not None or other.runs)
    part.words = python("import time; time.sleep(60)")
    assert until(lambda: part.runs)


def test_parts_end_from_the_last_to_the_first_by_their_own_signal(tmp_path):
    said = tmp_path / "order"
    code = (
        "import signal, sys, time\n"
        "def end(number, _):\n"
        "    open(sys.argv[1], 'a').write(f'{sys.argv[2]} {number}\\n'); sys.exit(0)\n"
        "for n in (signal.SIGTERM, signal.SIGINT): signal.signal(n, end)\n"
        "print('ready'); time.sleep(60)"
    )
    one = Supervisor(tmp_path)
    for name, ends_by in (("first", signal.SIGINT), ("second", signal.SIGTERM)):
        one.add(Part(name, [*python(code), said, name], tmp_path, ends_by=ends_by))
        assert until(
            lambda name=name: (
                (tmp_path / f"{name}.log").is_file() and "ready" in (tmp_path / f"{name}.log").read_text()
            )
        )
    one.stop()
    assert said.read_text().split("\n")[:2] == [
        f"second {int(signal.SIGTERM)}",
        f"first {int(signal.SIGINT)}",
    ]


def test_one_that_will_not_end_is_ended(tmp_path, monkeypatch):
    monkeypatch.setattr(supervisor, "PATIENCE", 0.3)
    one = Supervisor(tmp_path)
    part = one.add(
        Part(
            "deaf",
            python("import signal, time; signal.signal(15, signal.SIG_IGN); print('x'); time.sleep(60)"),
            tmp_path,
        )
    )
    assert until(lambda: (tmp_path / "deaf.log").is_file() and (tmp_path / "deaf.log").read_text())
    one.stop()
    assert part.process.returncode == -signal.SIGKILL


def test_logs_are_put_aside_before_they_grow_large(watched, tmp_path, monkeypatch):
    monkeypatch.setattr(supervisor, "LOG_BYTES", 2000)
    watched.add(
        Part("part", python("import time\nfor k in range(2000): print('line', k)\ntime.sleep(60)"), tmp_path)
    )
    assert until(
        lambda: (
            (tmp_path / f"part.log.{supervisor.LOGS_KEPT}").is_file()
            and "line 1999" in (tmp_path / "part.log").read_text()
        )
    )
    kept = list(tmp_path.glob("part.log*"))
    assert len(kept) == supervisor.LOGS_KEPT + 1
    assert all(p.stat().st_size <= 2000 for p in kept)


def test_a_terminal_that_is_held_does_not_keep_parts_from_starting_again(watched, tmp_path, monkeypatch):
    """Somebody presses Ctrl-S, or a pipe is full that nobody reads."""
    held = threading.Event()
    monkeypatch.setattr(supervisor, "say", lambda words: held.wait(20))
    part = watched.add(Part("frail", python("import time; time.sleep(60)"), tmp_path))
    for _ in range(2):
        part.pause, before = 0.05, part.process
        before.kill()
        assert until(lambda before=before: part.process is not before and part.runs)
    held.set()


def test_an_empty_mark_of_a_database_does_not_keep_it_from_starting(tmp_path):
    """A PostgreSQL that ends while the disk is full leaves one, and refuses to start beside it."""
    tmp_path.chmod(0o711)
    postgres = Postgres(tmp_path, throw_away=True)
    mark = postgres.home / "postmaster.pid"
    for said, stays in (("", False), ("4711\n", True)):
        mark.parent.mkdir(exist_ok=True)
        mark.write_text(said)
        postgres.clear_mark()
        assert mark.exists() is stays
