"""How encodings answer to light."""

import numpy as np
import pytest
from numpy.testing import assert_allclose
from saucer_core.encodings import ENCODINGS, CameraEncoding, camera_encoding, encoding
from saucer_core.encodings.camera_log import BLACK, CODES, WHITE
from saucer_core.readings.response import response

from .test_encodings import CAMERA


def code(e, name):
    return next(c for c in response(e).checks if c.name == name)


def test_published_values_of_film_log():
    """Black at code 95, white at 685 of 1023 (common practice for scanned negative)."""
    film = encoding("film_log")
    assert code(film, "no light").ten_bit == pytest.approx(BLACK, abs=0.01)
    assert code(film, "scene white").ten_bit == pytest.approx(WHITE, abs=0.01)
    low = 10 ** ((BLACK - WHITE) * 0.002 / 0.6)
    stop = 300 * np.log10((0.36 * (1 - low) + low) / (0.18 * (1 - low) + low))
    assert response(film).stop_of_grey == pytest.approx(stop, abs=0.01)
    assert CODES == 1023


def test_published_values_of_acescct():
    """Academy S-2016-001, section 4.4: 0.18 lies at 0.4136."""
    assert code(encoding("acescct"), "mid grey").code == pytest.approx(0.4136, abs=1e-4)


def test_video_levels():
    """ITU-R BT.709-6, item 4.6: ten-bit black 64, white 940."""
    bt709 = encoding("bt709_camera")
    white = code(bt709, "scene white")
    assert white.code == pytest.approx(1)
    assert white.video_percent == pytest.approx((1023 - 64) / 876 * 100)


@pytest.mark.parametrize(
    "key", [k for k, e in ENCODINGS.items() if e.response == "log" and e.referred == "scene"]
)
def test_the_curve_rises_and_its_ceiling_is_the_light_of_the_highest_code(key):
    e = encoding(key)
    seen = response(e)
    stops, codes = np.array(seen.curve).T
    assert (np.diff(codes) >= 0).all()
    assert_allclose(e.encode(np.array([seen.ceiling], np.float32)), 1, atol=1e-5)
    assert seen.stops_above == pytest.approx(np.log2(seen.ceiling / 0.18))
    assert_allclose(e.encode((0.18 * 2.0**stops).astype(np.float32)), codes)


@pytest.mark.parametrize(
    ("change", "doubts"),
    [
        ({}, []),
        ({"log_side_offset": 0.9}, ["Mid grey lies at code 0.904", "The highest code is darker"]),
        ({"log_side_offset": 0.1}, ["Mid grey lies at code 0.104", "No light lies below the lowest code"]),
        ({"linear_slope": 9.0}, ["meets the curve in a corner at light 0.011"]),
    ],
)
def test_numbers_that_are_likely_mistyped_are_doubted(change, doubts):
    said = response(camera_encoding(CameraEncoding(**{**CAMERA, **change}))).doubts
    assert len(said) == len(doubts), said
    assert all(want in got for want, got in zip(doubts, said, strict=True)), said
