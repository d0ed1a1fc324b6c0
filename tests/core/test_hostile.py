"""No file stops whoever reads it: each is read, or refused in words."""

import codecs
import json
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from saucer_core.errors import FileError
from saucer_core.formats import cdl, clf, cube, foreign, pictures, recipe
from saucer_core.look import Look

from tests.fuzz import READERS, _clf, batch

#: Fewer for the readers that start a process or decode a picture.
FEW = {"foreign": 25, "carrier": 60, "picture": 250, "developed": 30, "otio": 20}


@pytest.mark.parametrize("reader", READERS)
def test_damaged_files_are_read_or_refused(reader):
    """A short run of ``python -m tests.fuzz``."""
    found = batch(reader, 7, FEW.get(reader, 1500))
    assert found.faults == []
    assert found.refused > found.given / 3


def test_a_table_that_hangs_its_reader_is_given_up(tmp_path):
    """OpenColorIO 2.6 never returns from this file and never lets go of the interpreter."""
    path = tmp_path / "x.csp"
    path.write_bytes(b"CSPLUTV100\n3D\n\nBEGIN METADATA\nfoo")
    with pytest.raises(FileError, match="more time or memory than a LUT file should"):
        foreign.read(path)


def read_text(path: Path, text: str | bytes, reader):
    path.write_bytes(text if isinstance(text, bytes) else text.encode())
    return reader(path)


def test_floods_are_refused_before_anything_is_made_of_them(tmp_path):
    with pytest.raises(FileError, match="more than 200,000 elements"):
        read_text(tmp_path / "a.clf", _clf("<Description/>" * 300_000), clf.read)
    with pytest.raises(FileError, match="nested more than 32 deep"):
        read_text(tmp_path / "a.clf", _clf("<Info>" * 40), clf.read)
    with pytest.raises(FileError, match="more attributes"):
        read_text(
            tmp_path / "a.clf", _clf("<Info " + " ".join(f'a{k}="1"' for k in range(80)) + "/>"), clf.read
        )
    with pytest.raises(FileError, match="more than 200,000 values"):
        read_text(
            tmp_path / "a.saucer.json", '{"saucer": 2, "look": [' + "[]," * 300_000 + "[]]}", recipe.read
        )
    with pytest.raises(FileError, match="nested more than 64 deep"):
        read_text(tmp_path / "a.saucer.json", "[" * 100 + "]" * 100, recipe.read)
    with pytest.raises(FileError, match="is not JSON"):
        read_text(tmp_path / "a.saucer.json", '{"saucer": ' + "9" * 5000 + "}", recipe.read)


@pytest.mark.parametrize(
    ("name", "text", "words"),
    [
        ("a.cube", "LUT_3D_SIZE \u00b2\n", "whole number from 2 to 129"),
        ("a.cube", "LUT_1D_SIZE 2\nDOMAIN_MAX 1e300 1 1\n0 0 0\n1 1 1\n", "too large for a colour"),
        (
            "a.clf",
            _clf('<LUT3D inBitDepth="32f" outBitDepth="32f"><Array dim="\u00b2 2 2 3">0</Array></LUT3D>'),
            "not whole numbers",
        ),
        ("a.clf", b"<?xml version='1.0' encoding='x-none'?><ProcessList/>", "declares the encoding .x-none."),
        ("a.clf", b"<?xml version='1.0' encoding='rot13'?><ProcessList/>", "declares the encoding"),
        ("a.cc", b"\xff\xfe<\x00", "not sound XML"),
        ("a.spi1d", bytes(range(256)) * 4, "cannot be read"),
        ("a.3dl", bytes(range(255, -1, -1)) * 4, "cannot be read"),
    ],
)
def test_what_no_reader_expects_is_refused_in_words(tmp_path, name, text, words):
    readers = {".cube": cube.read, ".clf": clf.read, ".cc": cdl.read}
    with pytest.raises(FileError, match=words):
        read_text(tmp_path / name, text, readers.get(Path(name).suffix, foreign.read))


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "iso-8859-1", "windows-1252"])
def test_files_in_other_encodings_are_read(tmp_path, encoding):
    text = """<?xml version="1.0" encoding="ENC"?>
<ColorCorrection id="gr\u00f6\u00dfe"><SOPNode><Slope>1.5 1 1</Slope></SOPNode></ColorCorrection>""".replace(
        "ENC", encoding.removesuffix("-sig")
    )
    found = read_text(tmp_path / "a.cc", text.encode(encoding), cdl.read)
    assert found.title == "gr\u00f6\u00dfe"
    np.testing.assert_allclose(found.apply(np.float32([[0.2, 0.2, 0.2]])), [[0.3, 0.2, 0.2]], atol=1e-6)
    # What is kept of it is UTF-8 from here on.
    assert cdl.corrections(found.source, "again")[0].id == "gr\u00f6\u00dfe"


def test_a_cube_in_utf_16_is_read(tmp_path):
    text = 'TITLE "gr\u00f6\u00dfe"\nLUT_1D_SIZE 2\n0 0 0\n1 1 1\n'
    assert (
        read_text(tmp_path / "a.cube", codecs.BOM_UTF16_LE + text.encode("utf-16-le"), cube.read).title
        == "gr\u00f6\u00dfe"
    )


def test_many_logarithms_in_a_row_give_numbers(tmp_path):
    node = '<Log inBitDepth="32f" outBitDepth="32f" style="{}"/>'
    found = read_text(
        tmp_path / "a.clf",
        _clf("".join(node.format(s) for s in ("log10", "antiLog10", "antiLog2", "log2") * 13)),
        clf.read,
    )
    assert np.isfinite(found.apply(np.float32([[-1e18, 0, 1e18], [0.18, 1, 65504]]))).all()


def test_a_recipe_with_half_a_character_is_refused(tmp_path):
    whole = json.loads(recipe.dumps(Look(), name="a", tables=lambda d: None))
    with pytest.raises(FileError, match="no text"):
        read_text(tmp_path / "a.saucer.json", json.dumps({**whole, "name": "\ud800"}), recipe.read)


def test_a_picture_that_says_no_text_of_itself_is_refused(tmp_path):
    path = tmp_path / "a.exr"
    pictures.write(path, np.zeros((4, 4, 3), np.float32))
    data = path.read_bytes()
    at = data.index(b"channels\0chlist\0") + len("channels")
    path.write_bytes(data[:at] + b"\xff" + data[at + 1 :])
    with pytest.raises(FileError, match="no text"):
        pictures.read(path)


def test_the_long_run_is_a_command():
    done = subprocess.run(
        [sys.executable, "-m", "tests.fuzz", "--count", "200", "--readers", "cube", "cdl"],
        capture_output=True,
        text=True,
    )
    assert done.returncode == 0, done.stdout
    assert json.loads(done.stdout.splitlines()[-1]) == {"files": 200, "faults": 0}


def test_a_table_of_comments_alone_is_refused_at_once(tmp_path, monkeypatch):
    """Sixty MiB of lines without a number; none of them may be looked at."""
    path = tmp_path / "comments.cube"
    path.write_bytes(b"LUT_3D_SIZE 2\n0 0 0\n" + b"#\n" * 2_000_000)
    monkeypatch.setattr(np, "loadtxt", None)
    with pytest.raises(FileError, match="far more lines than the 8 rows"):
        cube.read(path)


def scanned(path, scans):
    """A progressive JPEG with one of its scans repeated (ITU-T T.81)."""
    Image.new("RGB", (64, 48), (200, 90, 40)).save(path, progressive=True)
    data = path.read_bytes()
    at = data.rindex(b"\xff\xda")
    last = data[at:-2]
    path.write_bytes(data[:at] + last * scans + data[-2:])
    return path


def test_a_picture_of_very_many_scans_is_refused_before_it_is_decoded(tmp_path):
    assert pictures.read(scanned(tmp_path / "ordinary.jpg", 1))[0].shape == (48, 64, 3)
    with pytest.raises(FileError, match="passes"):
        pictures.read(scanned(tmp_path / "many.jpg", 120))
