"""Writing the pixels of picture files, band by band where the kind of file allows it."""

from collections.abc import Callable, Iterable
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import OpenImageIO as oiio
from numpy.typing import NDArray

from ..encodings import Encoding
from ..errors import FileError
from ..halves import halves
from .bands import Band, Window, ahead
from .declared import CICP, INTEROP, OWN_TAG
from .files import whole
from .icc import profile
from .picture_encoders import ENCODERS
from .picture_kinds import WrittenKind, depth_for, kind_of

#: Rows that an EXR file packs together at most.
ROWS_TOGETHER = 32
#: The largest number of half float.
HALF_MOST = 65504.0
#: Transfers that are the same function (ITU-T H.273, table 3); JPEG XL knows the second alone (ISO/IEC
#: 18181-1, colour encodings).
BT2020_TEN, BT709 = 14, 1
#: Bits of the depths that OpenImageIO has no name for.
_BITS = {"uint10": 10, "uint12": 12}
#: The first row, and the channels of rows as they are written.
_Rows = tuple[int, NDArray[Any]]


@dataclass(frozen=True)
class Said:
    """What a picture file says beside its pixels. tags: names and values. at: the encoding of its colours,
    ``None`` where nobody knows. icc: a colour profile, which then stands in place of all other words of the
    encoding. window: see ``Window``."""

    tags: Iterable[tuple[str, Any]] = ()
    at: Encoding | None = None
    icc: bytes = b""
    window: Window | None = None


def write_pixels(
    path: Path,
    size: tuple[int, ...],
    channels: int,
    depth: str | None,
    bands: Iterable[Band],
    has_alpha: bool,
    said: Said,
    packed: bool = True,
) -> None:
    """Writes a picture of ``size`` (height, width), whole or not at all. depth: see ``depth_for``. packed:
    whether an EXR is. Raises ``FileError``."""
    kind, depth = kind_of(path.name), depth_for(path.name, depth)
    if kind.always_says and not said.icc and (said.at is None or not kind.describes(said.at)):
        what = f"has no word for {said.at.label}" if said.at is not None else "a LUT does not tell which"
        raise FileError(
            path.name, f"{kind.name} always says an encoding, and {what}. Write another kind, as PNG or TIFF"
        )
    with_alpha = has_alpha and kind.alpha
    count = channels + with_alpha
    rows = (_channels(band, kind, depth, with_alpha) for band in bands)

    def fill(part: Path) -> None:
        # Closing waits for the thread that makes the next rows: where writing fails, the picture that they
        # are read from is about to be closed.
        with closing(ahead(rows)) as coming:
            if kind.whole:
                _encoded(kind, part, path.name, (*size, count), depth, coming, said)
            else:
                _by_rows(part, path.name, _spec(kind, (*size, count), depth, said, packed), coming)

    whole(path, fill)


def _by_rows(part: Path, name: str, spec: "oiio.ImageSpec", rows: Iterable[_Rows]) -> None:
    """Has a picture written by OpenImageIO, rows by rows."""
    target = oiio.ImageOutput.create(str(part))
    if target is None or not target.open(str(part), spec):
        raise FileError(name, f"cannot be written ({_why(target)})")
    good = True
    for first, pixels in rows:
        good = good and target.write_scanlines(spec.y + first, spec.y + first + len(pixels), 0, pixels)
    if not good or not target.close():
        raise FileError(name, f"cannot be written ({_why(target)})")


def _why(target: "oiio.ImageOutput | None") -> str:
    text = target.geterror() if target is not None else oiio.geterror()
    return " ".join(str(text).split()).rpartition(": ")[2][:120] or "no reason given"


def _channels(band: Band, kind: WrittenKind, depth: str, with_alpha: bool) -> _Rows:
    """The first row of a band, and its channels as they are written; EXR holds colours multiplied by
    alpha."""
    multiplied = kind.name == "EXR"
    rgb = band.rgb
    if with_alpha and band.alpha is not None:
        # Light without alpha is added to what lies behind: no alpha takes it away.
        share = band.alpha if band.glows is None else np.where(band.glows, 1.0, band.alpha).astype(np.float32)
        rgb = np.concatenate([rgb * share[..., None] if multiplied else rgb, band.alpha[..., None]], axis=-1)
    if depth == "half":
        return band.row, halves(rgb, -HALF_MOST, HALF_MOST).view(np.float16)
    if depth != "float":
        rgb = np.clip(rgb, 0, 1)
    if depth in _BITS:
        # OpenImageIO cuts the lower bits of 16 off, where the nearest code is wanted.
        most = np.float32(2 ** _BITS[depth] - 1)
        rgb = np.rint(rgb * most) / most
    return band.row, np.ascontiguousarray(rgb, dtype=np.float32)


def _spec(kind: WrittenKind, size: tuple[int, ...], depth: str, said: Said, packed: bool) -> "oiio.ImageSpec":
    bits = _BITS.get(depth)
    spec = oiio.ImageSpec(size[1], size[0], size[2], "uint16" if bits else depth)
    if bits:
        spec.attribute("oiio:BitsPerSample", bits)
    window = said.window
    if window is not None and kind.name == "EXR":
        spec.x, spec.y, spec.full_x, spec.full_y = window.x, window.y, window.left, window.top
        spec.full_width, spec.full_height = window.width, window.height
    if kind.name != "EXR":
        spec.attribute("oiio:UnassociatedAlpha", 1)
    for key, value in said.tags:
        spec.attribute(key, value)
    if said.icc:
        _embed(spec, said.icc)
    elif said.at is not None:
        _say_encoding(spec, said.at, kind)
    if kind.name == "EXR":
        spec.attribute("compression", "zip" if packed else "none")
    elif kind.compression:
        spec.attribute("compression", kind.compression)
    if kind.name == "PNG" and depth == "uint16":
        # The lower half of a 16-bit code is as good as noise: more effort takes twice the time and saves half
        # a per cent.
        spec.attribute("png:compressionLevel", 2)
    return spec


def _embed(spec: "oiio.ImageSpec", icc: bytes) -> None:
    spec.attribute("ICCProfile", oiio.TypeDesc(f"uint8[{len(icc)}]"), np.frombuffer(icc, dtype=np.uint8))


def _say_encoding(spec: "oiio.ImageSpec", at: Encoding, kind: WrittenKind) -> None:
    if at.key in INTEROP:
        spec.attribute("oiio:ColorSpace", INTEROP[at.key])
    spec.attribute(OWN_TAG, at.key)
    by_codes = "codes" in kind.says and at.key in CICP
    if by_codes:
        primaries, transfer, *rest = CICP[at.key]
        if kind.name == "JPEG XL" and transfer == BT2020_TEN:
            transfer = BT709
        spec.attribute("CICP", oiio.TypeDesc("int[4]"), (primaries, transfer, *rest))
    # A JPEG XL says one of the two.
    if "profile" in kind.says and not (by_codes and kind.name == "JPEG XL") and (described := profile(at)):
        _embed(spec, described)
    if kind.name == "EXR":
        p = at.primaries
        spec.attribute("chromaticities", oiio.TypeDesc("float[8]"), (*p.red, *p.green, *p.blue, *p.white))


def _encoded(
    kind: WrittenKind,
    part: Path,
    name: str,
    size: tuple[int, ...],
    depth: str,
    rows: Iterable[_Rows],
    said: Said,
) -> None:
    """Has a picture written by the library of its kind."""
    bits = _BITS.get(depth, 8)
    codes: NDArray[np.uint16] = np.empty(size, np.uint16)
    for first, pixels in rows:
        codes[first : first + len(pixels)] = np.rint(pixels * np.float32(2**bits - 1))
    encode: Callable[[NDArray[np.uint16], int, Encoding | None, bytes], bytes] = ENCODERS[kind.name]
    try:
        part.write_bytes(encode(codes, bits, said.at, said.icc))
    except (ValueError, RuntimeError) as error:
        raise FileError(name, f"cannot be written ({' '.join(str(error).split())[:120]})") from None
