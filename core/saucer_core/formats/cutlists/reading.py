"""Cut lists by their suffix."""

from fractions import Fraction
from pathlib import Path

from ...errors import FileError
from .. import xml
from . import cmx, otio
from .model import CutList

SUFFIXES = (otio.SUFFIX, cmx.SUFFIX)


def read(path: Path, name: str, rate: Fraction) -> CutList:
    """A cut list. rate: frames a second where the file does not say it (CMX 3600). Raises ``FileError``."""
    suffix = Path(name).suffix.lower()
    if suffix not in SUFFIXES:
        raise FileError(name, f"is no cut list that Saucer reads ({', '.join(SUFFIXES)})")
    if suffix == otio.SUFFIX:
        return otio.read(path, name)
    if path.stat().st_size > otio.SIZE_LIMIT:
        raise FileError(name, f"larger than {otio.SIZE_LIMIT // 2**20} MiB, the most a cut list may be")
    return cmx.read(xml.decoded(path.read_bytes(), name), name, rate)


def write(cut: CutList, name: str) -> str:
    """A cut list as the text of a file of that name. Raises ``FileError``."""
    suffix = Path(name).suffix.lower()
    if suffix not in SUFFIXES:
        raise FileError(name, f"Saucer writes cut lists as {', '.join(SUFFIXES)}, not “{suffix}”")
    return otio.write(cut) if suffix == otio.SUFFIX else cmx.write(cut)
