"""The pictures of files that come in, as an intake shows them."""

from collections.abc import Callable

from saucer_core.arrays import F32
from saucer_core.formats import pictures
from saucer_core.screen import for_screen

from .. import storage
from ..errors import missing
from ..frames import rules as frames
from ..frames.values import Known
from ..framing import jpeg
from .models import IntakeFile, Stage

#: Widths, in pixels, that the page of an intake shows at first.
FIRST = (240,)


def encoding_of(file: IntakeFile) -> str:
    """What a file that was read is taken to be in."""
    guessed = file.guess.key if file.guess else ""
    return file.said.encoding or guessed or (file.known.encoding if file.known else "")


def picture(file: IntakeFile, width: int) -> bytes:
    """The picture of a file that was read, as a JPEG for the screen, at most ``COUNTED`` wide; kept. Raises
    404 before."""
    known = file.known
    if known is None or file.stage != Stage.READ:
        raise missing("picture of this file")
    small = min(width, frames.COUNTED)
    return _drawn(known, encoding_of(file), small, lambda: frames.small(known.file, known.file_name))


def draw_first(file: IntakeFile, small: F32) -> None:
    """Draws the pictures of a file that was just read in the widths that are shown at first. small: the
    picture, at most ``COUNTED`` a side."""
    if file.known is not None:
        for width in FIRST:
            _drawn(file.known, encoding_of(file), width, lambda: small)


def _drawn(known: Known, key: str, width: int, small: Callable[[], F32]) -> bytes:
    def make() -> bytes:
        return jpeg(for_screen(pictures.fit(small(), width, 100 * width), key))

    return storage.kept(storage.result("intake", [known.digest, key, width], ".jpg"), make)
