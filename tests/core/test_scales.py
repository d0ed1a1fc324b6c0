"""Traits along their scales, and behaviours in fewer numbers."""

import itertools

import numpy as np
import pytest
from saucer_core.look import Look
from saucer_core.readings.likeness import GIST, behaviour, gist
from saucer_core.readings.scales import BY_KEY, SCALES, measured
from saucer_core.readings.tones import BLUE, CLAY, tones
from saucer_core.readings.traits import traits


def _random(seed: int) -> Look:
    draw = np.random.default_rng(seed)
    return Look.model_validate(
        {
            "steps": [
                {"kind": "exposure", "stops": draw.uniform(-1.5, 1.5)},
                {"kind": "balance", "temperature": draw.uniform(-60, 60), "tint": draw.uniform(-40, 40)},
                {"kind": "contrast", "amount": draw.uniform(0.5, 1.8)},
                {"kind": "saturation", "amount": draw.uniform(0, 2)},
            ]
        }
    )


LOOKS = [_random(seed) for seed in range(12)]


@pytest.mark.parametrize("scale", SCALES, ids=lambda s: s.key)
def test_places_follow_the_value_and_keep_neutral_still(scale):
    values = np.linspace(scale.low - 2, scale.high + 2, 101)
    places = [scale.place(v) for v in values]
    assert all(0 <= p <= 1 for p in places)
    assert all(a <= b for a, b in itertools.pairwise(places))
    assert scale.place(scale.neutral) == 0.5


def test_every_look_can_be_placed():
    for look in LOOKS:
        found = measured(traits(look))
        assert set(found) == set(BY_KEY)
        assert all(0 <= BY_KEY[key].place(value) <= 1 for key, value in found.items())


def test_gists_never_lie_further_apart_than_behaviours():
    """A projection shortens; the same look has no distance from itself."""
    all_of_them = [behaviour(look) for look in LOOKS]
    for one in all_of_them:
        assert gist(one).shape == (GIST,)
        for other in all_of_them:
            whole = np.sqrt(((one - other) ** 2).sum() / len(one))
            assert np.linalg.norm(gist(one) - gist(other)) <= whole + 1e-4


def test_gists_keep_the_nearest_look_near():
    base = Look.model_validate(
        {"steps": [{"kind": "contrast", "amount": 1.2}, {"kind": "balance", "temperature": 10}]}
    )
    close = Look.model_validate(
        {"steps": [{"kind": "contrast", "amount": 1.22}, {"kind": "balance", "temperature": 11}]}
    )
    own = gist(behaviour(base))
    nearest = np.linalg.norm(gist(behaviour(close)) - own)
    assert all(np.linalg.norm(gist(behaviour(look)) - own) > nearest for look in LOOKS)


def test_tones_are_what_a_look_makes_of_blue_and_clay():
    def numbers(tone):
        return np.array([int(tone[k : k + 2], 16) for k in (1, 3, 5)]) / 255

    for tone, colour in zip(tones(Look()), (BLUE, CLAY), strict=True):
        np.testing.assert_allclose(numbers(tone), colour, atol=0.02)
    blue, clay = (
        numbers(tone) for tone in tones(Look.model_validate({"steps": [{"kind": "saturation", "amount": 0}]}))
    )
    assert np.ptp(blue) < 0.01
    assert np.ptp(clay) < 0.01
