"""Figures that docs/colour.md states of gamut fit, tables for PQ, and profiles, measured again: each is read
from the page."""

import re
from pathlib import Path

import numpy as np
import pytest
from saucer_core.baking.bake import bake
from saucer_core.baking.deviation import Measuring
from saucer_core.look import Look
from saucer_core.treatment import Treatment

TEXT = (Path(__file__).parents[2] / "docs" / "colour.md").read_text()


def stated(words: str) -> list[float]:
    """The numbers of a sentence of the page, where each # of ``words`` stands for one."""
    pattern = re.escape(words).replace(r"\#", r"([0-9.]+)")
    found = re.search(pattern.replace(r"\ ", r"\s+"), TEXT)
    assert found is not None, words
    return [float(one.rstrip(".")) for one in found.groups()]


def test_how_far_gamut_fit_leaves_a_channel_below_black():
    """On the faces of the P3 cube where a primary is off."""
    share, depth = stated("of colours at the edge of P3 for # % a channel stays up to # below")
    steps = [{"id": "a", "kind": "encode", "to": "srgb", "fit": True}]
    program = Treatment(
        Look.model_validate({"input": "display_p3", "output": "srgb", "steps": steps})
    ).compile()
    one, other = (axis.ravel() for axis in np.meshgrid(*[np.linspace(0, 1, 401, dtype=np.float32)] * 2))
    for channel in range(3):
        out = program(np.insert(np.stack([one, other], axis=-1), channel, 0, axis=1).astype(np.float32))
        assert 100 * (out.min(axis=-1) < -1e-4).mean() <= share
        assert -depth <= out.min()
        assert out.max() <= 1


@pytest.mark.parametrize("place", [0, 1], ids=["33", "65"])
def test_how_far_an_exposure_in_pq_is_off(place):
    off = stated("with 33 an exposure of one stop in PQ is off by ΔE ITP # (99 %), with 65 by #")[place]
    look = Look.model_validate(
        {"input": "pq", "output": "pq", "steps": [{"id": "a", "kind": "exposure", "stops": 1}]}
    )
    program = Treatment(look).compile()
    report = Measuring(program, []).report(bake(program, (33, 65)[place]), "tetrahedral")
    assert report.cube.delta_99 == pytest.approx(off, abs=0.06)
