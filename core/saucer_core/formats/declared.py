"""The encoding that a picture file declares: by its own tags, code points, a colour profile, or the
chromaticities of its primaries."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from ..encodings import ENCODINGS, encoding
from ..encodings.primaries import AP0, AP1, BT709, BT2020, P3_D65, Primaries
from ..errors import CoreError
from . import icc

#: What a picture's header says, by name: each format has its own names and kinds of value.
Tags = dict[str, Any]
#: Name of the tag in which Saucer says an encoding that no standard tag has.
OWN_TAG = "saucer:encoding"
#: Identifiers of encodings that files carry (Color Interop Forum, "Color Space Encodings for Texture Assets
#: and CG Rendering", and OpenImageIO 3), where there is one.
INTEROP = {
    "srgb": "srgb_rec709_display",
    "display_p3": "srgb_p3d65_display",
    "bt709_display": "g24_rec709_display",
    "bt2020_display": "g24_rec2020_display",
    "pq": "pq_rec2020_display",
    "hlg": "hlg_rec2020_display",
    "gamma_22": "g22_rec709_display",
    "linear_709": "lin_rec709_scene",
    "linear_p3": "lin_p3d65_scene",
    "linear_2020": "lin_rec2020_scene",
    "aces2065_1": "lin_ap0_scene",
    "acescg": "lin_ap1_scene",
    "acescc": "acescc_ap1_scene",
    "acescct": "acescct_ap1_scene",
}
#: ITU-T H.273 codes (primaries, transfer, matrix, full range) that a PNG carries.
CICP = {
    "srgb": (1, 13, 0, 1),
    "display_p3": (12, 13, 0, 1),
    "bt709_display": (1, 1, 0, 1),
    "bt2020_display": (9, 14, 0, 1),
    "pq": (9, 16, 0, 1),
    "hlg": (9, 18, 0, 1),
    "linear_709": (1, 8, 0, 1),
    "linear_p3": (12, 8, 0, 1),
    "linear_2020": (9, 8, 0, 1),
}
_BY_INTEROP = {name: key for key, name in INTEROP.items()}
#: The same by primaries and transfer alone; BT.2020's own transfer codes mean its display here, as BT.709's
#: do.
_BY_CICP = {code[:2]: key for key, code in CICP.items()} | {
    (9, 1): "bt2020_display",
    (9, 15): "bt2020_display",
}
#: Light in these primaries is what an EXR file holds that says no more (OpenEXR, "Technical Introduction",
#: chromaticities).
_LINEAR: dict[str, Primaries] = {
    "linear_709": BT709,
    "linear_p3": P3_D65,
    "linear_2020": BT2020,
    "aces2065_1": AP0,
    "acescg": AP1,
}
#: Chromaticities are the same within this: files write them with three or four digits.
_NEAR = 2e-3
#: Value of ColorSpace for sRGB (Exif 2.32, A.3).
_EXIF_SRGB = 1
#: Interoperability index of opRGB (Exif 2.32, A.3).
_EXIF_OPRGB = "R03"


#: What kinds of files are taken for that are not sRGB.
_USUAL = {
    "EXR": "linear_709",
    "Radiance HDR": "linear_709",
    "DPX": "film_log",
}


@dataclass(frozen=True)
class Declared:
    """key: of the encoding; by: by what it is declared, in words."""

    key: str
    by: str


#: Kinds of files that hold nothing else ("Cineon digital film image format", 4.5: printing densities).
_BY_KIND = {"Cineon": Declared("film_log", "its kind, which holds densities of film")}


def declared(said: Tags, kind: str, profile: bytes) -> Declared | None:
    """The encoding that a file declares; ``None`` where it says nothing that Saucer knows.

    said: its attributes by name, as OpenImageIO gives them; profile: the bytes of a colour profile in it.
    """
    return (
        _by_name(said, kind)
        or _by_codes(said)
        or _by_profile(profile)
        or _by_primaries(said, kind)
        or _by_exif(said)
        or _BY_KIND.get(kind)
    )


def _by_name(said: Tags, kind: str) -> Declared | None:
    own = said.get(OWN_TAG)
    if isinstance(own, str) and own:
        try:
            return Declared(encoding(own).key, "its tag")
        except CoreError:
            # An encoding of another team, which this one does not have.
            return None
    if said.get("acesImageContainerFlag") == 1:
        return Declared("aces2065_1", "its ACES flag (SMPTE ST 2065-4)")
    key = _BY_INTEROP.get(str(said.get("colorInteropID", ""))) if kind == "EXR" else None
    return Declared(key, "its colour identifier") if key else None


def _by_codes(said: Tags) -> Declared | None:
    codes = said.get("CICP")
    if codes is None:
        return None
    key = _BY_CICP.get((int(codes[0]), int(codes[1])))
    return Declared(key, "its colour codes (ITU-T H.273)") if key else None


def _by_profile(profile: bytes) -> Declared | None:
    key = icc.recognised(profile) if profile else None
    return Declared(key, "its colour profile") if key else None


def _by_primaries(said: Tags, kind: str) -> Declared | None:
    given = said.get("chromaticities")
    if kind != "EXR" or given is None or len(given) != 8:
        return None
    for key, p in _LINEAR.items():
        if (
            np.abs(np.array([*p.red, *p.green, *p.blue, *p.white]) - np.asarray(given, np.float64)).max()
            < _NEAR
        ):
            return Declared(key, "its chromaticities")
    return None


def _by_exif(said: Tags) -> Declared | None:
    if said.get("Exif:ColorSpace") == _EXIF_SRGB:
        return Declared("srgb", "its Exif tag")
    if said.get("Exif:InteroperabilityIndex") == _EXIF_OPRGB:
        return Declared("oprgb", "its Exif tag")
    return None


def usual(kind: str) -> str:
    """The encoding that a kind of file is taken for where nothing says another."""
    return _USUAL.get(kind, ENCODINGS["srgb"].key)
