"""Declares the loops of the transfer functions."""

from collections.abc import Callable

from ..kernels import Kernel, Loop, kernel


def loop(parameters: int = 0, of: str = "float32") -> Callable[[Loop], Kernel]:
    """Decorator: a loop that changes a flat float32 array in place, with so many parameters of a type."""
    return kernel("void(float32[::1]" + f", {of}" * parameters + ")")
