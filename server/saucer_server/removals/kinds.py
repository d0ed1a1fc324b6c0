"""What can be in the bin: each app names its own kind of row."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from .models import Present

__all__ = ["KINDS", "Kind", "register"]


@dataclass(frozen=True)
class Kind:
    """A kind of row that can be in the bin.

    key: how an address names it; word: how people are told of it; rows: its manager; owner: the field that
    says whose a row is.
    size: bytes of its files; still: a small JPEG of a row, where there is one. returning: called in the
    transaction that puts a row back, to refuse by ``RuleError`` what would not fit; gone: called once rows
    are gone for good, with their keys.
    """

    key: str
    word: str
    rows: Present[Any]
    owner: str
    size: Callable[[Any], int] = lambda row: 0
    still: Callable[[Any], bytes] | None = None
    returning: Callable[[Any], None] = lambda row: None
    gone: Callable[[Iterable[int]], None] = lambda keys: None


KINDS: dict[str, Kind] = {}


def register(kind: Kind) -> Kind:
    """Lets rows of a kind be put into the bin; gives the kind back."""
    KINDS[kind.key] = kind
    return kind
