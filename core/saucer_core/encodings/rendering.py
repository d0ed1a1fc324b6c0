"""Saucer's tone scale between scene light and a display, and how a frame meets a look.

The curve is the saturating response y = m·xᶜ / (xᶜ + k) of K.-I. Naka and W. A. H. Rushton, "S-potentials
from colour units in the retina of fish", Journal of Physiology 185 (1966), solved for two anchors: scene grey
lands on ``grey`` and light ``white_stops`` above it on display white. That pair of anchors is Saucer's own
choice.
"""

from dataclasses import dataclass

import numpy as np

from ..arrays import F32
from ..elementary import hold, signed_power
from ..kernels import kernel
from ..operations import Decode, Encode, Operation, Pass, apply
from .hdr import PQ
from .registry import Encoding, conversion, light_shown, primaries_change

SCENE_GREY = 0.18


@kernel("void(float32[:, ::1], float32, float32, float32)")
def _render(t: F32, power: float, m: float, k: float) -> None:
    for c in range(3):
        for i in range(t.shape[1]):
            p = signed_power(t[c, i], power)
            t[c, i] = m * p / (abs(p) + k)


@kernel("void(float32[:, ::1], float32, float32, float32, float32)")
def _unrender(t: F32, power: float, m: float, k: float, top: float) -> None:
    inverse = np.float32(1) / power
    for c in range(3):
        for i in range(t.shape[1]):
            y = min(max(t[c, i], -top), top)
            t[c, i] = hold(signed_power(k * y / (m - abs(y)), inverse))


@dataclass(frozen=True)
class ToneScale:
    """From linear scene light to linear display light (1.0 = display white), channel by channel.

    contrast: slope in log-log around the toe. grey: display light of scene 0.18. white_stops: stops above
    scene grey that reach display white; light beyond goes slightly over 1 and is kept. Raises ``ValueError``
    where no such curve exists (grey so dark or white so near that the curve would have to bend the other
    way).
    """

    contrast: float = 1.28
    grey: float = 0.13
    white_stops: float = 5.0

    def _constants(self) -> tuple[np.float32, np.float32, np.float32]:
        grey = SCENE_GREY**self.contrast
        white = (SCENE_GREY * 2.0**self.white_stops) ** self.contrast
        if self.grey * white <= grey * 1.0001:
            raise ValueError(
                "the tone scale has no curve for these anchors: raise the white stops or the grey"
            )
        k = white * grey * (1 - self.grey) / (self.grey * white - grey)
        return np.float32(self.contrast), np.float32((white + k) / white), np.float32(k)

    def rendering(self) -> Operation:
        """Scene light to display light; odd below zero."""
        return Pass(_render, self._constants())

    def unrendering(self) -> Operation:
        """Display light to scene light; anything above white counts as white."""
        return Pass(_unrender, (*self._constants(), np.float32(1)))

    def render(self, light: F32) -> F32:
        """Display light of scene light ``(..., 3)``."""
        return apply([self.rendering()], light)

    def unrender(self, light: F32) -> F32:
        """Scene light of display light ``(..., 3)``."""
        return apply([self.unrendering()], light)


HOUSE = ToneScale()


def meeting(source: Encoding, target: Encoding, scale: ToneScale = HOUSE) -> list[Operation]:
    """A picture brought to the encoding a look expects, so that it arrives there looking as it should.

    Between two encodings that describe the same kind of light this is the plain conversion. Between a scene
    and PQ, which has room for the light of the scene, the way leads over the display that HLG is shown on.
    Otherwise the tone scale renders a scene in the display's primaries, and is undone there on the way back.
    """
    if source.referred == target.referred:
        return conversion(source, target)
    if PQ in (source.transfer, target.transfer):
        return [Decode(source.transfer), *light_shown(source, target), Encode(target.transfer)]
    inside: list[Operation] = primaries_change(source.primaries, target.primaries)
    if target.referred == "display":
        inside = [*inside, scale.rendering()]
    else:
        inside = [scale.unrendering(), *inside]
    return [Decode(source.transfer), *inside, Encode(target.transfer)]


def meet(rgb: F32, source: Encoding, target: Encoding, scale: ToneScale = HOUSE) -> F32:
    """``meeting`` done to colours ``(..., 3)``, float32."""
    return apply(meeting(source, target, scale), np.asarray(rgb))
