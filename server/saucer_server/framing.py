"""Binary answers, as the viewer takes them apart (``web/src/viewer/framing.ts``)."""

import struct

import numpy as np
from numpy.typing import NDArray
from saucer_core.arrays import F32
from saucer_core.halves import halves


def headed(head: str, *bodies: bytes) -> bytes:
    """A JSON head and bytes behind it: uint32 length of the head, padded with spaces to 4 bytes, the head, the bodies."""
    text = head.encode()
    text += b" " * (-len(text) % 4)
    return b"".join([struct.pack("<I", len(text)), text, *bodies])


def half_floats(rgb: F32) -> bytes:
    """A picture: two little-endian uint32 (width, height), then half-float RGB, rows from the top."""
    return struct.pack("<II", rgb.shape[1], rgb.shape[0]) + halves(rgb, -4, 4).astype("<u2", copy=False).tobytes()


def flags(mask: NDArray[np.uint8]) -> bytes:
    """A mask: two little-endian uint32 (width, height), then a byte a pixel."""
    return struct.pack("<II", mask.shape[1], mask.shape[0]) + mask.tobytes()
