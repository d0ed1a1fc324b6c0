"""Compiles the loops of the transfer functions, and wraps them for arrays of any shape."""

from collections.abc import Callable

import numpy as np

from ..arrays import F32
from ..kernels import Loop, kernel


def loop(parameters: int = 0) -> Callable[[Loop], Loop]:
    """Decorator: a loop over flat float32 ``(values, out, *parameters)``, compiled once and kept on disk.

    The loop holds no lock while it runs, so that tiles of a picture can go through it in parallel.
    """
    return kernel("void(float32[::1], float32[::1]" + ", float32" * parameters + ")")


def on_arrays(over: Loop, *parameters: np.float32) -> Callable[[F32], F32]:
    """The loop as a function from a float32 array of any shape to a new one."""

    def run(values: F32) -> F32:
        values = np.ascontiguousarray(values, dtype=np.float32)
        out = np.empty_like(values)
        over(values.reshape(-1), out.reshape(-1), *parameters)
        return out

    return run
