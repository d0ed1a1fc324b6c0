"""A look from a pair of pictures, untouched and treated: measured before anything is kept."""

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from django.core.files.uploadedfile import UploadedFile
from saucer_core.arrays import F32
from saucer_core.baking.pair import Pair, guessed, guessed_cube, pair
from saucer_core.baking.pair_findings import PairFinding
from saucer_core.encodings import encoding
from saucer_core.errors import CoreError
from saucer_core.formats import pictures
from saucer_core.readings.portrait import portrait
from saucer_core.screen import for_screen
from saucer_core.treatment import Treatment

from ..frames import rules as frames
from ..frames.rules import Frame
from ..framing import png
from ..people.rules import Person, must
from ..storage import uploaded
from .rules import DRAWN_WIDTH, FULL_CODES, SAUCER, Look, address, carried, jpeg_address, keep_table

__all__ = ["Compared", "compare", "keep"]


@dataclass(frozen=True)
class Compared:
    """What a pair brings, measured: nothing is kept yet. Pictures are addresses with their data.

    share: of the change that a look explains; change, left: mean ΔE2000 of the change, and of what is left.
    unexplained: white from ``FULL_CODES`` on. frame_before, frame_after: a frame without and with the look;
    frame_guessed: where on it the look guesses.
    guesses: the share of that frame where it does; cube_guessed: where in the cube, six slices of blue.
    """

    share: float
    change: float
    left: float
    shift: tuple[float, float]
    scale: float
    seen: float
    findings: list[PairFinding]
    before: str
    after: str
    made: str
    unexplained: str
    saucer: str
    frame_before: str
    frame_after: str
    frame_guessed: str
    guesses: float
    cube_guessed: str


def _picture(upload: "UploadedFile[Any]") -> tuple[str, F32]:
    with uploaded(upload, pictures.SIZE_LIMIT, "a picture") as (path, name):
        return name, pictures.read(path, name)[0]


def _pair(
    before: "UploadedFile[Any]", after: "UploadedFile[Any]", expects: str, gives: str
) -> tuple[str, Pair]:
    if "linear" in (encoding(expects).response, encoding(gives).response):
        raise CoreError(
            "A pair needs a display or logarithmic encoding on both sides: in linear light the darks would "
            "not count."
        )
    _, untouched = _picture(before)
    name, treated = _picture(after)
    return name, pair(untouched, treated, expects, gives, title=Path(name).stem)


def compare(
    before: "UploadedFile[Any]", after: "UploadedFile[Any]", frame: Frame | None, expects: str, gives: str
) -> Compared:
    """What a pair brings, and how its look looks on a frame. Raises ``FileError``, ``CoreError``."""
    name, found = _pair(before, after, expects, gives)
    look, tables = carried(found.lut, name, expects, gives), {found.lut.digest(): found.lut}
    shown = dict.fromkeys(("frame_before", "frame_after", "frame_guessed"), "")
    guesses = 0.0
    if frame is not None:
        given = frames.pixels(frame, expects, DRAWN_WIDTH)
        unsure = guessed(found, given)
        guesses = float((unsure > 0.5).mean())
        shown["frame_before"] = jpeg_address(for_screen(given, expects))
        shown["frame_after"] = jpeg_address(for_screen(Treatment(look).compile(tables.get)(given), gives))
        shown["frame_guessed"] = jpeg_address(np.repeat(unsure[..., None], 3, axis=-1).astype(np.float32))
    cube = np.repeat(guessed_cube(found)[..., None], 3, axis=-1).astype(np.float32)
    off = np.clip(np.abs(found.unexplained).max(axis=-1, keepdims=True) * (255 / FULL_CODES), 0, 1)
    return Compared(
        share=found.share,
        change=found.change,
        left=found.left,
        shift=found.shift,
        scale=found.scale,
        seen=found.seen,
        findings=list(found.findings),
        before=jpeg_address(for_screen(found.before, expects)),
        after=jpeg_address(for_screen(found.after, gives)),
        made=jpeg_address(for_screen(np.clip(found.made, 0, 1), gives)),
        unexplained=jpeg_address(np.repeat(off, 3, axis=-1)),
        saucer=address(png(portrait(look, SAUCER, tables=tables.get)), "png"),
        guesses=guesses,
        cube_guessed=jpeg_address(cube),
        **shown,
    )


def keep(
    before: "UploadedFile[Any]",
    after: "UploadedFile[Any]",
    person: Person,
    *,
    name: str,
    expects: str,
    gives: str,
    rights: str,
    origin: str,
) -> Look:
    """Makes a look of what a pair brings. Raises ``FileError``, ``CoreError``."""
    must(person, "look.make")
    file_name, found = _pair(before, after, expects, gives)
    said = f"Taken from a picture and {file_name}, {origin.strip()}"
    return keep_table(found.lut, person, name.strip() or Path(file_name).stem, expects, gives, rights, said)
