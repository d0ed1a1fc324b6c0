"""Encodings: primaries, transfer functions, and the ways between them."""

from .camera import CameraEncoding
from .registry import (
    ENCODINGS,
    SDR_WHITE,
    Encoding,
    EncodingKey,
    SdrWhite,
    camera_encoding,
    conversion,
    convert,
    define,
    definition,
    encoding,
    light_between,
)
from .rendering import HOUSE, ToneScale, meet, meeting

__all__ = [
    "ENCODINGS",
    "HOUSE",
    "SDR_WHITE",
    "CameraEncoding",
    "Encoding",
    "EncodingKey",
    "SdrWhite",
    "ToneScale",
    "camera_encoding",
    "conversion",
    "convert",
    "define",
    "definition",
    "encoding",
    "light_between",
    "meet",
    "meeting",
]
