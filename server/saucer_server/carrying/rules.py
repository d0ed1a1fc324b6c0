"""Carriers that go out, and what they bring back: measured before anything is kept."""

import base64
import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

import numpy as np
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from saucer_core.arrays import F32
from saucer_core.baking.capture import Capture, Finding, Verdict
from saucer_core.encodings import encoding
from saucer_core.errors import CoreError
from saucer_core.formats import carrier, pictures
from saucer_core.look import Look as LookValue
from saucer_core.look import wearing
from saucer_core.readings.portrait import portrait
from saucer_core.screen import for_screen
from saucer_core.tables.lut import Lut
from saucer_core.treatment import Treatment

from ..errors import RuleError
from ..fields import safe_name
from ..frames import rules as frames
from ..frames.rules import Frame
from ..framing import jpeg, png
from ..looks import rules as looks
from ..looks.rules import Look
from ..luts import rules as luts
from ..people.rules import Person, must
from ..storage import uploaded

__all__ = [
    "CARRIER_KINDS",
    "Brought",
    "CarrierKind",
    "Look",
    "Take",
    "address",
    "bring_back",
    "carried",
    "jpeg_address",
    "keep",
    "keep_table",
    "make",
]

#: Pixels: width of the pictures that are drawn for the screen.
DRAWN_WIDTH = 640
#: 8-bit codes of what no look explains that are drawn as white.
FULL_CODES = 8
SAUCER = 168
Take = Literal["as it is", "smoothed"]


@dataclass(frozen=True)
class CarrierKind:
    """A layout with its numbers of points, by key (what the core calls its size) and words."""

    layout: str
    label: str
    sizes: list[tuple[int, int]]


#: Key and points a side. Halds go by their level.
CARRIER_KINDS = [
    CarrierKind("hald", "Square", [(6, 36), (7, 49), (8, 64), (9, 81)]),
    CarrierKind("strip", "Strip", [(n, n) for n in (17, 33, 64)]),
    CarrierKind("tiles", "Tiles", [(n, n) for n in (17, 33, 64)]),
]
#: Files that carriers are kept in: suffix and depth.
CARRIER_FILES = {
    "png16": (".png", "uint16"),
    "png8": (".png", "uint8"),
    "tiff16": (".tif", "uint16"),
    "tiff32": (".tif", "float"),
}


def make(layout: str, size: int, file_key: str, encoding_key: str, frame: Frame | None) -> tuple[str, bytes]:
    """Name and bytes of a carrier, with a frame beside it if wanted, in that encoding.

    Raises ``CoreError``, and 422 for a layout or file there is not.
    """
    kind = next((k for k in CARRIER_KINDS if k.layout == layout), None)
    if kind is None or file_key not in CARRIER_FILES:
        raise RuleError(
            422, f"A carrier is {', '.join(k.layout for k in CARRIER_KINDS)}, as {', '.join(CARRIER_FILES)}."
        )
    arrangement = carrier.arrangement_of(layout, size)
    suffix, depth = CARRIER_FILES[file_key]
    shown = (
        carrier.fitted_beside(frames.pixels(frame, encoding_key, frames.REMEMBERED_WIDTH), arrangement)
        if frame is not None
        else None
    )
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"carrier{suffix}"
        carrier.write(path, arrangement, depth, shown=shown)
        at = encoding(encoding_key).label
        return safe_name(f"carrier {layout} {arrangement.grid} {at}") + suffix, path.read_bytes()


@dataclass(frozen=True)
class Brought:
    """What a carrier brings back, measured: nothing is kept yet. Pictures are addresses that hold their data.

    picture: the carrier as it came; damage: what no look explains in it, white from ``FULL_CODES`` on.
    before, after: a frame without and with the look; saucer: of the look. smoothing: mean and largest ΔE that
    taking the noise out changes.
    """

    verdict: Verdict
    findings: list[Finding]
    layout: str
    grid: int
    smoothing: tuple[float, float]
    picture: str
    damage: str
    before: str
    after: str
    smoothed_after: str
    saucer: str


def address(data: bytes, kind: str) -> str:
    """An address that holds a picture."""
    return f"data:image/{kind};base64,{base64.b64encode(data).decode()}"


def jpeg_address(rgb: F32) -> str:
    """A picture, scaled for the screen, as an address that holds its data."""
    return address(
        jpeg(pictures.fit(np.ascontiguousarray(rgb, np.float32), DRAWN_WIDTH, DRAWN_WIDTH)), "jpeg"
    )


def _read(upload: "UploadedFile[Any]") -> tuple[str, Capture]:
    with uploaded(upload, pictures.SIZE_LIMIT, "a picture") as (path, name):
        return name, carrier.read(path, name)


def carried(lut: Lut, name: str, expects: str, gives: str) -> LookValue:
    """A look that is a table taken from pictures."""
    return wearing(lut.digest(), name, expects, gives, "carried")


def bring_back(upload: "UploadedFile[Any]", frame: Frame | None, expects: str, gives: str) -> Brought:
    """What a carrier brings back, and how its look looks on a frame. Raises ``FileError``."""
    name, found = _read(upload)
    shown = dict.fromkeys(("before", "after", "smoothed_after", "saucer"), "")
    if found.verdict != "refuse" and found.lut is not None:
        look, tables = (
            carried(found.lut, name, expects, gives),
            {t.digest(): t for t in (found.lut, found.smoothed) if t is not None},
        )
        shown["saucer"] = address(png(portrait(look, SAUCER, tables=tables.get)), "png")
        if frame is not None:
            given = frames.pixels(frame, expects, DRAWN_WIDTH)
            shown["before"] = jpeg_address(for_screen(given, expects))
            shown["after"] = jpeg_address(for_screen(Treatment(look).compile(tables.get)(given), gives))
            if found.smoothed is not None:
                smooth = Treatment(carried(found.smoothed, name, expects, gives)).compile(tables.get)
                shown["smoothed_after"] = jpeg_address(for_screen(smooth(given), gives))
    damage = (
        None
        if found.unexplained is None
        else np.abs(found.unexplained).max(axis=-1, keepdims=True) * (255 / FULL_CODES)
    )
    return Brought(
        verdict=found.verdict,
        findings=list(found.findings),
        layout=found.arrangement.layout if found.arrangement else "",
        grid=found.arrangement.grid if found.arrangement else 0,
        smoothing=found.change,
        picture="" if found.picture is None else jpeg_address(np.clip(found.picture, 0, 1)),
        damage="" if damage is None else jpeg_address(np.repeat(np.clip(damage, 0, 1), 3, axis=-1)),
        **shown,
    )


def keep(
    upload: "UploadedFile[Any]",
    person: Person,
    *,
    take: Take,
    name: str,
    expects: str,
    gives: str,
    rights: str,
    origin: str,
) -> Look:
    """Makes a look of what a carrier brings back: a table that keeps the carrier as its origin. All of it or
    nothing.

    Raises ``FileError``, and ``CoreError`` where the carrier cannot be relied on or has nothing to smooth.
    """
    must(person, "look.make")
    file_name, found = _read(upload)
    lut = found.smoothed if take == "smoothed" else found.lut
    if found.verdict == "refuse" or lut is None:
        why = "; ".join(found.reasons()) if found.verdict == "refuse" else "there is no noise to take out"
        raise CoreError(f"{file_name} was not kept: {why}.")
    named = name.strip() or Path(file_name).stem
    said = f"Carried over in {file_name}, {origin.strip()}" + (", smoothed" if take == "smoothed" else "")
    return keep_table(lut, person, named, expects, gives, rights, said)


def keep_table(lut: Lut, person: Person, name: str, expects: str, gives: str, rights: str, said: str) -> Look:
    """Makes a look of a table taken from pictures; ``said``: how it came. All of it or nothing."""
    lut = Lut(lut.grid, title=name)
    with transaction.atomic():
        luts.adopt(lut, person, expects=expects, gives=gives, rights=rights, origin=said[:300])
        look = carried(lut, name, expects, gives)
        return looks.create(person, name[:120], look, f"{said}.", origin=said[:300], rights=rights)
