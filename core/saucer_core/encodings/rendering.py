"""The house tone scale between scene light and a display, and how a frame meets a look.

The curve is the saturating response y = m·xᶜ / (xᶜ + k) of K.-I. Naka and W. A. H. Rushton, "S-potentials from colour
units in the retina of fish", Journal of Physiology 185 (1966), solved for two anchors: scene grey lands on ``grey`` and
light ``white_stops`` above it on display white. That pair of anchors is the house's choice.
"""

from dataclasses import dataclass

import numpy as np

from ..arrays import F32, by_tiles, colours
from ..elementary import power as power_of
from .primaries import BT709
from .registry import Encoding, convert, from_linear, to_linear
from .scalar import loop, on_arrays

SCENE_GREY = 0.18


@loop(3)
def _render(x: F32, out: F32, power: float, m: float, k: float) -> None:
    for i in range(x.size):
        p = power_of(abs(x[i]), power)
        y = m * p / (p + k)
        out[i] = y if x[i] >= 0 else -y


@loop(4)
def _unrender(y: F32, out: F32, power: float, m: float, k: float, top: float) -> None:
    for i in range(y.size):
        a = min(abs(y[i]), top)
        x = power_of(k * a / (m - a), np.float32(1) / power)
        out[i] = x if y[i] >= 0 else -x


@dataclass(frozen=True)
class ToneScale:
    """From linear scene light to linear display light (1.0 = display white), channel by channel.

    contrast: slope in log-log around the toe. grey: display light of scene 0.18. white_stops: stops above scene grey
    that reach display white; light beyond goes slightly over 1 and is kept. Raises ``ValueError`` where no such curve
    exists (grey so dark or white so near that the curve would have to bend the other way).
    """

    contrast: float = 1.28
    grey: float = 0.13
    white_stops: float = 5.0

    def _constants(self) -> tuple[np.float32, np.float32, np.float32]:
        grey = SCENE_GREY**self.contrast
        white = (SCENE_GREY * 2.0**self.white_stops) ** self.contrast
        if self.grey * white <= grey * 1.0001:
            raise ValueError("the tone scale has no curve for these anchors: raise the white stops or the grey")
        k = white * grey * (1 - self.grey) / (self.grey * white - grey)
        return np.float32(self.contrast), np.float32((white + k) / white), np.float32(k)

    def render(self, light: F32) -> F32:
        """Display light of scene light, any shape; odd below zero."""
        return on_arrays(_render, *self._constants())(light)

    def unrender(self, light: F32) -> F32:
        """Scene light of display light; anything above white counts as white."""
        return on_arrays(_unrender, *self._constants(), np.float32(1))(light)


HOUSE = ToneScale()


def meet(rgb: F32, source: Encoding, target: Encoding, scale: ToneScale = HOUSE) -> F32:
    """A picture brought to the encoding a look expects, so that it arrives there looking as it should.

    Between two encodings that describe the same kind of light this is the plain conversion; from scene to display the
    house tone scale renders it, from display to scene it is undone. float32 ``(..., 3)``.
    """
    if source.referred == target.referred:
        return convert(rgb, source, target)

    def tile(x: F32) -> F32:
        light = to_linear(x, source, BT709)
        light = scale.render(light) if target.referred == "display" else scale.unrender(light)
        return from_linear(light, BT709, target)

    return by_tiles(tile, colours(rgb))
