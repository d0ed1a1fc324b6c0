"""What a picture is taken for where it says nothing, and which part of it small cards show."""

import numpy as np
import pytest
from saucer_core.encodings import convert, encoding
from saucer_core.formats import pictures
from saucer_core.readings.picture_guess import guess_picture
from saucer_core.readings.subject import WIDTH, subject

from demo import kinds
from demo.frames import SCENES

NAMES = sorted(path.stem for path in SCENES.glob("*.exr"))


def small(name):
    return kinds.scene(name, WIDTH, 90)


@pytest.mark.parametrize("name", NAMES)
def test_display_pictures_are_not_taken_for_logs(name):
    for key in ("srgb", "bt709_display"):
        assert guess_picture(kinds.shown(small(name), key), "srgb", False).key == "srgb"


@pytest.mark.parametrize("name", sorted({*NAMES} - {"kiln_night", "wheel_window"}))
def test_logs_without_a_lamp_in_them_are_told(name):
    """Those with a fire or a window in them use all codes, as display pictures do."""
    log = np.clip(convert(small(name), encoding("linear_709"), encoding("film_log")), 0, 1)
    found = guess_picture(log, "srgb", False)
    assert (found.key, found.certain) == ("film_log", True)
    assert "looks like a log" in found.why


@pytest.mark.parametrize("name", NAMES)
def test_light_is_told_by_its_values(name):
    found = guess_picture(small(name), "linear_709", True)
    assert (found.key, found.certain) == ("linear_709", True)


def test_what_says_nothing_is_what_is_usual_and_asked():
    for flat in (0.0, 0.5, 1.0):
        found = guess_picture(np.full((8, 8, 3), flat, np.float32), "srgb", False)
        assert found.key == "srgb"
        assert found.sure < 1


def test_a_face_is_the_subject():
    """A patch of skin (about OKLCh 55°) in a grey picture, wherever it is."""
    rng = np.random.default_rng(2)
    for _ in range(20):
        rgb = np.full((90, WIDTH, 3), 0.4, np.float32) + rng.normal(0, 0.01, (90, WIDTH, 3)).astype(
            np.float32
        )
        x, y = rng.uniform(0.2, 0.8, 2)
        rows, columns = np.mgrid[:90, :WIDTH]
        face = ((columns - x * WIDTH) / 11) ** 2 + ((rows - y * 90) / 14) ** 2 < 1
        rgb[face] = (0.78, 0.57, 0.47)
        found = subject(rgb, "srgb")
        assert found.by == "skin"
        assert (found.x, found.y) == pytest.approx((x, y), abs=0.06)


def test_else_it_is_where_most_is_going_on():
    rng = np.random.default_rng(3)
    for x, y in ((0.2, 0.3), (0.75, 0.6)):
        rgb = np.full((90, WIDTH, 3), 0.4, np.float32)
        top, left = int(y * 90) - 15, int(x * WIDTH) - 15
        rgb[top : top + 30, left : left + 30] = rng.uniform(0, 1, (30, 30, 1))
        found = subject(rgb, "srgb")
        assert found.by == "detail"
        assert (found.x, found.y) == pytest.approx((x, y), abs=0.12)


def test_the_demos_heads_are_found():
    rgb, facts = pictures.read(SCENES / "clay_heads.exr")
    found = subject(pictures.fit(rgb, WIDTH, WIDTH), facts.encoding)
    assert found.by == "skin"
    assert found.y < 0.55
