"""Binary answers: pictures for the screen, and what the viewer takes apart
(``web/src/viewer/framing.ts``)."""

import io
import struct

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from saucer_core.arrays import F32
from saucer_core.halves import halves


def headed(head: str, *bodies: bytes) -> bytes:
    """A JSON head and bytes behind it: uint32 length of the head, padded with spaces to 4 bytes, the head,
    the bodies."""
    text = head.encode()
    text += b" " * (-len(text) % 4)
    return b"".join([struct.pack("<I", len(text)), text, *bodies])


def half_floats(rgb: F32) -> bytes:
    """A picture: two little-endian uint32 (width, height), then half-float RGB, rows from the top."""
    return (
        struct.pack("<II", rgb.shape[1], rgb.shape[0])
        + halves(rgb, -4, 4).astype("<u2", copy=False).tobytes()
    )


def flags(mask: NDArray[np.uint8]) -> bytes:
    """A mask: two little-endian uint32 (width, height), then a byte a pixel."""
    return struct.pack("<II", mask.shape[1], mask.shape[0]) + mask.tobytes()


#: Quality of a JPEG for the screen, where its blocks are not seen.
QUALITY = 92


def jpeg(rgb: F32) -> bytes:
    """A picture for the screen as JPEG, without a disk; values beyond 0–1 are cut."""
    codes = (np.clip(np.nan_to_num(rgb, nan=0.0), 0, 1) * np.float32(255) + np.float32(0.5)).astype(np.uint8)
    return _packed(codes, "JPEG", quality=QUALITY)


def png(codes: NDArray[np.uint8]) -> bytes:
    """RGB or RGBA, uint8, as PNG."""
    return _packed(codes, "PNG")


def _packed(codes: NDArray[np.uint8], kind: str, **how: int) -> bytes:
    out = io.BytesIO()
    Image.fromarray(codes).save(out, kind, **how)
    return out.getvalue()
