"""What a screen is given: the look's output converted to the encoding of the screen."""

from .arrays import F32
from .encodings import convert, encoding, meet

#: The screens Saucer draws on. Display P3 joins when its primaries do.
SCREEN = "srgb"


def for_screen(rgb: F32, output: str) -> F32:
    """Code values of the screen. Scene-referred output is rendered through the house tone scale first."""
    source, target = encoding(output), encoding(SCREEN)
    return convert(rgb, source, target) if source.referred == "display" else meet(rgb, source, target)
