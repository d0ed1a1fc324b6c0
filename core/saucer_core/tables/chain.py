"""A chain of operations read from a file that is more than shaper and grid."""

import hashlib
from dataclasses import dataclass, field

import numpy as np

from ..arrays import F32
from ..operations import Operation, apply
from .lut import identity_grid


@dataclass(frozen=True)
class Chain:
    """Operations in order, as a table. ``source`` is the text they were read from; recipes keep it."""

    steps: tuple[Operation, ...]
    source: str
    title: str = ""
    comments: tuple[str, ...] = ()
    size: int = 0
    ids: dict[str, str] = field(default_factory=dict)

    def operations(self) -> list[Operation]:
        """What it does."""
        return list(self.steps)

    def apply(self, rgb: F32) -> F32:
        """Colours ``(..., 3)`` through it."""
        return apply(self.steps, rgb)

    def digest(self) -> str:
        """SHA-256 of what it does to a grid and a long ramp: the same for the same colours, whatever the text
        says."""
        ramp = np.repeat(np.linspace(-0.5, 4, 1801, dtype=np.float32)[:, None], 3, axis=1)
        seen = [self.apply(identity_grid(9)), self.apply(ramp)]
        return hashlib.sha256(b"".join(np.round(x, 6).astype("<f4").tobytes() for x in seen)).hexdigest()
