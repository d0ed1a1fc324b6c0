"""Keeps the parts of Saucer running: whichever ends is started again, alone, after a pause that grows while
it keeps ending."""

import contextlib
import logging
import os
import signal
import subprocess
import threading
import time
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from io import TextIOWrapper
from logging.handlers import RotatingFileHandler
from pathlib import Path
from typing import IO

from .say import say

#: Seconds between looks at the parts.
LOOK = 0.2
#: Seconds before the first new start of a part.
FIRST_PAUSE = 0.5
#: Seconds of the longest pause before one.
LONGEST_PAUSE = 30.0
#: Seconds after which a part counts as steady.
STEADY = 60.0
#: Seconds that a part is given to end by itself.
PATIENCE = 15.0
#: Bytes of a log before it is put aside.
LOG_BYTES = 10 * 2**20
#: Logs that are kept of those put aside.
LOGS_KEPT = 4


class Log(RotatingFileHandler):
    """A log that its owner and their group may read."""

    def _open(self) -> TextIOWrapper:
        def opener(path: str, flags: int) -> int:
            file = os.open(path, flags, 0o640)
            os.fchmod(file, 0o640)
            return file

        return open(self.baseFilename, self.mode, encoding="utf-8", errors=self.errors, opener=opener)  # type: ignore[return-value]


@dataclass
class Part:
    """A program that is to run all the time.

    words: its command line. ends_by: the signal that ends it well. before: made right before each start, as a
    configuration.
    """

    name: str
    words: Sequence[str | Path]
    cwd: Path
    env: Mapping[str, str] = field(default_factory=dict)
    ends_by: signal.Signals = signal.SIGTERM
    before: Callable[[], None] | None = None
    process: subprocess.Popen[bytes] | None = field(default=None, init=False)
    pause: float = field(default=FIRST_PAUSE, init=False)
    started_at: float = field(default=0.0, init=False)
    again_at: float | None = field(default=None, init=False)

    @property
    def runs(self) -> bool:
        """Whether its process is there."""
        return self.process is not None and self.process.poll() is None


class Supervisor:
    """Starts parts, writes down what they say, and starts them again. logs: the folder of their logs."""

    def __init__(self, logs: Path) -> None:
        self.logs = logs
        self.parts: list[Part] = []
        self._over = threading.Event()
        self._lock = threading.Lock()
        self._watching: threading.Thread | None = None

    def add(self, part: Part) -> Part:
        """Starts a part; from now on it is looked after."""
        with self._lock:
            self._start(part)
            self.parts.append(part)
        if self._watching is None:
            self._watching = threading.Thread(target=self._watch, name="supervisor", daemon=True)
            self._watching.start()
        return part

    def pid(self, name: str) -> int:
        """The process of a part, as it is now; raises ``KeyError``."""
        return {p.name: p.process.pid for p in self.parts if p.process is not None}[name]

    def _start(self, part: Part) -> None:
        if part.before is not None:
            part.before()
        part.process = subprocess.Popen(
            [str(w) for w in part.words],
            cwd=part.cwd,
            env={**os.environ, **part.env},
            stdin=subprocess.DEVNULL,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            start_new_session=True,
        )
        part.started_at, part.again_at = time.monotonic(), None
        assert part.process.stdout is not None
        threading.Thread(
            target=self._write, args=(part.name, part.process.stdout), name=f"log of {part.name}", daemon=True
        ).start()

    def _write(self, name: str, lines: IO[bytes]) -> None:
        """Writes what a part says into its log; a disk that is full costs lines of the log and nothing
        else."""
        log = Log(
            self.logs / f"{name}.log", maxBytes=LOG_BYTES, backupCount=LOGS_KEPT, errors="replace", delay=True
        )
        log.handleError = lambda record: None  # type: ignore[method-assign]
        with lines:
            for line in lines:
                log.emit(logging.makeLogRecord({"msg": line.decode(errors="replace").rstrip("\n")}))
        log.close()

    def _watch(self) -> None:
        while not self._over.wait(LOOK):
            with self._lock:
                for part in self.parts:
                    with contextlib.suppress(OSError):
                        self._look_at(part)

    def _look_at(self, part: Part) -> None:
        now = time.monotonic()
        if part.runs:
            if now - part.started_at > STEADY:
                part.pause = FIRST_PAUSE
            return
        if part.again_at is None:
            code = part.process.returncode if part.process is not None else 0
            how = f"by signal {-code}" if code < 0 else f"with {code}"
            words = (
                f"{part.name} ended {how}; it starts again in {part.pause:g} s. Its log is "
                f"{self.logs / part.name}.log"
            )
            # A terminal that is held, or a pipe that nobody reads, must not keep the parts from starting
            # again.
            threading.Thread(target=say, args=(words,), name="says", daemon=True).start()
            part.again_at, part.pause = now + part.pause, min(part.pause * 2, LONGEST_PAUSE)
        elif now >= part.again_at:
            self._start(part)

    def stop(self) -> None:
        """Ends all parts, the last one first."""
        self._over.set()
        if self._watching is not None:
            self._watching.join()
        for part in reversed(self.parts):
            end(part)


def end(part: Part) -> None:
    """Ends a part; one that does not end by itself is ended for it, with all that it started."""
    if not part.runs or part.process is None:
        return
    part.process.send_signal(part.ends_by)
    try:
        part.process.wait(PATIENCE)
    except subprocess.TimeoutExpired:
        os.killpg(part.process.pid, signal.SIGKILL)
        part.process.wait()
