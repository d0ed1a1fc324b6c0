"""Common LUT Format: SMPTE ST 2136-1:2024 (Academy S-2014-006, version 3)."""

from .reading import read, read_text
from .writing import exact_text, write_text

SUFFIX = ".clf"

__all__ = ["SUFFIX", "exact_text", "read", "read_text", "write_text"]
