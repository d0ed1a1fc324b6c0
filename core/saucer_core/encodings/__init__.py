"""Encodings: primaries, transfer functions, and the ways between them."""

from .registry import ENCODINGS, Encoding, EncodingKey, convert, encoding
from .rendering import HOUSE, ToneScale, meet

__all__ = ["ENCODINGS", "HOUSE", "Encoding", "EncodingKey", "ToneScale", "convert", "encoding", "meet"]
