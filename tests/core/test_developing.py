"""Pictures of kinds that Saucer does not read itself: each comes back as it is known to be, and bad ones are
told in words."""

import io
import tempfile
from pathlib import Path

import colour
import imagecodecs
import numpy as np
import pillow_heif
import pytest
from numpy.testing import assert_allclose
from PIL import Image
from saucer_core.cli import main
from saucer_core.difference import difference
from saucer_core.encodings import ENCODINGS, convert, encoding
from saucer_core.encodings.primaries import BT709, to_xyz
from saucer_core.encodings.temperature import temperature_of, white_of
from saucer_core.errors import FileError
from saucer_core.formats import pictures, recipe
from saucer_core.formats.developing import develop
from saucer_core.formats.developing.raw import white_by_grey
from saucer_core.formats.developing.result import Balance, Wish
from saucer_core.formats.icc import profile
from saucer_core.look import Look
from saucer_core.steps import no_tables

from demo import dng, kinds

CODES = np.random.default_rng(5).integers(0, 1024, (24, 32, 3), dtype=np.uint16)
#: A chart of 24 colours in linear BT.709, 16 pixels each.
PATCHES = np.random.default_rng(7).uniform(0.04, 0.8, (4, 6, 3))
SIDE = 16


def developed(path, wish=None):
    """What a file is developed into: its colours, and what is said of it."""
    folder = Path(tempfile.mkdtemp(dir=path.parent))
    made = develop.develop(path, path.name, folder, wish)
    assert [p.name for p in folder.iterdir()] == [made.path.name]
    return pictures.read(made.path)[0], made


def chart(path, neutral, scale=1.0, **how):
    """A raw file of the patches, as a camera sees them in a light that it takes for grey as ``neutral``."""
    channels = PATCHES @ to_xyz(BT709).T @ kinds.CAMERA.T / (kinds.CAMERA @ to_xyz(BT709).sum(axis=1))
    seen = np.repeat(np.repeat(channels * neutral * scale, SIDE, 0), SIDE, 1)
    codes = np.clip(np.round(600 + dng.mosaic(seen) * (15_000 - 600)), 0, 15_000).astype(np.uint16)
    dng.write(path, codes, black=600, white=15_000, matrix=kinds.CAMERA, neutral=neutral, **how)


def middles(rgb):
    return rgb[SIDE // 2 :: SIDE, SIDE // 2 :: SIDE]


@pytest.mark.parametrize("neutral", [(0.5, 1.0, 0.7), (0.8, 1.0, 0.35)], ids=["daylight", "lamp"])
def test_raw_gives_the_patches_back(tmp_path, neutral):
    """Patches that were made known beforehand, through a made-up camera (DNG 1.4, chapter 6)."""
    path = tmp_path / "chart.dng"
    chart(path, neutral)
    rgb, made = developed(path)
    wanted = convert(PATCHES.astype(np.float32), encoding("linear_709"), encoding("linear_2020"))
    at = encoding("linear_2020")
    assert difference(np.ascontiguousarray(middles(rgb)), wanted, at).max() < 1
    assert_allclose(middles(rgb), wanted, rtol=0.01, atol=0.002)
    facts = made.facts
    assert (facts.kind, facts.depth, facts.encoding) == ("camera raw", "14 bit", "linear_2020")


def test_raw_is_turned_upright(tmp_path):
    path = tmp_path / "turned.dng"
    # Exif 2.32, tag 274: 6 is to be turned a quarter to the right.
    chart(path, (0.5, 1.0, 0.7), orientation=6)
    rgb, made = developed(path)
    assert (made.facts.width, made.facts.height) == (4 * SIDE, 6 * SIDE)
    assert "turned upright" in made.notes
    wanted = convert(PATCHES.astype(np.float32), encoding("linear_709"), encoding("linear_2020"))
    assert_allclose(middles(rgb), np.rot90(wanted, -1), rtol=0.02, atol=0.003)


def test_full_places_of_a_sensor_are_counted_and_not_invented(tmp_path):
    path = tmp_path / "bright.dng"
    chart(path, (0.5, 1.0, 0.7), scale=2.0)
    rgb, made = developed(path)
    seen = PATCHES @ to_xyz(BT709).T @ kinds.CAMERA.T / (kinds.CAMERA @ to_xyz(BT709).sum(axis=1))
    full = (seen * (0.5, 1.0, 0.7) * 2 >= 0.998).reshape(-1, 3).mean(axis=0)
    assert_allclose(made.raw.clipped, full, atol=1e-6)
    # What is not full lies beyond white where it was brighter than the green that is.
    assert rgb.max() > 1.2


def test_white_balance_of_raw_is_told_changed_and_found_by_a_grey(tmp_path):
    path = tmp_path / "chart.dng"
    # The camera's grey in the white of 4,200 K, a little green.
    x, y = white_of(4200, -6)
    neutral = kinds.CAMERA @ (x / y, 1, (1 - x - y) / y)
    chart(path, tuple(neutral / neutral[1]))
    rgb, made = developed(path)
    assert (made.raw.shot.kelvin, made.raw.shot.tint) == pytest.approx((4200, -6), rel=1e-3)
    warm, made = developed(path, Wish(balance=Balance(7000, 0)))
    assert made.raw.used == Balance(7000, 0)
    # In a light that is said to be bluer than it was, everything looks warmer.
    assert warm[..., 0].mean() > rgb[..., 0].mean()
    assert warm[..., 2].mean() < rgb[..., 2].mean()
    # The first patch was not grey: it is once it is said to be.
    white = white_by_grey(path, path.name, middles(warm)[0, 0].astype(np.float64), Balance(7000, 0))
    grey = middles(developed(path, Wish(balance=white))[0])[0, 0]
    assert_allclose(grey, grey.mean(), rtol=0.02)


def test_temperatures_against_colour_science():
    """colour-science 0.4.7: CCT_to_uv_Krystek1985, and uv_to_CCT_Ohno2013, which is exact."""
    for known in (2000, 2856, 4000, 5003, 6504, 10_000):
        u, v = colour.temperature.CCT_to_uv_Krystek1985(known)
        assert white_of(known, 0) == pytest.approx(colour.UCS_uv_to_xy([u, v]), abs=1e-9)
    for x, y in ((0.3127, 0.329), (0.4476, 0.4074), (0.38, 0.39), (0.29, 0.29)):
        cct, duv = colour.temperature.uv_to_CCT_Ohno2013(colour.xy_to_UCS_uv([x, y]))
        kelvin, tint = temperature_of((x, y))
        assert kelvin == pytest.approx(cct, rel=4e-3)
        assert tint == pytest.approx(-1000 * duv, abs=0.3)
    for white in ((1800.0, 4.0), (5200.0, -12.0), (20_000.0, 30.0)):
        assert temperature_of(white_of(*white)) == pytest.approx(white, rel=2e-3)


def heif(path, codes, bits=10, **how):
    data = (codes << (16 - bits)).astype("<u2").tobytes()
    made = pillow_heif.from_bytes(mode="RGB;16", size=codes.shape[1::-1], data=data)
    pillow_heif.options.SAVE_HDR_TO_12_BIT = bits == 12
    # Lossless, as R'G'B' (ITU-T H.273, matrix 0).
    made.save(path, quality=-1, chroma=444, matrix_coefficients=0, full_range_flag=1, **how)


def test_codes_of_every_kind_come_back(tmp_path):
    """Lossless files written by pillow-heif 1.8, imagecodecs 2026.3 and Pillow 13."""
    files = {name: tmp_path / name for name in ("a.heic", "b.avif", "c.webp", "d.jxl")}
    # BT.2020 and PQ (ITU-T H.273, tables 2 and 3).
    heif(files["a.heic"], CODES, color_primaries=9, transfer_characteristics=16)
    avif = imagecodecs.avif_encode(CODES, bitspersample=10, level=100, primaries=9, transfer=18, matrix=0)
    files["b.avif"].write_bytes(avif)
    eight = (CODES >> 2).astype(np.uint8)
    display_p3 = profile(ENCODINGS["display_p3"])
    Image.fromarray(eight).save(files["c.webp"], lossless=True, icc_profile=display_p3)
    files["d.jxl"].write_bytes(imagecodecs.jpegxl_encode(eight, lossless=True))
    for name, key, depth, wanted in (
        ("a.heic", "pq", "10 bit", CODES / 1023),
        ("b.avif", "hlg", "10 bit", CODES / 1023),
        ("c.webp", "display_p3", "8 bit", eight / 255),
        ("d.jxl", "srgb", "8 bit", eight / 255),
    ):
        rgb, made = developed(files[name])
        assert_allclose(rgb, wanted, atol=1 / 65000, err_msg=name)
        assert (made.facts.encoding, made.facts.depth) == (key, depth), name
        assert made.facts.declared


def test_transparency_is_kept(tmp_path):
    path = tmp_path / "through.webp"
    eight = np.dstack([(CODES >> 2), np.full(CODES.shape[:2], 128)]).astype(np.uint8)
    Image.fromarray(eight, "RGBA").save(path, lossless=True)
    made = developed(path)[1]
    found = pictures.load(made.path)
    assert made.facts.alpha
    assert_allclose(found.alpha, 128 / 255, atol=1e-4)
    assert_allclose(found.rgb, eight[..., :3] / 255, atol=1e-4)


def test_the_demos_files_are_what_they_were_made_of(tmp_path):
    """Light and film log of scenes that are known, through Radiance HDR, DPX and Cineon."""
    kinds.write(tmp_path)
    light = kinds.scene("kiln_night", 320, 180)
    rgb, made = developed(tmp_path / "kiln_light.hdr")
    # Mantissas of eight bits that share an exponent (Ward, "Real pixels", Graphics Gems II).
    assert (np.abs(rgb - light) <= light.max(axis=2, keepdims=True) / 128 + 1e-6).all()
    assert made.facts.encoding == "linear_709"
    log = convert(kinds.scene("wheel_window", 320, 180), encoding("linear_709"), encoding("film_log"))
    rgb, made = developed(tmp_path / "wheel_film.cin")
    assert_allclose(rgb, np.clip(log, 0, 1), atol=0.6 / 1023)
    assert (made.facts.encoding, made.facts.depth) == ("film_log", "10 bit")
    assert all(path.stat().st_size <= 300_000 for path in tmp_path.iterdir() if path.is_file())


def matrix_profile(primaries, gamma):
    """A profile by Little CMS (imagecodecs 2026.3) that no encoding is like."""
    flat = [v for x, y in primaries for v in (x, y, 1)]
    return imagecodecs.cms_profile("rgb", whitepoint=[0.3127, 0.329, 1], primaries=flat, gamma=gamma)


def test_an_unknown_profile_is_brought_into_an_encoding(tmp_path):
    """Against colour-science 0.4.7, RGB_to_RGB: power and primaries that the profile was made of."""
    path = tmp_path / "wide.png"
    codes = (CODES >> 2).astype(np.uint8)
    primaries = ((0.66, 0.32), (0.24, 0.70), (0.14, 0.05))
    Image.fromarray(codes).save(path, icc_profile=matrix_profile(primaries, 1.8))
    assert develop.why(path, path.name)
    rgb, made = developed(path)
    own = colour.RGB_Colourspace("own", primaries, (0.3127, 0.329))
    there = colour.RGB_COLOURSPACES["ITU-R BT.2020"]
    wanted = colour.RGB_to_RGB((codes / 255) ** 1.8, own, there, chromatic_adaptation_transform=None)
    assert made.facts.encoding == "bt2020_display"
    assert "brought from it into BT.2020" in made.facts.declared_by
    at, linear = encoding("bt2020_display"), encoding("linear_2020")
    light = np.clip(wanted, 0, None).astype(np.float32)
    assert_allclose(at.decode(rgb), np.clip(linear.decode(light), 0, 1), atol=2e-3)


def test_a_profile_that_is_known_is_named_and_nothing_is_converted(tmp_path):
    path = tmp_path / "tagged.png"
    codes = (CODES >> 2).astype(np.uint8)
    Image.fromarray(codes).save(path, icc_profile=profile(ENCODINGS["display_p3"]))
    assert develop.why(path, path.name) == ""
    assert pictures.facts_of(path).encoding == "display_p3"


def test_grey_and_ink(tmp_path):
    grey, ink = tmp_path / "grey.tif", tmp_path / "ink.jpg"
    ramp = np.tile(np.arange(256, dtype=np.uint8), (8, 1))
    Image.fromarray(ramp, "L").save(grey, icc_profile=imagecodecs.cms_profile("gray", gamma=1.8))
    rgb, made = developed(grey)
    assert made.facts.encoding == "srgb"
    light = np.repeat((np.arange(256) / 255)[:, None] ** 1.8, 3, axis=1)
    assert_allclose(encoding("srgb").decode(rgb[0]), light, atol=2e-3)
    inks = np.zeros((8, 8, 4), np.uint8)
    inks[:, :4, 0] = 255
    Image.fromarray(inks, "CMYK").save(ink, quality=100)
    rgb, made = developed(ink)
    assert_allclose(rgb[4, 1], (0, 1, 1), atol=0.02)
    assert_allclose(rgb[4, 6], (1, 1, 1), atol=0.02)
    assert "profile" in made.notes[0]


def test_a_part_of_an_exr_is_chosen(tmp_path):
    import OpenImageIO as oiio

    path = tmp_path / "parts.exr"
    specs = [oiio.ImageSpec(8, 6, 3, "half") for _ in range(2)]
    for name, spec in zip(("beauty", "light"), specs, strict=True):
        spec.attribute("name", name)
    out = oiio.ImageOutput.create(str(path))
    assert out.open(str(path), specs)
    for number, spec in enumerate(specs):
        if number:
            out.open(str(path), spec, "AppendSubimage")
        out.write_image(np.full((6, 8, 3), 0.25 + number, np.float32))
    out.close()
    with develop.opened(path) as source:
        assert_allclose(source.picture().rgb, 0.25)
        assert "1 more part" in source.facts.unread[0]
    with develop.opened(path, wish=Wish(part=1)) as source:
        assert_allclose(source.picture().rgb, 1.25)
    with pytest.raises(FileError, match="has no part 6"), develop.opened(path, wish=Wish(part=5)):
        pass


def cut(data, share):
    return data[: int(len(data) * share)]


def hostile():
    """Files that are no pictures, or not whole, by name."""
    raw, whole = io.BytesIO(), io.BytesIO()
    made = pillow_heif.from_bytes(mode="RGB", size=(32, 24), data=bytes(32 * 24 * 3))
    made.save(whole)
    yield "empty.dng", b""
    yield "no_raw.dng", b"II*\0" + bytes(4000)
    yield "text.nef", b"this is no picture\n" * 40
    yield "cut.heic", cut(whole.getvalue(), 0.6)
    yield "cut.avif", cut(bytes(imagecodecs.avif_encode(CODES, bitspersample=10)), 0.6)
    yield "cut.jxl", cut(bytes(imagecodecs.jpegxl_encode((CODES >> 2).astype(np.uint8))), 0.5)
    Image.fromarray((CODES >> 2).astype(np.uint8)).save(raw, "WEBP")
    yield "cut.webp", cut(raw.getvalue(), 0.5)
    yield "cut.hdr", b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 4000 +X 4000\n\2\2"
    # 40,000 million pixels, said by a head of a few bytes.
    yield "vast.hdr", b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 200000 +X 200000\n\2\2"
    yield "cut.cin", b"\x80\x2a\x5f\xd7" + bytes(100)


@pytest.mark.parametrize(("name", "data"), hostile(), ids=[name for name, _ in hostile()])
def test_a_bad_file_is_told_in_words_and_leaves_nothing(tmp_path, name, data):
    path = tmp_path / name
    path.write_bytes(data)
    folder = tmp_path / "into"
    folder.mkdir()
    with pytest.raises(FileError) as told:
        develop.develop(path, name, folder)
    assert told.value.name == name
    assert told.value.reason
    assert "Traceback" not in told.value.reason
    assert str(tmp_path) not in told.value.reason
    assert not list(folder.iterdir())


def test_a_profile_that_lies_is_told_in_words(tmp_path):
    path = tmp_path / "lies.jpg"
    bad = bytearray(matrix_profile(((0.66, 0.32), (0.24, 0.70), (0.14, 0.05)), 1.8))
    # Its tags lie far beyond its end.
    for place in range(132, 132 + 12 * 8, 12):
        bad[place + 4 : place + 8] = b"\x7f\xff\xff\x00"
    grey = np.full((16, 16, 3), 99, np.uint8)
    Image.fromarray(grey).save(path, icc_profile=bytes(bad), quality=100)
    rgb, made = developed(path)
    assert made.notes == ("its colour profile, without a name, is damaged and of no use",)
    assert made.facts.declared == ""
    assert_allclose(rgb, 99 / 255, atol=1e-4)


def test_a_kind_is_told_by_what_the_file_holds(tmp_path):
    path = tmp_path / "phone.jpg"
    heif(path, CODES)
    with pytest.raises(FileError, match=r"holds HEIF data, but its name ends in \.jpg"):
        develop.why(path, path.name)


def test_the_command_line_reads_them(tmp_path, capsys):
    """``apply`` takes a raw and gives an EXR; a folder of all kinds goes through, raw too."""
    chart(tmp_path / "chart.dng", (0.5, 1.0, 0.7))
    nothing = tmp_path / "nothing.saucer.json"
    recipe.write(nothing, Look(input="linear_2020", output="linear_2020"), name="Nothing", tables=no_tables)
    out = tmp_path / "out"
    assert main(["apply", str(nothing), str(tmp_path / "chart.dng"), "-o", str(tmp_path / "one.exr")]) == 0
    rgb, facts = pictures.read(tmp_path / "one.exr")
    wanted = convert(PATCHES.astype(np.float32), encoding("linear_709"), encoding("linear_2020"))
    assert_allclose(middles(rgb), wanted, rtol=0.01, atol=0.002)
    assert facts.encoding == "linear_2020"
    folder = tmp_path / "all"
    kinds.write(folder)
    (folder / "shelf_east.jpg").unlink()
    assert main(["apply", str(nothing), str(folder), "-o", str(out)]) == 0
    assert {p.stem for p in out.iterdir()} == {p.stem for p in folder.iterdir()}
    assert (out / "yard_0417.exr").exists()
    assert (out / "head_upright.heic").exists()
    assert (out / "wheel_film.tif").exists()
    assert main(["apply", str(nothing), str(folder / "yard_0417.dng"), "-o", str(out / "no.dng")]) != 0
    assert "not “.dng”" in capsys.readouterr().err
