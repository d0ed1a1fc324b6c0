"""What a maker is given, and what it gives."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Generic, TypeVar

from saucer_core.formats.delivery import Facts, Part

from ..kept import Kept
from ..pieces import Source
from ..plan import Plan

#: Pixels: width of the pictures that tables and losses are measured on.
MEASURED = 480

S = TypeVar("S", bound=Source)


@dataclass(frozen=True)
class Work:
    """What a piece is made with.

    folder: where its files are written. lengths: a folder that outlives a worker that dies, for what is made
    in lengths. alive: tells the job that somebody is still at it; it raises where the job was ended. other:
    what another piece gave, from its part and its source.
    """

    plan: Plan
    folder: Path
    lengths: Path
    alive: Callable[[], None]
    other: Callable[[Part, Source], Kept]


@dataclass(frozen=True)
class Made:
    """Files, each with what is appended to the path of the piece; and what was measured."""

    files: list[tuple[str, Path]]
    facts: Facts = field(default_factory=dict)


@dataclass(frozen=True)
class Maker(Generic[S]):
    """How a part is made.

    source: what its pieces are made from. made_of: everything that the files depend on, as JSON takes it.
    make: makes them.
    """

    source: type[S]
    made_of: Callable[[S, Plan], list[Any]]
    make: Callable[[S, Work], Made]


def left_out(what: Sequence[str]) -> Facts:
    """The fact that a kind of file cannot hold parts of a finish."""
    return {"left out": "; ".join(what)} if what else {}
