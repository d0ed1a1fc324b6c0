"""How much is measured: all of it, or so little of everything that one sees whether it runs at all."""

import os
from typing import TypeVar

T = TypeVar("T")

#: Set by the tests, which run every benchmark this way: its figures say nothing, and no limit is held.
LITTLE = bool(os.environ.get("SAUCER_MEASURE_LITTLE"))


def much(whole: T, little: T) -> T:
    """The first when figures are wanted, the second when it is only to be seen that a benchmark runs."""
    return little if LITTLE else whole
