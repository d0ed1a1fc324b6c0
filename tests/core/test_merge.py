"""Parts of looks taken over: laws that hold for any two looks, and what a person expects of three."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from saucer_core.errors import LookError
from saucer_core.look import Look
from saucer_core.merge import ENDS, ORDER, STRENGTH, parts, taken

from ..amount import examples

STEP = st.fixed_dictionaries({"kind": st.just("exposure"), "stops": st.sampled_from([-1.0, 0.0, 0.5, 1.0])})


@st.composite
def looks(draw):
    ids = draw(st.lists(st.sampled_from("abcdef"), unique=True, max_size=6))
    return Look.model_validate(
        {"steps": [{"id": k, **draw(STEP)} for k in ids], "strength": draw(st.sampled_from([1.0, 0.6]))}
    )


@given(looks(), looks())
@settings(max_examples=examples(60, 400), deadline=None)
def test_all_parts_taken_make_the_other_look(mine, theirs):
    """Laws: with nothing taken it is mine; with everything taken it is theirs; no part differs from
    oneself."""
    assert parts(None, mine, mine) == []
    assert taken(mine, theirs, set()) == mine
    keys = {p.key for p in parts(None, mine, theirs)}
    found = taken(mine, theirs, keys)
    assert {s.id: s for s in found.steps} == {s.id: s for s in theirs.steps}
    assert found.strength == theirs.strength
    if ORDER in keys or not {s.id for s in theirs.steps} - {s.id for s in mine.steps}:
        assert [s.id for s in found.steps] == [s.id for s in theirs.steps]


@given(looks(), looks(), looks(), st.data())
@settings(max_examples=examples(60, 400), deadline=None)
def test_one_part_leaves_the_others_alone(base, mine, theirs, data):
    found = parts(base, mine, theirs)
    steps = [p for p in found if not p.key.startswith(":")]
    if not steps:
        return
    one = data.draw(st.sampled_from(steps))
    after = {s.id: s for s in taken(mine, theirs, {one.key}).steps}
    assert after.get(one.key) == {s.id: s for s in theirs.steps}.get(one.key)
    assert {k: v for k, v in after.items() if k != one.key} == {
        s.id: s for s in mine.steps if s.id != one.key
    }


def look(*steps, **more):
    return Look.model_validate({"steps": list(steps), **more})


CONTRAST = {"id": "c", "kind": "contrast", "amount": 1.2}
WARM = {"id": "w", "kind": "balance", "temperature": 10}
RICH = {"id": "s", "kind": "saturation", "amount": 1.1}


def test_who_changed_what_is_known_from_the_common_beginning():
    base = look(CONTRAST, WARM, RICH)
    mine = look({**CONTRAST, "amount": 1.3}, WARM, {**RICH, "amount": 1.2})
    theirs = look(CONTRAST, {**WARM, "temperature": 20}, {**RICH, "amount": 0.8}, strength=0.5)
    found = {p.key: p.who for p in parts(base, mine, theirs)}
    assert found == {"c": "mine", "w": "theirs", "s": "both", STRENGTH: "theirs"}
    assert {p.who for p in parts(None, mine, theirs)} == {"both"}


def test_a_step_comes_in_after_the_one_it_follows():
    mine = look(CONTRAST, RICH)
    theirs = look(CONTRAST, WARM, RICH)
    (part,) = parts(mine, mine, theirs)
    assert (part.mine, part.who) == ("not there", "theirs")
    assert "10" in part.theirs
    assert [s.id for s in taken(mine, theirs, {"w"}).steps] == ["c", "w", "s"]


def test_what_cannot_be_computed_is_refused():
    mine = look(CONTRAST)
    log = look({"id": "r", "kind": "scene_to_display"}, input="film_log")
    keys = {p.key for p in parts(None, mine, log)}
    assert ENDS in keys
    assert taken(mine, log, keys) == log
    with pytest.raises(LookError):
        taken(mine, log, {ENDS})
    with pytest.raises(LookError, match="Compare"):
        taken(mine, log, {"gone"})
