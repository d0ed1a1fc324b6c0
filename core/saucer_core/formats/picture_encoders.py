"""HEIF and AVIF pictures, through the libraries that encode them."""

import io
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from ..encodings import Encoding
from .declared import CICP
from .icc import profile

#: How little is lost, of 100: codes of 10 bit within 13 of 1,023 in steep small ramps, 1 on the whole.
QUALITY = 95
#: Not said (ITU-T H.273, tables 2 and 3).
_UNSAID = (2, 2)


def _codes_of(at: Encoding | None) -> tuple[int, int, int]:
    """Primaries, transfer and matrix (ITU-T H.273) of colours in an encoding."""
    primaries, transfer = CICP[at.key][:2] if at is not None and at.key in CICP else _UNSAID
    return primaries, transfer, 9 if primaries == 9 else 1


def _heif(codes: NDArray[np.uint16], bits: int, at: Encoding | None, icc: bytes) -> bytes:
    # Every process of Saucer imports this module; few ever write such a file.
    import pillow_heif

    high, wide, channels = codes.shape
    mode = "RGBA" if channels == 4 else "RGB"
    if bits == 8:
        picture = pillow_heif.from_bytes(mode, (wide, high), codes.astype(np.uint8).tobytes())
    else:
        # It takes codes in the upper bits.
        picture = pillow_heif.from_bytes(f"{mode};16", (wide, high), (codes << (16 - bits)).tobytes())
    primaries, transfer, matrix = _codes_of(None if icc else at)
    described = icc or (profile(at) if at is not None and primaries == _UNSAID[0] else b"")
    if described:
        picture.info["icc_profile"] = described
    out = io.BytesIO()
    picture.save(
        out,
        quality=QUALITY,
        chroma=444,
        color_primaries=primaries,
        transfer_characteristics=transfer,
        matrix_coefficients=matrix,
        full_range_flag=1,
    )
    return out.getvalue()


def _avif(codes: NDArray[np.uint16], bits: int, at: Encoding | None, icc: bytes) -> bytes:
    # Every process of Saucer imports this module; few ever write such a file.
    import imagecodecs

    primaries, transfer, matrix = _codes_of(at)
    found = imagecodecs.avif_encode(
        codes.astype(np.uint8) if bits == 8 else codes,
        level=QUALITY,
        bitspersample=bits,
        pixelformat="444",
        primaries=primaries,
        transfer=transfer,
        matrix=matrix,
    )
    return bytes(found)


#: By the kinds that they write. They take codes ``(height, width, 3 or 4)``, their bits, the encoding of the
#: colours and a colour profile, and give the file.
ENCODERS: dict[str, Callable[[NDArray[np.uint16], int, Encoding | None, bytes], bytes]] = {
    "HEIF": _heif,
    "AVIF": _avif,
}
