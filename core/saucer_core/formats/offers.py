"""What a look can be written as, which of it holds this look, and the files themselves."""

import tempfile
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path

from ..baking.bake import bake, bake_curves
from ..encodings.code_range import CodeRange
from ..errors import CoreError, LookError
from ..look import Look
from ..program import Program
from ..steps import Tables
from ..tables.carrier import hald
from ..tables.lut import Lut
from ..treatment import Treatment
from . import carrier, cdl, clf, cube, recipe

#: Points of a 1-D LUT.
CURVE_POINTS = 4096
#: Level of the Hald that a carrier is: 64 points a side.
HALD = 8


@dataclass(frozen=True)
class About:
    """What a file says of itself, where its format has room."""

    title: str = ""
    comments: tuple[str, ...] = ()
    name: str = ""
    note: str = ""


@dataclass(frozen=True)
class Given:
    """What files are made from: a look, its program, the baked table that several of them share, and the code
    range of what it gives."""

    look: Look
    program: Program
    tables: Tables
    lut: Lut | None
    range_out: CodeRange
    about: About

    @property
    def table(self) -> Lut:
        """The baked table with the file's title and comments. Raises ``LookError`` where none was baked."""
        if self.lut is None:
            raise LookError("Choose a grid first: this format holds a baked table.")
        return replace(self.lut, title=self.about.title, comments=self.about.comments)


@dataclass(frozen=True)
class FileKind:
    """A kind of file that a look can be written as.

    baked: holds the table of the chosen grid. ranged: knows narrow range. check: raises ``LookError`` saying
    why a look cannot be written so.
    """

    key: str
    label: str
    suffix: str
    says: str
    baked: bool
    ranged: bool
    check: Callable[[Look, Program, Tables], object]
    make: Callable[[Given], bytes]


@dataclass(frozen=True)
class FileOffer:
    """A kind of file for a look; ``why`` says what prevents it, empty where nothing does."""

    key: str
    label: str
    suffix: str
    says: str
    baked: bool
    ranged: bool
    why: str


def _nothing(look: Look, program: Program, tables: Tables) -> None:
    """Every look can be written so."""


def _no_shaper(look: Look, program: Program, tables: Tables) -> None:
    if program.source.response == "linear":
        raise LookError(
            "Linear light needs a shaper before the grid, which a .cube that everybody reads cannot hold."
        )


def _cdl_text(given: Given, suffix: str) -> bytes:
    one = cdl.NamedCorrection(
        cdl.correction_of(given.look), given.about.title, " ".join(given.about.comments)
    )
    return cdl.write_text([one], suffix).encode()


def _carrier(given: Given, suffix: str) -> bytes:
    place = hald(HALD)
    grid = bake(given.program, place.grid, range_out=given.range_out).grid
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"carrier{suffix}"
        carrier.write(path, place, grid=grid)
        return path.read_bytes()


def _curves(given: Given) -> bytes:
    return cube.write_text(
        bake_curves(given.program, CURVE_POINTS, title=given.about.title, comments=given.about.comments)
    ).encode()


def _exact(given: Given) -> bytes:
    return clf.exact_text(
        given.look, tables=given.tables, title=given.about.title, comments=given.about.comments
    ).encode()


def _recipe(given: Given) -> bytes:
    return recipe.dumps(
        given.look, name=given.about.name, note=given.about.note, tables=given.tables
    ).encode()


def _cdl_kind(suffix: str, says: str) -> FileKind:
    return FileKind(
        suffix[1:],
        suffix,
        suffix,
        says,
        False,
        False,
        lambda look, _p, _t: cdl.correction_of(look),
        lambda given: _cdl_text(given, suffix),
    )


#: Where the shaper of a carrier would have to stand there is no room: its picture is in the look's own input
#: encoding.
FILE_KINDS = {
    k.key: k
    for k in (
        FileKind(
            "cube",
            ".cube, 3-D",
            ".cube",
            "read nearly everywhere",
            True,
            True,
            _no_shaper,
            lambda given: cube.write_text(given.table).encode(),
        ),
        FileKind(
            "cube_1d",
            ".cube, 1-D",
            ".cube",
            f"{CURVE_POINTS:,} points a channel",
            False,
            False,
            lambda _l, program, _t: bake_curves(program, 2),
            _curves,
        ),
        FileKind(
            "clf",
            ".clf, baked",
            ".clf",
            "the same table, with its encodings",
            True,
            True,
            _nothing,
            lambda given: clf.write_text(given.table).encode(),
        ),
        FileKind(
            "clf_exact",
            ".clf, exact",
            ".clf",
            "operations instead of a table: no error at all",
            False,
            False,
            lambda look, _p, tables: clf.exact_text(look, tables=tables),
            _exact,
        ),
        _cdl_kind(".cdl", "ASC CDL, a list of one decision"),
        _cdl_kind(".cc", "ASC CDL, one correction"),
        _cdl_kind(".ccc", "ASC CDL, a collection of one"),
        FileKind(
            "carrier_png",
            "Carrier, PNG",
            ".png",
            f"{HALD**2} a side, 16 bit",
            False,
            True,
            _no_shaper,
            lambda given: _carrier(given, ".png"),
        ),
        FileKind(
            "carrier_tiff",
            "Carrier, TIFF",
            ".tif",
            f"{HALD**2} a side, 16 bit",
            False,
            True,
            _no_shaper,
            lambda given: _carrier(given, ".tif"),
        ),
        FileKind(
            "recipe", "Recipe", recipe.SUFFIX, "every step, still adjustable", False, False, _nothing, _recipe
        ),
    )
}


def offers(look: Look, tables: Tables) -> list[FileOffer]:
    """Every kind of file, with what prevents a look from being written so. Raises ``LookError`` where it
    cannot be computed at all."""
    program = Treatment(look).compile(tables)
    found = []
    for kind in FILE_KINDS.values():
        try:
            kind.check(look, program, tables)
            why = ""
        except LookError as error:
            why = str(error)
        found.append(FileOffer(kind.key, kind.label, kind.suffix, kind.says, kind.baked, kind.ranged, why))
    return found


def write(key: str, given: Given) -> bytes:
    """The file of that kind. Raises ``LookError`` where the look cannot be written so, ``CoreError`` for a
    kind there is not."""
    kind = FILE_KINDS.get(key)
    if kind is None:
        raise CoreError(f"Saucer writes {', '.join(FILE_KINDS)}, not “{key[:40]}”.")
    if given.range_out != "full" and not kind.ranged:
        raise LookError(f"{kind.label} has no narrow range: choose full range, or leave it out.")
    return kind.make(given)
