"""Encodings: primaries, transfer functions, and the ways between them."""

from .camera import CameraEncoding
from .registry import ENCODINGS, Encoding, EncodingKey, camera_encoding, conversion, convert, define, definition, encoding
from .rendering import HOUSE, ToneScale, meet, meeting

__all__ = [
    "ENCODINGS", "HOUSE", "CameraEncoding", "Encoding", "EncodingKey", "ToneScale", "camera_encoding", "conversion", "convert", "define",
    "definition", "encoding", "meet", "meeting",
]  # fmt: skip
