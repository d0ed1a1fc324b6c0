"""ICC profiles of display encodings, for pictures that carry one.

Matrix and curves for a display: ICC.1:2022 (profile version 4.4), sections 8.4.3 (three-component
matrix-based display profiles), 9.2 (tags) and 10.6, 10.15, 10.31 (curveType, multiLocalizedUnicodeType,
XYZType). The profile connection space is D50 (section 6.3.1, and annex E for the Bradford adaptation to it).
"""

import struct
from functools import lru_cache

import numpy as np

from ..arrays import F64
from ..encodings import ENCODINGS, Encoding
from ..encodings.power import Power
from ..encodings.primaries import adaptation, to_xyz
from ..encodings.toed import SRGB

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
    """A curve from code to light: a formula (parametricCurveType, 10.18) where there is one, else a table."""
    t = e.transfer
    if isinstance(t, Power):
        return b"para" + struct.pack(">4xH2x", 0) + _fixed(np.array([t.gamma]))
    if e.transfer == SRGB:
        # IEC 61966-2-1:1999, 5.2, as function type 3.
        return (
            b"para"
            + struct.pack(">4xH2x", 3)
            + _fixed(np.array([2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045]))
        )
    light = np.clip(e.decode(np.linspace(0, 1, POINTS, dtype=np.float32)), 0, 1)
    return b"curv" + struct.pack(">4xI", POINTS) + np.round(light * 65535).astype(">u2").tobytes()


@lru_cache(maxsize=32)
def profile(e: Encoding) -> bytes:
    """The profile of an encoding; empty for one that no matrix and curves describe: light, logarithms, PQ and
    HLG."""
    if e.response != "display":
        return b""
    to_d50 = adaptation(e.primaries.white, _D50_XY, "bradford")
    columns = (to_d50 @ to_xyz(e.primaries)).T
    curve = _curve(e)
    tags = [
        (b"desc", _text(e.label)),
        (b"cprt", _text("free to use and to pass on")),
        (b"wtpt", b"XYZ \0\0\0\0" + _fixed(np.array(D50))),
        (b"chad", b"sf32\0\0\0\0" + _fixed(to_d50)),
        *(
            (name, b"XYZ \0\0\0\0" + _fixed(column))
            for name, column in zip((b"rXYZ", b"gXYZ", b"bXYZ"), columns, strict=True)
        ),
        (b"rTRC", curve),
        (b"gTRC", curve),
        (b"bTRC", curve),
    ]
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
        start + len(data),
        b"\0" * 4,
        0x04400000,
        b"mntr",
        b"RGB ",
        b"XYZ ",
        2026,
        1,
        1,
        0,
        0,
        0,
        b"acsp",
        b"\0" * 4,
        0,
        b"\0" * 4,
        b"\0" * 4,
        0,
        0,
        *d50,
        b"\0" * 4,
        b"\0" * 16,
        b"\0" * 28,
    )
    return header + table + data


#: Places at which a curve is compared, and how near matrix and curve must lie to those of an encoding, in
#: light.
_PLACES = np.linspace(0, 1, 65)
#: How near a matrix must lie to that of an encoding, in linear light.
_NEAR_MATRIX = 4e-3
#: How near a curve must lie to that of an encoding, in linear light.
_NEAR_CURVE = 2.5e-3
#: Codes of ITU-T H.273 (primaries, transfer) that a profile may carry (ICC.1:2022, 9.2.17), and the encodings
#: they mean.
_CICP = {(9, 16): "pq", (9, 18): "hlg"}


def _tags(data: bytes) -> dict[bytes, bytes]:
    if len(data) < 132:
        return {}
    (count,) = struct.unpack_from(">I", data, 128)
    found = {}
    for k in range(min(count, 200)):
        if 132 + 12 * (k + 1) > len(data):
            break
        name, start, size = struct.unpack_from(">4sII", data, 132 + 12 * k)
        found[name] = data[start : start + size]
    return found


def space_of(data: bytes) -> str:
    """What a profile's colours are made of, in lower case: ``rgb``, ``cmyk``, ``gray`` or another; empty
    where it is no profile (ICC.1:2022, 7.2.8)."""
    return data[16:20].decode("ascii", "replace").strip().lower() if data[36:40] == b"acsp" else ""


def title(data: bytes) -> str:
    """What a profile calls itself (ICC.1:2022, 10.15; textDescriptionType of ICC.1:2001-04, 6.5.17)."""
    text = _tags(data).get(b"desc", b"")
    words = ""
    if text[:4] == b"mluc" and len(text) >= 28:
        size, start = struct.unpack_from(">II", text, 20)
        words = text[start : start + min(size, 200)].decode("utf-16-be", "replace")
    elif text[:4] == b"desc" and len(text) >= 12:
        (size,) = struct.unpack_from(">I", text, 8)
        words = text[12 : 12 + min(size, 200)].decode("ascii", "replace")
    words = " ".join(words.replace("\0", " ").split())
    return "".join(c for c in words if c.isprintable()) or "without a name"


def _light(data: bytes) -> F64 | None:
    """A curve of a profile at ``_PLACES``; ``None`` where it is damaged or of a kind that no matrix profile
    has."""
    x = _PLACES
    if data[:4] == b"curv" and len(data) >= 12:
        (count,) = struct.unpack_from(">I", data, 8)
        if count == 0:
            return x
        values = np.frombuffer(data[12 : 12 + 2 * count], ">u2").astype(np.float64)
        if len(values) != count:
            return None
        found: F64 = (
            x ** (values[0] / 256) if count == 1 else np.interp(x, np.linspace(0, 1, count), values / 65535)
        )
        return found
    if data[:4] == b"para" and len(data) >= 16:
        (kind,) = struct.unpack_from(">H", data, 8)
        v = np.frombuffer(data[12 : 12 + (len(data) - 12) // 4 * 4], ">i4").astype(np.float64) / 65536
        if kind > 4 or len(v) < (1, 3, 4, 5, 7)[kind]:
            return None
        g, a, b, c, d, e, f = (*v, *[0.0] * 7)[:7] if kind else (v[0], 1.0, 0.0, 0.0, 0.0, 0.0, 0.0)
        high = np.maximum(a * x + b, 0.0) ** g
        if kind in (1, 2):
            edge = -b / a if a else 0.0
            high = np.where(x >= edge, high, 0.0) + (c if kind == 2 else 0.0)
        elif kind > 2:
            high = np.where(x >= d, high + (e if kind == 4 else 0.0), c * x + (f if kind == 4 else 0.0))
        shaped: F64 = high
        return shaped
    return None


def recognised(data: bytes) -> str | None:
    """The key of the encoding that a profile describes by matrix and curves, or by code points; ``None`` for
    any other."""
    tags = _tags(data)
    codes = tags.get(b"cicp", b"")
    if len(codes) >= 12 and (codes[8], codes[9]) in _CICP:
        return _CICP[codes[8], codes[9]]
    try:
        columns = np.stack(
            [np.frombuffer(tags[k][8:20], ">i4") / 65536 for k in (b"rXYZ", b"gXYZ", b"bXYZ")], axis=1
        )
        curves = [_light(tags[k]) for k in (b"rTRC", b"gTRC", b"bTRC")]
    except (KeyError, ValueError):
        return None
    if columns.shape != (3, 3) or any(curve is None for curve in curves):
        return None
    best, nearest = None, _NEAR_CURVE
    for e in ENCODINGS.values():
        if e.response != "display" or e.referred != "display":
            continue
        wanted = adaptation(e.primaries.white, _D50_XY, "bradford") @ to_xyz(e.primaries)
        if np.abs(columns - wanted).max() > _NEAR_MATRIX:
            continue
        off = max(
            float(np.abs(curve - e.decode(_PLACES.astype(np.float32))).mean())
            for curve in curves
            if curve is not None
        )
        if off < nearest:
            best, nearest = e.key, off
    return best
