"""Turns a picture of a kind that Saucer does not read itself into one that it does: light into EXR of half
float, codes into TIFF of 16 bit."""

import tempfile
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path

from ...arrays import F32
from .. import pictures
from ..picture_kinds import WRITTEN
from . import codes, kinds, raw
from .kinds import RAW, of_file
from .result import Developed, Wish

#: Suffixes of all pictures that are read, developed or not.
SUFFIXES = (*pictures.SUFFIXES, *kinds.SUFFIXES)


def why(path: Path, name: str) -> str:
    """Why a file must be developed before it can be read, in a few words; empty where it need not be. Raises
    ``FileError``."""
    if (kind := of_file(path, name)) is not None:
        return f"it is {kind.name}"
    facts = pictures.facts_of(path, name)
    if facts.ink:
        return "its colours are inks"
    return "no encoding is that of its colour profile" if facts.profile and not facts.declared else ""


@contextmanager
def opened(path: Path, name: str | None = None, wish: Wish | None = None) -> Iterator[pictures.Source]:
    """An open picture of any kind that Saucer reads, see ``pictures.opened``; developed where it must be."""
    name, wish = name or path.name, wish or Wish()
    with ExitStack() as stack:
        made: Developed | None = None
        if wish.part or why(path, name):
            folder = stack.enter_context(tempfile.TemporaryDirectory(prefix="saucer-"))
            made = develop(path, name, Path(folder), wish)
        source = stack.enter_context(pictures.opened(made.path) if made else pictures.opened(path, name))
        if made is not None:
            source.facts = made.facts
        yield source


def read(path: Path, name: str | None = None) -> tuple[F32, pictures.PictureFacts]:
    """The colours of a picture of any kind that Saucer reads, see ``pictures.load``, and its facts. Raises
    ``FileError``."""
    with opened(path, name) as source:
        return source.picture().rgb, source.facts


def facts_of(path: Path) -> pictures.PictureFacts:
    """What a picture file of any kind that Saucer reads says of itself. Raises ``FileError``."""
    with opened(path) as source:
        return source.facts


def written_name(name: str) -> str:
    """The name of what is made of a picture: its own, or that of a kind that is written."""
    path = Path(name)
    if path.suffix.lower() in WRITTEN:
        return name
    light = next((k.light for k in kinds.KINDS if path.suffix.lower() in k.suffixes), False)
    return str(path.with_suffix(".exr" if light else ".tif"))


def develop(path: Path, name: str, folder: Path, wish: Wish | None = None) -> Developed:
    """Develops a picture into a folder. Raises ``FileError``; nothing stays in the folder then."""
    wish = wish or Wish()
    kind = of_file(path, name)
    with tempfile.TemporaryDirectory(dir=folder) as working:
        place = Path(working)
        if kind is RAW:
            return raw.developed(path, name, place, folder / codes.LIGHT, wish.balance)
        return codes.developed(path, name, kind, wish.part, place, folder)
