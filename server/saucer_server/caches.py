"""What this process remembers, bounded in bytes. Its upper limit is the sum of these memories and of the two
in ``bench``.

Web processes share what is given here: two of them remember half as much each.
"""

import fcntl
import os
import tempfile
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager, nullcontext
from dataclasses import is_dataclass
from pathlib import Path
from threading import Condition, Lock, local
from typing import Any, TypeVar

import numpy as np
from cachetools import LRUCache, cached
from saucer_core.formats.incoming import Incoming
from saucer_core.tables.lut import Lut

MIB = 2**20
PROCESSES = max(1, int(os.environ.get("SAUCER_WEB_PROCESSES", "1")))
T = TypeVar("T")


def size_of(value: Any) -> int:
    """About how many bytes a remembered value takes."""
    if isinstance(value, np.ndarray):
        return int(value.nbytes)
    if isinstance(value, Lut):
        # The grid, and the same with four floats a colour, which reading it makes.
        grid = 0 if value.grid is None else value.grid.nbytes * 7 // 3
        return grid + (0 if value.shaper is None else value.shaper.values.nbytes * 2) + 1024
    if isinstance(value, tuple | list):
        return sum(map(size_of, value)) + 64
    if isinstance(value, str | bytes):
        return len(value) + 64
    if isinstance(value, Incoming):
        return sum(map(size_of, value.luts.values())) + 4096
    if is_dataclass(value):
        return sum(map(size_of, vars(value).values())) + 64
    source = getattr(value, "source", "")
    # A chain holds its text and the numbers read from it.
    return 3 * len(source) + 1024


class Memory:
    """Values remembered for several functions, the longest unused ones forgotten first. Safe to share between
    threads."""

    def __init__(self, mebibytes: int) -> None:
        self._cache: LRUCache[Hashable, Any] = LRUCache(mebibytes * MIB // PROCESSES, getsizeof=size_of)
        self._lock = Lock()

    def remembers(self, function: Callable[..., T]) -> Callable[..., T]:
        """Decorator: what the function gives for the same arguments, which must be hashable, is
        remembered."""
        return self.remembers_by(lambda *given: given)(function)

    def remembers_by(self, key: Callable[..., Hashable]) -> Callable[[Callable[..., T]], Callable[..., T]]:
        """The same for arguments that are not hashable: ``key`` gives what tells them apart."""

        def remembering(function: Callable[..., T]) -> Callable[..., T]:
            name = f"{function.__module__}.{function.__qualname__}"
            return cached(self._cache, lambda *given: (name, key(*given)), self._lock)(function)

        return remembering


class Budget:
    """Bytes that work under way in this process may take together: who would go beyond them waits. Alone,
    anything may run.

    Work inside work of the same thread counts once, with the larger size. Work larger than the whole budget
    runs once on this machine.
    """

    def __init__(self, mebibytes: int) -> None:
        self._limit, self._taken, self._waiting = mebibytes * MIB, 0, Condition()
        self._own = local()

    @contextmanager
    def take(self, size: int) -> Iterator[None]:
        """Holds ``size`` bytes for as long as the work lasts."""
        if getattr(self._own, "inside", False):
            yield
            return
        with self._waiting:
            self._waiting.wait_for(lambda: not self._taken or self._taken + size <= self._limit)
            self._taken += size
        self._own.inside = True
        try:
            with _once_on_this_machine() if size > self._limit else nullcontext():
                yield
        finally:
            self._own.inside = False
            with self._waiting:
                self._taken -= size
                self._waiting.notify_all()


@contextmanager
def _once_on_this_machine() -> Iterator[None]:
    """Waits until no other process of this installation does work that is larger than its budget."""
    with (Path(tempfile.gettempdir()) / f"saucer-large-{os.getuid()}").open("w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        yield


#: Pictures as they were read, scaled and trimmed. One of 3840 × 2160 takes 95 MiB.
PICTURES = Memory(256)
#: Borrowed tables.
TABLES = Memory(96)
#: What editors draw.
TRACES = Memory(16)
#: What changed between revisions.
CHANGES = Memory(4)
#: Pictures that are being read, each as large as it is needed.
READING = Budget(320)
#: Pictures that web processes draw, from what is read to what is sent.
DRAWING = Budget(1024 // PROCESSES)
#: Bytes that one pixel takes while it is drawn: read, trimmed, computed, finished and packed, each as three
#: floats.
DRAWN_BYTES = 60
#: Bytes that one pixel of a clip takes while a frame is read: what the decoder holds for frames that refer to
#: each other.
DECODED_BYTES = 24
#: Pictures of full size that workers have under way.
FULL_SIZE = Budget(320)
