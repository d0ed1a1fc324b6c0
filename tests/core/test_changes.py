"""What differs between two looks, in words; and the presets that come with Saucer."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from saucer_core.changes import changes
from saucer_core.checks import checks
from saucer_core.encodings import encoding, meet
from saucer_core.look import Look
from saucer_core.presets import shipped, step_of
from saucer_core.treatment import evaluate

from .random_looks import looks, tables


def look(*steps, **more):
    return Look.model_validate(
        {"steps": [{"id": s["kind"][0], **s} if "id" not in s else s for s in steps], **more}
    )


EXPOSURE, CONTRAST, SATURATION = {"kind": "exposure"}, {"kind": "contrast"}, {"kind": "saturation"}


@settings(max_examples=25, deadline=None)
@given(looks())
def test_nothing_differs_from_itself_and_everything_from_nothing(one):
    assert changes(one, one) == []
    empty = one.model_copy(update={"steps": []})
    assert [c.step for c in changes(empty, one) if c.what == "added"] == [
        c.step for c in changes(one, empty) if c.what == "removed"
    ]


@pytest.mark.parametrize(
    ("after", "wanted"),
    [
        (look({**EXPOSURE, "stops": 0.5}, CONTRAST, SATURATION), ["Exposure: exposure 0 stops → 0.5 stops"]),
        (look(SATURATION, EXPOSURE, CONTRAST), ["Saturation moved"]),
        (look(EXPOSURE, SATURATION), ["Contrast removed"]),
        (
            look(EXPOSURE, CONTRAST, SATURATION, {"id": "l", "kind": "levels", "label": "Print"}),
            ["Print added"],
        ),
        (
            look(EXPOSURE, {**CONTRAST, "on": False, "blend": "multiply"}, SATURATION),
            ["Contrast: switched off, blend normal → multiply"],
        ),
        (look(EXPOSURE, CONTRAST, SATURATION, output="srgb"), ["Goes out as sRGB instead of BT.709 display"]),
        (
            look(EXPOSURE, CONTRAST, SATURATION, finish={"grain": {"amount": 0.2}}),
            ["Grain in the finish changed"],
        ),
        (
            look(EXPOSURE, {"id": "g", "kind": "group", "steps": [{"id": "c", **CONTRAST}]}, SATURATION),
            ["Group added", "Contrast moved"],
        ),
    ],
)
def test_each_kind_of_change_has_its_sentence(after, wanted):
    assert [c.text for c in changes(look(EXPOSURE, CONTRAST, SATURATION), after)] == wanted


@settings(max_examples=40, deadline=None)
@given(st.permutations(range(6)))
def test_the_fewest_steps_are_called_moved(order):
    steps = [{"id": str(k), "kind": "exposure"} for k in range(6)]
    found = changes(look(*steps), look(*[steps[k] for k in order]))
    assert {c.what for c in found} <= {"moved"}
    longest = [1] * 6
    for i in range(6):
        longest[i] += max((longest[j] for j in range(i) if order[j] < order[i]), default=0)
    assert len(found) == 6 - max(longest)


def renders(preset) -> bool:
    """Whether it makes a display's picture of scene light."""
    return any(step["kind"] == "scene_to_display" for step in preset.content.get("steps", []))


#: Every preset in every encoding it is of use in: what renders scene light needs some.
PLACES = [
    (p, key)
    for p in shipped()
    for key in ("bt709_display", "film_log")
    if key == "film_log" or not renders(p)
]
BEGINNINGS = [(p, key) for p, key in PLACES if p.kind == "group"]


def called(value) -> str:
    return value if isinstance(value, str) else value.name


@pytest.mark.parametrize(("preset", "key"), PLACES, ids=called)
def test_presets_change_the_picture_and_stay_sound(preset, key):
    step = step_of({"id": "preset", **preset.content})
    display = np.float32(
        [[0.5, 0.35, 0.28], [0.3, 0.45, 0.3], [0.25, 0.35, 0.6], [0.1] * 3, [0.45] * 3, [0.85] * 3]
    )
    rgb = meet(display, encoding("bt709_display"), encoding(key))
    ends = "bt709_display" if renders(preset) else key
    out = evaluate(Look.model_validate({"input": key, "output": ends, "steps": [step]}), rgb, tables=tables)
    assert 0.004 < abs(out - (display if renders(preset) else rgb)).max() < 0.45
    assert not step.neutral()


@pytest.mark.parametrize(("preset", "key"), BEGINNINGS, ids=called)
def test_what_a_look_may_begin_with_turns_no_tones_and_clips_nothing(preset, key):
    before = [{"id": "way", "kind": "scene_to_display"}] if key == "film_log" and not renders(preset) else []
    begun = Look.model_validate({"input": key, "steps": [*before, {"id": "begun", **preset.content}]})
    # A look without colour turns skin: that is what it is for.
    assert {c.kind for c in checks(begun, [])} <= {"skin"}
