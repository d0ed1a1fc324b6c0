"""Every benchmark runs to its end: a little of each. What it measures this way says nothing and is held
against nothing."""

import os
import re
import subprocess

from benchmarks.__main__ import PARTS
from launch import environment
from launch.places import ROOT, python

#: Parts that the ordinary run takes; a storm (``./saucer test --storm``) takes all.
TAKEN = tuple(PARTS) if os.environ.get("SAUCER_STORM") else ("core", "catalogue")


def test_every_benchmark_runs_whole():
    # What it starts makes a database of its own.
    own = {key: value for key, value in os.environ.items() if key not in ("DATABASE_URL", "SAUCER_DATA")}
    env = {
        **own,
        **environment.web_packages(),
        "SAUCER_MEASURE_LITTLE": "1",
        "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}:{ROOT}",
    }
    done = subprocess.run(
        [python(), "-m", "benchmarks", *TAKEN],
        cwd=ROOT,
        env=env,
        capture_output=True,
        text=True,
        timeout=1200,
    )
    assert done.returncode == 0, done.stderr[-3000:]
    assert re.findall(r"^measuring: (\w+)$", done.stdout, re.MULTILINE) == list(TAKEN)
    tables = done.stdout.split("\n### ")[1:]
    assert len(tables) >= 2 * len(TAKEN) - 2
    for told in tables:
        # Under its title, its head and a rule stands a figure.
        assert re.search(r"\n\|[-|]+\|\n\| .*\d", told), told
