"""What this process remembers, bounded in bytes. Its upper limit is the sum of these memories and of the two in ``bench``.

Web processes share what is given here: two of them remember half as much each.
"""

import os
from collections.abc import Callable, Hashable, Iterator
from contextlib import contextmanager
from dataclasses import is_dataclass
from threading import Condition, Lock
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
    """Values remembered for several functions, the longest unused ones forgotten first. Safe to share between threads."""

    def __init__(self, mebibytes: int) -> None:
        self._cache: LRUCache[Hashable, Any] = LRUCache(mebibytes * MIB // PROCESSES, getsizeof=size_of)
        self._lock = Lock()

    def remembers(self, function: Callable[..., T]) -> Callable[..., T]:
        """Decorator: what the function gives for the same arguments, which must be hashable, is remembered."""
        return self.remembers_by(lambda *given: given)(function)

    def remembers_by(self, key: Callable[..., Hashable]) -> Callable[[Callable[..., T]], Callable[..., T]]:
        """The same for arguments that are not hashable: ``key`` gives what tells them apart."""

        def remembering(function: Callable[..., T]) -> Callable[..., T]:
            name = f"{function.__module__}.{function.__qualname__}"
            return cached(self._cache, lambda *given: (name, key(*given)), self._lock)(function)

        return remembering


class Budget:
    """Bytes that work under way in this process may take together: who would go beyond them waits. Alone, anything may run."""

    def __init__(self, mebibytes: int) -> None:
        self._limit, self._taken, self._waiting = mebibytes * MIB, 0, Condition()

    @contextmanager
    def take(self, size: int) -> Iterator[None]:
        """Holds ``size`` bytes for as long as the work lasts."""
        with self._waiting:
            self._waiting.wait_for(lambda: not self._taken or self._taken + size <= self._limit)
            self._taken += size
        try:
            yield
        finally:
            with self._waiting:
                self._taken -= size
                self._waiting.notify_all()


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
#: Pictures of full size that workers have under way.
FULL_SIZE = Budget(320)
