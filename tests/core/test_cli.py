"""The command line, as a pipeline calls it: what it writes, what it says, and its exit status."""

import json

import numpy as np
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
    words = ("bake", look, "-o", tmp_path / "x.clf", "--grid", 17, "--report", report, "--frames", frames, "--rights", "ours")
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
    recipe.write(simple, Look.model_validate({"steps": [{"kind": "slope_offset_power", "red": {"slope": 1.2}}]}), tables=no_tables)
    for name in ("x.clf", "x.cc"):
        assert run(capsys, "bake", simple, "-o", tmp_path / name, "--exact")[0] == 0
        np.testing.assert_allclose(read_table(tmp_path / name).apply(np.float32([[0.5, 0.5, 0.5]])), [[0.6, 0.5, 0.5]], atol=1e-6)
    assert run(capsys, "bake", simple, "-o", tmp_path / "c.cube", "--curves", 256)[0] == 0
    assert cube.read(tmp_path / "c.cube").grid is None
    assert run(capsys, "bake", simple, "-o", tmp_path / "n.cube", "--range-in", "narrow", "--range-out", "narrow")[0] == 0
    black = np.full((1, 3), 64 / 1023, np.float32)
    np.testing.assert_allclose(read_table(tmp_path / "n.cube").apply(black), black, atol=2e-3)


def test_a_folder_goes_through_and_bad_pictures_are_named(tmp_path, capsys, look):
    source, target = tmp_path / "in", tmp_path / "out"
    source.mkdir()
    rgb = colours(300, 0, 1).reshape(15, 20, 3)
    pictures.write(source / "a.png", rgb, "uint16")
    pictures.write(source / "b.tif", rgb, "float")
    status, answer, said = run(capsys, "apply", look, source, "-o", target, "--encoding", "bt709_display", "--depth", "uint16")
    assert (status, answer["pictures"]) == (0, 2)
    assert "1 of 2: a.png" in said
    out, _ = pictures.read(target / "a.png")
    np.testing.assert_allclose(out, np.clip(evaluate(LOOK, np.round(rgb * 65535) / np.float32(65535)), 0, 1), atol=2e-4)
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
