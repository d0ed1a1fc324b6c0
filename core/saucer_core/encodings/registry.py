"""The encodings Saucer knows, by key, and conversion between any two of them."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..arrays import F32, by_tiles, colours
from ..errors import CoreError
from .film_log import FILM_LOG
from .gamma import BT1886
from .linear import LINEAR
from .primaries import BT709, Primaries, between
from .srgb import SRGB
from .transfer import Transfer


@dataclass(frozen=True)
class Encoding:
    """Primaries and a transfer function under one name.

    ``response`` says what the numbers are like: *display* (0 black, 1 white), *log*, or *linear*. ``referred`` says
    what they describe: light in the scene, or light on a display.
    """

    key: str
    label: str
    primaries: Primaries
    transfer: Transfer
    response: Literal["display", "log", "linear"]
    referred: Literal["scene", "display"]

    def decode(self, rgb: F32) -> F32:
        """Code values to linear light in the encoding's own primaries."""
        return self.transfer.decode(rgb)

    def encode(self, rgb: F32) -> F32:
        """Linear light in the encoding's own primaries to code values."""
        return self.transfer.encode(rgb)


EncodingKey = Literal["srgb", "bt709_display", "linear_709", "film_log"]

ENCODINGS: dict[str, Encoding] = {
    e.key: e
    for e in (
        Encoding("srgb", "sRGB", BT709, SRGB, "display", "display"),
        Encoding("bt709_display", "BT.709 display", BT709, BT1886, "display", "display"),
        Encoding("linear_709", "linear 709", BT709, LINEAR, "linear", "scene"),
        Encoding("film_log", "film log", BT709, FILM_LOG, "log", "scene"),
    )
}


def encoding(key: str) -> Encoding:
    """The encoding of that key; raises ``CoreError`` naming the known ones."""
    try:
        return ENCODINGS[key]
    except KeyError:
        raise CoreError(f"“{key}” is not an encoding Saucer knows. Known: {', '.join(ENCODINGS)}.") from None


def matrix_apply(matrix: np.ndarray, rgb: F32) -> F32:
    """A 3×3 on the last axis of ``rgb``, in float32."""
    return rgb @ matrix.T.astype(np.float32)


def to_linear(rgb: F32, source: Encoding, primaries: Primaries) -> F32:
    """Linear light in ``primaries``."""
    light = source.decode(rgb)
    return light if source.primaries == primaries else matrix_apply(between(source.primaries, primaries), light)


def from_linear(light: F32, primaries: Primaries, target: Encoding) -> F32:
    """Code values of ``target`` from linear light in ``primaries``."""
    if target.primaries != primaries:
        light = matrix_apply(between(primaries, target.primaries), light)
    return target.encode(light)


def convert(rgb: F32, source: Encoding, target: Encoding) -> F32:
    """The plain conversion: through linear light, no tone scale, nothing clipped. float32 ``(..., 3)``."""
    if source == target:
        return rgb
    return by_tiles(lambda x: from_linear(to_linear(x, source, target.primaries), target.primaries, target), colours(rgb))
