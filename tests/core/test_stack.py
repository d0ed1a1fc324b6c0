"""Several looks on one shot, and treatments that go out in another encoding."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from saucer_core.encodings import conversion, encoding, meet
from saucer_core.look import Look
from saucer_core.operations import apply
from saucer_core.stack import Layer, stacked
from saucer_core.treatment import Treatment

from .random_looks import looks, tables

RGB = np.random.default_rng(4).uniform(0.02, 0.98, (256, 3)).astype(np.float32)


def through(look, **more):
    return Treatment(look, **more).compile(tables)(RGB)


@settings(max_examples=25, deadline=None)
@given(looks(), st.floats(0, 1))
def test_one_layer_is_the_look_eased(look, strength):
    np.testing.assert_allclose(
        through(stacked([Layer(look, strength)])), through(look, strength=strength), atol=1e-5
    )


@settings(max_examples=25, deadline=None)
@given(looks(), looks(), st.floats(0, 1))
def test_a_second_layer_works_on_what_the_first_gives(first, second, strength):
    both = stacked([Layer(first), Layer(second, strength)])
    given_on = through(first)
    end, wanted = encoding(first.output), encoding(second.input)
    inside = Treatment(second, strength=strength).compile(tables)(meet(given_on, end, wanted))
    back = meet(inside, encoding(second.output), end)
    assert both.output == first.output
    if strength in (0.0, 1.0):
        np.testing.assert_allclose(through(both), back if strength else given_on, atol=2e-3)
    assert np.isfinite(through(both)).all()


def test_a_layer_at_nothing_is_not_there():
    first = Look.model_validate({"steps": [{"id": "a", "kind": "contrast", "amount": 1.3}]})
    second = Look.model_validate({"steps": [{"id": "a", "kind": "saturation", "amount": 0.2}]})
    np.testing.assert_allclose(
        through(stacked([Layer(first, 0.6), Layer(second, 0.0)])), through(first, strength=0.6), atol=1e-5
    )


def test_the_finish_is_that_of_the_last_that_has_one():
    plain = Look.model_validate({"steps": []})
    grained = Look.model_validate({"steps": [], "finish": {"grain": {"amount": 0.3}}})
    assert stacked([Layer(grained), Layer(plain)]).finish == grained.finish
    assert not stacked([Layer(plain), Layer(plain)]).finish.active()


def test_nothing_and_too_much_are_refused():
    with pytest.raises(ValueError, match="needs a look"):
        stacked([])
    many = Look.model_validate({"steps": [{"id": str(k), "kind": "contrast"} for k in range(200)]})
    with pytest.raises(ValueError, match="at most"):
        stacked([Layer(many), Layer(many)])


@pytest.mark.parametrize("target", ["display_p3", "bt2020_display", "pq"])
def test_what_fits_goes_out_unchanged(target):
    """A wider gamut holds every colour of BT.709: the way out is the plain conversion."""
    look = Look.model_validate({"steps": [{"id": "a", "kind": "contrast", "amount": 1.1}]})
    inside = np.clip(through(look), 0.05, 0.95)
    plain = Look.model_validate({"steps": []})
    made = Treatment(plain, goes_out=target).compile()
    assert made.end.key == target
    np.testing.assert_allclose(
        made(inside), apply(conversion(encoding("bt709_display"), encoding(target)), inside), atol=2e-3
    )


def test_what_does_not_fit_is_eased_in_with_its_hue():
    wide = Look.model_validate({"input": "bt2020_display", "output": "bt2020_display", "steps": []})
    green = np.array([[0.1, 0.9, 0.1]], dtype=np.float32)
    out = Treatment(wide, goes_out="bt709_display").compile()(green)
    cut = apply(conversion(encoding("bt2020_display"), encoding("bt709_display")), green)
    assert out.min() > -0.02
    assert cut.min() < -0.1


def test_its_own_encoding_is_left_alone():
    look = Look.model_validate({"steps": [{"id": "a", "kind": "saturation", "amount": 1.9}]})
    assert (through(look, goes_out="bt709_display") == through(look)).all()
