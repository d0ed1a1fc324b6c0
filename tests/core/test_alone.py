"""The core, installed from its own directory into an environment that has nothing else."""

import json
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from saucer_core.formats import cube, recipe
from saucer_core.steps import no_tables

from .test_tables import LOOK

ROOT = Path(__file__).parents[2]


@pytest.fixture(scope="module")
def alone(tmp_path_factory):
    """The interpreter of a fresh environment with the core in it, its packages held to the versions of the
    lock."""
    home = tmp_path_factory.mktemp("alone")
    # Building writes beside the sources.
    sources = shutil.copytree(
        ROOT / "core", home / "core", ignore=shutil.ignore_patterns("__pycache__", "*.egg-info", "build")
    )
    subprocess.run([sys.executable, "-m", "venv", home / "venv"], check=True)
    python = home / "venv" / "bin" / "python"
    words = [
        "install",
        "--quiet",
        "--disable-pip-version-check",
        "--no-compile",
        "-c",
        ROOT / "requirements.lock",
        sources,
    ]
    subprocess.run([python, "-m", "pip", *words], check=True)
    return python


def run(python, *words, home):
    kept = {k: v for k, v in os.environ.items() if k not in ("PYTHONPATH", "VIRTUAL_ENV")}
    return subprocess.run(
        [python, *map(str, words)], cwd=home, env=kept, capture_output=True, text=True, check=False
    )


def test_it_works_without_the_server(alone, tmp_path):
    gone = run(alone, "-c", "import django", home=tmp_path)
    assert "No module named 'django'" in gone.stderr
    look, lut = tmp_path / "ours.saucer.json", tmp_path / "ours.cube"
    recipe.write(look, LOOK, name="Ours", tables=no_tables)
    baked = run(alone, "-m", "saucer_core", "bake", look, "-o", lut, "--grid", 17, "--json", home=tmp_path)
    assert baked.returncode == 0, baked.stderr
    assert json.loads(baked.stdout)["grid"] == 17
    assert cube.read(lut).size == 17


def test_every_module_is_in_what_is_installed(alone, tmp_path):
    code = """
import importlib, pkgutil, sys, saucer_core
for m in pkgutil.walk_packages(saucer_core.__path__, "saucer_core."):
    if not m.name.endswith("__main__"):
        importlib.import_module(m.name)
strange = any(m.split(".")[0] in ("django", "saucer_server") for m in sys.modules)
sys.exit(strange or "site-packages" not in saucer_core.__file__)
"""
    done = run(alone, "-c", code, home=tmp_path)
    assert done.returncode == 0, done.stderr
