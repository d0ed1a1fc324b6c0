"""Likeness, clipping and guesses of encodings: laws on random looks, and tables baked from looks whose
encodings are known."""

import numpy as np
import pytest
from hypothesis import given, settings
from saucer_core.baking.bake import bake
from saucer_core.encodings import CameraEncoding, camera_encoding, encoding, registry
from saucer_core.encodings.registry import known
from saucer_core.errors import LookError
from saucer_core.look import Look, wearing
from saucer_core.readings.clipped import clipped
from saucer_core.readings.guess import guess, only
from saucer_core.readings.likeness import apart, behaviour, nearest, twins
from saucer_core.tables.lut import Lut, identity_grid
from saucer_core.treatment import Treatment

from .random_looks import looks, tables

PRINT = Look.model_validate(
    {
        "input": "film_log",
        "steps": [
            {"kind": "scene_to_display"},
            {"kind": "contrast", "amount": 1.1},
            {"kind": "saturation", "amount": 0.9},
        ],
    }
)
WARM = Look.model_validate(
    {"steps": [{"kind": "balance", "temperature": 15}, {"kind": "contrast", "amount": 1.1}]}
)


def contrast(amount: float) -> Look:
    return Look.model_validate({"steps": [{"kind": "contrast", "amount": amount}]})


@settings(max_examples=20, deadline=None)
@given(looks())
def test_a_look_is_its_own_twin_and_the_way_back_is_as_far(look):
    try:
        own = behaviour(look, tables=tables)
    except LookError:
        return
    plain = behaviour(None)
    assert apart(own, own) == (0.0, 0.0)
    assert twins(own, own)
    # ΔE2000 is symmetric: Sharma, Wu and Dalal (2005), section "Mathematical observations".
    np.testing.assert_allclose(apart(own, plain), apart(plain, own), atol=1e-6)


def test_a_table_is_the_twin_of_the_look_it_was_baked_from():
    table = bake(Treatment(PRINT).compile(), 33)
    worn = wearing(table.digest(), "", "film_log", "bt709_display")
    assert twins(behaviour(worn, tables=only(table, table.digest())), behaviour(PRINT))
    assert not twins(behaviour(WARM), behaviour(PRINT))


def test_the_nearest_are_found_in_order():
    many = np.stack([behaviour(contrast(a)) for a in np.linspace(0.7, 1.5, 30)])
    asked = behaviour(contrast(1.11))
    by_hand = sorted((apart(asked, one)[0], k) for k, one in enumerate(many))
    found = nearest(asked, many, 4)
    assert [k for k, _ in found] == [k for _, k in by_hand[:4]]
    assert [round(far, 9) for _, far in found] == [round(far, 9) for far, _ in by_hand[:4]]
    assert nearest(asked, many[:0]) == []


def test_what_is_clipped_is_said_with_its_hue():
    assert clipped(contrast(1.0)).words() == ""
    lost = Look.model_validate({"steps": [{"kind": "levels", "red": {"in_white": 0.6}}]})
    found = clipped(lost)
    assert found.share > 0.2
    assert found.skin
    assert "skins too" in found.words()
    assert found.hue in ("rose", "red", "orange", "amber", "plum")


@pytest.mark.parametrize("look", [PRINT, WARM], ids=["film log to display", "display"])
def test_a_table_shows_what_it_was_made_for(look):
    found = guess(bake(Treatment(look).compile(), 33))
    assert (found.expects, found.gives) == (look.input, look.output)
    assert found.sure > 0.6
    assert found.source == "what it does"
    assert found.apart < 6


def test_words_make_a_guess_surer():
    table = bake(Treatment(PRINT).compile(), 17)
    silent, said = guess(table), guess(table, ["print_log_to_rec709"])
    assert said.sure > silent.sure
    assert (said.source, said.expects, said.gives) == ("its words", "film_log", "bt709_display")
    assert guess(table, ["catalogue of 709 dialogs"]).expects == "film_log", (
        "letters inside a word name nothing"
    )


def test_what_a_remark_says_in_so_many_words_is_believed():
    table = bake(Treatment(WARM).compile(), 9)
    found = guess(table, ["Comes in as: ACEScct", "Goes out as: Display P3"])
    assert (found.expects, found.gives, found.sure, found.source) == (
        "acescct",
        "display_p3",
        1.0,
        "written in it",
    )
    half = guess(table, ["Goes out as: BT.709 display"])
    assert half.gives == "bt709_display"
    assert guess(table, ["Comes in as: a thing nobody knows"]).source == "what it does"


def test_the_teams_own_cameras_are_thought_of(monkeypatch):
    monkeypatch.setattr(registry, "_supply", [])
    monkeypatch.setattr(registry, "_brought", {})
    camera = CameraEncoding(
        name="Shed log",
        red=(0.7, 0.3),
        green=(0.2, 0.8),
        blue=(0.13, 0.04),
        white=(0.3127, 0.329),
        base=10,
        log_side_slope=0.25,
        log_side_offset=0.4,
        lin_side_slope=5.5,
        lin_side_offset=0.05,
        lin_side_break=0.011,
    )
    own = camera_encoding(camera)
    with known([camera]):
        look = Look.model_validate({"input": own.key, "steps": [{"kind": "scene_to_display"}]})
        found = guess(bake(Treatment(look).compile(), 17), ["shed log print"], [own])
        assert (found.expects, found.gives) == (own.key, "bt709_display")
    with pytest.raises(Exception, match="not an encoding"):
        encoding(own.key)


def test_a_table_that_no_reading_makes_a_picture_of_is_not_sure():
    upside_down = Lut(np.ascontiguousarray(identity_grid(9)[::-1, ::-1, ::-1]))
    assert guess(upside_down).sure < 0.999
