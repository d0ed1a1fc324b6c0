"""CONTRIBUTING.md, followed: a made-up step, encoding, format and reading in a copy, by what it says, and the
laws of this folder on them. A line is put into those files alone that its section names."""

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
TEXT = (ROOT / "CONTRIBUTING.md").read_text()
SECTIONS = dict(re.findall(r"^## (.*?)\n(.*?)(?=^## |\Z)", TEXT, re.M | re.S))

STEP = '''"""Doubled light."""

from typing import Any, ClassVar, Literal

from ..operations import Operation, coded, gain
from .parameter import number
from .step import Purpose, Step, Surroundings
from .traced import tone_line


class Doubled(Step):
    """Twice the light, so many times."""

    title: ClassVar[str] = "Doubled"
    purpose: ClassVar[Purpose] = "tone"
    summary: ClassVar[str] = "Twice the light, so many times"

    kind: Literal["doubled"] = "doubled"
    times: float = number(0.0, -3.0, 3.0, label="Times", fine=0.1, coarse=1.0)

    def operations(self, at: Surroundings) -> list[Operation]:
        return coded(at.encoding.transfer, [gain(2.0**self.times)])

    def trace(self, at: Surroundings) -> dict[str, Any]:
        return tone_line(self, at)
'''
FORMAT = '''"""Numbers alone: the points a side, then red, green and blue of each point, red fastest."""

from pathlib import Path

import numpy as np

from ..errors import FileError
from ..tables.lut import Lut, Table


def read(path: Path, name: str | None = None) -> Table:
    """A table. Raises ``FileError``."""
    try:
        size, *values = path.read_text().split()
        n = int(size)
        if not 2 <= n <= 65:
            raise ValueError
        grid = np.array(values, np.float32).reshape(n, n, n, 3)
        if not np.isfinite(grid).all():
            raise ValueError
    except (ValueError, OverflowError, MemoryError):
        raise FileError(name or path.name, "is not a list of numbers") from None
    return Lut(grid=grid)


def write_text(table: Table) -> str:
    """The text of a file."""
    assert isinstance(table, Lut) and table.grid is not None
    return f"{len(table.grid)} " + " ".join(map(str, table.grid.ravel().tolist()))
'''
READING = '''"""The mean of a picture."""

from ..arrays import F32, colours


def mean(rgb: F32) -> list[float]:
    """The mean of red, green and blue, code values."""
    return [float(v) for v in colours(rgb).reshape(-1, 3).mean(axis=0)]
'''
TRIED = """
import numpy as np
from saucer_core.errors import FileError
from saucer_core.formats.registry import read_table, write_table
from saucer_core.readings.made_up import mean
from saucer_core.tables.lut import Lut
from pathlib import Path
import sys
folder = Path(sys.argv[1])
grid = np.random.default_rng(1).random((5, 5, 5, 3), np.float32)
write_table(folder / "a.numbers", Lut(grid=grid))
assert np.array_equal(read_table(folder / "a.numbers").grid, grid)
(folder / "b.numbers").write_text("5 0.1 nonsense")
try:
    read_table(folder / "b.numbers")
except FileError:
    pass
else:
    raise SystemExit("a damaged file was read")
assert mean(np.full((2, 2, 3), 0.25, np.float32)) == [0.25, 0.25, 0.25]
"""


@pytest.fixture
def copy(tmp_path):
    shutil.copytree(ROOT / "core", tmp_path / "core", ignore=shutil.ignore_patterns("__pycache__"))
    (tmp_path / "tests").mkdir()
    for name in ("__init__.py", "amount.py"):
        shutil.copy(ROOT / "tests" / name, tmp_path / "tests")
    shutil.copytree(ROOT / "tests" / "core", tmp_path / "tests" / "core")
    return tmp_path


def add(copy: Path, section: str, file: str, line: str, before: str) -> None:
    """Puts a line into a file that the section names."""
    named = SECTIONS[section]
    assert Path(file).name in named, f"{section}: {file} is not named"
    path = copy / file
    text = path.read_text()
    assert text.count(before) == 1, (file, before)
    path.write_text(text.replace(before, line + before))


def test_what_it_says_is_enough(copy):
    core = Path("core/saucer_core")
    (copy / core / "steps" / "doubled.py").write_text(STEP)
    look = str(core / "look.py")
    add(copy, "A kind of step", look, "from .steps.doubled import Doubled\n", "from .steps.encode import")
    add(copy, "A kind of step", look, "    Doubled,\n", "    Exposure,\n    Contrast,\n")
    row = 'Encoding("made_up", "made up", BT2020, GAMMA_22, "display", "display"),\n        '
    add(copy, "An encoding", str(core / "encodings" / "registry.py"), row, 'Encoding("gamma_24"')
    (copy / core / "formats" / "made_up.py").write_text(FORMAT)
    registry = str(core / "formats" / "registry.py")
    add(copy, "A file format", registry, "from . import made_up\n", "from . import cdl, clf")
    row = 'TableFormat("made_up", ".numbers", (".numbers",), made_up.read, made_up.write_text),\n        '
    add(copy, "A file format", registry, row, 'TableFormat("cdl"')
    (copy / core / "readings" / "made_up.py").write_text(READING)
    env = {**os.environ, "PYTHONPATH": f"{copy / 'core'}:{copy}", "NUMBA_CACHE_DIR": str(copy / "kernels")}

    def runs(*words: str) -> None:
        done = subprocess.run([sys.executable, *words], cwd=copy, env=env, capture_output=True, text=True)
        assert done.returncode == 0, (done.stdout + done.stderr)[-3000:]

    runs("-c", TRIED, str(copy))
    tests = ["tests/core/test_laws.py", "tests/core/test_encodings.py", "-k", "Doubled or made_up"]
    runs("-m", "pytest", "-q", "-p", "no:cacheprovider", "-p", "no:django", *tests)
