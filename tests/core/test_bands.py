"""Pictures read and written band by band: the same pixels as in one piece, in less memory."""

import time
from threading import Event

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from saucer_core.arrays import F32
from saucer_core.errors import FileError
from saucer_core.formats import pictures
from saucer_core.formats.picture_writing import ROWS_TOGETHER
from saucer_core.treatment import Treatment

from .random_looks import looks, tables

RNG = np.random.default_rng(3)


def noise(height: int, width: int, channels: int = 3) -> F32:
    return RNG.random((height, width, channels)).astype(np.float32)


@pytest.fixture
def small_bands(monkeypatch):
    """Bands of a few rows, so that a small picture has many."""
    monkeypatch.setattr(pictures, "BAND", 4 * 40 * 4 * 7)
    monkeypatch.setattr(pictures, "ROWS_TOGETHER", 3)


@pytest.mark.parametrize(
    ("suffix", "depth"), [(".png", "uint16"), (".tif", "float"), (".exr", "half"), (".jpg", "uint8")]
)
@pytest.mark.parametrize("channels", [3, 4])
def test_bands_hold_every_row_once(tmp_path, monkeypatch, suffix, depth, channels):
    path = tmp_path / f"x{suffix}"
    pictures.write(path, noise(61, 40, 3 if suffix == ".jpg" else channels), depth)
    whole = pictures.load(path)
    monkeypatch.setattr(pictures, "BAND", 4 * 40 * 4 * 7)
    with pictures.opened(path) as source:
        bands = list(source.bands())
        assert len(bands) > 4
        assert [b.row for b in bands] == list(np.cumsum([0, *(len(b.rgb) for b in bands[:-1])]))
        np.testing.assert_array_equal(np.concatenate([b.rgb for b in bands]), whole.rgb)
    np.testing.assert_array_equal(pictures.load(path).rgb, whole.rgb)


@pytest.mark.parametrize("by", [2, 3, 7])
def test_a_reduced_picture_holds_the_means_of_blocks(tmp_path, small_bands, by):
    path = tmp_path / "x.tif"
    rgb = noise(42, 84)
    pictures.write(path, rgb, "float")
    with pictures.opened(path) as source:
        got = source.picture(by)
    wanted = rgb.reshape(42 // by, by, 84 // by, by, 3).astype(np.float64).mean(axis=(1, 3))
    np.testing.assert_allclose(got.rgb, wanted, atol=1e-6)
    assert (got.facts.width, got.facts.height) == (84, 42)


def test_the_edge_of_a_reduced_picture_is_the_mean_of_what_is_there(tmp_path):
    path = tmp_path / "x.tif"
    rgb = noise(10, 11)
    pictures.write(path, rgb, "float")
    got = pictures.load(path, width=3).rgb
    assert got.shape == (4, 4, 3)
    np.testing.assert_allclose(got[-1, -1], rgb[9:, 9:].mean(axis=(0, 1)), atol=1e-6)


def test_a_picture_is_never_reduced_below_what_is_asked_for(tmp_path):
    path = tmp_path / "x.png"
    pictures.write(path, noise(20, 100))
    for width in (7, 33, 50, 51, 99, 100, 4000):
        assert pictures.load(path, width=width).rgb.shape[1] >= min(width, 100)
    assert pictures.load(path, width=51).rgb.shape == (20, 100, 3)


@settings(max_examples=15, deadline=None, suppress_health_check=list(HealthCheck))
@given(looks(), st.sampled_from([(".png", "uint16"), (".exr", "half"), (".tif", "float")]))
def test_written_band_by_band_it_is_the_same_picture(tmp_path_factory, look, kind):
    """Random looks: what goes through in bands is, code for code, what is written in one piece."""
    folder, (suffix, depth) = tmp_path_factory.mktemp("bands"), kind
    source = folder / f"in{suffix}"
    pictures.write(source, noise(61, 40, 4), depth)
    program = Treatment(look, "srgb").compile(tables)
    given_one = pictures.load(source)
    pictures.write(folder / f"one{suffix}", program(given_one.rgb), depth, like=given_one)
    whole, together = pictures.BAND, ROWS_TOGETHER
    pictures.BAND, vars(pictures)["ROWS_TOGETHER"] = 4 * 40 * 4 * 16, 16
    try:
        with pictures.opened(source) as found:
            pictures.through(found, folder / f"many{suffix}", program, depth)
    finally:
        pictures.BAND, vars(pictures)["ROWS_TOGETHER"] = whole, together
    one, many = (pictures.load(folder / f"{name}{suffix}") for name in ("one", "many"))
    assert (one.facts, one.tags, one.icc) == (many.facts, many.tags, many.icc)
    np.testing.assert_array_equal(many.rgb, one.rgb)
    np.testing.assert_array_equal(many.alpha, one.alpha)


def test_what_spreads_sees_the_whole_picture(tmp_path, small_bands):
    pictures.write(tmp_path / "in.tif", noise(30, 40), "float")
    seen = []

    def then(rgb: F32) -> F32:
        seen.append(rgb.shape)
        return rgb - rgb.mean(axis=(0, 1), dtype=np.float64).astype(np.float32)

    with pictures.opened(tmp_path / "in.tif") as source:
        pictures.through(source, tmp_path / "out.tif", lambda rgb: rgb * 2, then=then, depth="float")
    assert seen == [(30, 40, 3)]
    np.testing.assert_allclose(pictures.load(tmp_path / "out.tif").rgb.mean(axis=(0, 1)), 0, atol=1e-5)


def test_nothing_is_left_of_a_picture_that_breaks_off(tmp_path, small_bands):
    pictures.write(tmp_path / "in.png", noise(200, 40))
    data = (tmp_path / "in.png").read_bytes()
    (tmp_path / "cut.png").write_bytes(data[: len(data) // 2])
    with (
        pytest.raises(FileError, match="damaged or cut short"),
        pictures.opened(tmp_path / "cut.png") as source,
    ):
        pictures.through(source, tmp_path / "out.png", lambda rgb: rgb)
    assert sorted(p.name for p in tmp_path.iterdir()) == ["cut.png", "in.png"]


def test_where_writing_fails_nobody_reads_the_picture_any_more(tmp_path, small_bands):
    """The picture is closed right afterwards, and OpenImageIO ends the process where a closed picture is
    still read."""
    pictures.write(tmp_path / "in.png", noise(200, 40))
    first, later = Event(), Event()

    def work(rgb: F32) -> F32:
        if first.is_set():
            time.sleep(0.1)
            later.set()
            return rgb
        first.set()
        return np.full_like(rgb, "no number", dtype=object)

    with pictures.opened(tmp_path / "in.png") as source:
        with pytest.raises(TypeError) as failure:
            pictures.through(source, tmp_path / "out.png", work)
        later.clear()
        # As long as the error is on its way, so are the frames it has passed, and nothing they hold is
        # cleared up by itself.
        assert failure.tb is not None
        assert first.is_set()
        assert not later.wait(0.3)
    assert [p.name for p in tmp_path.iterdir()] == ["in.png"]


def test_a_thread_that_reads_on_after_closing_is_refused(tmp_path, small_bands):
    """As where a signal came while the thread was being started, so that nobody waits for it."""
    path = tmp_path / "a.png"
    pictures.write(path, np.zeros((40, 40, 3), np.float32), "uint16")
    with pictures.opened(path) as source:
        bands = source.bands()
        next(bands)
    with pytest.raises(FileError, match="was closed while it was read"):
        next(bands)
