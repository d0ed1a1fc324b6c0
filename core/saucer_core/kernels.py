"""How the loops over colours are compiled: ahead of time for one signature, kept on disk, and holding no lock."""

from collections.abc import Callable
from typing import Any

from numba import njit

Loop = Callable[..., None]


def kernel(signature: str) -> Callable[[Loop], Loop]:
    """Decorator: compiles a loop for that numba signature.

    Serial on purpose: tiles of a picture go through it in our own pool (``arrays.by_tiles``), because numba's threading
    layer must not be entered from two threads at once.
    """
    compiled: Any = njit(signature, nogil=True, fastmath=True, error_model="numpy", cache=True)
    return compiled  # type: ignore[no-any-return]


def inlined(function: Callable[..., Any]) -> Any:
    """Decorator: a scalar function for use inside kernels."""
    return njit(function, inline="always", fastmath=True, error_model="numpy")
