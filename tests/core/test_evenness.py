"""How even shots are, trims that are suggested, and trims said as ASC CDL."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from saucer_core.baking.correction import ENOUGH, said_as_cdl
from saucer_core.encodings import encoding, meet
from saucer_core.formats import cdl
from saucer_core.look import Look
from saucer_core.operations import apply
from saucer_core.readings.evenness import Reading, apart, lost, middle, read, suggest, turn
from saucer_core.treatment import Treatment
from saucer_core.trim import Trim

PLAIN = Look.model_validate({"steps": []})


def scene(skin=(0.76, 0.56, 0.44), source="film_log"):
    """A face before a grey wall, with soft light across: linear light brought to an encoding."""
    y, x = np.mgrid[0:60, 0:100].astype(np.float32)
    light = (0.75 + 0.25 * np.sin(x / 40) * np.cos(y / 30))[..., None]
    rgb = (
        np.where(
            ((x - 50) ** 2 + (y - 30) ** 2 < 380)[..., None], np.array(skin, np.float32), np.float32(0.5)
        )
        * light
    )
    return meet(rgb.astype(np.float32), encoding("srgb"), encoding(source))


def test_greys_are_grey_and_skin_has_its_hue():
    """Light skin of a chart lies at some 40 to 60 degrees of OKLCh (common practice)."""
    found = read(PLAIN, scene(), "film_log", Trim())
    assert found.skin is not None
    assert 35 < found.skin < 65
    assert found.grey is not None
    assert np.hypot(*found.grey) < 0.3


def test_warmer_is_yellower_and_lighter_is_lighter():
    plain, warm, light = (
        read(PLAIN, scene(), "film_log", t) for t in (Trim(), Trim(temperature=12), Trim(exposure=0.5))
    )
    assert plain.grey is not None
    assert warm.grey is not None
    assert warm.grey[1] > plain.grey[1] + 0.5
    assert light.tone > plain.tone + 4


def test_a_picture_without_skin_has_none():
    assert read(PLAIN, np.full((20, 20, 3), 0.4, np.float32), "srgb", Trim()).skin is None


def test_the_middle_of_hues_goes_round():
    readings = [Reading(h, (0, 0), 50) for h in (355.0, 5.0, 1.0)]
    assert turn(middle(readings).skin or 0, 1) == pytest.approx(0)
    assert turn(5, 355) == 10
    assert turn(355, 5) == -10


def test_one_that_stands_out_is_told_with_its_reason():
    even = [Reading(50.0 + k, (0.1, 0.1 * k), 50.0 + k) for k in range(4)]
    said = apart([*even, Reading(70.0, (0.0, 0.2), 52.0)])
    assert [len(s) for s in said[:4]] == [0, 0, 0, 0]
    assert said[4][0].what == "skin"
    assert said[4][0].text == "skin 18° yellower than its scene"
    darker = apart([*even, Reading(52.0, (0.0, 0.2), 20.0)])[4]
    assert darker[0].text == "32 % darker than its scene"
    blue = apart([*even, Reading(52.0, (0.0, -6.0), 52.0)])[4]
    assert blue[0].text.endswith("to blue")


def test_two_shots_do_not_tell_which_is_apart():
    assert apart([Reading(50, (0, 0), 50), Reading(90, (0, 0), 10)]) == [[], []]


def test_a_scene_of_many_tones_has_no_band():
    tones = [10, 30, 50, 70, 90]
    assert apart([Reading(None, None, t) for t in tones]) == [[] for _ in tones]


@settings(max_examples=12, deadline=None)
@given(st.floats(-0.7, 0.7), st.integers(-20, 20), st.integers(-8, 8))
def test_a_suggested_trim_leads_to_the_aim(stops, temperature, tint):
    aim = read(PLAIN, scene(), "film_log", Trim())
    off = Trim(exposure=stops, temperature=temperature, tint=tint, contrast=1.05)
    found = suggest(PLAIN, scene(), "film_log", off, aim)
    assert found.trim.contrast == 1.05
    assert abs(found.after.tone - aim.tone) < 3
    assert found.after.grey is not None
    assert aim.grey is not None
    assert np.hypot(found.after.grey[0] - aim.grey[0], found.after.grey[1] - aim.grey[1]) < 0.8


def test_suggesting_twice_gives_the_same():
    aim = read(PLAIN, scene(), "film_log", Trim())
    one, other = (suggest(PLAIN, scene(), "film_log", Trim(temperature=15), aim) for _ in range(2))
    assert one == other


def test_what_an_encoding_cannot_hold():
    bright = np.array([[[0.75, 0.75, 0.75], [0.9, 0.9, 0.9]]], dtype=np.float32)
    assert lost(bright, "pq", "bt709_display").lights == 1.0
    assert lost(np.full((1, 2, 3), 0.4, np.float32), "pq", "bt709_display").lights == 0.0
    green = np.array([[[0.0, 0.9, 0.0], [0.5, 0.5, 0.5]]], dtype=np.float32)
    assert lost(green, "bt2020_display", "bt709_display").gamut == 0.5
    assert lost(green, "bt2020_display", "bt2020_display").gamut == 0.0


# Trims as ASC CDL

GRADE = {"slope": 1.1, "offset": -0.02, "power": 0.9}


def test_a_trim_that_is_a_cdl_is_said_exactly():
    trim = Trim.model_validate({"red": GRADE, "saturation": 0.8})
    said = said_as_cdl(trim, "srgb", scene(source="srgb"))
    assert (said.delta_largest, said.enough) == (0.0, True)
    assert said.correction.slope == (1.1, 1.0, 1.0)
    rgb = scene(source="srgb")
    np.testing.assert_allclose(
        apply([said.correction], rgb), Treatment(None, "srgb", trim).compile()(rgb), atol=1e-6
    )


@pytest.mark.parametrize("source", ["film_log", "srgb", "linear_709"])
@pytest.mark.parametrize(
    "trim",
    [Trim(exposure=0.5), Trim(temperature=10, tint=-3), Trim(exposure=-0.3, temperature=-6, contrast=1.1)],
)
def test_other_trims_are_said_as_near_as_measured(source, trim):
    rgb = scene(source=source)
    said = said_as_cdl(trim, source, rgb)
    from saucer_core.difference import difference

    exact = Treatment(None, source, trim).compile()(rgb)
    delta = difference(apply([said.correction], rgb), exact, encoding(source))
    assert np.percentile(delta, 99) == pytest.approx(said.delta_99, abs=0.05)
    assert said.delta_99 <= ENOUGH


def test_a_trim_is_read_back_from_its_file():
    """ASC CDL 1.2, section 6: the collection that other programs read holds the numbers."""
    trim = Trim.model_validate({"green": GRADE})
    said = said_as_cdl(trim, "srgb", scene(source="srgb"))
    text = cdl.write_text([cdl.NamedCorrection(said.correction, "012", "shot")], ".ccc")
    back = cdl.corrections(text, "trims.ccc")[0]
    assert (back.id, back.correction.offset[1], back.correction.power[1]) == ("012", -0.02, 0.9)


def test_a_trim_without_a_cdl_is_what_it_was():
    """Files kept before a trim held an ASC CDL have none of its fields."""
    old = Trim.model_validate({"exposure": 0.5, "temperature": 4, "tint": 0, "contrast": 1.1})
    assert old.correction().neutral()
    rgb = scene()
    assert np.isfinite(Treatment(None, "film_log", old).compile()(rgb)).all()
