"""Declares the loops of the transfer functions."""

from collections.abc import Callable

from ..kernels import Kernel, Loop, kernel


def loop(parameters: int = 0) -> Callable[[Loop], Kernel]:
    """Decorator: a loop that changes a flat float32 array in place, with so many float32 parameters."""
    return kernel("void(float32[::1]" + ", float32" * parameters + ")")
