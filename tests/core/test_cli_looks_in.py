"""The commands that let looks in: packs, pairs, tables taken apart, and a picture of what a table does."""

import json
import os
import signal
import subprocess
import sys
import time
import zipfile
from pathlib import Path

import numpy as np
import pytest
from saucer_core.baking.bake import bake
from saucer_core.cli import FOUND_WANTING, main
from saucer_core.formats import cube, pictures, recipe
from saucer_core.formats.registry import read_table
from saucer_core.look import Look
from saucer_core.treatment import Treatment

from .test_pair import AFTER, BEFORE, scene

WARM = Look.model_validate(
    {"steps": [{"kind": "balance", "temperature": 15}, {"kind": "contrast", "amount": 1.1}]}
)
TABLE = cube.write_text(bake(Treatment(WARM).compile(), 17))


def run(capsys, *words):
    status = main([*map(str, words), "--json"])
    said = capsys.readouterr()
    return status, json.loads(said.out) if said.out else {}, said.err


@pytest.fixture
def warm(tmp_path):
    path = tmp_path / "warm.cube"
    path.write_text(TABLE)
    return path


@pytest.fixture
def packed(tmp_path):
    path = tmp_path / "yard.zip"
    with zipfile.ZipFile(path, "w") as z:
        for name, data in {
            "LICENCE.txt": "ours",
            "fired/warm.cube": TABLE,
            "fired/again.cube": TABLE,
            "half.cube": TABLE[:900],
        }.items():
            z.writestr(name, data)
    return path


def test_a_pack_is_judged_and_written_as_recipes(tmp_path, capsys, packed):
    out = tmp_path / "out"
    status, answer, _ = run(capsys, "bring-in", packed, "-o", out)
    assert status == FOUND_WANTING
    first, again = answer["looks"]
    assert (first["name"], first["expects"], first["kind"]) == ("warm", "bt709_display", "table")
    assert first["sure"] > 0.5
    assert again["twin of"] == "warm"
    assert [u["file"] for u in answer["unread"]] == ["half.cube"]
    assert [p.relative_to(out).as_posix() for p in out.rglob("*") if p.is_file()] == [
        "fired/warm.saucer.json"
    ]
    found = recipe.read(out / "fired/warm.saucer.json")
    rgb = np.random.default_rng(1).uniform(0, 1, (50, 3)).astype(np.float32)
    np.testing.assert_allclose(
        Treatment(found.look).compile(found.tables)(rgb), cube_of(TABLE, tmp_path).apply(rgb), atol=1e-6
    )


def cube_of(text: str, tmp_path: Path):
    path = tmp_path / "read.cube"
    path.write_text(text)
    return read_table(path)


def test_folders_come_in_and_what_is_known_is_not_guessed(tmp_path, capsys, warm):
    status, answer, _ = run(
        capsys,
        "bring-in",
        tmp_path,
        "--expects",
        "film_log",
        "--gives",
        "srgb",
        "-o",
        tmp_path / "out",
        "--twins",
    )
    assert status == 0
    (one,) = answer["looks"]
    assert (one["expects"], one["gives"]) == ("film_log", "srgb")
    assert "sure" not in one
    assert recipe.read(Path(one["written"])).look.input == "film_log"


def test_a_table_becomes_editable(tmp_path, capsys, warm):
    status, answer, _ = run(
        capsys,
        "unbake",
        warm,
        "-o",
        tmp_path / "w.saucer.json",
        "--expects",
        "bt709_display",
        "--gives",
        "bt709_display",
    )
    assert status == 0
    assert answer["with rest"]["cube"][0] <= 0.05
    assert answer["steps"]
    found = recipe.read(tmp_path / "w.saucer.json")
    assert found.look.steps[0].kind == "lut" or found.look.steps[-1].kind == "lut"
    status, _, _ = run(capsys, "unbake", warm, "-o", tmp_path / "bare.saucer.json", "--no-rest", "--steps", 2)
    assert all(step.kind != "lut" for step in recipe.read(tmp_path / "bare.saucer.json").look.steps)
    assert run(capsys, "unbake", warm, "-o", tmp_path / "w.cube")[0] == 1
    assert "not one table" in run(capsys, "unbake", tmp_path / "w.saucer.json")[2]


def test_a_pair_gives_a_table_and_a_picture_of_the_rest(tmp_path, capsys):
    pictures.write(tmp_path / "before.png", BEFORE, "uint16")
    pictures.write(tmp_path / "after.png", AFTER, "uint16")
    words = (
        "pair",
        tmp_path / "before.png",
        tmp_path / "after.png",
        "-o",
        tmp_path / "p.cube",
        "--unexplained",
        tmp_path / "rest.png",
    )
    status, answer, _ = run(capsys, *words)
    assert status == 0
    assert answer["share"] > 0.9
    assert read_table(tmp_path / "p.cube").size == 33
    assert pictures.read(tmp_path / "rest.png")[0].mean() < 0.3
    pictures.write(tmp_path / "other.png", scene(9)[::-1, ::-1], "uint8")
    status, _, said = run(capsys, "pair", tmp_path / "before.png", tmp_path / "other.png")
    assert status == 1
    assert "not the same picture" in said


def test_a_table_is_drawn(tmp_path, capsys, warm):
    status, answer, _ = run(capsys, "inspect", warm, "--plot", tmp_path / "p.png", "--expects", "srgb")
    assert status == 0
    assert answer["read as"][0] == "srgb"
    rgb, facts = pictures.read(tmp_path / "p.png")
    assert facts.width > 600
    assert rgb.std() > 0.15
    assert run(capsys, "inspect", warm, "--expects", "srgb")[0] == 2


def default_interrupt():
    """A shell in the background, nohup and some machines that run tests ignore Ctrl-C, and a child inherits
    that."""
    signal.signal(signal.SIGINT, signal.SIG_DFL)


def test_nothing_half_written_stays_after_ctrl_c(tmp_path):
    source = tmp_path / "many"
    source.mkdir()
    for k in range(60):
        (source / f"{k}.cube").write_text(TABLE)
    words = [
        sys.executable,
        "-m",
        "saucer_core",
        "bring-in",
        str(source),
        "-o",
        str(tmp_path / "out"),
        "--twins",
    ]
    with subprocess.Popen(
        words,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.PIPE,
        env={**os.environ},
        preexec_fn=default_interrupt,
    ) as child:
        deadline = time.monotonic() + 300
        # A look under its own name: the part of a file that is being written begins with a dot.
        while not list((tmp_path / "out").glob("[!.]*.json")) and time.monotonic() < deadline:
            time.sleep(0.02)
        child.send_signal(signal.SIGINT)
        child.wait(timeout=30)
    assert child.returncode == 130
    written = list((tmp_path / "out").iterdir())
    assert 0 < len(written) < 60
    for path in written:
        assert recipe.read(path).luts, f"{path.name} is whole"
