"""How far apart two colours look.

ΔE2000: ISO/CIE 11664-6:2014, as written out in G. Sharma, W. Wu and E. N. Dalal, "The CIEDE2000
color-difference formula: implementation notes, supplementary test data, and mathematical observations", Color
Research and Application 30 (2005). ΔE ITP: ITU-R BT.2124-0, annex 1, for pictures brighter than a standard
display.
"""

import math
from functools import lru_cache

import numpy as np

from .arrays import F32, F64, colours, in_pieces
from .encodings import Encoding
from .encodings.hdr import HLG, PQ, UNIT, hlg_display
from .encodings.primaries import BT2020, D65, Primaries, adaptation, between, to_xyz, xyz
from .kernels import kernel
from .operations import Decode, apply

_POW7 = 25.0**7


@kernel("void(float64[:, ::1], float64[:, ::1], float64[::1])")
def _ciede2000(first: F64, second: F64, out: F64) -> None:
    for i in range(out.size):
        l1, a1, b1 = first[i, 0], first[i, 1], first[i, 2]
        l2, a2, b2 = second[i, 0], second[i, 1], second[i, 2]
        c7 = ((math.hypot(a1, b1) + math.hypot(a2, b2)) / 2) ** 7
        g = 0.5 * (1 - math.sqrt(c7 / (c7 + _POW7)))
        a1, a2 = a1 * (1 + g), a2 * (1 + g)
        c1, c2 = math.hypot(a1, b1), math.hypot(a2, b2)
        h1 = math.degrees(math.atan2(b1, a1)) % 360 if c1 > 0 else 0.0
        h2 = math.degrees(math.atan2(b2, a2)) % 360 if c2 > 0 else 0.0
        dl, dc = l2 - l1, c2 - c1
        grey = c1 * c2 == 0
        turn = h2 - h1
        if turn > 180:
            turn -= 360
        elif turn < -180:
            turn += 360
        dh = 0.0 if grey else 2 * math.sqrt(c1 * c2) * math.sin(math.radians(turn) / 2)
        light, chroma = (l1 + l2) / 2, (c1 + c2) / 2
        if grey:
            hue = h1 + h2
        elif abs(h1 - h2) <= 180:
            hue = (h1 + h2) / 2
        elif h1 + h2 < 360:
            hue = (h1 + h2 + 360) / 2
        else:
            hue = (h1 + h2 - 360) / 2
        t = (
            1
            - 0.17 * math.cos(math.radians(hue - 30))
            + 0.24 * math.cos(math.radians(2 * hue))
            + 0.32 * math.cos(math.radians(3 * hue + 6))
            - 0.20 * math.cos(math.radians(4 * hue - 63))
        )
        c7 = chroma**7
        rc = 2 * math.sqrt(c7 / (c7 + _POW7))
        off = (light - 50) ** 2
        sl = 1 + 0.015 * off / math.sqrt(20 + off)
        sc, sh = 1 + 0.045 * chroma, 1 + 0.015 * chroma * t
        rt = -math.sin(math.radians(60 * math.exp(-(((hue - 275) / 25) ** 2)))) * rc
        x, y, z = dl / sl, dc / sc, dh / sh
        out[i] = math.sqrt(max(x * x + y * y + z * z + rt * y * z, 0.0))


def ciede2000(first: F64, second: F64) -> F64:
    """ΔE2000 of CIELAB colours ``(n, 3)``, ``(n,)``."""
    a, b = (np.ascontiguousarray(x, dtype=np.float64).reshape(-1, 3) for x in (first, second))
    out = np.empty(len(a))
    in_pieces(lambda i, j: _ciede2000(a[i:j], b[i:j], out[i:j]), len(a), 4096)
    return out


@lru_cache(maxsize=64)
def _relative(primaries: Primaries) -> F64:
    """3×3 from linear RGB to XYZ under D65, each divided by that of the white."""
    matrix: F64 = (adaptation(primaries.white, D65) @ to_xyz(primaries)) / xyz(D65)[:, None]
    return matrix


def cielab(rgb: F32, at: Encoding) -> F64:
    """CIELAB under D65 of code values ``(..., 3)``, white of the display at L* = 100. CIE 15:2018, 8.2.1;
    float64 ``(n, 3)``."""
    light = apply([Decode(at.transfer)], rgb).reshape(-1, 3).astype(np.float64)
    found = light @ _relative(at.primaries).T
    edge = (6 / 29) ** 3
    f = np.where(found > edge, np.cbrt(found), found / (3 * (6 / 29) ** 2) + 4 / 29)
    return np.stack([116 * f[:, 1] - 16, 500 * (f[:, 0] - f[:, 1]), 200 * (f[:, 1] - f[:, 2])], axis=1)


#: BT.2100-2, table 7: from BT.2020 light to LMS, and from PQ-coded LMS to ICtCp.
_LMS = np.array([[1688, 2146, 262], [683, 2951, 462], [99, 309, 3688]]) / 4096
_ICTCP = np.array([[2048, 2048, 0], [6610, -13613, 7003], [17933, -17390, -543]]) / 4096


def itp(rgb: F32, at: Encoding) -> F64:
    """ITP of code values ``(..., 3)`` (BT.2124-0): I, half of Ct, Cp. float64 ``(n, 3)``.

    It is measured on the light of the display: HLG is shown at 1,000 cd/m² first, as BT.2124-0 asks.
    """
    light = apply([Decode(at.transfer)], rgb).reshape(-1, 3).astype(np.float64)
    light = light @ between(at.primaries, BT2020).T
    if at.transfer == HLG:
        light = hlg_display(light)
    lms = light @ _LMS.T
    coded = PQ.encode(np.clip(lms, 0, 10_000 / UNIT).astype(np.float32)).astype(np.float64)
    found: F64 = coded @ _ICTCP.T * [1.0, 0.5, 1.0]
    return found


def delta_e_itp(first: F64, second: F64) -> F64:
    """ΔE ITP of ITP colours ``(n, 3)``; 1 is about a just noticeable difference."""
    found: F64 = 720 * np.sqrt(((first - second) ** 2).sum(axis=-1))
    return found


def metric_of(at: Encoding) -> str:
    """Which difference fits an encoding: ``ΔE ITP`` for PQ and HLG, else ``ΔE2000``."""
    return "ΔE ITP" if at.hdr else "ΔE2000"


def difference(first: F32, second: F32, at: Encoding) -> F64:
    """How far apart colours ``(..., 3)`` of one encoding look, ``(n,)``, by the metric that fits it."""
    a, b = colours(first), colours(second)
    if metric_of(at) == "ΔE ITP":
        return delta_e_itp(itp(a, at), itp(b, at))
    return ciede2000(cielab(a, at), cielab(b, at))
