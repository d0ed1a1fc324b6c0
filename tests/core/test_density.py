"""Densities of the scopes, against the plain way of spreading counts."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from saucer_core.readings.density import GAIN, density, lift

ACROSS, ALONG = (1, 2, 1), (1, 2, 3, 2, 1)


def spread(counts: np.ndarray) -> np.ndarray:
    """Every count on its own, in float64: what would fall off an end stays on it."""
    soft = np.zeros(counts.shape)
    _, lines, places = counts.shape
    for plane, line, place in np.argwhere(counts):
        for i, across in enumerate(ACROSS):
            for k, along in enumerate(ALONG):
                to = min(max(line + i - 1, 0), lines - 1), min(max(place + k - 2, 0), places - 1)
                soft[plane, *to] += counts[plane, line, place] * across * along / 36
    return soft


@settings(deadline=None)
@given(st.integers(0, 2**32 - 1), st.floats(0.05, 3), st.sampled_from([9.0, 90.0]))
def test_codes_are_the_logarithm_of_the_spread_counts(seed: int, many: float, full: float) -> None:
    counts = np.random.default_rng(seed).poisson(many, (3, 7, 11)).astype(np.int32)
    soft = spread(counts)
    wanted = np.where(soft > 0, np.clip(255 * np.log1p(GAIN * soft) / np.log1p(lift(full)), 1, 255), 0)
    assert np.abs(density(counts, full) - wanted).max() <= 0.51
    np.testing.assert_allclose(soft.sum(), counts.sum())


def test_nothing_is_nought_and_much_is_full() -> None:
    counts = np.zeros((1, 9, 9), dtype=np.int32)
    assert not density(counts, 9.0).any()
    counts[0, 4, 4] = 1
    codes = density(counts, 90.0)
    assert codes[0, 4, 4] == codes.max() > 0
    assert (codes > 0).sum() == 15
    # Next to an end a little goes to the end itself.
    counts[:] = 120
    assert (density(counts, 90.0) == 255).all()


def test_codes_turn_back_into_shares_of_the_fullest() -> None:
    counts = np.full((1, 5, 5), 3, dtype=np.int32)
    code = float(density(counts, 9.0)[0, 2, 2])
    assert ((1 + lift(9.0)) ** (code / 255) - 1) / lift(9.0) == pytest.approx(3 / 9, rel=0.01)


def test_counts_need_planes() -> None:
    with pytest.raises(ValueError, match="planes, lines and places"):
        density(np.zeros((4, 4), dtype=np.int32), 9.0)
