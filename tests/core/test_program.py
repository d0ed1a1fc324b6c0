"""Laws of the program: however a look is cut, remembered, fused or eased, its pixels are the same."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from saucer_core.arrays import by_tiles
from saucer_core.encodings import ENCODINGS
from saucer_core.look import Look
from saucer_core.operations import run_all
from saucer_core.prefixes import PrefixCache
from saucer_core.program import Program
from saucer_core.screen import for_screen
from saucer_core.treatment import Treatment, evaluate
from saucer_core.trim import Trim

from .random_looks import colours, looks, tables

law = settings(
    max_examples=80, deadline=None, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much]
)

#: Steps that drive colours to the ends of an encoding and back.
DRIVING = st.sampled_from(
    [
        {"kind": "exposure", "stops": 4.0},
        {"kind": "exposure", "stops": -4.0},
        {"kind": "exposure", "stops": 8.0},
        {"kind": "exposure", "stops": -8.0},
        {"kind": "saturation", "amount": 3.0},
        {"kind": "saturation", "amount": 0.4},
        {"kind": "balance", "temperature": 80.0, "tint": -40.0},
        {"kind": "contrast", "amount": 2.5},
        {"kind": "zone_tint", "overall": {"hue": 220, "amount": 1.0, "lightness": 0.6}},
        {"kind": "slope_offset_power", "red": {"slope": 3.0, "offset": -0.4}, "clamp": False},
        {"kind": "channel_mix", "red": {"green": 1.5, "blue": -1.0}, "keep_white": True},
        {"kind": "lift_gamma_gain", "master": {"gain": 3.0, "lift": -0.3}},
    ]
)


@st.composite
def driven(draw) -> Look:
    """A look in any encoding whose steps reach its ends; now and then through another encoding."""
    steps = draw(st.lists(DRIVING, min_size=2, max_size=5))
    if draw(st.booleans()):
        steps.insert(
            draw(st.integers(0, len(steps))), {"kind": "encode", "to": draw(st.sampled_from(list(ENCODINGS)))}
        )
    if draw(st.booleans()):
        k = draw(st.integers(0, len(steps) - 1))
        steps = [*steps[:k], {"kind": "group", "steps": steps[k:]}]
    look = Look.model_validate({"input": draw(st.sampled_from(list(ENCODINGS))), "steps": steps})
    return look.model_copy(update={"output": look.end().key})


def reaching(n: int = 300) -> np.ndarray:
    """Colours from far below black to far above white, corners of the cube and greys among them."""
    rgb = colours(n, -0.4, 1.6)
    rgb[11:19] = [[a, b, c] for a in (0, 1) for b in (0, 1) for c in (0, 1)]
    return rgb


def alike(a: np.ndarray, b: np.ndarray, noise: np.ndarray | float = 0.0) -> None:
    """Equal to 1e-5 of the code, and beyond that to what the last bits of a float32 become on the same way
    (see ``noise_of``)."""
    assert np.isfinite(a).all()
    allowed = 1e-5 * np.maximum(1, np.abs(b)) + noise
    over = np.abs(a - b) / allowed
    assert over.max() <= 1, (
        over.max(),
        a.reshape(-1, 3)[over.max(axis=-1).argmax()],
        b.reshape(-1, 3)[over.max(axis=-1).argmax()],
    )


def noise_of(program: Program, rgb: np.ndarray) -> np.ndarray:
    """How far a program's colours move when the last bits of what it is given do.

    A power function is infinitely steep at black, and several extreme steps multiply what came in many times:
    there roundings show.
    """
    rng = np.random.default_rng(5)
    here, moved = program(rgb), np.zeros_like(rgb)
    for _ in range(6):
        # A channel beside brighter ones comes with their roundings.
        reach = np.abs(rgb) * 2.0**-21 + np.maximum(np.abs(rgb).max(axis=-1, keepdims=True), 0.25) * 2.0**-23
        nudged = rgb + (rng.uniform(-1, 1, rgb.shape) * reach).astype(np.float32)
        moved = np.maximum(moved, np.abs(program(nudged) - here))
    # A colour may be carried where its neighbours were: the largest of a colour's channels counts for all
    # three.
    return 32 * np.repeat(moved.max(axis=-1, keepdims=True), 3, axis=-1)


def parts(program: Program, step: str) -> tuple[Program, Program]:
    """What comes to a top-level step, and the rest."""
    k = [row.step for row in program.rows].index(step)
    return program.before(step), replace(
        program, source=program.rows[k].before, lead=(), rows=program.rows[k:]
    )


@law
@given(driven(), st.data())
def test_a_cut_anywhere_changes_nothing(look, data):
    program = Treatment(look).compile(tables)
    first, rest = parts(program, data.draw(st.sampled_from([row.step for row in program.rows])))
    given_there = first(reaching())
    alike(rest(given_there), program(reaching()), noise_of(rest, given_there))


@law
@given(driven(), st.floats(0.99999, 1.0))
def test_a_strength_near_one_is_as_good_as_one(look, strength):
    rgb = reaching()
    full = evaluate(look, rgb, tables=tables)
    eased = Treatment(look, strength=strength).compile(tables)(rgb)
    plain = Treatment(look, strength=0.0).compile(tables)(rgb)
    # What easing itself takes away is taken off first.
    noise = noise_of(Treatment(look).compile(tables), rgb) + np.abs(plain) * np.float32(2.0**-22)
    alike(eased + np.float32(1 - strength) * (full - plain), full, noise)


@law
@given(driven(), driven(), st.data())
def test_no_pixel_depends_on_what_is_remembered(look, other, data):
    cache, rgb = PrefixCache(), reaching()
    changed = look.model_copy(deep=True)
    last = changed.steps[-1]
    if last.kind == "group":
        last.steps[-1].strength = 0.5
        last.strength = data.draw(st.sampled_from([1.0, 0.7]))
    else:
        last.strength = 0.5
    for one in (look, changed, other, look, changed, look):
        np.testing.assert_array_equal(
            Treatment(one).compile(tables)(rgb, cache, "a"), evaluate(one, rgb, tables=tables)
        )


@law
@given(looks())
def test_fused_equals_unfused(look):
    program = Treatment(look, "srgb", Trim(exposure=0.3, contrast=1.1), ends="screen").compile(tables)
    plain = [one for row in (*program.lead, *program.rows, *program.tail) for one in row.operations()]
    rgb = colours(200, 0, 1)
    alike(by_tiles(lambda tile: run_all(plain, tile), rgb), program(rgb), noise_of(program, rgb))


@law
@given(looks())
def test_the_way_to_the_screen_is_a_row_like_any_other(look):
    rgb = colours(200, 0, 1)
    program = Treatment(look, ends="screen").compile(tables)
    alike(program(rgb), for_screen(evaluate(look, rgb, tables=tables), look.output), noise_of(program, rgb))


@law
@given(looks())
def test_rows_carry_the_encodings_of_the_model(look):
    program = Treatment(look).compile(tables)
    given_to = look.encodings()
    assert {row.step: row.before for row in program.every_row()} == given_to
    assert program.end.key == look.output


def test_equal_operations_have_equal_marks_and_others_have_not():
    def marks(**step):
        look = Look.model_validate({"steps": [{"id": "a", **step}]})
        return [one.mark for one in Treatment(look).compile(tables).operations]

    curve = {"kind": "curves", "all": [[0, 0], [0.5, 0.6], [1, 1]]}
    assert marks(**curve) == marks(**curve, label="renamed")
    assert marks(**curve) != marks(kind="curves", all=[[0, 0], [0.5, 0.61], [1, 1]])
    assert marks(kind="saturation", amount=1.2) != marks(kind="saturation", amount=1.2, strength=0.5)


def test_a_missing_table_hinders_nothing_above_it():
    look = Look.model_validate(
        {
            "steps": [
                {"id": "a", "kind": "exposure", "stops": 1},
                {"id": "b", "kind": "lut", "table": "0" * 64},
            ]
        }
    )
    program = Treatment(look).compile()
    assert program.before("b")(colours(20)).shape == (20, 3)
    with pytest.raises(Exception, match="not in the catalogue"):
        program(colours(20))


def test_without_a_look_the_encoding_must_be_said():
    with pytest.raises(ValueError, match="must be given"):
        Treatment(None).compile()
