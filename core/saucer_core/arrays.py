"""Arrays of colours, and the one pool of threads that works on them."""

import os
import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import cache

import numpy as np
from numpy.typing import ArrayLike, NDArray

F32 = NDArray[np.float32]

#: Colours in one tile: small enough to stay in a core's cache, large enough to hide the call.
TILE = 16_384


def colours(values: ArrayLike) -> F32:
    """The values as contiguous float32 ``(..., 3)``; raises ``ValueError`` on another last axis."""
    rgb = np.ascontiguousarray(values, dtype=np.float32)
    if rgb.ndim == 0 or rgb.shape[-1] != 3:
        raise ValueError(f"colours need a last axis of 3, not shape {rgb.shape}")
    # The kernels are compiled for writable arrays; they never write to what they are given.
    return rgb if rgb.flags.writeable else rgb.copy()


_here = threading.local()


def _mark() -> None:
    _here.in_pool = True


@cache
def _pool() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="colour", initializer=_mark)


def by_tiles(work: Callable[[F32], F32], rgb: F32, tile: int = TILE) -> F32:
    """``work`` done on tiles of ``rgb`` in parallel.

    rgb: float32 ``(..., 3)``; ``work`` takes and gives contiguous ``(n, 3)`` and must treat every colour alone.
    """
    flat = rgb.reshape(-1, 3)
    count = len(flat)
    # A tile that is cut again would wait for the pool it runs in.
    if count <= tile or getattr(_here, "in_pool", False):
        return np.ascontiguousarray(work(flat), dtype=np.float32).reshape(rgb.shape)
    threads = os.cpu_count() or 1
    pieces = threads * -(-count // (tile * threads))
    edges = np.linspace(0, count, pieces + 1).astype(int)
    out = np.empty_like(flat)

    def one(k: int) -> None:
        a, b = edges[k], edges[k + 1]
        out[a:b] = work(flat[a:b])

    list(_pool().map(one, range(pieces)))
    return out.reshape(rgb.shape)
