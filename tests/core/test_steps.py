"""What each step promises."""

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from numpy.testing import assert_allclose
from pydantic import ValidationError
from saucer_core.encodings import encoding
from saucer_core.encodings.oklab import to_oklab
from saucer_core.errors import LookError, MissingTable
from saucer_core.look import Look
from saucer_core.steps import Surroundings
from saucer_core.steps.balance import Balance, daylight
from saucer_core.steps.blend import BLENDS, put_over
from saucer_core.steps.channel_mix import ChannelMix
from saucer_core.steps.contrast import Contrast
from saucer_core.steps.curves import Curves
from saucer_core.steps.exposure import Exposure
from saucer_core.steps.interpolant import interpolant
from saucer_core.steps.levels import Levels
from saucer_core.steps.saturation import Saturation
from saucer_core.steps.zone_tint import ZoneTint
from saucer_core.treatment import evaluate

from .random_looks import ENCODINGS, colours, through_step

DISPLAY = Surroundings(encoding("bt709_display"))
POINTS = [(0.0, 0.0), (0.1, 0.02), (0.2, 0.5), (0.35, 0.5), (0.8, 0.95), (1.0, 1.0)]


def greys(n=101):
    return np.repeat(np.linspace(0, 1, n, dtype=np.float32)[:, None], 3, axis=1)


def test_exposure_is_a_factor_of_light():
    e = encoding("film_log")
    out = through_step(Exposure(stops=1), greys(), Surroundings(e))
    assert_allclose(e.decode(out), 2 * e.decode(greys()), rtol=1e-5, atol=1e-6)


@pytest.mark.parametrize("key", ENCODINGS)
@pytest.mark.parametrize("amount", [0.4, 1.8])
def test_contrast_keeps_the_pivot_and_the_order(key, amount):
    e = encoding(key)
    pivot = e.encode(np.full((1, 3), 0.18, dtype=np.float32))
    assert_allclose(through_step(Contrast(amount=amount), pivot, Surroundings(e)), pivot, atol=1e-5)
    out = through_step(Contrast(amount=amount), greys(), Surroundings(e))
    assert (np.diff(out[:, 0]) > 0).all()
    if e.response == "display":
        assert_allclose(out[[0, -1]], greys()[[0, -1]], atol=1e-6)


def test_levels_are_exact_on_their_anchors():
    step = Levels.model_validate(
        {"all": {"in_black": 0.1, "in_white": 0.8, "gamma": 1.7, "out_black": 0.05, "out_white": 0.9}}
    )
    anchors = np.float32([[0.1] * 3, [0.8] * 3])
    assert_allclose(through_step(step, anchors, DISPLAY), np.float32([[0.05] * 3, [0.9] * 3]), atol=1e-6)


def test_levels_refuse_crossed_anchors():
    with pytest.raises(ValidationError, match="white in must lie above black in"):
        Levels.model_validate({"red": {"in_black": 0.6, "in_white": 0.5}})


def test_the_monotone_curve_passes_its_points():
    curve = interpolant(POINTS, "monotone")
    x, y = np.array(POINTS, np.float32).T
    assert_allclose(curve(np.ascontiguousarray(x)), y, atol=1e-6)


@settings(deadline=None, max_examples=200)
@example([(128, 0.0), (132, 0.5), (133, 1.0)])
@given(
    st.lists(
        st.tuples(st.integers(0, 200), st.floats(0, 1, width=32)),
        min_size=2,
        max_size=10,
        unique_by=lambda p: p[0],
    )
)
def test_the_monotone_curve_never_overshoots(raw):
    """Fritsch and Carlson 1980: between two points the curve stays between their values."""
    points = sorted((x / 200, y) for x, y in raw)
    curve = interpolant(points, "monotone")
    for (x0, y0), (x1, y1) in zip(points, points[1:], strict=False):
        inside = curve(np.linspace(x0, x1, 33, dtype=np.float32))
        assert inside.min() >= min(y0, y1) - 2e-6
        assert inside.max() <= max(y0, y1) + 2e-6


def test_fritsch_carlson_table():
    """The data of Fritsch and Carlson 1980, table 1 (RPN 14), from memory: the curve stays monotone."""
    x = np.array([7.99, 8.09, 8.19, 8.7, 9.2, 10, 12, 15, 20])
    y = np.array([0, 2.76429e-5, 4.37498e-2, 0.169183, 0.469428, 0.943740, 0.998636, 0.999919, 0.999994])
    t = (x - x[0]) / (x[-1] - x[0])
    curve = interpolant(list(zip(t, y, strict=True)), "monotone")
    assert (np.diff(curve(np.linspace(0, 1, 2000, dtype=np.float32))) > -1e-6).all()


def test_smooth_curve_is_the_natural_spline():
    """SciPy's CubicSpline with natural ends."""
    from scipy.interpolate import CubicSpline

    x, y = np.array(POINTS).T
    inside = np.linspace(0, 1, 99)
    assert_allclose(
        interpolant(POINTS, "smooth")(inside.astype(np.float32)),
        CubicSpline(x, y, bc_type="natural")(inside),
        atol=1e-5,
    )


def test_beyond_a_moved_end_a_curve_is_flat():
    moved = interpolant([(0.1, 0.2), (0.9, 0.8)], "monotone")
    assert_allclose(moved(np.float32([-1, 0, 1, 2])), [0.2, 0.2, 0.8, 0.8])
    still = interpolant([(0, 0), (0.5, 0.6), (1, 1)], "monotone")
    assert_allclose(still(np.float32([-0.5, 1.5])), [-0.5, 1.5])


def test_channels_come_before_all():
    step = Curves.model_validate({"red": [[0, 0.5], [1, 1]], "all": [[0, 0], [0.5, 0.2], [1, 1]]})
    out = through_step(step, np.zeros((1, 3), np.float32), DISPLAY)
    assert_allclose(out, [[0.2, 0, 0]], atol=1e-6)


def test_luma_keeps_colour_differences():
    step = Curves.model_validate({"luma": [[0, 0.1], [1, 1]]})
    rgb = colours(low=0, high=1)
    out = through_step(step, rgb, DISPLAY)
    assert_allclose(out[:, 0] - out[:, 1], rgb[:, 0] - rgb[:, 1], atol=1e-6)


@pytest.mark.parametrize("points", [[[0, 0]], [[0, 0], [0, 1]], [[0.5, 0], [0.2, 1]], [[0, 0], [1, 9]]])
def test_curves_refuse_what_is_no_curve(points):
    with pytest.raises(ValidationError):
        Curves.model_validate({"red": points})


@pytest.mark.parametrize("key", ENCODINGS)
def test_saturation_keeps_hue_lightness_and_greys(key):
    e = encoding(key)
    rgb = np.random.default_rng(5).uniform(0.3, 0.8, (200, 3)).astype(np.float32)
    step = Saturation(amount=1.5, even=0.5, skin_guard=0.5)
    before, after = to_oklab(rgb, e), to_oklab(through_step(step, rgb, Surroundings(e)), e)
    assert_allclose(after[:, 0], before[:, 0], atol=1e-4)
    turned = np.arctan2(after[:, 2], after[:, 1]) - np.arctan2(before[:, 2], before[:, 1])
    strong = np.hypot(before[:, 1], before[:, 2]) > 0.02
    assert np.abs(np.sin(turned[strong])).max() < 2e-3
    assert_allclose(through_step(step, greys(), Surroundings(e)), greys(), atol=1e-5)


def test_saturation_off_is_grey():
    out = through_step(Saturation(amount=0), colours(low=0, high=1), DISPLAY)
    assert_allclose(out.max(axis=1), out.min(axis=1), atol=2e-3)


def test_keep_white_holds_greys():
    step = ChannelMix.model_validate({"red": {"green": 0.3, "blue": -0.2}, "blue": {"red": 0.5}})
    assert_allclose(step.matrix().sum(axis=1), 1)
    assert_allclose(through_step(step, greys(), DISPLAY), greys(), atol=1e-6)


def test_channel_mix_free():
    step = ChannelMix.model_validate(
        {"keep_white": False, "red": {"red": 0.5, "green": 0.25, "blue": 0, "constant": 0.1}}
    )
    out = through_step(step, np.float32([[0.4, 0.8, 0.2]]), DISPLAY)
    assert_allclose(out, [[0.5 * 0.4 + 0.25 * 0.8 + 0.1, 0.8, 0.2]], atol=1e-6)


@settings(deadline=None, max_examples=60)
@given(st.floats(0.05, 0.9), st.floats(0.1, 0.98), st.floats(0.02, 0.5))
def test_zone_weights_sum_to_one(low, high, overlap):
    step = ZoneTint(low_crossover=low, high_crossover=high, overlap=overlap)
    weights = step.weights(np.linspace(-0.2, 1.3, 301, dtype=np.float32))
    assert_allclose(weights.sum(axis=1), 1, atol=1e-6)
    assert weights.min() >= -1e-6


def test_zone_tint_turns_greys_to_its_hue():
    step = ZoneTint.model_validate(
        {"shadows": {"hue": 200, "amount": 0.3}, "highlights": {"hue": 70, "amount": 0.3}}
    )
    lab = to_oklab(through_step(step, np.float32([[0.12] * 3, [0.97] * 3]), DISPLAY), DISPLAY.encoding)
    hues = np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) % 360
    assert_allclose(hues, [200, 70], atol=1)


def test_balance_keeps_the_luminance_of_white():
    e = encoding("linear_709")
    for temperature, tint in ((60, 0), (-80, 30), (0, -50)):
        out = through_step(
            Balance(temperature=temperature, tint=tint), np.ones((1, 3), np.float32), Surroundings(e)
        )
        assert_allclose(out @ np.float32([0.2126390, 0.7151687, 0.0721923]), 1, atol=1e-4)
    warm = through_step(Balance(temperature=50), np.ones((1, 3), np.float32), Surroundings(e))[0]
    assert warm[0] > warm[1] > warm[2]
    green = through_step(Balance(tint=-50), np.ones((1, 3), np.float32), Surroundings(e))[0]
    assert green[1] > green[0]
    assert green[1] > green[2]


def test_daylight_locus():
    """CIE 15: D65 at 6504 K is x 0.3127, y 0.3291 on the locus; D50 at 5003 K is 0.3457, 0.3586 (ISO
    11664-2)."""
    assert_allclose(daylight(6504), (0.31272, 0.32913), atol=2e-4)
    assert_allclose(daylight(5003), (0.34567, 0.35850), atol=2e-4)


def blended(mode, backdrop, source, strength=1.0):
    """Colours ``(n, 3)`` by a blend mode."""
    tile = np.ascontiguousarray(np.float32(source).T)
    put_over(tile, np.ascontiguousarray(np.float32(backdrop).T), mode, strength)
    return tile.T


def _separable(mode, b, s):
    """W3C Compositing and Blending Level 1, section 10.1, one channel, as the text gives it; add and burn:
    common practice."""
    if mode == "colour_dodge":
        return 0.0 if b == 0 else 1.0 if s == 1 else min(1, b / (1 - s))
    if mode == "colour_burn":
        return 1.0 if b == 1 else 0.0 if s == 0 else 1 - min(1, (1 - b) / s)
    if mode == "hard_light":
        return b * 2 * s if s <= 0.5 else _separable("screen", b, 2 * s - 1)
    if mode == "overlay":
        return _separable("hard_light", s, b)
    if mode == "soft_light":
        d = ((16 * b - 12) * b + 4) * b if b <= 0.25 else b**0.5
        return b - (1 - 2 * s) * b * (1 - b) if s <= 0.5 else b + (2 * s - 1) * (d - b)
    plain = {
        "normal": s,
        "multiply": b * s,
        "screen": b + s - b * s,
        "darken": min(b, s),
        "lighten": max(b, s),
        "difference": abs(b - s),
        "exclusion": b + s - 2 * b * s,
        "add": b + s,
        "linear_burn": b + s - 1,
    }
    return plain[mode]


def _lum(c):
    return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]


def _set_lum(c, light):
    c = c + light - _lum(c)
    low, high = c.min(), c.max()
    if low < 0:
        c = light + (c - light) * light / (light - low)
    return light + (c - light) * (1 - light) / (high - light) if high > 1 else c


def _set_sat(c, s):
    return (c - c.min()) * s / np.ptp(c) if np.ptp(c) > 0 else np.zeros(3)


def _non_separable(mode, b, s):
    """W3C Compositing and Blending Level 1, section 10.2, as the text gives it."""
    if mode == "hue":
        return _set_lum(_set_sat(s, np.ptp(b)), _lum(b))
    if mode == "saturation":
        return _set_lum(_set_sat(b, np.ptp(s)), _lum(b))
    return _set_lum(s, _lum(b)) if mode == "colour" else _set_lum(b, _lum(s))


@pytest.mark.parametrize("mode", BLENDS)
def test_blend_modes_against_the_recommendation(mode):
    rng = np.random.default_rng(5)
    b, s = rng.uniform(0, 1, (60, 3)), rng.uniform(0, 1, (60, 3))
    b[:2], s[2:4] = 0.0, 1.0
    if mode in ("hue", "saturation", "colour", "luminosity"):
        wanted = np.array([_non_separable(mode, x, y) for x, y in zip(b, s, strict=True)])
    else:
        wanted = np.array(
            [[_separable(mode, x, y) for x, y in zip(p, q, strict=True)] for p, q in zip(b, s, strict=True)]
        )
    assert_allclose(blended(mode, b, s), wanted, atol=3e-6)
    assert_allclose(blended(mode, b, s, 0.3), b + 0.3 * (wanted - b), atol=3e-6)


def test_a_look_must_end_where_it_says():
    look = Look.model_validate({"steps": [{"kind": "encode", "to": "film_log"}]})
    with pytest.raises(LookError, match=r"end in film log, but the look goes out as BT\.709 display"):
        evaluate(look, colours())


def test_a_missing_table_is_named():
    look = Look.model_validate(
        {"steps": [{"id": "s", "kind": "lut", "table": "f" * 64, "name": "Old print"}]}
    )
    with pytest.raises(MissingTable, match="“Old print” is not in the catalogue") as caught:
        evaluate(look, colours())
    assert caught.value.step_id == "s"


def test_ids_must_differ():
    with pytest.raises(ValidationError, match="same id"):
        Look.model_validate(
            {
                "steps": [
                    {"id": "a", "kind": "exposure"},
                    {"kind": "group", "steps": [{"id": "a", "kind": "levels"}]},
                ]
            }
        )
