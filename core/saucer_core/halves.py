"""Colours packed as half-floats, for screens that draw them."""

import numpy as np
from numpy.typing import NDArray

from .arrays import F32, in_pieces
from .elementary import bits_of, float_of
from .kernels import kernel

#: Numbers that one piece packs: fewer are not worth a thread.
PIECE = 131072

# IEEE 754-2008, 3.6: binary16 has 10 bits of fraction and a bias of 15, binary32 has 23 and 127.
_DROPPED = np.int32(23 - 10)
_REBIAS = np.int32((127 - 15) << 10)
_SIGN = np.int32(-0x80000000)
#: Half of the last place that is kept, less one: added before rounding to even.
_HALF_LESS_ONE = np.int32((1 << 12) - 1)
_ONE = np.int32(1)
#: Bits of a binary16.
_SIXTEEN = np.int32(16)
#: The least number with a full fraction in binary16.
_LEAST_NORMAL = np.float32(2.0**-14)
#: What moves a float32 so that its last place is 2⁻²⁴.
_MOVED = np.float32(0.5)


@kernel("void(float32[::1], uint16[::1], float32, float32)")
def _pack(values: F32, out: NDArray[np.uint16], low: np.float32, high: np.float32) -> None:
    for i in range(values.size):
        x = min(max(values[i], low), high)
        bits = bits_of(x)
        sign = (bits & _SIGN) >> _SIXTEEN
        size = bits & ~_SIGN
        # Round to nearest, ties to even: add half a unit of the last kept place (one less where that place is
        # even), then drop the rest.
        normal = ((size + _HALF_LESS_ONE + ((size >> _DROPPED) & _ONE)) >> _DROPPED) - _REBIAS
        small = bits_of(float_of(size) + _MOVED) - bits_of(_MOVED)
        packed = normal if abs(x) >= _LEAST_NORMAL else small
        out[i] = np.uint16((packed | sign) & np.int32(0xFFFF))


def halves(rgb: F32, low: float, high: float) -> NDArray[np.uint16]:
    """The bits of float32 colours of any shape as IEEE 754 half-floats, rounded to nearest, ties to even;
    same shape.

    Values are held within ``low`` and ``high``, which must lie within ±65504.
    """
    flat = np.ascontiguousarray(rgb, dtype=np.float32).reshape(-1)
    out = np.empty(flat.shape, dtype=np.uint16)
    ends = np.float32(low), np.float32(high)
    in_pieces(lambda a, b: _pack(flat[a:b], out[a:b], *ends), len(flat), PIECE)
    return out.reshape(rgb.shape)
