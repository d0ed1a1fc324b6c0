"""What a screen is given: colours converted to its encoding."""

from .arrays import F32
from .encodings import Encoding, conversion, encoding, meeting
from .operations import Operation, apply

#: The screens Saucer draws on.
SCREEN = "srgb"


def showing(source: Encoding, screen: Encoding) -> list[Operation]:
    """The way to a screen: scene light is rendered through Saucer's tone scale, light of a display is
    converted."""
    return conversion(source, screen) if source.referred == "display" else meeting(source, screen)


def for_screen(rgb: F32, output: str) -> F32:
    """Code values of the screen of colours ``(..., 3)`` in the encoding ``output``."""
    return apply(showing(encoding(output), encoding(SCREEN)), rgb)
