"""How the loops over colours are compiled: once for one signature, kept on disk, and holding no lock while
they run."""

from collections.abc import Callable
from threading import Lock
from typing import Any

from numba import njit

Loop = Callable[..., None]

_all: list["Kernel"] = []
_compiling = Lock()


class Kernel:
    """A loop that is compiled when it is first called.

    Serial on purpose: tiles of a picture go through it in our own pool (``arrays.by_tiles``), because numba's
    threading layer must not be entered from two threads at once.
    """

    def __init__(self, signature: str, function: Loop) -> None:
        self._signature, self._function = signature, function
        self.name = f"{function.__module__}.{function.__qualname__}"
        self._compiled: Loop | None = None
        _all.append(self)

    def compiled(self) -> Loop:
        """The machine code, made or read from disk where it is not there yet."""
        if self._compiled is None:
            with _compiling:
                if self._compiled is None:
                    try:
                        self._compiled = self._compile(keep=True)
                    # A full or read-only disk cannot keep the machine code; this process needs none of it
                    # kept.
                    except OSError:
                        self._compiled = self._compile(keep=False)
        return self._compiled

    def _compile(self, *, keep: bool) -> Loop:
        made: Loop = njit(self._signature, nogil=True, fastmath=True, error_model="numpy", cache=keep)(
            self._function
        )
        return made

    def __call__(self, *values: Any) -> None:
        """Runs the loop."""
        (self._compiled or self.compiled())(*values)


def kernel(signature: str) -> Callable[[Loop], Kernel]:
    """Decorator: a loop for that numba signature."""
    return lambda function: Kernel(signature, function)


def inlined(function: Callable[..., Any]) -> Any:
    """Decorator: a scalar function for use inside kernels."""
    return njit(function, inline="always", fastmath=True, error_model="numpy")


def warm() -> int:
    """Compiles every kernel that is known by now, or reads it from disk; how many there are."""
    for one in list(_all):
        one.compiled()
    return len(_all)
