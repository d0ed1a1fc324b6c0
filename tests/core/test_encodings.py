"""Encodings against published values and other libraries."""

import colour
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from numpy.testing import assert_allclose
from saucer_core.elementary import cbrt, exp2, log2, power
from saucer_core.encodings import ENCODINGS, HOUSE, ToneScale, convert, encoding, meet
from saucer_core.encodings.film_log import PEAK
from saucer_core.encodings.oklab import from_oklab, to_oklab
from saucer_core.encodings.primaries import BT709, CAT16, adaptation, to_xyz
from saucer_core.kernels import kernel

CODES = np.linspace(0, 1, 513, dtype=np.float32)


def grey(values):
    return np.repeat(np.asarray(values, dtype=np.float32)[:, None], 3, axis=1)


def test_srgb_against_colour_science():
    """colour-science 0.4.7, eotf_sRGB and eotf_inverse_sRGB (IEC 61966-2-1:1999)."""
    assert_allclose(encoding("srgb").decode(CODES), colour.models.eotf_sRGB(CODES), atol=2e-7)
    assert_allclose(encoding("srgb").encode(CODES), colour.models.eotf_inverse_sRGB(CODES), atol=4e-7)


def test_bt1886_against_colour_science():
    """colour-science 0.4.7, eotf_BT1886 with black 0 and white 1 (ITU-R BT.1886)."""
    assert_allclose(encoding("bt709_display").decode(CODES), colour.models.eotf_BT1886(CODES, L_B=0, L_W=1), atol=3e-7)


def test_film_log_against_colour_science():
    """colour-science 0.4.7, log_decoding_Cineon (ten-bit printing density, black 95, white 685)."""
    inside = CODES[CODES > 0]
    assert_allclose(encoding("film_log").decode(inside), colour.models.log_decoding_Cineon(inside), rtol=3e-6, atol=3e-6)


def test_film_log_of_mid_grey():
    """0.18 gives 0.45731961: colour-science 0.4.7, log_encoding_Cineon."""
    assert_allclose(encoding("film_log").encode(np.float32([0.18])), [0.45731961], atol=2e-7)
    assert_allclose(encoding("film_log").decode(np.float32([1.0])), [PEAK], rtol=1e-5)


def test_primaries_against_colour_science():
    """colour-science 0.4.7, the matrix it derives for ITU-R BT.709."""
    space = colour.RGB_COLOURSPACES["ITU-R BT.709"]
    derived = colour.normalised_primary_matrix(space.primaries, space.whitepoint)
    assert_allclose(to_xyz(BT709), derived, atol=1e-9)


def test_cat16_against_colour_science():
    """colour-science 0.4.7, matrix_chromatic_adaptation_VonKries with CAT16, from A to D65."""
    illuminants = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]
    source, target = illuminants["A"], illuminants["D65"]
    theirs = colour.adaptation.matrix_chromatic_adaptation_VonKries(colour.xy_to_XYZ(source), colour.xy_to_XYZ(target), "CAT16")
    assert_allclose(adaptation(tuple(source), tuple(target)), theirs, atol=1e-6)
    assert_allclose(CAT16, colour.adaptation.CHROMATIC_ADAPTATION_TRANSFORMS["CAT16"], atol=1e-6)


def test_oklab_of_srgb_red():
    """W3C CSS Color Module Level 4, example of oklab() for red: 0.62796, 0.22486, 0.12585."""
    lab = to_oklab(np.float32([[1, 0, 0]]), encoding("srgb"))
    assert_allclose(lab[0], [0.62796, 0.22486, 0.12585], atol=1e-5)


def test_oklab_against_colour_science():
    """colour-science 0.4.7, XYZ_to_Oklab, which uses the older rounding of the matrices."""
    rgb = np.random.default_rng(1).uniform(0, 1, (500, 3)).astype(np.float32)
    xyz = colour.sRGB_to_XYZ(rgb.astype(np.float64))
    assert_allclose(to_oklab(rgb, encoding("srgb")), colour.XYZ_to_Oklab(xyz), atol=3e-4)


@pytest.mark.parametrize("key", list(ENCODINGS))
def test_greys_have_no_chroma(key):
    lab = to_oklab(grey(np.linspace(0, 1, 101)), encoding(key))
    assert np.abs(lab[:, 1:]).max() < 3e-6


@given(st.sampled_from(list(ENCODINGS)), st.sampled_from(list(ENCODINGS)))
def test_there_and_back(a, b):
    rgb = np.random.default_rng(2).uniform(0.01, 1, (300, 3)).astype(np.float32)
    back = convert(convert(rgb, encoding(a), encoding(b)), encoding(b), encoding(a))
    assert_allclose(back, rgb, atol=5e-6)
    # Compared as light: near black a display curve is so steep backwards that the last bits of a float32 show.
    lab = to_oklab(rgb, encoding(a))
    assert_allclose(encoding(a).decode(from_oklab(lab, encoding(a))), encoding(a).decode(rgb), rtol=1e-5, atol=2e-5)


@pytest.mark.parametrize("key", list(ENCODINGS))
def test_decode_and_encode_undo_each_other_outside_too(key):
    codes = np.linspace(-0.3, 1.3, 801, dtype=np.float32)
    e = encoding(key)
    assert_allclose(e.encode(e.decode(codes)), codes, atol=3e-6)
    assert (np.diff(e.decode(codes)) > 0).all()


def test_elementary_functions():
    """Against float64 of numpy: relative error below 3e-7 over the range of the kernels."""

    @kernel("void(float32[::1], float32[::1], int64, float32)")
    def run(x, out, which, exponent):
        for i in range(x.size):
            if which == 0:
                out[i] = power(x[i], exponent)
            elif which == 1:
                out[i] = cbrt(x[i])
            else:
                out[i] = exp2(log2(x[i]))

    x = np.exp(np.random.default_rng(3).uniform(-20, 12, 20_000)).astype(np.float32)
    out = np.empty_like(x)
    for exponent in (2.4, 1 / 2.4, 0.9, 1.28):
        run(x, out, 0, exponent)
        assert_allclose(out, x.astype(np.float64) ** np.float64(np.float32(exponent)), rtol=3e-7)
    run(x, out, 1, 0)
    assert_allclose(out, np.cbrt(x.astype(np.float64)), rtol=3e-7)
    run(x, out, 2, 0)
    assert_allclose(out, x, rtol=3e-7)
    zero = np.zeros(4, dtype=np.float32)
    run(zero, out[:4], 0, 2.4)
    assert (out[:4] == 0).all()


def test_tone_scale_anchors():
    assert_allclose(HOUSE.render(np.float32([0, 0.18, 0.18 * 2**5])), [0, HOUSE.grey, 1], atol=1e-6)
    x = np.geomspace(1e-4, 5, 200).astype(np.float32)
    assert (np.diff(HOUSE.render(x)) > 0).all()
    assert_allclose(HOUSE.unrender(HOUSE.render(x)), x, rtol=2e-5)


def test_tone_scale_that_cannot_be():
    with pytest.raises(ValueError, match="anchors"):
        ToneScale(contrast=1.0, grey=0.04, white_stops=1.0).render(np.float32([0.5]))


def test_frames_meet_looks():
    """A display picture shown through a scene look and rendered back is the same picture."""
    rgb = np.random.default_rng(4).uniform(0, 0.98, (200, 3)).astype(np.float32)
    there = meet(rgb, encoding("srgb"), encoding("film_log"))
    assert_allclose(meet(there, encoding("film_log"), encoding("srgb")), rgb, atol=2e-5)
