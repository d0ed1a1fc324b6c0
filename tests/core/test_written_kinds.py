"""Every kind of picture that is written, read again: by Saucer, and by the libraries of others."""

import io

import av
import numpy as np
import OpenImageIO as oiio
import pillow_heif
import pytest
from PIL import Image
from saucer_core.cli.main import main
from saucer_core.encodings import ENCODINGS, encoding
from saucer_core.errors import FileError
from saucer_core.formats import pictures, recipe
from saucer_core.formats.declared import CICP
from saucer_core.formats.developing import develop
from saucer_core.formats.icc import profile, recognised
from saucer_core.formats.picture_kinds import WRITTEN_KINDS, depth_for
from saucer_core.look import Look
from saucer_core.steps import no_tables

#: A gentle picture, as photographs are: lossy kinds are held against it.
DOWN, ACROSS = np.mgrid[0:48, 0:64].astype(np.float32)
RGB = np.stack([ACROSS / 63, DOWN / 47, 0.5 + 0.4 * np.sin(ACROSS / 20 + DOWN / 30)], -1).astype(np.float32)
ALPHA = (ACROSS / 63).astype(np.float32)
#: How far codes may be off after writing and reading, of 1, by kind and depth: half a code where nothing is
#: lost; libraries that lose a little are held to what their quality of 95 gives (their own figures).
LOSSY = {"JPEG": 0.035, "HEIF": 13 / 1023, "AVIF": 13 / 1023}
STEPS = {"uint8": 255, "uint10": 1023, "uint12": 4095, "uint16": 65535, "half": 2000, "float": 1e6}
KINDS = [(kind, depth) for kind in WRITTEN_KINDS for depth in kind.depths]


@pytest.mark.parametrize(("kind", "depth"), KINDS, ids=lambda x: getattr(x, "name", x))
def test_what_is_written_is_read_again(tmp_path, kind, depth):
    path = tmp_path / f"a{kind.suffixes[0]}"
    at = "linear_709" if kind.name == "Radiance HDR" else "display_p3"
    pictures.write(path, RGB, depth, at=encoding(at))
    with develop.opened(path) as source:
        found = source.picture()
    # Radiance shares an exponent of 8 bit among three mantissas of 8 (its brightest is 128 of them or more).
    off = LOSSY.get(kind.name) or (1 / 128 if kind.name == "Radiance HDR" else 0.51 / STEPS[depth])
    if depth == "uint8" and kind.name in ("HEIF", "AVIF"):
        off = 0.02
    if kind.name == "JPEG XL" and depth == "float":
        # Light of other kinds is developed into half float.
        off = 2**-11
    assert np.abs(found.rgb - RGB).max() < off + 1e-5
    assert np.abs(found.rgb - RGB).mean() < max(off / 3, 0.51 / STEPS[depth])
    said = {"8 bit": "uint8", "10 bit": "uint10", "12 bit": "uint12", "16 bit": "uint16"}
    assert said.get(found.facts.depth, depth) == depth


@pytest.mark.parametrize("kind", WRITTEN_KINDS, ids=lambda kind: kind.name)
def test_it_says_its_encoding_or_that_it_cannot(tmp_path, kind):
    """Whatever ``can_say`` says is so, for every encoding."""
    path = tmp_path / f"a{kind.suffixes[0]}"
    small = RGB[:8, :8]
    for key, at in ENCODINGS.items():
        if kind.always_says and not kind.describes(at):
            with pytest.raises(FileError, match="has no word for"):
                pictures.write(path, small, at=at)
            continue
        pictures.write(path, small, at=at)
        facts = develop.facts_of(path)
        if kind.can_say(at):
            assert facts.encoding == key, (kind.name, key)
        else:
            # A profile that is that of no encoding is honoured: the codes are brought from it into one.
            same = facts.declared in ("", key, recognised(profile(at)))
            assert same or "brought from it" in facts.declared_by


@pytest.mark.parametrize("kind", [k for k in WRITTEN_KINDS if k.alpha], ids=lambda kind: kind.name)
def test_transparency_stays(tmp_path, kind):
    path, source = tmp_path / f"a{kind.suffixes[0]}", tmp_path / "source.png"
    like = pictures.Picture(RGB, pictures.PictureFacts("PNG", 64, 48, "16 bit", alpha=True), ALPHA)
    pictures.write(source, RGB, like=like, at=encoding("srgb"))
    with pictures.opened(source) as opened:
        left = pictures.through(opened, path, lambda rgb: rgb, at=encoding("srgb"), before=encoding("srgb"))
    with develop.opened(path) as opened:
        found = opened.picture()
    assert found.alpha is not None
    assert np.abs(found.alpha - ALPHA).max() < 0.006
    assert not any("alpha" in what for what in left)


@pytest.mark.parametrize("kind", WRITTEN_KINDS, ids=lambda kind: kind.name)
def test_notes_are_kept_or_said_to_be_left_out(tmp_path, kind):
    source, path = tmp_path / "source.tif", tmp_path / f"a{kind.suffixes[0]}"
    spec = oiio.ImageSpec(64, 48, 3, "uint8")
    spec.attribute("Artist", "Ines")
    spec.attribute("Make", "Kiln camera")
    made = oiio.ImageOutput.create(str(source))
    made.open(str(source), spec)
    made.write_image(RGB)
    made.close()
    at = encoding("srgb")
    with pictures.opened(source) as opened:
        left = pictures.through(opened, path, lambda rgb: rgb, before=at, at=at)
    said = any("its camera" in what for what in left)
    if kind.notes:
        found = oiio.ImageInput.open(str(path)).spec()
        assert (found.getattribute("Artist"), found.getattribute("Make")) == ("Ines", "Kiln camera")
    assert said == (not kind.notes)


@pytest.mark.parametrize("key", ["srgb", "display_p3", "pq", "hlg", "bt2020_display"])
def test_others_read_the_codes_that_say_the_encoding(tmp_path, key):
    """AVIF by FFmpeg (PyAV 18), HEIF by libheif (pillow-heif 1.8), PNG and JPEG XL by OpenImageIO 3.2."""
    for suffix in (".avif", ".heic", ".jxl", ".png"):
        pictures.write(tmp_path / f"a{suffix}", RGB, at=encoding(key))
    with av.open(str(tmp_path / "a.avif")) as file:
        frame = next(file.decode(video=0))
    assert (int(frame.color_primaries), int(frame.color_trc)) == CICP[key][:2]
    assert (int(frame.color_range), frame.format.components[0].bits) == (2, 10)
    nclx = pillow_heif.open_heif(tmp_path / "a.heic", convert_hdr_to_8bit=False).info["nclx_profile"]
    assert (nclx["color_primaries"], nclx["transfer_characteristics"]) == CICP[key][:2]
    for suffix in (".jxl", ".png"):
        spec = oiio.ImageInput.open(str(tmp_path / f"a{suffix}")).spec()
        # JPEG XL writes transfer 14 as 1, which is the same function (ITU-T H.273, table 3).
        wanted = (CICP[key][0], 1) if (suffix, CICP[key][1]) == (".jxl", 14) else CICP[key][:2]
        assert tuple(spec.getattribute("CICP"))[:2] == wanted


def test_dpx_is_rounded_and_not_cut_off(tmp_path):
    codes = np.arange(1024, dtype=np.float32).reshape(16, 64, 1).repeat(3, axis=2)
    pictures.write(tmp_path / "a.dpx", (codes + np.float32(0.4)) / 1023, at=encoding("film_log"))
    found = oiio.ImageInput.open(str(tmp_path / "a.dpx"))
    read = found.read_image(0, 0, 0, 3, oiio.UINT16)
    assert found.spec().getattribute("oiio:BitsPerSample") == 10
    np.testing.assert_array_equal(read >> 6, np.minimum(codes, 1023).astype(np.uint16))


def test_apply_writes_what_it_reads(tmp_path, capsys):
    nothing = tmp_path / f"nothing{recipe.SUFFIX}"
    look = Look(input="srgb", output="srgb")
    nothing.write_text(recipe.dumps(look, name="Nothing", tables=no_tables), encoding="utf-8")
    pictures.write(tmp_path / "a.png", RGB, at=encoding("srgb"))
    before = tmp_path / "a.png"
    for suffix in (".jxl", ".webp", ".avif", ".heic", ".dpx"):
        after = tmp_path / f"b{suffix}"
        assert main(["apply", str(nothing), str(before), "-o", str(after)]) == 0
        before = after
    said = capsys.readouterr().out
    assert "depth: 8 bit" in said
    assert "a word of the encoding, sRGB: DPX has no place for it" in said
    with develop.opened(before) as source:
        assert np.abs(source.picture().rgb - RGB).mean() < 2 / 255
    assert main(["apply", str(nothing), str(before), "-o", str(tmp_path / "no.cin")]) == 1
    assert "Saucer writes" in capsys.readouterr().err
    assert (
        main(["apply", str(nothing), str(before), "-o", str(tmp_path / "a.webp"), "--depth", "uint16"]) == 1
    )
    assert "WebP files hold uint8, not uint16" in capsys.readouterr().err
    assert not (tmp_path / "a.webp").exists()


def test_a_depth_is_kept_where_it_can_be():
    assert [depth_for(f"a{s}", None, "10 bit") for s in (".dpx", ".heic", ".png", ".exr", ".webp")] == [
        "uint10", "uint10", "uint16", "float", "uint8"
    ]  # fmt: skip


@pytest.mark.parametrize(
    "note", [b'xmlns:hdrgm="x" hdrgm:Version="1.0"', b"urn:iso:std:iso:ts:21496:-1\0", None]
)
def test_the_gain_map_of_a_jpeg_is_said(tmp_path, note):
    """The base picture is taken (ISO 21496-1)."""
    out = io.BytesIO()
    Image.fromarray((RGB * 255).astype(np.uint8)).save(out, "JPEG", quality=95)
    data = out.getvalue()
    if note is not None:
        segment = b"notes of the file\0" + note
        data = data[:2] + b"\xff\xe1" + (len(segment) + 2).to_bytes(2, "big") + segment + data[2:]
    (tmp_path / "a.jpg").write_bytes(data)
    found = pictures.load(tmp_path / "a.jpg")
    said = ("its gain map for brighter screens: the base picture is taken",) if note else ()
    assert found.facts.unread == said
    assert np.abs(found.rgb - RGB).max() < 0.03
