"""Arrays of colours, and the one pool of threads that works on them.

Pictures are ``(..., 3)``. The loops work on *tiles*: float32 ``(3, n)``, one row a channel, so that the
compiler can do several colours at once; a tile is changed in place and fits a core's cache.
"""

import os
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextvars import ContextVar
from functools import cache
from itertools import pairwise

import numpy as np
from numpy.typing import ArrayLike, NDArray

from .errors import Abandoned
from .kernels import kernel

F32 = NDArray[np.float32]
F64 = NDArray[np.float64]

#: Colours in one tile: 192 KiB, twice that while it is in OKLab, which a core's second cache holds. Smaller
#: tiles make the threads of the pool wait for each other more often, because between two loops each needs the
#: interpreter.
TILE = 16384


def colours(values: ArrayLike) -> F32:
    """The values as contiguous float32 ``(..., 3)``; raises ``ValueError`` on another last axis."""
    rgb = np.ascontiguousarray(values, dtype=np.float32)
    if rgb.ndim == 0 or rgb.shape[-1] != 3:
        raise ValueError(f"colours need a last axis of 3, not shape {rgb.shape}")
    # The kernels are compiled for writable arrays; they never write to what they are given.
    return rgb if rgb.flags.writeable else rgb.copy()


@kernel("void(float32[::1], float32[:, ::1])")
def _split(flat: F32, tile: F32) -> None:
    # From one long row the compiler takes eight colours at once; from rows of three it does not.
    red, green, blue = tile[0], tile[1], tile[2]
    for i in range(tile.shape[1]):
        red[i], green[i], blue[i] = flat[3 * i], flat[3 * i + 1], flat[3 * i + 2]


@kernel("void(float32[:, ::1], float32[:, ::1])")
def _join(tile: F32, flat: F32) -> None:
    for i in range(tile.shape[1]):
        flat[i, 0], flat[i, 1], flat[i, 2] = tile[0, i], tile[1, i], tile[2, i]


def tile_of(flat: F32) -> F32:
    """A tile of colours ``(n, 3)``."""
    tile = np.empty((3, len(flat)), dtype=np.float32)
    _split(flat.reshape(-1), tile)
    return tile


_here = threading.local()

#: Says whether somebody still waits for what is being computed; asked between pieces.
wanted: ContextVar[Callable[[], bool]] = ContextVar("wanted", default=lambda: True)


def _go_on() -> None:
    if not wanted.get()():
        raise Abandoned


def _mark() -> None:
    _here.in_pool = True


@cache
def _pool() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="colour", initializer=_mark)


#: Held by whoever has the pool. Others compute in their own thread meanwhile: handing pieces over would only
#: have threads wait for one another.
_has_pool = threading.Lock()


def in_pieces(work: Callable[[int, int], None], count: int, piece: int = TILE) -> None:
    """``work(first, last)`` over ``count`` items in pieces of about ``piece``, in parallel where nobody else
    computes so already. The pieces are the same either way.

    Raises ``Abandoned`` once nobody wants it any more (``wanted``); the pieces that are left are not begun.
    """
    # A piece must not be cut again: it would wait for the pool whose thread it holds.
    if getattr(_here, "in_pool", False):
        work(0, count)
        return
    _go_on()
    if count <= piece:
        work(0, count)
        return
    threads = os.cpu_count() or 1
    pieces = threads * -(-count // (piece * threads))
    edges = [count * k // pieces for k in range(pieces + 1)]
    if not _has_pool.acquire(blocking=False):
        for first, last in pairwise(edges):
            work(first, last)
            _go_on()
        return
    try:
        for _ in _pool().map(work, edges[:-1], edges[1:]):
            _go_on()
    finally:
        _has_pool.release()


def by_tiles(work: Callable[[F32], None], rgb: F32) -> F32:
    """A new array: ``rgb`` ``(..., 3)`` after ``work`` has changed it tile by tile, in parallel."""
    flat = rgb.reshape(-1, 3)
    out = np.empty_like(flat)

    def one(first: int, last: int) -> None:
        for a in range(first, last, TILE):
            b = min(a + TILE, last)
            tile = tile_of(flat[a:b])
            work(tile)
            _join(tile, out[a:b])

    in_pieces(one, len(flat))
    return out.reshape(rgb.shape)
