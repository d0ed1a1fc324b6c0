"""Carrier pictures as files: written for another program, brought back, and captured."""

from pathlib import Path

from ..arrays import F32
from ..baking.capture import Capture, capture
from ..errors import CoreError, FileError
from ..tables.carrier import Arrangement, beside, hald, picture, strip, tiles
from . import pictures

#: Suffix and depth that hold a carrier without loss.
DEPTHS = {".png": ("uint8", "uint16"), ".tif": ("uint16", "float"), ".tiff": ("uint16", "float")}


def arrangement_of(layout: str, size: int) -> Arrangement:
    """The arrangement of a layout: *hald* by its level, *strip* and *tiles* by their grid. Raises
    ``CoreError``."""
    return {"hald": hald, "strip": strip, "tiles": tiles}[layout](size)


def write(
    path: Path,
    arrangement: Arrangement,
    depth: str | None = None,
    grid: F32 | None = None,
    shown: F32 | None = None,
) -> None:
    """Writes a carrier: of the identity, or of a grid of its size; with ``shown`` on its left, a picture of
    its height.

    Raises ``FileError`` for a kind of file that loses colours.
    """
    suffix = path.suffix.lower()
    if suffix not in DEPTHS:
        raise FileError(path.name, f"a carrier is kept as {', '.join(DEPTHS)}: other kinds lose colours")
    depth = depth or "uint16"
    if depth not in DEPTHS[suffix]:
        raise FileError(path.name, f"{suffix} carriers are {' or '.join(DEPTHS[suffix])}, not {depth}")
    carrier = picture(arrangement, grid)
    pictures.write(path, carrier if shown is None else beside(carrier, shown), depth)


def fitted_beside(rgb: F32, arrangement: Arrangement) -> F32:
    """A picture scaled to a carrier's height, its width a multiple of 8: so blocks of lossy compression stay
    where they are looked for.

    Raises ``CoreError`` where the picture would have to be enlarged, or is hardly a line wide.
    """
    height = arrangement.height
    width = round(rgb.shape[1] * height / rgb.shape[0] / 8) * 8
    if rgb.shape[0] < height or width < 8:
        raise CoreError(
            f"A picture beside this carrier must be at least {height} pixels high, not {rgb.shape[1]} × "
            f"{rgb.shape[0]}."
        )
    return pictures.resize(rgb, width, height)


def read(path: Path, name: str | None = None) -> Capture:
    """What a carrier file brings back. Raises ``FileError`` where it is no picture at all."""
    name = name or path.name
    rgb, facts = pictures.read(path, name)
    return capture(rgb, depth=facts.depth, kind=facts.kind, profile=facts.profile, title=Path(name).stem)
