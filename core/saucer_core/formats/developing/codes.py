"""Pictures that hold codes or finished light: as they are, or through their colour profile."""

from pathlib import Path

import numpy as np

from ...arrays import F32
from ...encodings import ENCODINGS
from ...errors import FileError
from .. import pictures
from ..declared import Declared, declared, usual
from ..icc import profile, space_of, title
from . import process
from .kinds import ForeignKind
from .result import Developed

#: Encodings that codes of an unknown profile are brought into: the first that holds all it can say.
TARGETS = ("srgb", "display_p3", "oprgb", "bt2020_display")
#: How far beyond an encoding's ends the ends of a profile may lie: tables of profiles are rounded.
SLACK = 0.004
#: How developed pictures are stored.
LIGHT, CODES = "developed.exr", "developed.tif"
#: Channels of the colour spaces that profiles describe.
_CHANNELS = {"rgb": 3, "cmyk": 4, "gray": 1}


def developed(
    path: Path, name: str, kind: ForeignKind | None, part: int, place: Path, folder: Path
) -> Developed:
    """Develops a picture that is no raw. place: an empty folder to work in. Raises ``FileError``."""
    parts: tuple[str, ...] = ()
    if kind is not None:
        kind_name, work = kind.name, kind.work
    else:
        facts = pictures.facts_of(path, name)
        kind_name, work, parts = facts.kind, "ink" if facts.ink else "oiio", facts.parts
    read = process.run(work, path, name, place, part=part)
    light = not read.said["bits"]
    tags = {key: read.said[key] for key in ("CICP", "chromaticities") if read.said.get(key)}
    found = declared(tags, "EXR" if light else kind_name, read.icc)
    codes, alpha = _parted(read)
    rgb, notes = _plain(codes)
    if found is None and not light and _CHANNELS.get(space_of(read.icc)) == codes.shape[2]:
        try:
            found, rgb = _through_profile(read, codes, name, place)
        except FileError:
            notes.append(f"its colour profile, {title(read.icc)}, is damaged and of no use")
    if not np.isfinite(rgb).all():
        raise FileError(name, "holds pixels that are not numbers. Render it again without them")
    turn = pictures.TURNS.get(int(read.said.get("orientation", 1)), pictures.TURNS[1])
    rgb = np.ascontiguousarray(turn(rgb))
    alpha = None if alpha is None else np.ascontiguousarray(turn(alpha))
    facts = pictures.PictureFacts(
        kind_name,
        rgb.shape[1],
        rgb.shape[0],
        read.said["depth"],
        title(read.icc) if read.icc else "",
        alpha is not None,
        found.key if found else "",
        found.by if found else "",
        tuple(read.said["unread"]),
        parts=parts,
    )
    target = folder / (LIGHT if light else CODES)
    at = ENCODINGS[found.key if found else usual(kind_name)]
    like = pictures.Picture(rgb, facts, alpha)
    pictures.write(target, rgb, "half" if light else "uint16", like=like, at=at)
    return Developed(target, facts, tuple(notes))


def _parted(read: process.Read) -> tuple[F32, F32 | None]:
    """Codes as 0–1, or light, of each channel that is a colour; and alpha, which they are not multiplied
    by."""
    bits = int(read.said["bits"])
    whole = np.asarray(read.pixels, np.float32) / np.float32(2**bits - 1 if bits else 1)
    if read.said.get("ink") or whole.shape[2] in (1, 3):
        return whole, None
    codes, alpha = whole[..., :-1], np.clip(whole[..., -1], 0, 1)
    if read.said.get("multiplied"):
        share = np.where(alpha > 0, alpha, 1)[..., None]
        codes = (codes / share).astype(np.float32)
    return codes, alpha


def _plain(codes: F32) -> tuple[F32, list[str]]:
    """Codes that no profile explains, as red, green and blue; and what that is worth, in words."""
    if codes.shape[2] == 1:
        return np.repeat(codes, 3, axis=2), []
    if codes.shape[2] == 4:
        # The code of an ink says how much of it there is.
        left = (1 - codes[..., :3]) * (1 - codes[..., 3:])
        return left.astype(np.float32), ["no profile says what its inks look like: they are taken off white"]
    return codes, []


def _through_profile(read: process.Read, codes: F32, name: str, place: Path) -> tuple[Declared, F32]:
    """Brings codes into an encoding through their profile, by Little CMS at 16 bit."""
    deep = np.round(codes.astype(np.float64) * 65535).astype(np.uint16)
    np.save(place / "codes.npy", deep)
    for number, key in enumerate(TARGETS):
        (place / f"target-{number}.icc").write_bytes(profile(ENCODINGS[key]))
    done = process.run("profile", place / "codes.npy", name, place, space=space_of(read.icc), slack=SLACK)
    key = TARGETS[int(done.said["chosen"])]
    rgb = np.asarray(done.pixels, np.float32) / np.float32(65535)
    by = f"its colour profile, {title(read.icc)}, and brought from it into {ENCODINGS[key].label}"
    return Declared(key, by), rgb
