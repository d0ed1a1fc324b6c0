"""What the other kinds of step promise."""

import colour
import numpy as np
import PyOpenColorIO as ocio
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.testing import assert_allclose
from pydantic import ValidationError
from saucer_core.encodings import encoding
from saucer_core.encodings.oklab import to_oklab
from saucer_core.look import Look
from saucer_core.steps import Surroundings
from saucer_core.steps.balance import Balance, neutralising
from saucer_core.steps.hue_curves import HueCurves
from saucer_core.steps.hue_ranges import HueRanges
from saucer_core.steps.lift_gamma_gain import LiftGammaGain
from saucer_core.steps.monochrome import Monochrome
from saucer_core.steps.roll_off import RollOff
from saucer_core.steps.slope_offset_power import Correction, SlopeOffsetPower, step_of
from saucer_core.steps.tone_ramp import ToneRamp
from saucer_core.treatment import Treatment, evaluate

from .random_looks import ENCODINGS, colours, through_step

DISPLAY = Surroundings(encoding("bt709_display"))


def greys(n=101, low=0.0, high=1.0):
    return np.repeat(np.linspace(low, high, n, dtype=np.float32)[:, None], 3, axis=1)


@pytest.mark.parametrize(
    "numbers", [{"lights": 0.5}, {"darks": 0.7}, {"lights": 1.0, "darks": 1.0, "ceiling": 0.9, "floor": 0.1}]
)
def test_roll_off_is_monotone_smooth_and_stays_within(numbers):
    step = RollOff(**numbers)
    x = greys(4001, -2, 4)
    y = through_step(step, x, DISPLAY)[:, 0]
    slope = np.diff(y) / np.diff(x[:, 0])
    assert slope.min() > 0
    assert slope.max() < 1.01
    assert np.abs(np.diff(slope)).max() < 0.03, "the slope has no jump"
    if step.lights:
        assert y.max() < step.ceiling
    if step.darks:
        assert y.min() > step.floor


def saturated(n=72, chroma=0.1, light=0.65):
    turn = np.radians(np.arange(n) * 360 / n)
    lab = np.stack([np.full(n, light), chroma * np.cos(turn), chroma * np.sin(turn)], axis=1).astype(
        np.float32
    )
    from saucer_core.encodings.oklab import from_oklab

    return from_oklab(lab, DISPLAY.encoding)


def hue_of(lab):
    return np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) % 360


@settings(deadline=None, max_examples=40)
@given(st.lists(st.tuples(st.floats(0, 360), st.floats(0, 200), st.floats(1, 180)), max_size=6))
def test_hue_weights_are_shared(ranges):
    step = HueRanges.model_validate({"ranges": [{"hue": h, "width": w, "feather": f} for h, w, f in ranges]})
    weights = step.weights(np.linspace(0, 360, 181, dtype=np.float32))
    assert weights.min() >= 0
    assert_allclose(weights.sum(axis=0), 1, atol=1e-6)


def test_hue_ranges_move_their_hues_and_nothing_else():
    step = HueRanges.model_validate(
        {"ranges": [{"hue": 140, "width": 60, "feather": 20, "shift": 30, "saturation": 0.5}]}
    )
    rgb = saturated()
    before, after = (
        to_oklab(rgb, DISPLAY.encoding),
        to_oklab(through_step(step, rgb, DISPLAY), DISPLAY.encoding),
    )
    hue = hue_of(before)
    away = np.abs((hue - 140 + 180) % 360 - 180)
    inside, outside = away < 29, away > 51
    turned = (hue_of(after) - hue + 180) % 360 - 180
    assert_allclose(turned[inside], 30, atol=0.2)
    assert_allclose(np.hypot(after[inside, 1], after[inside, 2]), 0.15, atol=2e-3)
    assert_allclose(after[outside], before[outside], atol=2e-4)


@pytest.mark.parametrize("key", ENCODINGS)
def test_hue_steps_leave_neutrals(key):
    ranges = HueRanges.model_validate(
        {
            "ranges": [{"hue": 40, "shift": 60, "saturation": 1, "lightness": 1}],
            "rest": {"shift": -40, "lightness": -1},
        }
    )
    curves = HueCurves(
        hue_hue=[(0, 50), (180, -50)],
        hue_saturation=[(90, 2)],
        hue_lightness=[(10, 1)],
        saturation_saturation=[(0, 2), (1, 1)],
    )
    for step in (ranges, curves):
        assert_allclose(through_step(step, greys(), Surroundings(encoding(key))), greys(), atol=2e-5)


def test_hue_curves_close_on_themselves_and_pass_their_points():
    step = HueCurves(hue_hue=[(20, 15), (200, -25)], hue_saturation=[(100, 1.6), (300, 0.4)])
    ends = step.around("hue_hue", np.float32([0, 359.999, 20, 200]))
    assert ends[0] == pytest.approx(ends[1], abs=1e-3)
    assert_allclose(ends[2:], [15, -25], atol=1e-4)
    rgb = saturated(360)
    before, after = (
        to_oklab(rgb, DISPLAY.encoding),
        to_oklab(through_step(step, rgb, DISPLAY), DISPLAY.encoding),
    )
    turned = (hue_of(after) - hue_of(before) + 180) % 360 - 180
    assert turned[20] == pytest.approx(15, abs=0.3)
    assert turned[200] == pytest.approx(-25, abs=0.3)
    with pytest.raises(ValidationError, match="rise from left to right"):
        HueCurves(hue_hue=[(20, 1), (10, 2)])


@pytest.mark.parametrize("clamp", [True, False])
def test_cdl_against_opencolorio(clamp):
    """OpenColorIO 2.6, CDLTransform in the ASC style (clamped) and the no-clamp style."""
    correction = Correction((1.2, 0.9, 1.05), (0.02, -0.04, 0.1), (1.1, 0.8, 1.3), 0.7, clamp)
    transform = ocio.CDLTransform(
        correction.slope, correction.offset, correction.power, correction.saturation
    )
    transform.setStyle(ocio.CDL_ASC if clamp else ocio.CDL_NO_CLAMP)
    cpu = ocio.Config.CreateRaw().getProcessor(transform).getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE)
    theirs = colours(4000)
    cpu.applyRGB(theirs)
    assert_allclose(through_step(step_of(correction), colours(4000), DISPLAY), theirs, atol=2e-5)


def test_cdl_against_the_standard():
    """ASC CDL 1.2, section 2: out = clamp(in × slope + offset) ^ power, worked by hand for one colour;
    saturation by section 3."""
    step = SlopeOffsetPower.model_validate(
        {"red": {"slope": 2, "offset": -0.1, "power": 2}, "saturation": 0.5}
    )
    out = through_step(step, np.float32([[0.3, 0.2, 0.1]]), DISPLAY)[0]
    sop = np.array([0.25, 0.2, 0.1])
    luma = 0.2126 * 0.25 + 0.7152 * 0.2 + 0.0722 * 0.1
    assert_allclose(out, luma + 0.5 * (sop - luma), atol=1e-6)


def test_lift_gamma_gain_moves_its_ends():
    step = LiftGammaGain.model_validate({"master": {"lift": 0.1, "gain": 0.9}, "red": {"gamma": 2.0}})
    out = through_step(step, np.float32([[0] * 3, [1] * 3]), DISPLAY)
    assert_allclose(out[:, 1], [0.1, 0.9], atol=1e-6)
    assert_allclose(out[:, 0], [0.1**0.5, 0.9**0.5], atol=1e-6)


def test_monochrome_locks_its_sum():
    step = Monochrome(amount=1, red=0.9, green=0.9, blue=0.2)
    out = through_step(step, colours(low=0, high=1), DISPLAY)
    assert np.ptp(out, axis=1).max() < 1e-6
    assert_allclose(through_step(step, greys(), DISPLAY), greys(), atol=1e-6)
    free = Monochrome(amount=1, sum_lock=False, red=0.5, green=0.0, blue=0.0)
    assert_allclose(through_step(free, greys(), DISPLAY), greys() / 2, atol=1e-6)
    toned = to_oklab(
        through_step(Monochrome(amount=1, toning=1, toning_hue=80), greys(), DISPLAY), DISPLAY.encoding
    )
    assert hue_of(toned[50:51])[0] == pytest.approx(80, abs=0.5)
    assert np.hypot(toned[[0, -1], 1], toned[[0, -1], 2]).max() < 2e-3


def test_tone_ramp_gives_its_stops():
    stops = [
        {"at": 0.2, "colour": {"lightness": 0.3, "chroma": 0.08, "hue": 250}},
        {"at": 0.9, "colour": {"lightness": 0.9, "chroma": 0.1, "hue": 80}},
    ]
    step = ToneRamp.model_validate({"amount": 1, "stops": stops})
    lab = np.float32([[0.2, 0, 0], [0.55, 0, 0], [0.9, 0, 0]])
    from saucer_core.encodings.oklab import from_oklab, polar

    out = to_oklab(through_step(step, from_oklab(lab, DISPLAY.encoding), DISPLAY), DISPLAY.encoding)
    first, last = np.array(polar(0.3, 0.08, 250)), np.array(polar(0.9, 0.1, 80))
    assert_allclose(out, [first, (first + last) / 2, last], atol=2e-3)
    with pytest.raises(ValidationError, match="must rise"):
        ToneRamp.model_validate({"stops": [stops[1], stops[0]]})


def test_a_look_in_a_look_gives_its_pixels():
    """Inside its own encodings a borrowed look is the look itself; in another encoding it is met as a frame
    would be."""
    inner = Look.model_validate(
        {
            "input": "film_log",
            "output": "srgb",
            "steps": [{"kind": "scene_to_display", "to": "srgb"}, {"kind": "contrast", "amount": 1.3}],
        }
    )
    outer = Look.model_validate(
        {
            "input": "srgb",
            "output": "srgb",
            "steps": [{"kind": "look", "look": inner.model_dump(), "strength": 0.5}],
        }
    )
    from saucer_core.encodings import meet

    rgb = colours(low=0.02, high=0.95)
    alone = evaluate(inner, meet(rgb, encoding("srgb"), encoding("film_log")))
    assert_allclose(evaluate(outer, rgb), rgb + 0.5 * (alone - rgb), atol=1e-5)
    deep = inner.model_dump()
    for _ in range(7):
        deep = {"steps": [{"kind": "look", "look": deep}]}
    with pytest.raises(ValidationError, match="nested more than"):
        Look.model_validate(deep)


def test_parts_inside_groups():
    inside = [{"id": "a", "kind": "exposure", "stops": 1}, {"id": "b", "kind": "saturation", "amount": 0.2}]
    look = Look.model_validate(
        {
            "steps": [
                {"id": "g", "kind": "group", "steps": inside},
                {"id": "c", "kind": "contrast", "amount": 1.5},
            ]
        }
    )
    rgb = colours(low=0, high=1)
    first = Look.model_validate({"steps": [inside[0]]})
    program = Treatment(look).compile()
    assert_allclose(program.upto("a")(rgb), evaluate(first, rgb), atol=1e-6)
    assert_allclose(program.only("a")(rgb), evaluate(first, rgb), atol=1e-6)
    assert [row.step for row in program.upto("g").rows] == ["g"]


def test_pq_of_a_grade_against_colour_science():
    """colour-science 0.4.7: a stop more in PQ is twice the light of ST 2084."""
    at = Surroundings(encoding("pq"))
    codes = np.linspace(0.1, 0.7, 50, dtype=np.float32)
    from saucer_core.steps.exposure import Exposure

    out = through_step(Exposure(stops=1), np.repeat(codes[:, None], 3, axis=1), at)[:, 0]
    assert_allclose(
        out, colour.models.eotf_inverse_ST2084(2 * colour.models.eotf_ST2084(codes.astype(float))), atol=2e-5
    )


@pytest.mark.parametrize("key", ["bt709_display", "film_log", "acescg", "pq"])
def test_a_picked_neutral_becomes_grey(key):
    at = encoding(key)
    light = np.float32([[0.3, 0.26, 0.22], [0.2, 0.24, 0.27], [0.12, 0.14, 0.11]]) * (
        100 if key == "pq" else 1
    )
    for code in at.encode(light.astype(np.float32)):
        temperature, tint = neutralising(code, at)
        found = at.decode(
            through_step(Balance(temperature=temperature, tint=tint), code[None], Surroundings(at))
        )[0]
        assert_allclose(found / found.mean(), 1, atol=0.004)
    with pytest.raises(ValueError, match="too dark or too strong"):
        neutralising([0, 0, 0], at)
