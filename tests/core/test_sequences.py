"""Numbered sequences become clips that lose none of their codes; what is wrong with them is said."""

import zipfile
from pathlib import Path

import numpy as np
import OpenImageIO as oiio
import pytest
from saucer_core.encodings import convert, encoding
from saucer_core.errors import FileError
from saucer_core.formats import clips, pictures, sequences

HIGH, WIDE = 36, 50


def picture(number: int, most: int = 255) -> np.ndarray:
    """Codes ``(HIGH, WIDE, 3)`` that no other number has."""
    return np.random.default_rng(number).integers(0, most + 1, (HIGH, WIDE, 3))


def packed(folder: Path, files: dict[str, Path | bytes]) -> Path:
    path = folder / "sequence.zip"
    with zipfile.ZipFile(path, "w") as out:
        for name, what in files.items():
            out.writestr(name, what if isinstance(what, bytes) else what.read_bytes())
    return path


def written(folder: Path, name: str, values: np.ndarray, depth: str) -> Path:
    path = folder / Path(name).name
    pictures.write(path, values.astype(np.float32), depth)
    return path


def dpx(folder: Path, name: str, codes: np.ndarray) -> Path:
    """A DPX of 10 bit, written by OpenImageIO."""
    path = folder / name
    spec = oiio.ImageSpec(WIDE, HIGH, 3, "uint16")
    spec.attribute("oiio:BitsPerSample", 10)
    out = oiio.ImageOutput.create(str(path))
    assert out.open(str(path), spec)
    assert out.write_image((codes * 64 + codes // 16).astype(np.uint16))
    out.close()
    return path


def colours(path: Path, taken: sequences.Taken) -> tuple[clips.Found, dict[int, np.ndarray]]:
    found = clips.look_through(path)
    return found, clips.frames_at(path, list(range(len(found.stamps))), found.stamps)


@pytest.mark.parametrize(
    ("suffix", "depth", "most"),
    [(".png", "uint8", 255), (".png", "uint16", 65535), (".tif", "uint16", 65535), (".dpx", "", 1023)],
)
def test_every_code_of_every_picture_comes_back(tmp_path, suffix, depth, most):
    files = {}
    for number in (7, 9, 8, 10):
        name = f"take/kiln_{number:04d}{suffix}"
        codes = picture(number, most)
        files[name] = (
            dpx(tmp_path, Path(name).name, codes)
            if suffix == ".dpx"
            else written(tmp_path, name, codes / most, depth)
        )
    target = tmp_path / "clip.mkv"
    taken = sequences.to_clip(packed(tmp_path, files), target, name="sequence.zip", rate="24000/1001")
    found, frames = colours(target, taken)
    assert found.facts.frames == 4
    assert found.facts.depth == {255: 8, 1023: 10, 65535: 16}[most]
    assert found.facts.timecode == "00:00:00:07"
    assert found.facts.seconds == pytest.approx(4 * 1001 / 24000, abs=1e-3)
    for at, number in enumerate(range(7, 11)):
        assert np.array_equal(np.rint(frames[at] * most), picture(number, most))
    assert taken.encoding == ("film_log" if suffix == ".dpx" else "srgb")
    assert [d for d in taken.doubts if "the file declares nothing" in d]


def test_linear_light_goes_through_acescct_nearer_than_half_float_steps(tmp_path):
    """A step of half float is 2⁻¹⁰ of its number (IEEE 754-2019, binary16)."""
    light = np.exp2(np.random.default_rng(1).uniform(-8, 6, (HIGH, WIDE, 3))).astype(np.float16)
    path = written(tmp_path, "a.0001.exr", light.astype(np.float32), "half")
    target = tmp_path / "clip.mkv"
    taken = sequences.to_clip(packed(tmp_path, {path.name: path}), target, name="s.zip", read_as="acescg")
    assert taken.encoding == "acescct"
    assert any("kept and shown as ACEScct" in doubt for doubt in taken.doubts)
    _, frames = colours(target, taken)
    back = convert(frames[0], encoding("acescct"), encoding("acescg"))
    assert np.abs(back / light.astype(np.float32) - 1).max() < 2**-11


def test_a_missing_picture_is_named_and_the_one_before_it_held(tmp_path):
    files: dict[str, Path | bytes] = {
        f"k{n}.png": written(tmp_path, f"k{n}.png", picture(n) / 255, "uint8") for n in (1, 2, 5, 6)
    }
    files["notes.txt"] = b"of the take"
    target = tmp_path / "clip.mkv"
    taken = sequences.to_clip(packed(tmp_path, files), target, name="s.zip", read_as="bt709_display")
    _, frames = colours(target, taken)
    shown = [np.rint(frame * 255) for _, frame in sorted(frames.items())]
    for frame, number in zip(shown, (1, 2, 2, 2, 5, 6), strict=True):
        assert np.array_equal(frame, picture(number))
    assert any("for numbers 3, 4: the one before is held" in doubt for doubt in taken.doubts)
    assert any("notes.txt" in doubt for doubt in taken.doubts)


def test_the_window_of_an_exr_is_kept(tmp_path):
    path = tmp_path / "w.1.exr"
    spec = oiio.ImageSpec(10, 8, 3, "half")
    spec.x, spec.y, spec.full_width, spec.full_height = 4, 2, WIDE, HIGH
    out = oiio.ImageOutput.create(str(path))
    assert out.open(str(path), spec)
    assert out.write_image(np.full((8, 10, 3), 0.5, np.float32))
    out.close()
    target = tmp_path / "clip.mkv"
    taken = sequences.to_clip(packed(tmp_path, {path.name: path}), target, name="s.zip")
    found, frames = colours(target, taken)
    assert (found.facts.width, found.facts.height) == (WIDE, HIGH)
    back = convert(frames[0], encoding("acescct"), encoding("linear_709"))
    assert back[2:10, 4:14] == pytest.approx(0.5, rel=1e-3)
    assert back.sum() == pytest.approx(0.5 * 8 * 10 * 3, rel=1e-2)


def test_the_same_pictures_make_the_same_bytes(tmp_path):
    files = {f"k{n}.png": written(tmp_path, f"k{n}.png", picture(n) / 255, "uint8") for n in (1, 2)}
    source = packed(tmp_path, files)
    for name in ("a.mkv", "b.mkv"):
        sequences.to_clip(source, tmp_path / name, name="s.zip")
    assert (tmp_path / "a.mkv").read_bytes() == (tmp_path / "b.mkv").read_bytes()


PNG = b"not looked at"


@pytest.mark.parametrize(
    ("files", "said"),
    [
        ({"kiln.png": PNG, "yard.png": PNG}, "holds no numbered pictures"),
        ({"a1.png": PNG, "a2.png": PNG, "b1.png": PNG, "b2.png": PNG}, "those of a1.png and b1.png"),
        ({"a1.png": PNG, "a01.png": PNG}, "number 1 is there twice, as a1.png and as a01.png"),
        ({"a1.png": PNG, "a2.png": PNG, "a30.png": PNG}, "27 of them have no picture"),
        ({"a1.png": PNG, "a9999999.png": PNG}, "9,999,999 frames, where 20,000 are the most"),
        ({"../a1.png": PNG}, "leads out of the pack"),
        ({"a1.png": PNG}, "is not a picture Saucer reads"),
        ({"a1.png": b"\x89PNG\r\n\x1a\n" + bytes(40)}, "damaged or cut short"),
    ],
)
def test_what_is_no_sequence_is_refused_and_leaves_nothing(tmp_path, files, said):
    target = tmp_path / "clip.mkv"
    with pytest.raises(FileError, match=said):
        sequences.to_clip(packed(tmp_path, files), target, name="s.zip")
    assert list(tmp_path.glob("*.mkv*")) == []


def test_pictures_of_two_sizes_are_refused_by_name(tmp_path):
    files = {"a1.png": written(tmp_path, "a1.png", picture(1) / 255, "uint8")}
    files["a2.png"] = written(tmp_path, "a2.png", picture(2)[:20] / 255, "uint8")
    with pytest.raises(
        FileError, match=f"{WIDE} × 20, where the pictures before are {WIDE} × {HIGH}"
    ) as said:
        sequences.to_clip(packed(tmp_path, files), tmp_path / "clip.mkv", name="s.zip")
    assert said.value.name == "a2.png"


def test_work_that_is_given_up_leaves_nothing(tmp_path):
    files = {f"k{n}.png": written(tmp_path, f"k{n}.png", picture(n) / 255, "uint8") for n in (1, 2, 3)}

    def tell(done: int, of: int) -> None:
        assert of == 3
        if done == 2:
            raise KeyError

    with pytest.raises(KeyError):
        sequences.to_clip(packed(tmp_path, files), tmp_path / "clip.mkv", name="s.zip", tell=tell)
    assert list(tmp_path.glob("*.mkv*")) == []
