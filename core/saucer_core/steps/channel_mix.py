"""Channel mix."""

from typing import ClassVar, Literal

import numpy as np
from pydantic import Field

from ..arrays import F64
from ..operations import Linear, Operation
from .parameter import share
from .step import Purpose, Step, Strict, Surroundings
from .traced import Trace


class RedMix(Strict):
    """Where the new red comes from."""

    red: float = share(1.0, -2.0, 2.0, label="from red")
    green: float = share(0.0, -2.0, 2.0, label="from green")
    blue: float = share(0.0, -2.0, 2.0, label="from blue")
    constant: float = share(0.0, -1.0, 1.0, label="constant")


class GreenMix(RedMix):
    """Where the new green comes from."""

    red: float = share(0.0, -2.0, 2.0, label="from red")
    green: float = share(1.0, -2.0, 2.0, label="from green")


class BlueMix(RedMix):
    """Where the new blue comes from."""

    red: float = share(0.0, -2.0, 2.0, label="from red")
    blue: float = share(1.0, -2.0, 2.0, label="from blue")


class ChannelMix(Step):
    """A 3×3 matrix and constants on code values.

    With *keep white* on, each row's own channel is whatever the other two leave of 100 %, so that greys stay
    grey; the matrix in use is in the trace.
    """

    title: ClassVar[str] = "Channel mix"
    purpose: ClassVar[Purpose] = "mix"
    summary: ClassVar[str] = "What each channel is made of"

    kind: Literal["channel_mix"] = "channel_mix"
    keep_white: bool = Field(True, title="Keep white")
    red: RedMix = RedMix()
    green: GreenMix = GreenMix()
    blue: BlueMix = BlueMix()

    def matrix(self) -> F64:
        """3×3, rows the new channels, columns what they come from; as used, with *keep white* applied."""
        m = np.array([[row.red, row.green, row.blue] for row in (self.red, self.green, self.blue)])
        if self.keep_white:
            for c in range(3):
                m[c, c] = 1.0 - (m[c].sum() - m[c, c])
        return m

    def operations(self, at: Surroundings) -> list[Operation]:
        return [Linear(self.matrix(), np.array([self.red.constant, self.green.constant, self.blue.constant]))]

    def trace(self, at: Surroundings) -> Trace:
        return {"matrix": [[round(float(v), 5) for v in row] for row in self.matrix()]}
