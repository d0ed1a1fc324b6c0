"""The cloud, the disc, slices and the condition of looks."""

import numpy as np
import pytest
from saucer_core.encodings import encoding
from saucer_core.encodings.oklab import to_oklab
from saucer_core.look import Look
from saucer_core.readings.clipped import clipped
from saucer_core.readings.cloud import CORNER, SIDE, cloud, disc, slices
from saucer_core.readings.condition import Point, condition
from saucer_core.tables.lut import Lut, identity_grid
from saucer_core.treatment import Treatment

PLAIN = Look.model_validate({"input": "srgb", "output": "srgb", "steps": []})
WARM = Look.model_validate(
    {"input": "srgb", "output": "srgb", "steps": [{"kind": "balance", "temperature": 25}]}
)
GREY = Look.model_validate(
    {"input": "srgb", "output": "srgb", "steps": [{"kind": "monochrome", "amount": 1}]}
)


TURNING = [[0, 0], [0.4, 0.7], [0.7, 0.3], [1, 1]]


def srgb(**step: object) -> Look:
    return Look.model_validate({"input": "srgb", "output": "srgb", "steps": [step]})


def of(look: Look, table: Lut | None = None) -> dict[str, Point]:
    return {p.key: p for p in condition(Treatment(look).compile(), clipped(look), table)}


def test_nothing_moves_without_a_look():
    found = cloud(PLAIN)
    assert np.abs(found.after - found.before).max() < 1e-5
    assert found.delta.max() < 0.01
    assert (found.before_rgb == found.after_rgb).all()
    assert len(found.edges) == 12 * (SIDE - 1)
    ends = found.before_rgb[found.edges.reshape(-1)]
    assert (np.isin(ends, (0, 255)).sum(axis=1) >= 2).all(), "an edge of the cube has two channels at an end"


def test_the_cloud_between_two_looks_begins_where_the_other_ends():
    found, other = cloud(WARM, other=GREY), cloud(GREY)
    np.testing.assert_array_equal(found.before, other.after)
    np.testing.assert_array_equal(found.after, cloud(WARM).after)
    assert np.abs(other.after[:, 1:]).max() < 1e-4
    assert found.delta.mean() > cloud(WARM).delta.mean()


def test_the_disc_says_which_hue_turns_most():
    turned = Look.model_validate(
        {
            "input": "srgb",
            "output": "srgb",
            "steps": [{"kind": "hue_ranges", "ranges": [{"hue": 145, "width": 40, "shift": 25}]}],
        }
    )
    found = disc(turned)
    assert found.turned[0] in ("green", "olive", "sea green")
    assert 15 < found.turned[1] < 30
    assert abs(found.skin) < 1
    assert all(
        0 <= v < 0.4 for arrow in found.arrows for v in (np.hypot(*arrow.before), np.hypot(*arrow.after))
    )


@pytest.mark.parametrize("by", ["red", "green", "blue", "lightness"])
def test_slices_show_the_look_and_in_their_corner_what_was(by):
    picture, means = slices(GREY, by, size=40)
    assert picture.shape == (40, 240, 3)
    assert len(means) == 6
    assert min(means) > 1
    up, right = np.meshgrid(np.linspace(1, 0, 40), np.linspace(0, 1, 40), indexing="ij")
    last = picture[:, 200:]
    beyond = right + up > CORNER + 0.1
    assert np.ptp(last[beyond], axis=1).max() < 0.01, "grey beyond the corner"
    assert np.ptp(last[right + up < CORNER - 0.1], axis=1).max() > 0.1, "colours in it"


def test_a_sound_look_is_in_no_doubt():
    found = of(WARM)
    assert not any(p.doubtful for p in (found["order"], found["folded"], found["steps"], found["rough"]))
    assert found["order"].value == "yes"
    assert found["fits"].value.startswith("ΔE 0.")


def test_what_is_in_doubt_comes_first_and_shows_where():
    hard = srgb(kind="levels", all={"in_black": 0.3, "in_white": 0.45})
    points = condition(Treatment(hard).compile(), clipped(hard))
    assert [p.doubtful for p in points] == sorted((p.doubtful for p in points), reverse=True)
    found = {p.key: p for p in points}
    assert len(found["steepest"].places) == 1
    assert found["clips"].doubtful
    out = Treatment(hard).compile()(np.array(found["clips"].places, np.float32))
    assert ((out <= 1e-5) | (out >= 1 - 1e-5)).any(axis=1).all(), "each place is one that is clipped"


def test_tones_that_turn_back_and_colours_that_fold_show_where():
    bent = srgb(kind="curves", all=TURNING)
    found = of(bent)
    assert found["order"].doubtful
    assert all(0.35 < place[0] < 0.75 for place in found["order"].places)
    assert found["folded"].doubtful
    assert found["folded"].places


def test_a_table_is_measured_itself():
    grid = identity_grid(9).copy()
    noisy = Lut((grid + np.random.default_rng(1).normal(0, 0.03, grid.shape)).astype(np.float32))
    assert of(PLAIN, noisy)["rough"].value == "yes"
    assert of(PLAIN)["rough"].value == "no"


def test_places_are_those_of_oklab():
    found = cloud(PLAIN, side=3)
    np.testing.assert_allclose(
        found.before, to_oklab(identity_grid(3).reshape(-1, 3), encoding("srgb")), atol=1e-6
    )
