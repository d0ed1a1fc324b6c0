"""Finds the format of a file by its name, and reads or writes tables through it."""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from ..errors import FileError, LookError
from ..steps.slope_offset_power import Correction
from ..tables.chain import Chain
from ..tables.lut import Lut, Table
from . import cdl, clf, cube, foreign
from .files import whole_text


@dataclass(frozen=True)
class TableFormat:
    """A file format for tables; ``to_text`` is ``None`` for those that hold no baked table."""

    key: str
    label: str
    suffixes: tuple[str, ...]
    read: Callable[[Path, str | None], Table]
    to_text: Callable[[Table], str] | None = None
    says: str = ""

    @property
    def suffix(self) -> str:
        """The usual one."""
        return self.suffixes[0]

    def text(self, table: Table) -> str:
        """The text of a file that holds the table. Raises ``LookError`` where the format cannot hold it."""
        if self.to_text is None:
            raise LookError(f"Saucer reads {self.label} files and does not write them.")
        return self.to_text(table)


def _cube_text(table: Table) -> str:
    if not isinstance(table, Lut):
        raise LookError(
            "A .cube file holds a table, not a chain of operations. Write it as .clf, or bake it first."
        )
    return cube.write_text(table)


def _cdl_text(table: Table) -> str:
    if isinstance(table, Chain) and len(table.steps) == 1 and isinstance(table.steps[0], Correction):
        one = cdl.NamedCorrection(table.steps[0], table.title, " ".join(table.comments))
        return cdl.write_text([one], ".cc")
    raise LookError("A CDL file holds slope, offset, power and saturation only. Write it as .cube or .clf.")


TABLE_FORMATS = {
    f.key: f
    for f in (
        TableFormat(
            "cube", ".cube", (cube.SUFFIX,), cube.read, _cube_text, "a table, read by nearly everything"
        ),
        TableFormat(
            "clf",
            ".clf",
            (clf.SUFFIX,),
            clf.read,
            clf.write_text,
            "Common LUT Format: a table or exact operations",
        ),
        TableFormat("cdl", ".cc", cdl.SUFFIXES, cdl.read, _cdl_text, "ASC CDL: one slope, offset, power"),
    )
}


def format_for(table: Table) -> TableFormat:
    """The format that everybody can read a baked table in: ``.cube``, or ``.clf`` where it needs a shaper
    before its grid."""
    plain = isinstance(table, Lut) and (table.shaper is None or table.grid is None)
    return TABLE_FORMATS["cube" if plain else "clf"]


def readable() -> tuple[str, ...]:
    """All suffixes that tables are read from."""
    own = [s for f in TABLE_FORMATS.values() for s in f.suffixes]
    return tuple(dict.fromkeys([*own, *foreign.suffixes()]))


def format_of(name: str) -> TableFormat:
    """The table format that a file name asks for; raises ``FileError``."""
    lower = name.lower()
    for known in TABLE_FORMATS.values():
        if lower.endswith(known.suffixes):
            return known
    rarer = foreign.suffixes()
    if rarer and lower.endswith(rarer):
        return TableFormat("foreign", Path(name).suffix, (Path(name).suffix.lower(),), foreign.read)
    raise FileError(name, f"is not a LUT file Saucer reads ({', '.join(readable())})")


def read_table(path: Path, name: str | None = None) -> Table:
    """A table from a file; raises ``FileError``."""
    return format_of(name or path.name).read(path, name)


def write_table(path: Path, table: Table) -> None:
    """A table to a file, whole or not at all; raises ``FileError``, ``LookError`` where the format cannot
    hold it."""
    known = format_of(path.name)
    whole_text(path, known.text(table))
