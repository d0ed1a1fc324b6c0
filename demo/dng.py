"""Writes a camera raw as DNG (Digital Negative Specification 1.4): one strip of an RGGB mosaic."""

import struct
from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

#: Kinds of TIFF values: how each is packed (TIFF 6.0, section 2).
_BYTE, _ASCII, _SHORT, _LONG, _RATIONAL, _SRATIONAL = 1, 2, 3, 4, 5, 10
_PACKED = {_BYTE: "B", _SHORT: "H", _LONG: "I"}
#: CIE standard illuminant D65 (Exif 2.32, tag LightSource).
_D65 = 21
#: A colour-filter array as PhotometricInterpretation (TIFF/EP).
_CFA = 32803


def mosaic(rgb: NDArray[np.floating]) -> NDArray[np.floating]:
    """What a sensor with red, green / green, blue filters sees of ``(height, width, 3)``: ``(height,
    width)``."""
    seen = np.array(rgb[..., 1])
    seen[0::2, 0::2] = rgb[0::2, 0::2, 0]
    seen[1::2, 1::2] = rgb[1::2, 1::2, 2]
    return seen


def _packed(kind: int, values: tuple[float, ...] | str) -> tuple[int, bytes]:
    """How many values there are, and their bytes."""
    if isinstance(values, str):
        data = values.encode("ascii") + b"\0"
        return len(data), data
    if kind in _PACKED:
        return len(values), struct.pack(f"<{len(values)}{_PACKED[kind]}", *values)
    parts = [Fraction(v).limit_denominator(100_000) for v in values]
    flat = [n for p in parts for n in (p.numerator, p.denominator)]
    return len(values), struct.pack(f"<{len(flat)}{'i' if kind == _SRATIONAL else 'I'}", *flat)


def write(
    path: Path,
    codes: NDArray[np.uint16],
    *,
    black: int,
    white: int,
    matrix: NDArray[np.floating],
    neutral: tuple[float, float, float],
    orientation: int = 1,
) -> None:
    """Writes codes of a sensor.

    codes: uint16 ``(height, width)``, RGGB. black, white: the codes of no light and of a full sensor. matrix:
    3 × 3, from XYZ to the camera's own channels, for D65. neutral: what the camera takes for grey, in its own
    channels. orientation: see Exif 2.32, tag 274.
    """
    high, wide = codes.shape
    tags: list[tuple[int, int, tuple[float, ...] | str]] = [
        (254, _LONG, (0,)),
        (256, _LONG, (wide,)),
        (257, _LONG, (high,)),
        (258, _SHORT, (16,)),
        (259, _SHORT, (1,)),
        (262, _SHORT, (_CFA,)),
        (271, _ASCII, "made by a script"),
        (272, _ASCII, "made by a script"),
        (273, _LONG, (0,)),
        (274, _SHORT, (orientation,)),
        (277, _SHORT, (1,)),
        (278, _LONG, (high,)),
        (279, _LONG, (codes.nbytes,)),
        (284, _SHORT, (1,)),
        (33421, _SHORT, (2, 2)),
        (33422, _BYTE, (0, 1, 1, 2)),
        (50706, _BYTE, (1, 4, 0, 0)),
        (50707, _BYTE, (1, 1, 0, 0)),
        (50708, _ASCII, "made by a script"),
        (50714, _LONG, (black,)),
        (50717, _LONG, (white,)),
        (50721, _SRATIONAL, tuple(float(v) for v in np.asarray(matrix).ravel())),
        (50728, _RATIONAL, neutral),
        (50778, _SHORT, (_D65,)),
    ]
    start = 8
    directory_size = 2 + 12 * len(tags) + 4
    extra, at = b"", start + directory_size
    rows: list[tuple[int, int, int, bytes]] = []
    for tag, kind, values in tags:
        count, data = _packed(kind, values)
        if len(data) > 4:
            extra += b"\0" * (len(extra) % 2)
            place = struct.pack("<I", at + len(extra))
            extra += data
        else:
            place = data.ljust(4, b"\0")
        rows.append((tag, kind, count, place))
    pixels = at + len(extra) + len(extra) % 2
    directory = struct.pack("<H", len(rows))
    for tag, kind, count, place in rows:
        directory += struct.pack("<HHI", tag, kind, count)
        directory += struct.pack("<I", pixels) if tag == 273 else place
    head = b"II*\0" + struct.pack("<I", start) + directory + b"\0\0\0\0" + extra + b"\0" * (len(extra) % 2)
    path.write_bytes(head + codes.astype("<u2").tobytes())
