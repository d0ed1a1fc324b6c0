"""The command line, as a pipeline calls it: what it writes, what it says, and its exit status."""

import json
import os
import signal
import stat
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import OpenImageIO as oiio
import pytest
from saucer_core.cli import FOUND_WANTING, main
from saucer_core.formats import cube, pictures, recipe
from saucer_core.formats.registry import read_table
from saucer_core.look import Look
from saucer_core.steps import no_tables
from saucer_core.treatment import evaluate

from .random_looks import colours
from .test_tables import LOOK


@pytest.fixture
def look(tmp_path):
    path = tmp_path / "ours.saucer.json"
    recipe.write(path, LOOK, name="Ours", tables=no_tables)
    return path


def run(capsys, *words):
    status = main([*map(str, words), "--json"])
    said = capsys.readouterr()
    return status, json.loads(said.out) if said.out else {}, said.err


def test_a_report_says_what_was_measured(tmp_path, capsys, look):
    report, frames = tmp_path / "report.json", tmp_path / "frames"
    frames.mkdir()
    pictures.write(frames / "a.png", colours(300, 0, 1).reshape(15, 20, 3))
    words = (
        "bake",
        look,
        "-o",
        tmp_path / "x.clf",
        "--grid",
        17,
        "--report",
        report,
        "--frames",
        frames,
        "--rights",
        "ours",
    )
    status, answer, _ = run(capsys, *words)
    assert (status, answer["grid"]) == (0, 17)
    written = json.loads(report.read_text())
    assert {c["grid"] for c in written["choices"]} == {17, 33, 65}
    assert written["recommended"] in (17, 33, 65)
    assert written["costliest step"] in {s.id for s in LOOK.steps}
    assert written["health"]["grid"] == 17
    assert written["traits"]["words"]
    assert "Rights: ours" in read_table(tmp_path / "x.clf").comments


def test_exact_curves_and_narrow_range(tmp_path, capsys, look):
    assert run(capsys, "bake", look, "-o", tmp_path / "x.clf", "--exact")[0] == 1
    simple = tmp_path / "simple.saucer.json"
    recipe.write(
        simple,
        Look.model_validate({"steps": [{"kind": "slope_offset_power", "red": {"slope": 1.2}}]}),
        tables=no_tables,
    )
    for name in ("x.clf", "x.cc"):
        assert run(capsys, "bake", simple, "-o", tmp_path / name, "--exact")[0] == 0
        np.testing.assert_allclose(
            read_table(tmp_path / name).apply(np.float32([[0.5, 0.5, 0.5]])), [[0.6, 0.5, 0.5]], atol=1e-6
        )
    assert run(capsys, "bake", simple, "-o", tmp_path / "c.cube", "--curves", 256)[0] == 0
    assert cube.read(tmp_path / "c.cube").grid is None
    assert (
        run(
            capsys, "bake", simple, "-o", tmp_path / "n.cube", "--range-in", "narrow", "--range-out", "narrow"
        )[0]
        == 0
    )
    black = np.full((1, 3), 64 / 1023, np.float32)
    np.testing.assert_allclose(read_table(tmp_path / "n.cube").apply(black), black, atol=2e-3)


def test_a_folder_goes_through_and_bad_pictures_are_named(tmp_path, capsys, look):
    source, target = tmp_path / "in", tmp_path / "out"
    source.mkdir()
    rgb = colours(300, 0, 1).reshape(15, 20, 3)
    pictures.write(source / "a.png", rgb, "uint16")
    pictures.write(source / "b.tif", rgb, "float")
    status, answer, said = run(
        capsys, "apply", look, source, "-o", target, "--encoding", "bt709_display", "--depth", "uint16"
    )
    assert (status, answer["pictures"]) == (0, 2)
    assert "1 of 2: a.png" in said
    out, _ = pictures.read(target / "a.png")
    np.testing.assert_allclose(
        out, np.clip(evaluate(LOOK, np.round(rgb * 65535) / np.float32(65535)), 0, 1), atol=2e-4
    )
    (source / "c.png").write_bytes(b"\x89PNG\r\n\x1a\nbroken")
    status, _, said = run(capsys, "apply", look, source, "-o", target, "--quiet")
    assert status == 1
    assert "1 of 3 pictures could not be done: c.png" in said


def test_a_carrier_there_and_back(tmp_path, capsys, look):
    sent, made = tmp_path / "sent.png", tmp_path / "made.cube"
    assert run(capsys, "carrier", "-o", sent, "--size", 6, "--look", look)[1]["grid"] == 36
    status, answer, _ = run(capsys, "capture", sent, "-o", made)
    assert (status, answer["verdict"]) == (0, "accept")
    status, answer, _ = run(capsys, "compare", look, made, "--limit", 3)
    assert (status, answer["metric"]) == (0, "ΔE2000")
    identity = tmp_path / "none.saucer.json"
    recipe.write(identity, Look(), tables=no_tables)
    assert run(capsys, "compare", look, identity, "--limit", 0.5)[0] == FOUND_WANTING
    pictures.write(tmp_path / "odd.png", np.zeros((50, 60, 3), np.float32))
    status, answer, _ = run(capsys, "capture", tmp_path / "odd.png", "-o", tmp_path / "no.cube")
    assert (status, answer["verdict"]) == (FOUND_WANTING, "refuse")
    assert not (tmp_path / "no.cube").exists()


def test_inspect_and_schema(tmp_path, capsys, look):
    answer = run(capsys, "inspect", look)[1]
    assert answer["steps"] == [s.kind for s in LOOK.steps]
    assert answer["traits"]["words"]
    assert run(capsys, "schema")[1]["properties"]["saucer"] == {"const": 2}
    status, _, said = run(capsys, "inspect", tmp_path / "gone.cube")
    assert status == 1
    assert "there is no such file" in said


RGB = colours(300, 0.05, 0.95).reshape(15, 20, 3)
DISPLAY = {
    "input": "bt709_display",
    "output": "bt709_display",
    "steps": [{"kind": "slope_offset_power", "red": {"slope": 0.9}, "clamp": False}],
}


@pytest.fixture
def display(tmp_path):
    path = tmp_path / "display.saucer.json"
    recipe.write(path, Look.model_validate(DISPLAY), tables=no_tables)
    return path


@pytest.mark.parametrize(
    ("name", "depth", "said"),
    [
        ("a.png", "uint8", "8 bit"),
        ("a.png", "uint16", "16 bit"),
        ("a.jpg", "uint8", "8 bit"),
        ("a.tif", "uint8", "8 bit"),
        ("a.tif", "uint16", "16 bit"),
        ("a.tif", "float", "32-bit float"),
        ("a.exr", "half", "half float"),
        ("a.exr", "float", "32-bit float"),
    ],
)
def test_what_came_in_goes_out(tmp_path, capsys, display, name, depth, said):
    source, target = tmp_path / name, tmp_path / f"out{Path(name).suffix}"
    pictures.write(source, RGB * 3 if depth in ("half", "float") else RGB, depth)
    status, answer, _ = run(capsys, "apply", display, source, "-o", target, "--encoding", "bt709_display")
    assert (status, answer["depth"], answer["from"], answer["to"]) == (
        0,
        said,
        "bt709_display",
        "bt709_display",
    )
    out, facts = pictures.read(target)
    assert facts.depth == said
    if depth in ("half", "float"):
        assert out.max() > 2


def test_a_deeper_picture_takes_the_deepest_that_the_file_can_hold_and_the_answer_says_so(
    tmp_path, capsys, display
):
    pictures.write(tmp_path / "a.exr", RGB, "float")
    assert run(capsys, "apply", display, tmp_path / "a.exr", "-o", tmp_path / "b.png")[1]["depth"] == "16 bit"
    assert run(capsys, "apply", display, tmp_path / "a.exr", "-o", tmp_path / "b.jpg")[1]["depth"] == "8 bit"
    status, _, said = run(
        capsys, "apply", display, tmp_path / "a.exr", "-o", tmp_path / "c.png", "--depth", "float"
    )
    assert status == 1
    assert "PNG files hold uint8 or uint16, not float" in said
    assert not (tmp_path / "c.png").exists()


def made(path, channels=4, **attributes):
    """A picture with tags, written by OpenImageIO itself."""
    spec = oiio.ImageSpec(20, 15, channels, "float" if path.suffix in (".exr", ".tif") else "uint8")
    spec.attribute("oiio:UnassociatedAlpha", 1)
    for key, value in attributes.items():
        spec.attribute(key, value)
    out = oiio.ImageOutput.create(str(path))
    assert out.open(str(path), spec)
    pixels = np.dstack([RGB, np.linspace(0.25, 1, 300, dtype=np.float32).reshape(15, 20)])[..., :channels]
    if path.suffix == ".exr" and channels == 4:
        pixels[..., :3] *= pixels[..., 3:]
    assert out.write_image(np.ascontiguousarray(pixels))
    out.close()


@pytest.mark.parametrize("suffix", [".png", ".tif", ".exr"])
def test_transparency_orientation_and_tags_are_kept(tmp_path, capsys, display, suffix):
    source, target = tmp_path / f"a{suffix}", tmp_path / f"b{suffix}"
    made(source, Copyright="the pottery", Artist="a made-up person", Orientation=6)
    before = pictures.load(source)
    assert (before.facts.width, before.facts.height) == (15, 20)
    np.testing.assert_allclose(before.rgb[0, -1], RGB[0, 0], atol=3e-3)
    status, answer, _ = run(capsys, "apply", display, source, "-o", target, "--encoding", "bt709_display")
    assert (status, answer["width"], answer["height"], answer["alpha"]) == (0, 15, 20, True)
    after = pictures.load(target)
    np.testing.assert_allclose(after.alpha, before.alpha, atol=1e-3)
    np.testing.assert_allclose(after.rgb[..., 1], before.rgb[..., 1], atol=3e-3)
    np.testing.assert_allclose(after.rgb[..., 0], before.rgb[..., 0] * 0.9, atol=3e-3)
    assert dict(after.tags)["Copyright"] == "the pottery"
    assert dict(after.tags)["Artist"] == "a made-up person"
    assert oiio.ImageBuf(str(target)).spec().getattribute("Orientation") in (None, 1)


def test_the_file_says_the_encoding_that_its_colours_are_in_now(tmp_path, capsys):
    for key, name, wanted in (
        ("display_p3", "b.png", (12, 13, 0, 1)),
        ("pq", "b.png", (9, 16, 0, 1)),
        ("acescg", "b.exr", None),
    ):
        path = tmp_path / f"{key}.saucer.json"
        recipe.write(path, Look.model_validate({"input": key, "output": key, "steps": []}), tables=no_tables)
        pictures.write(tmp_path / "a.png", RGB, "uint16")
        assert run(capsys, "apply", path, tmp_path / "a.png", "-o", tmp_path / name)[1]["to"] == key
        spec = oiio.ImageBuf(str(tmp_path / name)).spec()
        if wanted:
            assert tuple(spec.getattribute("CICP")) == wanted
        else:
            assert spec.getattribute("oiio:ColorSpace") == "lin_ap1_scene"
            np.testing.assert_allclose(spec.getattribute("chromaticities")[6:], [0.32168, 0.33767], atol=1e-6)


def test_a_profile_stays_only_with_the_colours_it_describes(tmp_path, capsys, display):
    """A PNG with an embedded profile, made by Pillow's ImageCms (LittleCMS)."""
    from PIL import Image, ImageCms

    source = tmp_path / "a.png"
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    Image.fromarray((RGB * 255).astype(np.uint8)).save(source, icc_profile=profile)
    lut = tmp_path / "x.cube"
    run(capsys, "bake", display, "-o", lut, "--grid", "5")
    assert run(capsys, "apply", lut, source, "-o", tmp_path / "b.png")[0] == 0
    assert pictures.load(tmp_path / "b.png").icc == profile
    answer = run(capsys, "apply", display, source, "-o", tmp_path / "c.png")[1]
    assert "the colour profile" in answer["left out"][0]
    assert pictures.load(tmp_path / "c.png").facts.profile == "BT.709 display"


def test_options_that_do_not_apply_are_refused(tmp_path, capsys, display):
    pictures.write(tmp_path / "a.png", RGB)
    lut = tmp_path / "x.cube"
    run(capsys, "bake", display, "-o", lut, "--grid", "5")
    for words in (
        ("apply", lut, tmp_path / "a.png", "-o", tmp_path / "b.png", "--encoding", "srgb"),
        ("apply", lut, tmp_path / "a.png", "-o", tmp_path / "b.png", "--finish"),
        ("apply", display, tmp_path / "a.png", "-o", tmp_path / "b.png", "--range-in", "narrow"),
        ("bake", display, "-o", tmp_path / "y.cube", "--encoding", "srgb"),
        ("bake", display, "-o", tmp_path / "y.clf", "--exact", "--strength", "0.5"),
        ("bake", display, "-o", tmp_path / "y.cube", "--curves", "16", "--range-in", "narrow"),
        ("compare", display, lut, "--encoding", "srgb"),
    ):
        status, _, said = run(capsys, *words)
        assert status == 2
        assert "cannot be used here" in said
    assert not (tmp_path / "b.png").exists()


def test_pictures_are_not_replaced_unless_it_is_said(tmp_path, capsys, display):
    folder = tmp_path / "frames"
    folder.mkdir()
    pictures.write(folder / "a.png", RGB)
    kept = (folder / "a.png").read_bytes()
    for words in (
        (folder, "-o", folder),
        (folder / "a.png", "-o", folder / "a.png"),
        (folder, "-o", folder / "." / "..", "frames"),
    ):
        status, _, said = run(capsys, "apply", display, *words)
        assert status in (1, 2)
        assert status == 2 or "--replace" in said
        assert (folder / "a.png").read_bytes() == kept
    assert run(capsys, "apply", display, folder, "-o", folder, "--replace", "--quiet")[0] == 0
    assert (folder / "a.png").read_bytes() != kept


def test_files_have_the_rights_that_new_files_get(tmp_path, capsys, display):
    before = os.umask(0o027)
    try:
        assert run(capsys, "bake", display, "-o", tmp_path / "x.cube", "--grid", "3")[0] == 0
        assert stat.S_IMODE((tmp_path / "x.cube").stat().st_mode) == 0o640
        (tmp_path / "x.cube").chmod(0o600)
        run(capsys, "bake", display, "-o", tmp_path / "x.cube", "--grid", "3")
        assert stat.S_IMODE((tmp_path / "x.cube").stat().st_mode) == 0o600
    finally:
        os.umask(before)


def test_a_missing_folder_is_called_that(tmp_path, capsys, display):
    status, _, said = run(capsys, "bake", display, "-o", tmp_path / "gone" / "x.cube", "--grid", "3")
    assert status == 1
    assert f"there is no folder {tmp_path / 'gone'}" in said
    assert ".part" not in said


def test_linear_light_is_offered_what_readers_take(tmp_path, capsys):
    path = tmp_path / "linear.saucer.json"
    recipe.write(
        path,
        Look.model_validate({"input": "linear_709", "steps": [{"kind": "scene_to_display"}]}),
        tables=no_tables,
    )
    status, _, said = run(capsys, "bake", path, "-o", tmp_path / "x.cube", "--grid", "5")
    assert status == 1
    assert "Write it as .clf, or bake the look for pictures in a log encoding" in said
    assert run(capsys, "bake", path, "-o", tmp_path / "x.cube", "--grid", "5", "--for", "film_log")[0] == 0
    assert run(capsys, "bake", path, "-o", tmp_path / "x.clf", "--grid", "5")[0] == 0


def test_what_a_format_has_no_room_for_is_said(tmp_path, capsys, display):
    answer = run(
        capsys, "bake", display, "-o", tmp_path / "x.cube", "--grid", "3", "--title", 'the "blue" one'
    )[1]
    assert "quotes of the title" in answer["left out"][0]
    assert cube.read(tmp_path / "x.cube").title == 'the "blue" one'


def started(*words):
    return subprocess.Popen(
        [sys.executable, "-m", "saucer_core", *map(str, words)],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
        env={**os.environ, "PYTHONPATH": str(Path(__file__).parents[2] / "core")},
        # A shell in the background, nohup and some machines that run tests ignore it, and a child inherits
        # that.
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.SIG_DFL),
    )


@pytest.mark.parametrize(("number", "status"), [(signal.SIGINT, 130), (signal.SIGTERM, 143)])
def test_stopped_in_the_middle_it_leaves_nothing_half_written(tmp_path, display, number, status):
    source, target = tmp_path / "in", tmp_path / "out"
    source.mkdir()
    for k in range(40):
        pictures.write(source / f"{k:02}.png", np.tile(RGB, (40, 40, 1)), "uint16")
    done = started("apply", display, source, "-o", target)
    for line in done.stderr:
        if line.startswith("3 of"):
            break
    done.send_signal(number)
    _, said = done.communicate(timeout=60)
    assert done.returncode == status
    assert "Traceback" not in said
    assert not [p for p in target.iterdir() if p.name.startswith(".part")]
    for path in target.iterdir():
        pictures.read(path)


def test_a_reader_that_has_gone_is_no_trouble(tmp_path):
    done = started("schema")
    done.stdout.close()
    time.sleep(0.1)
    assert "Traceback" not in done.stderr.read()
    assert done.wait(60) == 141


def test_help_says_exit_statuses_defaults_and_what_is_taken(capsys):
    assert main(["--help"]) == 0
    assert "3 something was found wanting" in " ".join(capsys.readouterr().out.split())
    assert main(["bake", "--help"]) == 0
    said = capsys.readouterr().out
    assert "[default: 33" in said
    assert "LOOK" in said
