"""What a picture file holds is kept by ``apply``, or said to be left out; what it declares is believed."""

import json
from dataclasses import replace

import numpy as np
import OpenImageIO as oiio
import pytest
from numpy.testing import assert_allclose
from PIL import Image, ImageCms
from saucer_core.cli.main import main
from saucer_core.encodings import ENCODINGS, convert, encoding
from saucer_core.encodings.power import Power
from saucer_core.formats import icc, pictures, recipe
from saucer_core.look import Look
from saucer_core.steps import no_tables


@pytest.fixture
def applied(tmp_path, capsys):
    """Puts a look on a picture at the command line: what it answers, and where the picture is."""

    def put(source, name, look=None, *words):
        path = tmp_path / "look.saucer.json"
        recipe.write(path, look or Look(), name="one", tables=no_tables)
        out = tmp_path / f"out_{name}"
        assert main(["apply", str(path), str(source), "-o", str(out), "--json", *words]) == 0
        return json.loads(capsys.readouterr().out), out

    return put


def noise(height=40, width=60, channels=3, high=1.0):
    return np.random.default_rng(2).uniform(0, high, (height, width, channels)).astype(np.float32)


def exr(path, channels, *, names=("R", "G", "B"), window=None, tile=0, parts=1, chromaticities=None):
    specs = []
    for k in range(parts):
        spec = oiio.ImageSpec(channels.shape[1], channels.shape[0], channels.shape[2], "float")
        spec.channelnames = names
        if window:
            spec.x, spec.y, spec.full_x, spec.full_y, spec.full_width, spec.full_height = window
        if tile:
            spec.tile_width = spec.tile_height = tile
        if chromaticities:
            spec.attribute("chromaticities", oiio.TypeDesc("float[8]"), chromaticities)
        if parts > 1:
            spec.attribute("name", f"part {k}")
        specs.append(spec)
    file = oiio.ImageOutput.create(str(path))
    assert file.open(str(path), specs) if parts > 1 else file.open(str(path), specs[0])
    for k in range(parts):
        if k:
            assert file.open(str(path), specs[k], "AppendSubimage")
        assert file.write_image(channels)
    file.close()
    return path


@pytest.mark.parametrize("suffix", [".exr", ".png", ".tif"])
@pytest.mark.parametrize("key", list(ENCODINGS))
def test_what_saucer_writes_it_reads_as_that(tmp_path, suffix, key):
    path = tmp_path / f"a{suffix}"
    pictures.write(path, noise(4, 4), at=encoding(key))
    facts = pictures.facts_of(path)
    said = key in ("srgb", "bt709_display", "bt2020_display", "display_p3", "dci_p3", "oprgb", "gamma_22")
    if suffix == ".tif" and not said:
        # A TIFF says its encoding by a profile alone; 2.4 under two names is one.
        assert facts.encoding in ("srgb", "bt709_display")
    else:
        assert facts.encoding == key, facts


@pytest.mark.parametrize(
    ("chromaticities", "key"),
    [
        # SMPTE ST 2065-1:2021, table 1; Academy S-2014-004; ITU-R BT.2020-2, table 3; SMPTE EG 432-1:2010.
        ((0.7347, 0.2653, 0.0, 1.0, 0.0001, -0.077, 0.32168, 0.33767), "aces2065_1"),
        ((0.713, 0.293, 0.165, 0.83, 0.128, 0.044, 0.32168, 0.33767), "acescg"),
        ((0.708, 0.292, 0.17, 0.797, 0.131, 0.046, 0.3127, 0.329), "linear_2020"),
        ((0.68, 0.32, 0.265, 0.69, 0.15, 0.06, 0.3127, 0.329), "linear_p3"),
    ],
)
def test_chromaticities_are_believed(tmp_path, applied, chromaticities, key):
    path = exr(tmp_path / "a.exr", noise(high=2), chromaticities=chromaticities)
    answer, out = applied(path, "a.png", Look(input="linear_709", output="linear_709"))
    assert (answer["from"], answer["from by"]) == (key, "declared by its chromaticities")
    wanted = np.clip(convert(pictures.read(path)[0], encoding(key), encoding("linear_709")), 0, 1)
    assert_allclose(pictures.read(out)[0], wanted, atol=2e-5)


def test_a_look_after_another_knows_what_came_out(tmp_path, applied):
    """A look to ACEScg, then an empty one: codes are what they were."""
    source = tmp_path / "a.png"
    pictures.write(source, noise(), at=encoding("srgb"))
    _, first = applied(source, "a.exr", Look(input="acescg", output="acescg"))
    answer, second = applied(first, "b.exr", Look(input="acescg", output="acescg"))
    assert answer["from"] == "acescg"
    assert_allclose(pictures.read(second)[0], pictures.read(first)[0], atol=1e-3)


def test_profiles_are_recognised(tmp_path, applied):
    """Pillow 12 (LittleCMS) makes the profile of sRGB; Saucer's own stand for the others."""
    theirs = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    assert icc.recognised(theirs) == "srgb"
    for key in ("srgb", "display_p3", "oprgb", "bt709_display", "gamma_22", "dci_p3", "bt2020_display"):
        assert icc.recognised(icc.profile(encoding(key))) == key
    assert icc.recognised(b"") is None
    assert icc.recognised(theirs[:200]) is None
    path = tmp_path / "p3.png"
    Image.fromarray((noise() * 255).astype(np.uint8)).save(
        path, icc_profile=icc.profile(encoding("display_p3"))
    )
    answer, out = applied(path, "out.png", Look(input="srgb", output="srgb"))
    assert answer["from"] == "display_p3"
    assert icc.recognised(pictures.load(out).icc) == "srgb"
    wanted = np.clip(convert(pictures.read(path)[0], encoding("display_p3"), encoding("srgb")), 0, 1)
    assert_allclose(pictures.read(out)[0], wanted, atol=0.51 / 255)


def test_a_profile_that_is_none_of_ours_is_gone_through_and_said(tmp_path, applied):
    own = replace(encoding("gamma_22"), label="Ours", transfer=Power(1.5))
    path = tmp_path / "a.png"
    codes = (noise() * 255).astype(np.uint8)
    Image.fromarray(codes).save(path, icc_profile=icc.profile(own))
    answer, out = applied(path, "a.png", Look(input="srgb", output="srgb"))
    by = "declared by its colour profile, Ours, and brought from it into sRGB"
    assert (answer["from"], answer["from by"]) == ("srgb", by)
    wanted = np.clip(convert(codes.astype(np.float32) / 255, own, encoding("srgb")), 0, 1)
    assert_allclose(pictures.read(out)[0], wanted, atol=0.51 / 255)


@pytest.mark.parametrize("key", ["bt709_display", "gamma_22", "oprgb", "dci_p3", "srgb"])
def test_profiles_go_there_and_back_through_littlecms(key):
    """Pillow 12 (LittleCMS 2): codes to XYZ and back near black; a table of 4,096 points was off by 5e-3 to
    1.1e-2."""
    import io

    ours = ImageCms.ImageCmsProfile(io.BytesIO(icc.profile(encoding(key))))
    codes = np.arange(256, dtype=np.uint8)
    shown = Image.fromarray(np.repeat(codes[None, :, None], 3, axis=2))
    same = ImageCms.buildTransform(
        ours, ours, "RGB", "RGB", renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC
    )
    assert_allclose(np.asarray(ImageCms.applyTransform(shown, same)).astype(int)[0, :, 0], codes, atol=1)
    assert icc.recognised(icc.profile(encoding(key))) == key


def test_exif_is_believed(tmp_path):
    path = tmp_path / "a.jpg"
    spec = oiio.ImageSpec(8, 8, 3, "uint8")
    spec.attribute("Exif:ColorSpace", 1)
    file = oiio.ImageOutput.create(str(path))
    file.open(str(path), spec)
    file.write_image(np.zeros((8, 8, 3), np.uint8))
    file.close()
    facts = pictures.facts_of(path)
    assert (facts.encoding, facts.taken_from) == ("srgb", "declared by its Exif tag")


@pytest.mark.parametrize("suffix", [".tif", ".exr"])
def test_tiled_pictures_are_read(tmp_path, applied, suffix):
    path, values = tmp_path / f"tiled{suffix}", noise(150, 130)
    spec = oiio.ImageSpec(130, 150, 3, "float")
    spec.tile_width = spec.tile_height = 64
    file = oiio.ImageOutput.create(str(path))
    assert file.open(str(path), spec)
    assert file.write_image(values)
    file.close()
    assert_allclose(pictures.read(path)[0], values, atol=1e-6)
    answer, out = applied(
        path, f"a{suffix}", Look(input="linear_709", output="linear_709"), "--encoding", "linear_709"
    )
    assert answer["from by"] == "said with --encoding"
    assert_allclose(pictures.read(out)[0], values, atol=1e-6)


def test_parts_pages_channels_and_frames_are_said(tmp_path, applied):
    linear = Look(input="linear_709", output="linear_709")
    answer, _ = applied(exr(tmp_path / "parts.exr", noise(), parts=3), "a.exr", linear)
    assert answer["left out"] == ["2 more parts of the file: the first alone is read"]
    deep = exr(tmp_path / "deep.exr", noise(channels=5), names=("R", "G", "B", "Z", "N.X"))
    assert applied(deep, "b.exr", linear)[0]["left out"] == ["the channels Z, N.X"]
    pages = [Image.fromarray((noise() * 255).astype(np.uint8)) for _ in range(2)]
    pages[0].save(tmp_path / "pages.tif", save_all=True, append_images=pages[1:])
    assert applied(tmp_path / "pages.tif", "c.tif")[0]["left out"] == [
        "1 more page of the file: the first alone is read"
    ]
    pages[0].save(tmp_path / "moves.png", save_all=True, append_images=pages[1:])
    assert applied(tmp_path / "moves.png", "d.png")[0]["left out"] == [
        "the frames of an animation beyond the first"
    ]
    assert "left out" not in applied(exr(tmp_path / "one.exr", noise()), "e.exr", linear)[0]


def test_the_place_of_the_pixels_is_kept_or_said(tmp_path, applied):
    linear = Look(input="linear_709", output="linear_709")
    path = exr(tmp_path / "a.exr", noise(), window=(7, -3, 0, 0, 100, 80))
    answer, out = applied(path, "a.exr", linear)
    spec = oiio.ImageInput.open(str(out)).spec()
    assert (spec.x, spec.y, spec.full_x, spec.full_y, spec.full_width, spec.full_height) == (
        7,
        -3,
        0,
        0,
        100,
        80,
    )
    assert "left out" not in answer
    assert_allclose(pictures.read(out)[0], pictures.read(path)[0], atol=1e-6)
    answer, _ = applied(path, "b.png", linear)
    assert "display window" in " ".join(answer["left out"])


def test_light_without_alpha_stays(tmp_path, applied):
    """A flame: colour over alpha 0, which is added to what lies behind (OpenEXR, Technical Introduction,
    alpha)."""
    values = np.zeros((8, 8, 4), np.float32)
    values[:4, :, :3], values[6:, :, :] = (0.8, 0.4, 0.1), (0.5, 0.5, 0.5, 1)
    path = exr(tmp_path / "fire.exr", values, names=("R", "G", "B", "A"))
    lifted = Look.model_validate(
        {"input": "linear_709", "output": "linear_709", "steps": [{"kind": "exposure", "stops": 1}]}
    )
    _, out = applied(path, "a.exr", lifted)
    found = oiio.ImageBuf(str(out)).get_pixels(oiio.FLOAT)
    assert_allclose(found[:4, :, :3], np.broadcast_to([1.6, 0.8, 0.2], (4, 8, 3)), rtol=2e-3)
    assert_allclose(found[4:6], 0, atol=0)
    assert_allclose(found[6:, :, 3], 1)
