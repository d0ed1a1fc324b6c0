"""Shots made visible."""

from saucer_core.arrays import F32
from saucer_core.encodings import encoding
from saucer_core.readings.masks import difference_picture
from saucer_core.screen import SCREEN

from .. import storage
from ..bench.pictures import rendered
from ..bench.pictures import still as revision_still
from ..frames.rules import Frame, drawing
from ..frames.rules import still as plain
from ..framing import jpeg
from ..looks import rules as looks
from ..luts.rules import table
from .models import Layer, Shot
from .rules import Worn, worn


def wearing(layers: list[Layer], frame: Frame, width: int, shot: Shot) -> bytes:
    """A shot under layers, JPEG for the screen; without a look where there are none."""
    on = worn(layers)
    if on is None:
        return _unlooked(shot, width)
    return revision_still(
        on.look, on.digest, frame, width, strength=on.strength, trim=shot.trim, tables=table
    )


def _unlooked(shot: Shot, width: int) -> bytes:
    trimmed = shot.frame
    trimmed.trim = shot.trim
    return plain(trimmed, width, True)


def still(shot: Shot, width: int) -> bytes:
    """A shot as it will be delivered, JPEG for the screen."""
    return wearing(list(shot.layers.all()), shot.frame, width, shot)


def trying(shot: Shot, revision: looks.Revision, strength: float, width: int, *, over: bool) -> bytes:
    """A shot under a look that is not put on it yet: instead of what is there, or over it."""
    there = list(shot.layers.all()) if over else []
    layers = [*there, Layer(shot=shot, place=len(there) + 1, revision=revision, strength=strength)]
    return wearing(layers, shot.frame, width, shot)


def apart(shot: Shot, other: list[Layer], width: int, full: float) -> bytes:
    """How far a shot is from the same under other layers, JPEG: black for no difference, white from ΔE
    ``full`` on; kept."""
    own = list(shot.layers.all())
    pair = [worn(own), worn(other)]
    made_of = [
        [[w.digest, w.strength] if w else None for w in pair],
        shot.frame.digest,
        shot.frame.encoding,
        shot.trim.model_dump(),
        width,
        full,
    ]

    def make() -> bytes:
        with drawing(shot.frame, width):
            here, there = (_shown(shot, w, width) for w in pair)
            return jpeg(difference_picture(here, there, encoding(SCREEN), full))

    return storage.kept(storage.result("apart", made_of, ".jpg"), make)


def _shown(shot: Shot, on: Worn | None, width: int) -> F32:
    look, strength = (on.look, on.strength) if on else (None, 1.0)
    return rendered(look, shot.frame, width, strength=strength, trim=shot.trim, screen=True)
