"""A colour as a parameter."""

import numpy as np

from ..arrays import F32
from ..encodings import Encoding
from ..encodings.oklab import from_oklab, polar
from .parameter import degrees, number, share
from .step import Strict


class Colour(Strict):
    """A colour in OKLCh."""

    lightness: float = share(1.0, 0.0, 1.0, label="Lightness")
    chroma: float = number(0.0, 0.0, 0.35, label="Chroma", fine=0.002, coarse=0.02)
    hue: float = degrees(60.0, label="Hue")

    def lab(self) -> tuple[float, float, float]:
        """OKLab."""
        return polar(self.lightness, self.chroma, self.hue)

    def code(self, at: Encoding) -> F32:
        """Code values ``(3,)`` in an encoding; white of a display is 1."""
        found: F32 = from_oklab(np.array([self.lab()], dtype=np.float32), at)[0]
        return found
