"""How many examples a test draws: few in the ordinary run, many with ``SAUCER_EXPLORE=1``."""

import os

EXPLORING = bool(os.environ.get("SAUCER_EXPLORE"))


def examples(ordinary: int, exploring: int) -> int:
    """The first in the ordinary run, the second where more is explored."""
    return exploring if EXPLORING else ordinary
