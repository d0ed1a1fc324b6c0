"""Jumps at cuts: told where a shot begins otherwise than the one before it ended, and nowhere else."""

import numpy as np
import pytest
from saucer_core.readings.cuts import jumps
from saucer_core.readings.evenness import LIMITS, Reading

EVEN = Reading(50.0, (0.0, 0.5), 40.0)


def shot(begins: Reading = EVEN, ends: Reading | None = None):
    return begins, ends or begins


def test_a_scene_that_goes_on_evenly_is_silent():
    rng = np.random.default_rng(3)

    def near() -> Reading:
        skin, red, yellow, tone = rng.uniform(-1, 1, 4) * (0.45, 0.3, 0.3, 0.45)
        return Reading(
            50 + skin * LIMITS["skin"],
            (red * LIMITS["grey"], yellow * LIMITS["grey"]),
            40 + tone * LIMITS["tone"],
        )

    assert jumps([shot(near(), near()) for _ in range(40)]) == [[] for _ in range(40)]
    assert jumps([]) == []
    assert jumps([shot()]) == [[]]


@pytest.mark.parametrize(
    ("after", "what", "by", "words"),
    [
        (Reading(59.0, (0.0, 0.5), 40.0), "skin", 9.0, "skin 9° yellower after the cut"),
        (Reading(358.0, (0.0, 0.5), 40.0), "skin", -52.0, "skin 52° redder after the cut"),
        (Reading(50.0, (0.0, -2.0), 40.0), "grey", 2.5, "greys lean 2.5 to blue after the cut"),
        (Reading(50.0, (0.0, 0.5), 25.0), "tone", -15.0, "15 % darker after the cut"),
    ],
)
def test_what_jumps_is_told_at_the_shot_that_begins_with_it(after, what, by, words):
    found = jumps([shot(), shot(EVEN, EVEN), shot(after), shot(after)])
    assert [len(one) for one in found] == [0, 0, 1, 0]
    only = found[2][0]
    assert (only.what, only.text) == (what, words)
    assert only.by == pytest.approx(by)


def test_a_shot_that_changes_by_itself_does_not_jump():
    dark = Reading(50.0, (0.0, 0.5), 10.0)
    assert jumps([shot(EVEN, dark), shot(dark), shot(dark, EVEN), shot(EVEN)]) == [[], [], [], []]


def test_where_every_cut_jumps_none_is_told_apart():
    wide, close = Reading(None, None, 30.0), Reading(None, None, 50.0)
    assert jumps([shot(wide), shot(close)] * 5) == [[] for _ in range(10)]
    # One that jumps further than three times what is usual is.
    night = Reading(None, None, 112.0)
    found = jumps([*[shot(wide), shot(close)] * 5, shot(night)])
    assert [one.what for one in found[-1]] == ["tone"]


def test_what_is_not_there_on_both_sides_is_not_compared():
    bare = Reading(None, None, 40.0)
    assert jumps([shot(EVEN), shot(bare), shot(EVEN)]) == [[], [], []]
