"""Packing as half-floats, against NumPy's own conversion."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from saucer_core.halves import halves

#: Every half-float from 0 to 4, and the numbers halfway between neighbours, which round to the even one.
HALVES = np.arange(0x4401, dtype=np.uint16).view(np.float16).astype(np.float32)
TIES = ((HALVES[:-1].astype(np.float64) + HALVES[1:]) / 2).astype(np.float32)


def by_numpy(values: np.ndarray) -> np.ndarray:
    return np.clip(values, -4, 4).astype("<f2").view(np.uint16)


def test_every_half_float_and_every_tie() -> None:
    values = np.concatenate(
        [HALVES, -HALVES, TIES, -TIES, np.nextafter(TIES, 9), np.nextafter(TIES, -9)]
    ).astype(np.float32)
    np.testing.assert_array_equal(halves(values, -4, 4), by_numpy(values))


@settings(deadline=None)
@given(st.lists(st.floats(-(2.0**60), 2.0**60, width=32), min_size=1, max_size=400))
def test_any_number_is_held_and_rounded_as_numpy_does(numbers: list[float]) -> None:
    values = np.array(numbers, dtype=np.float32)
    np.testing.assert_array_equal(halves(values, -4, 4), by_numpy(values))


def test_the_shape_stays_and_large_pictures_go_in_pieces() -> None:
    rgb = np.random.default_rng(3).uniform(-1, 2, (300, 400, 3)).astype(np.float32)
    packed = halves(rgb, -4, 4)
    assert packed.shape == rgb.shape
    np.testing.assert_array_equal(packed, by_numpy(rgb))
