"""Marks that the functions of routes carry."""

from collections.abc import Callable
from typing import Any, TypeVar

__all__ = ["computes", "is_computing"]

F = TypeVar("F", bound=Callable[..., Any])
_COMPUTES = "saucer_computes"


def computes(function: F) -> F:
    """Decorator: marks a route that is sent something to compute and changes nothing. It is given up once
    nobody waits for it."""
    setattr(function, _COMPUTES, True)
    return function


def is_computing(function: Callable[..., Any]) -> bool:
    """Whether a route carries that mark."""
    return getattr(function, _COMPUTES, False)
