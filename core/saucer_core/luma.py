"""Luma: the weights of ITU-R BT.709-6, item 3.2, which ASC CDL 1.2 uses for its saturation too."""

import numpy as np

from .kernels import inlined

RED = 0.2126
GREEN = 0.7152
BLUE = 0.0722
LUMA = np.array([RED, GREEN, BLUE])
LUMA32 = LUMA.astype(np.float32)
_RED, _GREEN, _BLUE = LUMA32


@inlined
def luma(r, g, b):  # type: ignore[no-untyped-def]
    """Luma of three float32 code values."""
    return _RED * r + _GREEN * g + _BLUE * b
