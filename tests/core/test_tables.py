"""Tables, their files and other people's readers of them."""

import json
from dataclasses import replace
from fractions import Fraction

import av
import numpy as np
import PyOpenColorIO as ocio
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.testing import assert_allclose
from PIL import ImageFilter
from saucer_core.baking.bake import bake
from saucer_core.baking.deviation import Measuring
from saucer_core.cli import main
from saucer_core.difference import difference
from saucer_core.encodings import encoding
from saucer_core.errors import FileError, LookError
from saucer_core.formats import clf, cube, pictures, recipe
from saucer_core.formats.registry import format_for
from saucer_core.look import Look
from saucer_core.operations import apply
from saucer_core.readings.histogram import histogram
from saucer_core.readings.portrait import portrait
from saucer_core.tables.interpolate import read_grid
from saucer_core.tables.lut import Lut, Shaper, identity_grid
from saucer_core.treatment import Treatment, evaluate

from demo.looks import LOOKS

from .random_looks import colours

FROM_DEMO = {d.name: d.look() for d in LOOKS}
LOOK = Look.model_validate(
    {
        "steps": [
            {"kind": "contrast", "amount": 1.25},
            {"kind": "curves", "red": [[0, 0.02], [0.4, 0.35], [1, 1]], "blue": [[0, 0.1], [1, 0.9]]},
            {"kind": "channel_mix", "red": {"green": 0.1}},
            {"kind": "zone_tint", "shadows": {"hue": 210, "amount": 0.2}},
        ]
    }
)


def with_ocio(path, rgb, how=ocio.INTERP_TETRAHEDRAL):
    """OpenColorIO's pixels for a LUT file, its exact processor."""
    transform = ocio.FileTransform(str(path), interpolation=how)
    cpu = ocio.Config.CreateRaw().getProcessor(transform).getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE)
    out = np.array(rgb, dtype=np.float32, copy=True)
    cpu.applyRGB(out)
    return out


@pytest.mark.parametrize("size", [2, 17, 33])
def test_opencolorio_reads_our_cube_and_gives_our_pixels(tmp_path, size):
    """OpenColorIO 2.6, tetrahedral: at most 1e-5 apart."""
    lut = bake(Treatment(LOOK).compile(), size, title='with "quotes"\nand breaks', comments=("größe ü 釉",))
    path = tmp_path / "x.cube"
    path.write_text(cube.write_text(lut), encoding="utf-8")
    rgb = colours(3000)
    assert_allclose(lut.apply(rgb), with_ocio(path, rgb), atol=1e-5)
    back = cube.read(path)
    np.testing.assert_array_equal(back.grid, lut.grid)
    assert back.comments == ("größe ü 釉",)
    # The quotes that the title's own quotes have no room for are kept in a comment.
    assert back.title == 'with "quotes" and breaks'
    assert "TITLE \"with 'quotes' and breaks\"" in path.read_text()
    assert [words.split(":")[0] for words in cube.left_out(lut)] == [
        "the quotes of the title",
        "the line breaks of the title",
    ]


def test_linear_input_goes_through_a_shaper(tmp_path):
    """A look on linear light bakes to shaper and grid; as .clf OpenColorIO 2.6 reads both, as .cube nobody
    should get it."""
    look = Look.model_validate(
        {
            "input": "linear_709",
            "steps": [{"kind": "scene_to_display"}, {"kind": "saturation", "amount": 1.2}],
        }
    )
    lut = bake(Treatment(look).compile(), 33)
    assert format_for(lut).key == "clf"
    with pytest.raises(LookError, match="cannot hold the shaper"):
        cube.write_text(lut)
    path = tmp_path / "x.clf"
    path.write_text(clf.write_text(lut), encoding="utf-8")
    light = np.random.default_rng(6).uniform(0.002, 8, (2000, 3)).astype(np.float32)
    assert_allclose(lut.apply(light), with_ocio(path, light), atol=2e-5)
    assert np.abs(np.clip(lut.apply(light), 0, 1) - np.clip(evaluate(look, light), 0, 1)).mean() < 0.004
    assert_allclose(clf.read(path).apply(light), lut.apply(light), atol=2e-6)


def test_the_shaper_for_linear_light_reaches_as_far_down_as_the_grid():
    """Beginning at light 0 it left the codes below to the edge: on this demo look the worst ΔE was 4.3, on
    another one 10.6."""
    program = Treatment(FROM_DEMO["Ember & Tide"], "linear_709").compile()
    lut = bake(program, 33)
    measuring = Measuring(program)
    assert measuring.compare(lut).delta_largest < 2.2
    cut = lut.shaper.operation()
    first = np.zeros((1, 3), np.float32) + lut.shaper.low
    assert_allclose(apply([cut], first), 0, atol=1e-6)


def test_pillow_loads_our_cube(tmp_path):
    """Pillow 13, Color3DLUT from the numbers of the file, trilinear on 8 bit: within 2 codes."""
    from PIL import Image

    # Curves alone have no cross-talk: there trilinear and tetrahedral agree.
    look = Look.model_validate(
        {"steps": [{"kind": "curves", "red": [[0, 0.02], [0.4, 0.35], [1, 1]], "blue": [[0, 0.1], [1, 0.9]]}]}
    )
    lut = bake(Treatment(look).compile(), 33)
    table = ImageFilter.Color3DLUT(33, lut.grid.reshape(-1).tolist())
    rgb8 = (colours(2000, 0, 1) * 255).astype(np.uint8).reshape(40, 50, 3)
    theirs = np.asarray(Image.fromarray(rgb8).filter(table)).astype(float)
    ours = np.clip(lut.apply(rgb8.astype(np.float32) / 255), 0, 1) * 255
    assert np.abs(theirs - ours).max() <= 2


def test_ffmpeg_reads_our_cube_the_same(tmp_path):
    """FFmpeg's lut3d through PyAV 18, tetrahedral on planar float32: within 1e-4."""
    lut, rgb = bake(Treatment(LOOK).compile(), 33), colours(64 * 40, 0, 1).reshape(40, 64, 3)
    path = tmp_path / "ours.cube"
    path.write_text(cube.write_text(lut))
    given = av.VideoFrame(64, 40, "gbrpf32le")
    for plane, channel in enumerate((1, 2, 0)):
        rows = np.zeros((40, given.planes[plane].line_size // 4), np.float32)
        rows[:, :64] = rgb[..., channel]
        given.planes[plane].update(rows.tobytes())
    graph = av.filter.Graph()
    source = graph.add_buffer(width=64, height=40, format=given.format, time_base=Fraction(1, 25))
    table, sink = graph.add("lut3d", f"file={path}:interp=tetrahedral"), graph.add("buffersink")
    source.link_to(table)
    table.link_to(sink)
    graph.configure()
    source.push(given)
    pulled = sink.pull()
    assert isinstance(pulled, av.VideoFrame)
    planes = pulled.planes
    theirs = np.stack(
        [np.frombuffer(bytes(planes[k]), np.float32).reshape(40, -1)[:, :64] for k in (2, 0, 1)], axis=-1
    )
    np.testing.assert_allclose(theirs, lut.apply(rgb), atol=1e-4)


def test_interpolation_is_exact_on_the_grid_and_for_straight_tables():
    grid = identity_grid(9)
    low, high = np.zeros(3, np.float32), np.ones(3, np.float32)
    rgb = np.clip(colours(), 0, 1)
    assert_allclose(read_grid(rgb, grid, low, high), rgb, atol=1e-6)
    straight = np.ascontiguousarray(grid @ np.float32([[0.5, 0.2, 0], [0.1, 0.7, 0.3], [0.2, 0, 0.6]]))
    assert_allclose(
        read_grid(rgb, straight, low, high),
        rgb @ np.float32([[0.5, 0.2, 0], [0.1, 0.7, 0.3], [0.2, 0, 0.6]]),
        atol=1e-6,
    )
    bent = bake(Treatment(LOOK).compile(), 9)
    np.testing.assert_allclose(bent.apply(grid), bent.grid, atol=1e-6)


@pytest.mark.parametrize("interpolation", ["tetrahedral", "trilinear"])
def test_reading_in_place_and_in_tiles_gives_the_same(interpolation):
    lut, rgb = bake(Treatment(LOOK).compile(), 9), colours(3001, -0.2, 1.2)
    fresh = lut.apply(rgb, interpolation)
    assert_allclose(apply(replace(lut, interpolation=interpolation).operations(), rgb), fresh, atol=0)
    assert lut.apply(rgb, interpolation, out=rgb) is rgb
    np.testing.assert_array_equal(rgb, fresh)
    with pytest.raises(ValueError, match="must be contiguous"):
        lut.apply(rgb, out=np.empty((2, 3), np.float32))


@pytest.mark.parametrize("interpolation", ["tetrahedral", "trilinear"])
def test_what_is_no_number_reads_nothing_beyond_the_table(interpolation):
    lut = Lut(identity_grid(5))
    rgb = np.float32([[np.inf, -np.inf, 0.5], [0.25, 1e30, -1e30]])
    assert_allclose(lut.apply(rgb, interpolation), [[1, 0, 0.5], [0.25, 1, 0]], atol=1e-6)
    lut.apply(np.full((5000, 3), np.nan, np.float32), interpolation)


def test_outside_the_domain_the_edge_answers():
    lut = Lut(identity_grid(5), low=np.float32([0.1] * 3), high=np.float32([0.9] * 3))
    assert_allclose(lut.apply(np.float32([[-3, 0.5, 7]])), [[0, 0.5, 1]], atol=1e-6)


def test_the_stated_error_is_the_error():
    lut = bake(Treatment(LOOK).compile(), 17)
    stated = Measuring(Treatment(LOOK).compile()).compare(lut)
    worst = np.float32([stated.worst_in])
    exact, read = np.clip(evaluate(LOOK, worst), 0, 1), np.clip(lut.apply(worst), 0, 1)
    assert difference(exact, read, encoding(LOOK.output))[0] == pytest.approx(stated.delta_largest, abs=0.05)
    assert np.abs(exact - read).max() * 1023 <= stated.largest + 0.01
    finer = Measuring(Treatment(LOOK).compile()).compare(bake(Treatment(LOOK).compile(), 65))
    assert finer.mean < stated.mean / 4
    assert Measuring(Treatment(Look()).compile()).compare(bake(Treatment(Look()).compile(), 2)).largest < 0.01


HEAD = "LUT_3D_SIZE 2\n"
ROWS = "\n".join(f"{r} {g} {b}" for b in (0, 1) for g in (0, 1) for r in (0, 1))


@pytest.mark.parametrize(
    "text",
    [
        HEAD + ROWS,
        "\ufeff" + HEAD + ROWS,
        (HEAD + ROWS).replace("\n", "\r\n"),
        (HEAD + ROWS).replace(" ", "\t"),
        "# made by hand\n\nTITLE plain\n" + HEAD + "\n\n" + ROWS + "\n\n\n",
        HEAD + ROWS.replace("0", "0.0e-3").replace("1", "1E+0"),
        "LUT_3D_SIZE 2\nLUT_3D_INPUT_RANGE 0 1\n" + ROWS,
        HEAD + "DOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n" + ROWS,
        HEAD + ROWS.replace("\n", " # a note\n", 1),
    ],
)
def test_cubes_met_in_the_wild(text):
    lut = cube.read_text(text, "wild.cube")
    np.testing.assert_array_equal(lut.grid, identity_grid(2))


def test_a_cube_of_one_dimension():
    lut = cube.read_text("LUT_1D_SIZE 3\nDOMAIN_MAX 2 2 2\n0 0 0\n0.5 0.25 0.5\n1 1 1\n", "x.cube")
    assert lut.grid is None
    assert_allclose(lut.apply(np.float32([[1, 1, 0.5]])), [[0.5, 0.25, 0.25]])


@pytest.mark.parametrize(
    ("text", "line", "reason"),
    [
        ("", None, "neither LUT_1D_SIZE nor LUT_3D_SIZE"),
        (HEAD + ROWS[:-6], None, "cut short"),
        (HEAD + ROWS + "\n0 0 0", 10, "more rows"),
        (HEAD + ROWS.replace("1 1 0", "1 x 0"), 5, "is not 3 numbers"),
        (HEAD + ROWS.replace("1 1 0", "1 nan 0"), 5, "NaN"),
        (HEAD + ROWS.replace("1 1 0", "1 1"), 5, "expected 3 numbers, found 2"),
        ("LUT_3D_SIZE 400\n0 0 0", 1, "from 2 to 129"),
        ("LUT_3D_SIZE 1e9\n", 1, "whole number"),
        ("LUT_9D_SIZE 4\n", 1, "not a keyword"),
        (HEAD + "DOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 0 0\n" + ROWS, None, "does not lie above"),
    ],
)
def test_broken_cubes_are_refused_with_line_and_reason(text, line, reason):
    with pytest.raises(FileError, match=reason) as caught:
        cube.read_text(text, "broken.cube")
    assert caught.value.line == line
    assert str(caught.value).startswith("broken.cube")


@settings(deadline=None, max_examples=300)
@given(
    st.one_of(
        st.text(max_size=300),
        st.lists(
            st.sampled_from(
                [*HEAD.split(), "TITLE", '"', "0", "1", "-1e9", "nan", "#", "\n", "LUT_1D_SIZE", "DOMAIN_MAX"]
            )
        ).map(" ".join),
    )
)
def test_the_cube_reader_only_refuses(text):
    try:
        lut = cube.read_text(text, "fuzz.cube")
    except FileError:
        return
    assert np.isfinite(lut.apply(np.zeros((1, 3), np.float32))).all()


def test_binary_and_huge_files_are_refused(tmp_path):
    path = tmp_path / "x.cube"
    path.write_bytes(b"LUT_3D_SIZE 2\n\0\0\0")
    with pytest.raises(FileError, match="binary"):
        cube.read(path)
    with path.open("wb") as f:
        f.truncate(65 * 2**20)
    with pytest.raises(FileError, match="larger than 64 MiB"):
        cube.read(path)


def test_recipe_embeds_its_tables(tmp_path):
    lut = Lut(identity_grid(3) ** np.float32(1.5), Shaper(np.float32([[0, 0, 0], [1, 1, 1]])))
    look = Look.model_validate({"steps": [{"kind": "lut", "table": lut.digest(), "name": "n"}]})
    path = tmp_path / "x.saucer.json"
    recipe.write(path, look, name="Ünïcode ⁂", note='a "note"\nof two lines', tables=lambda d: lut)
    back = recipe.read(path)
    assert (back.name, back.note) == ("Ünïcode ⁂", 'a "note"\nof two lines')
    assert back.luts[lut.digest()].digest() == lut.digest()


@pytest.mark.parametrize(
    ("change", "reason"),
    [
        (lambda d: d.update(saucer=99), "version 99"),
        (lambda d: d.pop("saucer"), "no “saucer” version"),
        (lambda d: d["look"].update(input="nonsense"), "not sound at input"),
        (lambda d: d["look"]["steps"].append({"kind": "exposure", "stops": 1e9}), "not sound at steps"),
        (
            lambda d: d.update(tables={"a": {"size": 129, "grid": "AAAA", "low": "", "high": ""}}),
            "numbers its size asks for",
        ),
        (lambda d: d.update(tables={"a": {"size": 10**9}}), "whole number up to 129"),
        (lambda d: d.update(tables={"a": 3}), "not an object"),
    ],
)
def test_broken_recipes_are_refused(change, reason):
    data = json.loads(recipe.dumps(Look(), tables=lambda d: None))
    change(data)
    with pytest.raises(FileError, match=reason):
        recipe.loads(json.dumps(data), "x.saucer.json")


_Y, _X = np.mgrid[0:36, 0:64].astype(np.float32)
PICTURE = np.stack([_X / 63, _Y / 35, (_X + _Y) / 98], axis=-1)


@pytest.mark.parametrize(
    ("name", "depth", "kept"),
    [
        ("a.png", None, 1 / 65535),
        ("a.png", "uint8", 1 / 255),
        ("a.tif", None, 1 / 65535),
        ("a.tif", "float", 0),
        ("a.exr", "float", 0),
        ("a.exr", None, 1 / 2048),
        ("a.jpg", None, 0.03),
    ],
)
def test_pictures_of_every_depth(tmp_path, name, depth, kept):
    pictures.write(tmp_path / name, PICTURE, depth)
    rgb, facts = pictures.read(tmp_path / name)
    assert (facts.width, facts.height) == (64, 36)
    assert np.abs(rgb - PICTURE).max() <= kept + 1e-6


def test_bad_pictures_are_refused(tmp_path):
    good = tmp_path / "good.png"
    pictures.write(good, PICTURE)
    data = good.read_bytes()
    cases = {
        "empty.png": (b"", "is empty"),
        "text.png": (b"hello, this is no picture", "is not a picture"),
        "cut.png": (data[: len(data) // 2], "damaged or cut short"),
        "named.jpg": (data, "holds PNG data, but its name ends in .jpg"),
        "head.png": (data[:20], "damaged or cut short"),
    }
    for name, (content, reason) in cases.items():
        path = tmp_path / name
        path.write_bytes(content)
        with pytest.raises(FileError, match=reason):
            pictures.read(path)


def test_infinity_never_enters(tmp_path):
    rgb = PICTURE.copy()
    rgb[3, 7] = np.inf
    pictures.write(tmp_path / "x.exr", rgb, "float")
    with pytest.raises(FileError, match="not numbers, the first at x"):
        pictures.read(tmp_path / "x.exr")


def test_huge_pictures_are_refused_before_they_are_read(tmp_path, monkeypatch):
    path = tmp_path / "huge.png"
    pictures.write(path, PICTURE)
    monkeypatch.setattr(pictures, "PIXEL_LIMIT", 64 * 36 - 1)
    with pytest.raises(FileError, match="64 × 36 pixels are more than"):
        pictures.read(path)


def test_nothing_half_written_stays(tmp_path, monkeypatch):
    def full(*_):
        raise OSError(28, "No space left on device")

    path = tmp_path / "x.saucer.json"
    recipe.write(path, Look(), name="first", tables=lambda d: None)
    monkeypatch.setattr("os.replace", full)
    with pytest.raises(FileError, match="No space"):
        recipe.write(path, Look(), name="second", tables=lambda d: None)
    assert recipe.read(path).name == "first"
    assert [p.name for p in tmp_path.iterdir()] == ["x.saucer.json"]


def test_histogram_counts_every_pixel():
    bins = histogram(PICTURE)
    assert (bins.sum(axis=1) == 36 * 64).all()
    white = histogram(np.full((10, 10, 3), 3, np.float32))
    assert white[0, 255] == 100


def test_portrait_of_nothing_and_of_a_grey_look():
    size = 96
    plain = portrait(None, size).astype(int)
    assert plain[0, 0, 3] == 0
    assert plain[size // 2, size // 2, 3] == 255
    # The rim runs from black at the bottom to white at the top.
    assert plain[-6, size // 2, :3].max() < 20
    assert plain[5, size // 2, :3].min() > 235
    grey = portrait(Look.model_validate({"steps": [{"kind": "saturation", "amount": 0}]}), size).astype(int)
    solid = grey[..., 3] == 255
    assert (grey[solid][:, :3].max(axis=1) - grey[solid][:, :3].min(axis=1)).max() <= 3
    # Red lies to the right.
    assert plain[size // 2, int(size * 0.8), 0] > plain[size // 2, int(size * 0.8), 2]


def test_command_line(tmp_path, capsys):
    look, lut, picture = tmp_path / "l.saucer.json", tmp_path / "l.cube", tmp_path / "p.png"
    recipe.write(look, LOOK, name="Test", tables=lambda d: None)
    pictures.write(picture, PICTURE)
    assert main(["bake", str(look), "-o", str(lut), "--grid", "17", "--rights", "ask first"]) == 0
    assert main(["inspect", str(lut), "--json"]) == 0
    told = json.loads(capsys.readouterr().out.splitlines()[-1])
    assert told["grid"] == 17
    assert told["title"] == "Test"
    assert told["comments"] == ["Rights: ask first"]
    assert main(["apply", str(lut), str(picture), "-o", str(tmp_path / "o.png"), "--strength", "0.4"]) == 0
    out, _ = pictures.read(tmp_path / "o.png")
    source, _ = pictures.read(picture)
    assert_allclose(out, np.clip(source + 0.4 * (cube.read(lut).apply(source) - source), 0, 1), atol=2e-5)
    assert main(["apply", str(look), str(picture), "-o", str(tmp_path / "o2.tif")]) == 0
    assert main(["convert", str(lut), str(tmp_path / "again.cube")]) == 0
    np.testing.assert_array_equal(cube.read(tmp_path / "again.cube").grid, cube.read(lut).grid)
    capsys.readouterr()
    assert main(["inspect", str(tmp_path / "none.cube")]) == 1
    assert "there is no such file" in capsys.readouterr().err
    assert main(["apply", str(look), str(picture), "-o", "x.png", "--strength", "7"]) == 2
