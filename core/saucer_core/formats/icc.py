"""ICC profiles of display encodings, for pictures that carry one.

Matrix and curves for a display: ICC.1:2022 (profile version 4.4), sections 8.4.3 (three-component matrix-based display profiles),
9.2 (tags) and 10.6, 10.15, 10.31 (curveType, multiLocalizedUnicodeType, XYZType). The profile connection space is D50 (section 6.3.1, and
annex E for the Bradford adaptation to it).
"""

import struct
from functools import lru_cache

import numpy as np

from ..encodings import Encoding
from ..encodings.primaries import adaptation, to_xyz

#: The white of the profile connection space, XYZ and xy (ICC.1:2022, 7.2.16).
D50 = (0.9642, 1.0, 0.8249)
_D50_XY = (D50[0] / sum(D50), D50[1] / sum(D50))
#: Points of a curve: enough for 16 bits, read with linear interpolation.
POINTS = 4096
_HEADER = struct.Struct(">I4sI4s4s4s6H4s4sI4s4sQI3i4s16s28s")


def _fixed(values: "np.ndarray") -> bytes:
    """Numbers as s15Fixed16."""
    return np.round(np.asarray(values, np.float64).ravel() * 65536).astype(">i4").tobytes()


def _text(words: str) -> bytes:
    data = words.encode("utf-16-be")
    return b"mluc" + struct.pack(">4xII2s2sII", 1, 12, b"en", b"GB", len(data), 28) + data


def _curve(e: Encoding) -> bytes:
    light = np.clip(e.decode(np.linspace(0, 1, POINTS, dtype=np.float32)), 0, 1)
    return b"curv" + struct.pack(">4xI", POINTS) + np.round(light * 65535).astype(">u2").tobytes()


@lru_cache(maxsize=32)
def profile(e: Encoding) -> bytes:
    """The profile of an encoding; empty for one that no matrix and curves describe: light, logarithms, PQ and HLG."""
    if e.response != "display":
        return b""
    to_d50 = adaptation(e.primaries.white, _D50_XY, "bradford")
    columns = (to_d50 @ to_xyz(e.primaries)).T
    curve = _curve(e)
    tags = [
        (b"desc", _text(e.label)), (b"cprt", _text("free to use and to pass on")), (b"wtpt", b"XYZ \0\0\0\0" + _fixed(np.array(D50))),
        (b"chad", b"sf32\0\0\0\0" + _fixed(to_d50)),
        *((name, b"XYZ \0\0\0\0" + _fixed(column)) for name, column in zip((b"rXYZ", b"gXYZ", b"bXYZ"), columns, strict=True)),
        (b"rTRC", curve), (b"gTRC", curve), (b"bTRC", curve),
    ]  # fmt: skip
    return _assembled(tags)


def _assembled(tags: list[tuple[bytes, bytes]]) -> bytes:
    """Header, table of tags, and their data, each once and on a place that four divides."""
    start = 128 + 4 + 12 * len(tags)
    table, data, places = struct.pack(">I", len(tags)), b"", dict[bytes, int]()
    for name, value in tags:
        if value not in places:
            places[value] = start + len(data)
            data += value + b"\0" * (-len(value) % 4)
        table += struct.pack(">4sII", name, places[value], len(value))
    d50 = np.frombuffer(_fixed(np.array(D50)), ">i4").tolist()
    header = _HEADER.pack(
        start + len(data), b"\0" * 4, 0x04400000, b"mntr", b"RGB ", b"XYZ ", 2026, 1, 1, 0, 0, 0, b"acsp", b"\0" * 4, 0,
        b"\0" * 4, b"\0" * 4, 0, 0, *d50, b"\0" * 4, b"\0" * 16, b"\0" * 28,
    )  # fmt: skip
    return header + table + data
