"""Processes of a Saucer on one data folder, found by their command lines and environments, not by a mark that
may be lost."""

import contextlib
import os
import signal
import time
from pathlib import Path

#: Seconds that a process is given to end by itself.
PATIENCE = 15.0


def _words(path: Path) -> list[bytes]:
    """The NUL-separated words of a file of /proc; none where the process is gone or is somebody else's."""
    with contextlib.suppress(OSError):
        return path.read_bytes().split(b"\0")
    return []


def _alive(pid: int) -> bool:
    """Whether the process runs; one that has ended and waits for its parent does not."""
    with contextlib.suppress(OSError, IndexError):
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] not in ("Z", "X")
    return False


def parent(pid: int) -> int:
    """The process that started another one; 0 where it is not known."""
    with contextlib.suppress(OSError, IndexError, ValueError):
        return int(Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[1])
    return 0


def servers(data: Path) -> list[int]:
    """Web processes and workers that serve the data folder: their environment says so."""
    wanted = f"SAUCER_DATA={data}".encode()
    pids = [int(p.name) for p in Path("/proc").iterdir() if p.name.isdigit() and int(p.name) != os.getpid()]
    return [pid for pid in pids if wanted in _words(Path(f"/proc/{pid}/environ")) and _alive(pid)]


def database(home: Path) -> list[int]:
    """The PostgreSQL that runs on a cluster, if one does."""
    with contextlib.suppress(OSError, ValueError, IndexError):
        pid = int((home / "postmaster.pid").read_text().split()[0])
        if any(b"postgres" in word for word in _words(Path(f"/proc/{pid}/cmdline"))) and _alive(pid):
            return [pid]
    return []


def standing_in(folder: Path) -> list[int]:
    """Nginx whose own folder that is: it writes over its environment, so that nothing else tells."""
    found = []
    for place in Path("/proc").iterdir():
        with contextlib.suppress(OSError):
            if (
                place.name.isdigit()
                and (place / "cwd").readlink() == folder
                and b"nginx" in (place / "cmdline").read_bytes()
            ):
                found.append(int(place.name))
    return [pid for pid in found if _alive(pid)]


def launcher(pids: list[int]) -> int:
    """The ``./saucer start`` (or ``dev``) that the processes belong to; 0 where it is gone."""
    for pid in pids:
        above = parent(pid)
        while above > 1:
            words = _words(Path(f"/proc/{above}/cmdline"))
            if {b"start", b"dev"} & set(words) and any(word.endswith(b"saucer") for word in words):
                return above
            above = parent(above)
    return 0


def end(pids: list[int], how: signal.Signals = signal.SIGTERM) -> None:
    """Ends processes and waits until they are gone; those that do not end by themselves are ended for
    them."""
    for number, patience in ((how, PATIENCE), (signal.SIGKILL, 5.0)):
        for pid in filter(_alive, pids):
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, number)
        until = time.monotonic() + patience
        while any(map(_alive, pids)) and time.monotonic() < until:
            time.sleep(0.05)
