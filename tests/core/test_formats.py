"""File formats against OpenColorIO, and against people who send us anything."""

import json

import numpy as np
import PyOpenColorIO as ocio
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.testing import assert_allclose
from PIL import ImageCms
from saucer_core.baking.bake import bake, bake_curves, grid_for
from saucer_core.encodings import ENCODINGS, CameraEncoding, convert, define, encoding
from saucer_core.errors import CoreError, FileError, LookError
from saucer_core.formats import carrier, cdl, clf, cube, foreign, ocio_config, recipe
from saucer_core.formats.registry import format_of, read_table, readable, write_table
from saucer_core.look import Look
from saucer_core.screen import for_screen
from saucer_core.steps.slope_offset_power import Correction
from saucer_core.tables.carrier import arrangements, grid_of, hald, picture, strip, tiles
from saucer_core.tables.lut import Lut, Shaper, identity_grid
from saucer_core.treatment import Treatment, evaluate

from .random_looks import colours
from .test_encodings import CAMERA
from .test_tables import LOOK, with_ocio

HEAD = '<ProcessList id="x" compCLFversion="3" name="ours">'
BITS = 'inBitDepth="32f" outBitDepth="32f"'


def listed(*nodes):
    return HEAD + "".join(nodes) + "</ProcessList>"


CURVE = "0 0.1 0 0.2 0.3 0.4 0.6 0.5 0.7 1 0.9 1"
# ruff: noqa: E501
NODES = {
    "matrix": f'<Matrix {BITS}><Array dim="3 3">0.9 0.1 0 0 1 0 0.05 0 0.95</Array></Matrix>',
    "matrix with offset": f'<Matrix {BITS}><Array dim="3 4">0.9 0.1 0 0.02 0 1 0 -0.01 0.05 0 0.95 '
    "0</Array></Matrix>",
    "matrix of ten bits": '<Matrix inBitDepth="10i" outBitDepth="16i"><Array dim="3 3">64 0 0 0 64 0 0 0 '
    "64</Array></Matrix>",
    "range": f"<Range {BITS}><minInValue>0.1</minInValue><maxInValue>0.9</maxInValue><minOutValue>0</minOutValue><maxOutValue>1</maxOutValue></Range>",
    "range, one side": f"<Range {BITS}><minInValue>0.1</minInValue><minOutValue>0.1</minOutValue></Range>",
    "lut1d": f'<LUT1D {BITS}><Array dim="4 3">{CURVE}</Array></LUT1D>',
    "lut1d, one column": f'<LUT1D {BITS}><Array dim="4 1">0 0.2 0.7 1</Array></LUT1D>',
    "lut1d, ten bits": '<LUT1D inBitDepth="10i" outBitDepth="10i"><Array dim="4 1">0 200 700 '
    "1023</Array></LUT1D>",
    "lut3d": f'<LUT3D {BITS} interpolation="tetrahedral"><Array dim="2 2 2 3">0 0 0 0 0 .8 0 .9 0 0 1 1 1 0 '
    ".1 .9 0 1 1 1 0 1 .9 1</Array></LUT3D>",
    "linToLog for one channel": f'<Log {BITS} style="linToLog"><LogParams channel="R" base="10" '
    'logSideSlope="0.3" linSideOffset="0.1"/></Log>',
    "log10": f'<Log {BITS} style="log10"></Log>',
    "antiLog2": f'<Log {BITS} style="antiLog2"></Log>',
    "linToLog": f'<Log {BITS} style="linToLog"><LogParams base="10" logSideSlope="0.3" logSideOffset="0.5" '
    'linSideSlope="2" linSideOffset="0.1"/></Log>',
    "cameraLogToLin": f'<Log {BITS} style="cameraLogToLin"><LogParams base="2" logSideSlope="0.08" '
    'logSideOffset="0.4" linSideSlope="1" linSideOffset="0.01" linSideBreak="0.02"/></Log>',
    "exponent": f'<Exponent {BITS} style="basicFwd"><ExponentParams exponent="2.2"/></Exponent>',
    "exponent, mirrored back": f'<Exponent {BITS} style="basicMirrorRev"><ExponentParams '
    'exponent="2.4"/></Exponent>',
    "exponent, passed": f'<Exponent {BITS} style="basicPassThruFwd"><ExponentParams exponent="1.8" '
    'channel="R"/></Exponent>',
    "moncurve": f'<Exponent {BITS} style="monCurveFwd"><ExponentParams exponent="2.4" '
    'offset="0.055"/></Exponent>',
    "moncurve back": f'<Exponent {BITS} style="monCurveMirrorRev"><ExponentParams exponent="2.2" '
    'offset="0.099"/></Exponent>',
    "cdl": f'<ASC_CDL {BITS} style="Fwd"><SOPNode><Slope>1.1 1 0.9</Slope><Offset>0.02 0 '
    "-0.02</Offset><Power>1 1.2 "
    "0.9</Power></SOPNode><SatNode><Saturation>0.8</Saturation></SatNode></ASC_CDL>",
    "cdl back": f'<ASC_CDL {BITS} style="RevNoClamp"><SOPNode><Slope>1.1 1 0.9</Slope><Offset>0.02 0 '
    "-0.02</Offset><Power>1 1.2 0.9</Power></SOPNode></ASC_CDL>",
}


@pytest.mark.parametrize("node", NODES)
def test_clf_nodes_against_opencolorio(tmp_path, node):
    """OpenColorIO 2.6 reads the same file; its exact processor."""
    path = tmp_path / "x.clf"
    path.write_text('<?xml version="1.0" encoding="UTF-8"?>\n' + listed(NODES[node]), encoding="utf-8")
    # Of nothing a logarithm gives what each likes: there is no light of nought here.
    rgb = np.maximum(colours(2000, 0.001, 1.2), np.float32(1e-3))
    assert_allclose(read_table(path).apply(rgb), with_ocio(path, rgb), rtol=3e-5, atol=2e-5)


def test_a_grid_that_does_not_say_how_is_read_trilinearly(tmp_path):
    """OpenColorIO 2.6, left to its defaults; SMPTE ST 2136-1."""
    grid = " ".join(f"{v:.4f}" for v in np.random.default_rng(3).uniform(0, 1, 81))
    for said, how in (
        ("", "trilinear"),
        (' interpolation="trilinear"', "trilinear"),
        (' interpolation="tetrahedral"', "tetrahedral"),
    ):
        path = tmp_path / f"{how}{len(said)}.clf"
        path.write_text(listed(f'<LUT3D {BITS}{said}><Array dim="3 3 3 3">{grid}</Array></LUT3D>'))
        table = clf.read(path)
        assert table.interpolation == how
        rgb = colours(500, 0, 1)
        theirs = rgb.copy()
        processor = ocio.Config.CreateRaw().getProcessor(ocio.FileTransform(str(path)))
        processor.getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE).applyRGB(theirs)
        assert_allclose(table.apply(rgb), theirs, atol=2e-6)
        # Written again, in a recipe and as a file, it is still read that way.
        assert clf.read_text(clf.write_text(table), "again").interpolation == how
        look = Look.model_validate({"steps": [{"kind": "lut", "table": table.digest(), "name": "three"}]})
        again = recipe.loads(recipe.dumps(look, tables={table.digest(): table}.get), "a.saucer.json")
        np.testing.assert_array_equal(evaluate(again.look, rgb, tables=again.tables), table.apply(rgb))


def test_clf_half_domain(tmp_path):
    """A LUT1D with one row for each half-float holds a square root over all of them; raw halfs are the same
    numbers.

    Beside arithmetic and OpenColorIO 2.6, which knows no ``rawHalfs="false"``.
    """
    halfs = np.arange(65536, dtype=np.uint16).view(np.float16)
    finite = np.where(np.isfinite(halfs), halfs, np.float16(0)).astype(np.float64)
    values = (np.sqrt(np.abs(finite)) * np.sign(finite)).astype(np.float16)
    rgb = colours(500, -2, 8)
    found = {}
    for raw, numbers in (("", values.tolist()), ('rawHalfs="true"', values.view(np.uint16).tolist())):
        lines = "\n".join(map(str, numbers))
        node = (
            f'<LUT1D inBitDepth="32f" outBitDepth="32f" halfDomain="true" {raw}><Array dim="65536 '
            f'1">{lines}</Array></LUT1D>'
        )
        path = tmp_path / "h.clf"
        path.write_text(f'<?xml version="1.0" encoding="UTF-8"?>\n{listed(node)}', encoding="utf-8")
        found[raw] = read_table(path).apply(rgb)
        assert_allclose(found[raw], with_ocio(path, rgb), rtol=2e-3, atol=2e-3)
    assert_allclose(found[""], np.sqrt(np.abs(rgb)) * np.sign(rgb), rtol=1e-3, atol=1e-3)
    np.testing.assert_array_equal(*found.values())


def test_clf_inverse_curve():
    back = clf.read_text(
        listed(f'<InverseLUT1D {BITS}><Array dim="4 1">0 0.2 0.7 1</Array></InverseLUT1D>'), "x.clf"
    )
    there = clf.read_text(listed(NODES["lut1d, one column"]), "x.clf")
    rgb = colours(low=0, high=1)
    assert_allclose(back.apply(there.apply(rgb)), rgb, atol=1e-5)


@pytest.mark.parametrize("source", ["bt709_display", "linear_709"])
def test_baked_clf_is_read_by_opencolorio(tmp_path, source):
    look = Look.model_validate(
        {
            "input": source,
            "output": "srgb",
            "steps": [{"kind": "scene_to_display", "to": "srgb"}, {"kind": "saturation", "amount": 1.3}],
        }
    )
    lut = bake(Treatment(look).compile(), 17, title="a “title” & <more>", comments=("größe 釉",))
    path = tmp_path / "x.clf"
    write_table(path, lut)
    rgb = colours(2000, 0.002, 1)
    assert_allclose(with_ocio(path, rgb), lut.apply(rgb), atol=2e-5)
    back = read_table(path)
    assert (back.title, back.comments) == ("a “title” & <more>", ("größe 釉",))
    assert_allclose(back.apply(rgb), lut.apply(rgb), atol=1e-6)


EXACT = Look.model_validate(
    {
        "input": "film_log",
        "output": "bt709_display",
        "steps": [
            {"kind": "exposure", "stops": 0.4},
            {"kind": "balance", "temperature": 20},
            {"kind": "encode", "to": "bt709_display"},
            {"kind": "channel_mix", "red": {"green": 0.1}},
            {"kind": "slope_offset_power", "red": {"slope": 1.1}, "saturation": 0.9},
        ],
    }
)


def test_exact_clf_is_exact_in_opencolorio(tmp_path):
    path = tmp_path / "exact.clf"
    path.write_text(clf.exact_text(EXACT, title="exact"), encoding="utf-8")
    rgb = colours(3000, 0.05, 0.9)
    assert_allclose(with_ocio(path, rgb), evaluate(EXACT, rgb), atol=2e-5)
    assert_allclose(read_table(path).apply(rgb), evaluate(EXACT, rgb), atol=1e-5)


def test_exact_clf_names_the_step_that_has_no_exact_form():
    with pytest.raises(LookError, match="“Curves” has no exact form"):
        clf.exact_text(LOOK.model_copy(update={"steps": LOOK.steps[1:]}))


BROKEN = [
    ("<ProcessList>", "not sound XML"),
    ("<other/>", "begins with other"),
    (listed(), "holds no node"),
    (listed("<Blur/>"), "does not know the node Blur"),
    (
        listed(
            '<Matrix inBitDepth="9i" outBitDepth="32f"><Array dim="3 3">1 0 0 0 1 0 0 0 1</Array></Matrix>'
        ),
        "inBitDepth “9i”",
    ),
    (listed(f'<Matrix {BITS}><Array dim="3 3">1 0 0 0 1 0 0 0</Array></Matrix>'), "Matrix needs"),
    (listed(f'<LUT3D {BITS}><Array dim="200 200 200 3">0</Array></LUT3D>'), "grids have 2 to 129"),
    (listed(f'<LUT1D {BITS}><Array dim="99999999 1">0</Array></LUT1D>'), "larger than Saucer takes"),
    (listed(f'<Matrix {BITS}><Array dim="3 3">1 0 0 0 nan 0 0 0 1</Array></Matrix>'), "infinity, NaN"),
    (listed(f'<Log {BITS} style="wood"/>'), "no style “wood”"),
    ('<!DOCTYPE x [<!ENTITY a "b">]>' + listed(), "document type or entities"),
]


@pytest.mark.parametrize(("text", "reason"), BROKEN)
def test_broken_clf_is_refused_with_a_reason(text, reason):
    with pytest.raises(FileError, match=reason):
        clf.read_text(text, "x.clf")


def test_the_line_at_fault_is_named():
    with pytest.raises(FileError, match=r"x\.clf, line 3: Matrix needs"):
        clf.read_text(
            HEAD + "\n\n" + f'<Matrix {BITS}><Array dim="3 3">1</Array></Matrix></ProcessList>', "x.clf"
        )


WHOLE = [listed(node) for node in NODES.values()]


@settings(deadline=None, max_examples=300)
@given(
    st.sampled_from(WHOLE),
    st.lists(
        st.tuples(
            st.floats(0, 1), st.sampled_from(["", "<", "9e99", "\0", "-", "R", "Array", " 1 1 1 ", "ü"])
        ),
        max_size=4,
    ),
)
def test_the_clf_reader_only_refuses(text, damage):
    """Files with pieces cut out and put in: a table, or the documented error; nothing else."""
    for place, piece in damage:
        k = int(place * len(text))
        text = text[:k] + piece + text[k + len(piece) // 2 :]
    try:
        table = clf.read_text(text, "x.clf")
    except FileError:
        return
    assert np.isfinite(table.apply(colours(20, 0, 1))).all()


CORRECTION = cdl.NamedCorrection(
    Correction((1.1, 1, 0.9), (0.02, 0, -0.01), (1, 1.1, 0.95), 0.8), "s<1>", "a “warm” shelf & more"
)


@pytest.mark.parametrize("suffix", [".cc", ".ccc", ".cdl"])
def test_cdl_files_are_read_by_opencolorio_and_by_us(tmp_path, suffix):
    path = tmp_path / f"x{suffix}"
    path.write_text(cdl.write_text([CORRECTION], suffix), encoding="utf-8")
    rgb = colours(1500, 0, 1)
    ours = read_table(path)
    transform = ocio.FileTransform(str(path))
    transform.setCDLStyle(ocio.CDL_ASC)
    theirs = np.array(rgb, copy=True)
    ocio.Config.CreateRaw().getProcessor(transform).getDefaultCPUProcessor().applyRGB(theirs)
    assert_allclose(ours.apply(rgb), theirs, atol=2e-5)
    assert (ours.title, ours.comments) == ("s<1>", ("a “warm” shelf & more",))


def test_cdl_of_a_look_and_what_it_cannot_hold(tmp_path):
    step = {"kind": "slope_offset_power", "red": {"slope": 1.2}}
    assert cdl.correction_of(Look.model_validate({"steps": [step]})).slope == (1.2, 1, 1)
    for steps, reason in (
        ([step, {"kind": "contrast", "amount": 2}], "this look has"),
        ([{**step, "strength": 0.5}], "part of its strength"),
    ):
        with pytest.raises(LookError, match=reason):
            cdl.correction_of(Look.model_validate({"steps": steps}))
    path = tmp_path / "x.ccc"
    path.write_text(cdl.write_text([CORRECTION, CORRECTION], ".ccc"))
    with pytest.raises(FileError, match="holds 2 corrections"):
        read_table(path)
    with pytest.raises(FileError, match="line 1: slope and saturation"):
        cdl.corrections(
            '<ColorCorrection id="a"><SOPNode><Slope>-1 1 1</Slope></SOPNode></ColorCorrection>', "x.cc"
        )


@pytest.mark.parametrize(
    "arrangement", [hald(4), hald(8), strip(17), strip(32), tiles(33), tiles(64)], ids=str
)
def test_carriers_hold_every_colour_once(arrangement):
    rgb = picture(arrangement)
    assert rgb.shape == (arrangement.height, arrangement.width, 3)
    np.testing.assert_array_equal(grid_of(rgb, arrangement), identity_grid(arrangement.grid))
    assert arrangement in arrangements(arrangement.width, arrangement.height)


@pytest.mark.parametrize(
    ("suffix", "depth"), [(".png", "uint8"), (".png", "uint16"), (".tif", "uint16"), (".tif", "float")]
)
def test_a_carrier_comes_back_as_the_look(tmp_path, suffix, depth):
    path = tmp_path / f"carrier{suffix}"
    lut = bake(Treatment(LOOK).compile(), 64)
    carrier.write(path, hald(8), depth, lut.grid)
    found = carrier.read(path)
    assert (found.verdict, found.arrangement) == ("accept", hald(8))
    assert (
        np.abs(found.lut.grid - np.clip(lut.grid, 0, 1)).max()
        <= {"uint8": 0.51 / 255, "uint16": 0.51 / 65535, "float": 1e-6}[depth] + 1e-6
        or depth == "float"
    )
    for wrong, reason in (
        (tmp_path / "x.jpg", "other kinds lose colours"),
        (tmp_path / "x.exr", "other kinds"),
    ):
        with pytest.raises(FileError, match=reason):
            carrier.write(wrong, hald(4))
    with pytest.raises(CoreError, match="level from 4 to 11"):
        hald(12)


def test_rarer_files_are_read_through_opencolorio(tmp_path):
    """A .spi1d written by hand from its description in OpenColorIO's documentation."""
    path = tmp_path / "curve.spi1d"
    path.write_text("Version 1\nFrom 0.0 1.0\nLength 3\nComponents 1\n{\n0.0\n0.3\n1.0\n}\n")
    assert ".spi1d" in readable()
    lut = read_table(path)
    assert_allclose(lut.apply(np.float32([[0.5, 0.25, 1.0]])), [[0.3, 0.15, 1.0]], atol=1e-5)
    (tmp_path / "broken.spi1d").write_text("Version 1\n{")
    with pytest.raises(FileError, match=r"broken\.spi1d: cannot be read"):
        foreign.read(tmp_path / "broken.spi1d")
    with pytest.raises(FileError, match="not a LUT file Saucer reads"):
        format_of("x.exe")


@pytest.mark.parametrize(
    ("kind", "suffix"), [k for k in ocio.Baker.getFormats() if k[1] not in ("clf", "ctf", "cube")]
)
def test_rarer_files_are_kept_as_what_they_are(tmp_path, kind, suffix):
    """OpenColorIO 2.6 bakes scene light through a logarithm; read by it and by us the files give the same
    colours, far beyond 0–1 too."""
    config = ocio.Config()
    log = ocio.LogAffineTransform([0.25] * 3, [0.6] * 3, [0.9] * 3, [0.02] * 3)
    mixed = ocio.MatrixTransform([0.8, 0.2, 0, 0, 0.1, 0.9, 0, 0, 0, 0.3, 0.7, 0, 0, 0, 0, 1])
    for name, inside in (
        ("light", []),
        ("shaped", [log]),
        ("target", [ocio.CDLTransform(power=[1.4, 1.2, 1], sat=0.8), mixed, log]),
    ):
        space = ocio.ColorSpace(name=name)
        if inside:
            space.setTransform(ocio.GroupTransform(inside), ocio.COLORSPACE_DIR_FROM_REFERENCE)
        config.addColorSpace(space)
    baker = ocio.Baker()
    baker.setConfig(config)
    baker.setFormat(kind)
    flat = suffix == "spi1d"
    baker.setInputSpace("light" if kind in ("cinespace", "houdini") else "shaped")
    if kind in ("cinespace", "houdini"):
        baker.setShaperSpace("shaped")
        baker.setShaperSize(1024)
    baker.setTargetSpace("light" if flat else "target")
    baker.setCubeSize(17)
    path = tmp_path / f"{kind}.{suffix}"
    path.write_text(baker.bake())
    table = read_table(path)
    assert table.size == (0 if flat else 17)
    rgb = colours(3000, -0.5, 4)
    theirs = rgb.copy()
    how = ocio.FileTransform(str(path), interpolation=ocio.INTERP_TETRAHEDRAL)
    ocio.Config.CreateRaw().getProcessor(how).getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE).applyRGB(
        theirs
    )
    assert_allclose(table.apply(rgb), theirs, atol=2e-6)
    # A recipe carries it, and nothing of it is lost on the way.
    look = Look.model_validate({"steps": [{"kind": "lut", "table": table.digest(), "name": "borrowed"}]})
    again = recipe.loads(recipe.dumps(look, tables={table.digest(): table}.get), "a.saucer.json")
    assert_allclose(
        evaluate(again.look, rgb, tables=again.tables),
        evaluate(look, rgb, tables={table.digest(): table}.get),
        atol=1e-6,
    )


def test_a_curve_over_a_domain_stays_a_curve(tmp_path):
    path = tmp_path / "wide.spi1d"
    path.write_text("Version 1\nFrom -0.1 1.2\nLength 3\nComponents 1\n{\n0.0\n0.3\n1.5\n}\n")
    table = read_table(path)
    assert isinstance(table, Lut)
    assert_allclose([table.shaper.low, table.shaper.high], [[-0.1] * 3, [1.2] * 3], atol=1e-6)
    assert_allclose(table.apply(np.float32([[-0.1, 0.55, 1.2]])), [[0, 0.3, 1.5]], atol=1e-6)


def test_tables_for_video_levels_are_read_as_tables_for_full_range(tmp_path):
    path = tmp_path / "video.cube"
    path.write_text(
        "LUT_IN_VIDEO_RANGE\nLUT_OUT_VIDEO_RANGE\nLUT_3D_SIZE 2 # two\n"
        + "\n".join(f"{r} {g} {b}" for b in (0, 1) for g in (0, 1) for r in (0, 1))
    )
    rgb = colours(50, 0, 1)
    assert_allclose(cube.read(path).apply(rgb), rgb, atol=1e-6)
    path.write_text("LUT_OUT_VIDEO_RANGE\nLUT_1D_SIZE 2\n0 0 0\n1 1 1\n")
    assert_allclose(
        cube.read(path).apply(np.float32([[64 / 1023, 940 / 1023, 0.5]])),
        [[0, 1, (0.5 * 1023 - 64) / 876]],
        atol=1e-6,
    )


def test_an_opencolorio_configuration_gives_the_look(tmp_path):
    looks = [ocio_config.NamedLook("Ours, one", LOOK), ocio_config.NamedLook("Ours / one", EXACT)]
    path = ocio_config.write(tmp_path / "config", looks)
    config = ocio.Config.CreateFromFile(str(path))
    config.validate()
    names = [look.getName() for look in config.getLooks()]
    assert names == ["Ours_one", "Ours_one_2"]
    for name, look, source in ((names[0], LOOK, "BT.709 display"), (names[1], EXACT, "film log")):
        rgb = colours(1000, 0.1, 0.8)
        transform = ocio.LookTransform(src=source, dst="BT.709 display", looks=name)
        theirs = np.array(rgb, copy=True)
        config.getProcessor(transform).getDefaultCPUProcessor().applyRGB(theirs)
        assert_allclose(theirs, bake(Treatment(look).compile(), 33).apply(rgb), atol=2e-3)


def through_ocio(processor, rgb):
    """Without OpenColorIO's quicker powers and logarithms, which are off by 2e-5."""
    out = np.array(rgb, dtype=np.float32, copy=True, order="C")
    exactly = processor.getOptimizedCPUProcessor(ocio.OPTIMIZATION_LOSSLESS)
    exactly.applyRGB(out)
    return out


def test_every_space_and_look_of_a_configuration_agrees_with_the_core(tmp_path):
    """OpenColorIO 2.6 on 4,096 colours: each encoding to ACES2065-1 and back, each look in its own
    encoding."""
    warm = [{"kind": "saturation", "amount": 0.8}]
    looks = [
        ocio_config.NamedLook(key, Look.model_validate({"input": key, "output": key, "steps": warm}), grid=17)
        for key in ENCODINGS
    ]
    shown = Look.model_validate(
        {"input": "film_log", "output": "bt709_display", "steps": [{"kind": "scene_to_display"}, *warm]}
    )
    looks.append(ocio_config.NamedLook("shown", shown, grid=17))
    looks.append(ocio_config.NamedLook("hlg in pq", looks[list(ENCODINGS).index("hlg")].look, goes_out="pq"))
    config = ocio.Config.CreateFromFile(str(ocio_config.write(tmp_path / "config", looks)))
    # Programs of 2021 on read it.
    assert (config.getMajorVersion(), config.getMinorVersion()) == (2, 1)
    aces = encoding("aces2065_1")
    for key, at in ENCODINGS.items():
        codes = colours(4096, 0, 4 if at.response == "linear" else 1)
        light = convert(codes, at, aces)
        scale = np.maximum(np.abs(light), 1)
        assert (
            np.abs((through_ocio(config.getProcessor(at.label, aces.label), codes) - light) / scale).max()
            < 1e-4
        ), key
        back = convert(through_ocio(config.getProcessor(aces.label, at.label), light), at, aces)
        # ACEScc has no code for light below zero: what its definition clips stays clipped.
        assert np.abs((back - convert(convert(light, aces, at), at, aces)) / scale).max() < 1e-4, key
    for look, name in zip(looks, [one.getName() for one in config.getLooks()], strict=True):
        program = look.treatment().compile()
        rgb = colours(4096, 0, 4 if program.source.response == "linear" else 1)
        transform = ocio.LookTransform(src=program.source.label, dst=program.end.label, looks=name)
        wanted = bake(program, grid_for(program, look.grid)).apply(rgb)
        # The table's codes, compared as light where a display curve is infinitely steep at black.
        theirs = through_ocio(config.getProcessor(transform), rgb)
        assert np.abs((theirs - wanted) / np.maximum(np.abs(wanted), 1)).max() < 1e-4, name


def test_a_configuration_shows_light_of_a_scene_as_saucer_does(tmp_path):
    config = ocio.Config.CreateFromFile(
        str(ocio_config.write(tmp_path / "config", [ocio_config.NamedLook("one", LOOK)]))
    )
    scene = np.repeat(np.float32([[0.18], [1], [4]]), 3, axis=1)
    aces = convert(scene, encoding("linear_709"), encoding("aces2065_1"))
    without = ocio.DisplayViewTransform(src="ACES2065-1", display="sRGB", view="without look")
    assert_allclose(
        through_ocio(config.getProcessor(without), aces), for_screen(scene, "linear_709"), atol=1e-4
    )
    display = colours(100, 0, 1)
    plain = ocio.DisplayViewTransform(src="sRGB", display="sRGB", view="without look, display light")
    assert_allclose(through_ocio(config.getProcessor(plain), display), display, atol=1e-4)


def test_a_configuration_that_is_refused_is_refused_in_words(tmp_path, monkeypatch):
    def refused(config):
        raise ocio.Exception("no")

    monkeypatch.setattr(ocio.Config, "validate", refused)
    with pytest.raises(CoreError, match="OpenColorIO refuses the configuration: no"):
        ocio_config.write(tmp_path / "config", [ocio_config.NamedLook("one", LOOK)])


def test_a_one_dimensional_bake_where_channels_do_not_mix():
    curves = Look.model_validate(
        {"steps": [{"kind": "curves", "blue": [[0, 0.1], [1, 0.9]]}, {"kind": "exposure", "stops": 0.5}]}
    )
    lut = bake_curves(Treatment(curves).compile(), 4096)
    rgb = colours(low=0, high=1)
    assert_allclose(lut.apply(rgb), evaluate(curves, rgb), atol=2e-3)
    with pytest.raises(LookError, match="mixes channels"):
        bake_curves(Treatment(LOOK).compile())


@pytest.mark.parametrize("kind", ["curve", "grid", "profile"])
def test_what_is_read_backwards_is_read(tmp_path, kind):
    """OpenColorIO 2.6: .ctf with an inverse curve or grid, and an ICC profile of Pillow 12 (LittleCMS)."""
    path = tmp_path / {"curve": "a.ctf", "grid": "a.ctf", "profile": "a.icc"}[kind]
    raw = ocio.Config.CreateRaw()
    if kind == "profile":
        path.write_bytes(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    else:
        table = ocio.Lut1DTransform(33, False) if kind == "curve" else ocio.Lut3DTransform(17)
        if kind == "curve":
            for k in range(33):
                table.setValue(k, *[(k / 32) ** 1.7] * 3)
        else:
            table.setData((identity_grid(17) ** 1.2 * 0.9).astype(np.float32).reshape(-1))
        table.setDirection(ocio.TRANSFORM_DIR_INVERSE)
        group = ocio.GroupTransform()
        group.appendTransform(table)
        path.write_text(group.write(formatName="Color Transform Format", config=raw))
    rgb = colours(500, 0.1, 0.8)
    theirs = np.array(rgb, copy=True)
    raw.getProcessor(ocio.FileTransform(str(path))).getDefaultCPUProcessor().applyRGB(theirs)
    assert_allclose(read_table(path).apply(rgb), theirs, atol=6e-3 if kind == "grid" else 2e-4)


def test_a_correction_that_cannot_be_undone_is_refused():
    node = (
        '<ASC_CDL style="Rev" inBitDepth="32f" outBitDepth="32f"><SOPNode><Slope>1 1 1</Slope><Offset>0 0 '
        "0</Offset>"
        "<Power>1e-45 1 1</Power></SOPNode></ASC_CDL>"
    )
    with pytest.raises(FileError, match=r"line 1.*cannot be undone"):
        clf.read_text(f'<ProcessList id="a" compCLFversion="3.0">{node}</ProcessList>', "x.clf")


def test_recipes_carry_team_encodings_and_chains(tmp_path):
    key = define(CameraEncoding(**CAMERA)).key
    chain = clf.read_text(listed(NODES["log10"], NODES["matrix"]), "x.clf")
    look = Look.model_validate(
        {
            "input": key,
            "output": key,
            "steps": [{"kind": "lut", "table": chain.digest(), "expects": key, "gives": key}],
        }
    )
    path = tmp_path / "x.saucer.json"
    recipe.write(path, look, name="Ours", tables=lambda digest: chain if digest == chain.digest() else None)
    assert json.loads(path.read_text())["encodings"][key]["name"] == "Ours"
    back = recipe.read(path)
    rgb = colours(200, 0.05, 1)
    assert_allclose(evaluate(back.look, rgb, tables=back.tables), chain.apply(rgb), atol=1e-6)


def test_recipes_of_version_one_are_brought_up_to_date():
    old = {"saucer": 1, "name": "old", "look": {"steps": [{"kind": "contrast", "amount": 1.2}]}, "tables": {}}
    assert recipe.loads(json.dumps(old), "o").look.steps[0].amount == 1.2
    with pytest.raises(FileError, match="versions 1 to 2"):
        recipe.loads(json.dumps({**old, "saucer": 7}), "o")
    schema = recipe.schema()
    assert schema["properties"]["saucer"] == {"const": recipe.VERSION}
    assert "Look" in schema["$defs"]


def test_shapers_in_every_format(tmp_path):
    values = np.sqrt(np.linspace(0, 1, 33, dtype=np.float32))[:, None].repeat(3, axis=1)
    lut = Lut(None, Shaper(values, high=np.full(3, 2, np.float32)))
    rgb = colours(400, 0, 2)
    for suffix in (".cube", ".clf"):
        path = tmp_path / f"x{suffix}"
        write_table(path, lut)
        assert_allclose(read_table(path).apply(rgb), lut.apply(rgb), atol=2e-5)
        assert_allclose(with_ocio(path, rgb), lut.apply(rgb), atol=2e-5)
