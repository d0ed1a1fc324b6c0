"""Laws that hold for every look."""

import json

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from saucer_core.baking.bake import bake
from saucer_core.encodings import convert, encoding, meet
from saucer_core.errors import LookError
from saucer_core.formats import recipe
from saucer_core.look import KINDS, Look
from saucer_core.prefixes import PrefixCache
from saucer_core.steps import Surroundings
from saucer_core.treatment import Treatment, evaluate
from saucer_core.trim import Trim

from .random_looks import ENCODINGS, SINGLE, colours, looks, steps_of, tables, through_step

law = settings(
    max_examples=60, deadline=None, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much]
)


#: Conversions have no neutral state.
NEUTRAL = [k for k in KINDS if k.purpose != "convert"]
PLAIN = [
    k for k in NEUTRAL if any("fine" in f for n, f in k.declared()["properties"].items() if n != "strength")
]


@pytest.mark.parametrize("kind", NEUTRAL, ids=lambda k: k.__name__)
@pytest.mark.parametrize("key", ENCODINGS)
def test_defaults_are_the_identity(kind, key):
    rgb = colours()
    out = through_step(kind(), rgb, Surroundings(encoding(key)))
    np.testing.assert_allclose(out, rgb, atol=1e-6)


@pytest.mark.parametrize("kind", PLAIN, ids=lambda k: k.__name__)
def test_small_changes_stay_small(kind):
    """No jump where a parameter leaves its default: the short cut for neutral steps hides nothing."""
    numbers = {n: f for n, f in kind.declared()["properties"].items() if "fine" in f and n != "strength"}
    rgb = np.random.default_rng(9).uniform(0.25, 0.75, (300, 3)).astype(np.float32)
    for name, field in numbers.items():
        step = kind(**{name: field["default"] + 1e-5 * (field["maximum"] - field["minimum"])})
        for key in ENCODINGS:
            out = through_step(step, rgb, Surroundings(encoding(key)))
            np.testing.assert_allclose(out, rgb, atol=2e-3)


@law
@given(looks())
def test_total(look: Look):
    for low, high in ((-0.5, 1.5), (-100.0, 100.0)):
        out = evaluate(look, colours(low=low, high=high), tables=tables)
        assert np.isfinite(out).all()


@law
@given(looks())
def test_a_picture_equals_its_pixels(look: Look):
    rgb = colours(96)
    whole = evaluate(look, rgb.reshape(8, 12, 3), tables=tables).reshape(-1, 3)
    single = np.stack([evaluate(look, rgb[k], tables=tables) for k in range(0, 96, 19)])
    # The last bits of a float32 may differ between a vector and a lone colour.
    np.testing.assert_allclose(whole[::19], single, rtol=2e-5, atol=2e-5)


@law
@given(looks())
def test_saved_and_read_again(look: Look):
    again = Look.model_validate_json(look.model_dump_json())
    assert again == look
    assert again.digest() == look.digest()
    text = recipe.dumps(look, name="x", tables=tables)
    back = recipe.loads(text, "x.saucer.json")
    rgb = colours()
    np.testing.assert_array_equal(
        evaluate(back.look, rgb, tables=back.tables), evaluate(look, rgb, tables=tables)
    )


@law
@given(looks(), st.integers(0, 4))
def test_off_equals_absent(look: Look, at: int):
    if not look.steps:
        return
    k = at % len(look.steps)
    off = look.model_copy(deep=True)
    off.steps[k].on = False
    off = off.model_copy(update={"output": off.end().key})
    without = off.model_copy(update={"steps": [s for i, s in enumerate(off.steps) if i != k]})
    rgb = colours()
    np.testing.assert_array_equal(evaluate(off, rgb, tables=tables), evaluate(without, rgb, tables=tables))


@law
@given(st.sampled_from(SINGLE).flatmap(steps_of), st.sampled_from(ENCODINGS))
def test_a_group_of_one_equals_the_step(step, key):
    rgb = colours()
    alone = Look.model_validate({"input": key, "steps": [step]})
    grouped = Look.model_validate({"input": key, "steps": [{"kind": "group", "steps": [step]}]})
    for look in (alone, grouped):
        look.output = look.end().key
    np.testing.assert_array_equal(evaluate(alone, rgb, tables=tables), evaluate(grouped, rgb, tables=tables))


@law
@given(st.sampled_from(SINGLE).flatmap(steps_of), st.sampled_from(ENCODINGS))
def test_strength_nought_is_the_plain_conversion(step, key):
    look = Look.model_validate({"input": key, "steps": [{**step, "strength": 0.0}]})
    look.output = look.end().key
    rgb = colours()
    out = evaluate(look, rgb, tables=tables)
    np.testing.assert_allclose(out, convert(rgb, encoding(key), encoding(look.output)), atol=1e-6)


@law
@given(looks())
def test_leading_steps_are_remembered_rightly(look: Look):
    cache = PrefixCache()
    rgb = colours()
    first = Treatment(look).compile(tables)(rgb, cache, "a")
    np.testing.assert_array_equal(Treatment(look).compile(tables)(rgb, cache, "a"), first)
    if look.steps:
        look.steps[-1].on = not look.steps[-1].on
        look.output = look.end().key
        np.testing.assert_array_equal(
            Treatment(look).compile(tables)(rgb, cache, "a"), evaluate(look, rgb, tables=tables)
        )


@law
@given(looks(), st.floats(0, 1, width=32))
def test_whole_strength(look: Look, strength: float):
    rgb = colours()
    none = meet(rgb, encoding(look.input), encoding(look.output))
    full = evaluate(look, rgb, tables=tables)
    out = Treatment(look, strength=strength).compile(tables)(rgb)
    np.testing.assert_allclose(out, none + np.float32(strength) * (full - none), rtol=1e-3, atol=1e-3)


def test_upto_and_only():
    look = Look.model_validate(
        {
            "steps": [
                {"id": "a", "kind": "exposure", "stops": 1},
                {"id": "b", "kind": "saturation", "amount": 0},
            ]
        }
    )
    rgb = colours(low=0, high=1)
    first = Look.model_validate({"steps": [json.loads(look.steps[0].model_dump_json())]})
    second = Look.model_validate({"steps": [json.loads(look.steps[1].model_dump_json())]})
    program = Treatment(look).compile()
    np.testing.assert_array_equal(program.upto("a")(rgb), evaluate(first, rgb))
    np.testing.assert_array_equal(program.only("b")(rgb), evaluate(second, rgb))


@pytest.mark.parametrize("source", ["srgb", "film_log", "linear_709", "pq"])
@pytest.mark.parametrize("key", ["bt709_display", "film_log", "acescct"])
def test_a_picture_through_its_trim_and_a_look(source, key):
    """Trimmed in its own encoding, brought to the look's, then the look; a bake with the trim is a table of
    the same."""
    trim = Trim(exposure=0.4, temperature=20, tint=-5, contrast=1.1)
    look = Look.model_validate(
        {"input": key, "output": key, "steps": [{"kind": "saturation", "amount": 1.2}]}
    )
    rgb = colours(low=0.05, high=0.6)
    arrived = meet(Treatment(None, source, trim).compile()(rgb), encoding(source), encoding(key))
    program = Treatment(look, source, trim).compile()
    out = program(rgb)
    np.testing.assert_allclose(out, evaluate(look, arrived), atol=1e-5)
    np.testing.assert_array_equal(Treatment(None, key, Trim()).compile()(rgb), rgb)
    table = bake(program, 65)
    shown = convert(np.clip(table.apply(rgb), 0, None), encoding(key), encoding("srgb"))
    assert np.abs(shown - convert(np.clip(out, 0, None), encoding(key), encoding("srgb"))).mean() < 0.008


@law
@given(looks(), st.floats(0, 1))
def test_the_strength_of_a_look_is_the_strength_it_is_evaluated_at(look: Look, strength: float):
    rgb = colours(40, 0, 1)
    eased = look.model_copy(update={"strength": strength})
    wanted = Treatment(look, strength=strength).compile(tables)(rgb)
    np.testing.assert_allclose(evaluate(eased, rgb, tables=tables), wanted, atol=1e-5, rtol=1e-5)
    if not strength:
        plain = meet(rgb, encoding(look.input), encoding(look.output))
        np.testing.assert_allclose(evaluate(eased, rgb, tables=tables), plain, atol=2e-5, rtol=1e-4)


@law
@given(looks(), st.integers(0, 20))
def test_what_a_step_is_given_and_the_rest_make_the_whole(look: Look, at: int):
    if not look.steps:
        return
    k = at % len(look.steps)
    rgb = colours(40, 0, 1)
    before = Treatment(look).compile(tables).before(look.steps[k].id)
    given_there = before(rgb)
    rest = look.model_copy(update={"input": before.end.key, "steps": look.steps[k:]})
    np.testing.assert_allclose(
        evaluate(rest, given_there, tables=tables), evaluate(look, rgb, tables=tables), atol=2e-4, rtol=2e-3
    )


def test_inside_a_group_a_step_is_given_what_its_own_group_made_so_far():
    one, two = {"id": "a", "kind": "exposure", "stops": 0.5}, {"id": "b", "kind": "exposure", "stops": 0.25}
    look = Look.model_validate(
        {"steps": [{"id": "g", "kind": "group", "strength": 0.3, "steps": [one, two]}]}
    )
    rgb = colours(20, 0, 1)
    before = Treatment(look).compile().before("b")
    np.testing.assert_allclose(before(rgb), evaluate(Look.model_validate({"steps": [one]}), rgb), atol=1e-6)
    assert before.end.key == look.input
    with pytest.raises(LookError, match="no step"):
        Treatment(look).compile().before("zzz")
