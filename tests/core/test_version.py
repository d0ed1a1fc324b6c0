"""What the core computes has a version, under which results are kept: pixels do not move without it.

The values stand in ``values.json`` as this core gave them. After a change that is meant to move pixels: raise
``PIXELS`` in ``saucer_core/version.py``, then ``python -m tests.core.test_version``.
"""

import json
import re
from pathlib import Path

import numpy as np
from saucer_core.treatment import Treatment
from saucer_core.version import PIXELS, __version__

from demo.looks import LOOKS

ROOT = Path(__file__).parents[2]
VALUES = Path(__file__).parent / "values.json"
#: A grey ramp of four, strong colours, skin, and a deep blue; as they are on a display (BT.709).
COLOURS = np.array(
    [
        [0.02, 0.02, 0.02],
        [0.2, 0.2, 0.2],
        [0.5, 0.5, 0.5],
        [0.95, 0.95, 0.95],
        [0.9, 0.1, 0.1],
        [0.1, 0.8, 0.2],
        [0.15, 0.2, 0.9],
        [0.78, 0.58, 0.48],
        [0.9, 0.75, 0.1],
        [0.03, 0.04, 0.16],
    ],
    np.float32,
)
#: Codes that compilers of different machines may differ by: a tenth of a step of 8 bit.
SAME = 4e-4


def computed():
    """What each of ten looks makes of the colours."""
    return {
        look.name: Treatment(look.look(), "bt709_display").compile()(COLOURS).astype(float).tolist()
        for look in LOOKS[:10]
    }


def test_pixels_do_not_move_without_a_new_version():
    kept = json.loads(VALUES.read_text())
    assert kept["pixels"] == PIXELS, (
        "PIXELS was raised: write the values anew with python -m tests.core.test_version"
    )
    now = computed()
    assert list(now) == list(kept["looks"])
    moved = {
        name: float(np.abs(np.subtract(now[name], values)).max()) for name, values in kept["looks"].items()
    }
    assert max(moved.values()) < SAME, f"pixels moved, PIXELS did not: {moved}"


def test_ten_looks_do_something_of_their_own():
    now = computed()
    assert len(now) == 10
    apart = [np.abs(np.subtract(values, COLOURS)).max() for values in now.values()]
    assert min(apart) > 20 * SAME


def test_the_version_is_that_of_the_newest_section_of_the_changelog():
    assert (
        re.findall(r"^## (\d+\.\d+\.\d+)", (ROOT / "CHANGELOG.md").read_text(), re.MULTILINE)[0]
        == __version__
    )


if __name__ == "__main__":
    lines = ",\n".join(
        f"  {json.dumps(name)}: {json.dumps(np.round(values, 6).tolist())}"
        for name, values in computed().items()
    )
    VALUES.write_text(f'{{"pixels": {PIXELS}, "looks": {{\n{lines}\n}}}}\n')
