"""Fitted tables, and what a bake reports."""

import numpy as np
import pytest
from hypothesis import given, settings
from numpy.testing import assert_allclose, assert_array_equal
from saucer_core.baking.bake import bake, grid_colours
from saucer_core.baking.deviation import APART, Measuring, costliest_step, error_shares
from saucer_core.baking.fit import fit
from saucer_core.baking.guard import WAYS
from saucer_core.baking.spread import ordinary
from saucer_core.encodings.code_range import to_full
from saucer_core.look import Look
from saucer_core.operations import apply
from saucer_core.treatment import Treatment

from demo.looks import LOOKS

from .random_looks import looks, tables

PROGRAMS = {d.name: Treatment(d.look()).compile() for d in LOOKS}


#: Hues turned in narrow ranges, and two renderings of a scene: where a plain least-squares fit was worse in
#: places, or tones fell.
NARROW = [
    {"hue": 140, "width": 30, "feather": 10, "shift": 18, "saturation": -0.4},
    {"hue": 30, "width": 20, "feather": 10, "shift": -12},
]
PROGRAMS["narrow hues"] = Treatment(
    Look.model_validate({"steps": [{"kind": "hue_ranges", "ranges": NARROW}]})
).compile()
PROGRAMS["linear"] = Treatment(
    Look.model_validate({"input": "linear_709", "steps": [{"kind": "scene_to_display"}]})
).compile()
PROGRAMS["log"] = Treatment(
    Look.model_validate({"input": "acescct", "steps": [{"kind": "scene_to_display"}]})
).compile()
RAMP = np.repeat(np.linspace(0, 1, 3000, dtype=np.float32)[:, None], 3, axis=1)


@pytest.mark.parametrize("size", [17, 33])
@pytest.mark.parametrize("name", PROGRAMS)
def test_a_fitted_table_is_nowhere_worse_than_a_sampled_one(name, size):
    """Mean, 99 % and largest ΔE over the cube and ordinary colours, in both ways of reading; neither guard
    nor fit knows these colours."""
    program = PROGRAMS[name]
    seen = ordinary(2**15, program.source, 77)
    measuring = Measuring(program, [seen], power=14)
    sampled, fitted = bake(program, size), fit(program, size)
    for way in WAYS:
        before, now = measuring.report(sampled, way), measuring.report(fitted, way)
        for one, other in ((before.cube, now.cube), (before.pictures, now.pictures)):
            assert other.delta_mean <= one.delta_mean
            assert other.delta_99 <= 1.005 * one.delta_99
            assert other.delta_largest <= 1.1 * one.delta_largest
        if way == "tetrahedral":
            # The figure of docs/colour.md for the demo's looks at 33.
            most = 0.72 if size == 33 and name in {d.name for d in LOOKS} else 0.95
            assert now.cube.delta_mean < most * before.cube.delta_mean
        # A tone rises where it does in the look.
        given = grid_colours(program.source, RAMP)
        rises = np.diff(np.clip(program(given), 0, 1), axis=0) >= 0
        own, held = (np.diff(np.clip(t.apply(given, way), 0, 1), axis=0) for t in (sampled, fitted))
        assert (np.minimum(held, 0)[rises] >= np.minimum(own, 0)[rises] - 2e-5).all()


def test_it_is_the_same_each_time_whatever_was_fitted_before():
    program = PROGRAMS["Ember & Tide"]
    first = fit(program, 9)
    fit(PROGRAMS["Ash"], 17)
    assert_array_equal(first.grid, fit(program, 9).grid)


@settings(max_examples=25, deadline=None)
@given(look=looks())
def test_greys_and_corners_are_the_looks_own_and_nothing_overshoots(look):
    program = Treatment(look).compile(tables)
    sampled, fitted = bake(program, 9).grid, fit(program, 9).grid
    assert sampled is not None
    assert fitted is not None
    line = np.arange(9)
    assert_array_equal(fitted[line, line, line], sampled[line, line, line])
    assert_array_equal(fitted[::8, ::8, ::8], sampled[::8, ::8, ::8])
    assert np.isfinite(fitted).all()
    assert (fitted.min(axis=(0, 1, 2)) >= sampled.min(axis=(0, 1, 2))).all()
    assert (fitted.max(axis=(0, 1, 2)) <= sampled.max(axis=(0, 1, 2))).all()


def test_a_look_that_a_table_holds_is_left_alone():
    fitted = fit(Treatment(Look()).compile(), 9).grid
    assert_allclose(fitted, bake(Treatment(Look()).compile(), 9).grid, atol=1e-6)


def test_colours_of_pictures_count_more():
    program = PROGRAMS["Ember & Tide"]
    picture = np.random.default_rng(3).uniform(0.3, 0.45, (60, 80, 3)).astype(np.float32)
    measuring = Measuring(program, [picture], power=12)
    plain, toward = (measuring.report(fit(program, 9, pictures=p)).pictures for p in ((), [picture]))
    assert plain is not None
    assert toward is not None
    assert toward.delta_mean < plain.delta_mean


def test_narrow_range_is_the_same_table_for_other_codes():
    program = PROGRAMS["Cross bath"]
    codes = np.random.default_rng(1).uniform(64 / 1023, 940 / 1023, (2000, 3)).astype(np.float32)
    wanted = program(apply(to_full("narrow"), codes)).clip(0, 1)
    tables = [make(program, 17, range_in="narrow", range_out="narrow") for make in (bake, fit)]
    sampled, fitted = (
        np.abs(apply(to_full("narrow"), t.apply(codes)).clip(0, 1) - wanted).mean() for t in tables
    )
    assert fitted < 0.8 * sampled < 0.002


def test_a_size_that_no_table_has():
    with pytest.raises(ValueError, match="2 to 129"):
        fit(PROGRAMS["Ash"], 130)


def test_a_report_holds_cube_and_pictures_apart():
    program = PROGRAMS["Ember & Tide"]
    rng = np.random.default_rng(5)
    pictures = [rng.uniform(0.2, 0.5, (40, 50, 3)).astype(np.float32) for _ in range(2)]
    table = bake(program, 9)
    report = Measuring(program, pictures, power=12).report(table)
    alone = Measuring(program, power=12)
    assert report.cube == alone.compare(table)
    assert alone.report(table).pictures is None
    assert report.shown == report.pictures
    assert len(report.worst) == 6
    for worst in report.worst:
        given = np.array(worst.given, np.float32)
        assert (np.abs(pictures[worst.picture].reshape(-1, 3) - given).max(axis=1) < 1e-5).any()
        assert_allclose(program(given[None])[0].clip(0, 1), worst.look, atol=2e-5)
    looks = np.array([w.look for w in report.worst])
    apart = np.abs(looks[:, None] - looks[None]).max(axis=2) + np.eye(6)
    assert apart.min() > APART
    assert [w.delta for w in report.worst] == sorted((w.delta for w in report.worst), reverse=True)


def test_a_worst_colour_that_no_table_covers_is_said_to_lie_outside():
    """Brighter than white, as a trim makes it: the table's edge stands in for it at every size."""
    program = Treatment(Look.model_validate({"steps": [{"kind": "contrast", "amount": 0.7}]})).compile()
    inside, outside = np.full((8, 8, 3), 0.9, np.float32), np.full((8, 8, 3), 1.4, np.float32)
    outside[..., 2] = 0.2
    report = Measuring(program, [inside, outside], power=10).report(bake(program, 33))
    assert {w.picture: w.beyond for w in report.worst} == {0: False, 1: True}


def test_shares_of_the_error_sum_to_one():
    program = PROGRAMS["Ember & Tide"]
    shares = error_shares(program, 17)
    assert sum(share for _, share in shares) == pytest.approx(1)
    assert [s for _, s in shares] == sorted((s for _, s in shares), reverse=True)
    assert costliest_step(program, 17) == shares[0][0]
    assert error_shares(Treatment(Look()).compile()) == []
