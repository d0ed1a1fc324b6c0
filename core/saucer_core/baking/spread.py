"""Colours that tables are fitted to and judged at: spread through the cube, and as ordinary pictures have
them."""

from functools import lru_cache

import numpy as np

from ..arrays import F32
from ..encodings import Encoding, encoding, meet


@lru_cache(maxsize=6)
def spread(count: int, seed: int) -> F32:
    """Colours ``(count, 3)`` of the unit cube, float32: scrambled Sobol points. Shared: do not change it."""
    # Brought in where it is needed: it takes longer to load than everything else here.
    from scipy.stats import qmc

    return qmc.Sobol(3, seed=seed).random_base2((count - 1).bit_length()).astype(np.float32)[:count]


@lru_cache(maxsize=8)
def ordinary(count: int, at: Encoding, seed: int) -> F32:
    """Colours ``(count, 3)`` of pictures on a standard screen, more of them near grey, in an encoding.
    Shared: do not change it."""
    u = spread(count, seed).astype(np.float64)
    light = 0.03 + 0.97 * u[:, 0]
    shown = light[:, None] + 0.45 * (u - u.mean(axis=1, keepdims=True)) * (u[:, 1:2] + 0.2)
    return meet(np.clip(shown, 0, 1).astype(np.float32), encoding("srgb"), at)
