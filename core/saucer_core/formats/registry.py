"""Finds the format of a file by its name, and reads or writes tables through it."""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from ..errors import FileError
from ..lut.lut import Lut
from . import cube
from .files import whole_text


@dataclass(frozen=True)
class TableFormat:
    """A file format for tables."""

    key: str
    label: str
    suffix: str
    read: Callable[[Path, str | None], Lut]
    to_text: Callable[[Lut], str]


TABLE_FORMATS = {f.key: f for f in (TableFormat("cube", "Cube", cube.SUFFIX, cube.read, cube.write_text),)}


def format_of(name: str) -> TableFormat:
    """The table format that a file name asks for; raises ``FileError``."""
    for known in TABLE_FORMATS.values():
        if name.lower().endswith(known.suffix):
            return known
    endings = ", ".join(f.suffix for f in TABLE_FORMATS.values())
    raise FileError(name, f"is not a LUT file Saucer reads ({endings})")


def read_table(path: Path, name: str | None = None) -> Lut:
    """A table from a file; raises ``FileError``."""
    return format_of(name or path.name).read(path, name)


def write_table(path: Path, lut: Lut) -> None:
    """A table to a file, whole or not at all; raises ``FileError``."""
    text = format_of(path.name).to_text(lut)
    whole_text(path, text)
