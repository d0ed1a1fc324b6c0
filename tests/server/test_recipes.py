"""Recipes and presets that come in as files: with all they borrow, or not at all."""

import base64
import json
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.baking.bake import bake
from saucer_core.encodings import CameraEncoding, define
from saucer_core.encodings.registry import forget
from saucer_core.formats import recipe
from saucer_core.look import Look as LookValue
from saucer_core.steps import no_tables
from saucer_core.treatment import Treatment
from saucer_server.encodings import rules as encodings
from saucer_server.encodings.models import TeamEncoding
from saucer_server.looks.models import Look
from saucer_server.luts import rules as luts
from saucer_server.luts.models import BorrowedLut
from saucer_server.people.rules import Person
from saucer_server.presets.models import Preset

CAMERA = CameraEncoding(
    name="Shed log",
    red=(0.7, 0.3),
    green=(0.2, 0.8),
    blue=(0.13, 0.04),
    white=(0.3127, 0.329),
    base=10,
    log_side_slope=0.25,
    log_side_offset=0.4,
    lin_side_slope=5.5,
    lin_side_offset=0.05,
    lin_side_break=0.011,
)
TABLE = bake(
    Treatment(LookValue(steps=[{"id": "c", "kind": "contrast", "amount": 1.3}])).compile(),
    5,
    title="Second firing",
)
DIGEST = TABLE.digest()
STEPS = [
    {"id": "p", "kind": "scene_to_display"},
    {
        "id": "t",
        "kind": "lut",
        "table": DIGEST,
        "name": "Second firing",
        "expects": "bt709_display",
        "gives": "bt709_display",
    },
]


@pytest.fixture(autouse=True)
def _encodings_of_this_test_alone():
    encodings._known.clear()
    yield
    forget(CAMERA)
    encodings._known.clear()


def whole() -> dict[str, Any]:
    """A recipe of another place: it borrows a table, and comes in as a camera encoding that is not known
    here."""
    key = define(CAMERA).key
    look = LookValue.model_validate({"input": key, "output": "bt709_display", "steps": STEPS})
    text = recipe.dumps(look, name="Night shed", note="for lamps", tables={DIGEST: TABLE}.get)
    forget(CAMERA)
    return json.loads(text)


def send(who, data, path="/looks/recipe", name="night.saucer.json"):
    text = data if isinstance(data, bytes) else json.dumps(data).encode()
    return who.upload(path, {"file": SimpleUploadedFile(name, text)})


def nothing_kept():
    return not any(model.objects.exists() for model in (Look, TeamEncoding, BorrowedLut, Preset))


def test_a_recipe_becomes_a_look_with_all_it_borrows(designer):
    answer = send(designer, whole())
    assert answer.status_code == 201, answer.content
    made = answer.json()
    assert made["said"] == [
        "It brought the camera encoding “Shed log”.",
        "It brought the LUT “Second firing”: ask whoever made the look who may pass it on.",
    ]
    look = designer.get(f"/looks/{made['id']}").json()
    assert (look["name"], look["note"], look["draft"]["input"]) == ("Night shed", "for lamps", CAMERA.key())
    (row,) = designer.get("/luts").json()
    assert (row["digest"], row["rights"], row["origin"]) == (
        DIGEST,
        "ask first",
        "the recipe night.saucer.json",
    )
    back = luts.table(DIGEST)
    assert back is not None
    colours = np.random.default_rng(1).uniform(0, 1, (50, 3)).astype(np.float32)
    np.testing.assert_array_equal(back.apply(colours), TABLE.apply(colours))
    assert designer.post(f"/looks/{made['id']}/revisions").status_code == 201


def test_what_is_here_already_is_not_kept_twice(designer, other):
    send(designer, whole())
    again = send(other, whole()).json()
    assert again["said"] == []
    assert (BorrowedLut.objects.count(), TeamEncoding.objects.count(), Look.objects.count()) == (1, 1, 2)


def test_a_name_that_is_taken_gets_a_number(designer):
    encodings.add(CAMERA.model_copy(update={"base": 2.0}), Person.objects.get(username="ines"))
    assert "“Shed log (2)”" in send(designer, whole()).json()["said"][0]
    assert {e["label"] for e in designer.get("/encodings").json() if e["own"]} == {"Shed log", "Shed log (2)"}


def test_an_old_version_is_brought_up_to_date_with_a_word(designer):
    old = {"saucer": 1, "name": "Old", "look": {"steps": [{"id": "c", "kind": "contrast", "amount": 1.2}]}}
    assert send(designer, old).json()["said"] == [
        "It was of version 1 and was brought up to version 2: the colours are the same."
    ]


def test_a_table_that_is_nowhere_is_named(designer):
    data = {**whole(), "tables": {}}
    assert (
        send(designer, data)
        .json()["said"][-1]
        .startswith("The LUT “Second firing” that it borrows was not in the file")
    )


def _changed_numbers() -> dict[str, Any]:
    data = whole()
    table = data["tables"][DIGEST]
    grid = np.frombuffer(base64.b64decode(table["grid"]), "<f4").copy()
    grid[7] += 0.01
    table["grid"] = base64.b64encode(grid.tobytes()).decode()
    return data


@pytest.mark.parametrize(
    ("damaged", "words"),
    [
        (b"\xff\xfe\x00", "not text in UTF-8"),
        (b"{", "is not JSON"),
        (b"[]", "not a look recipe"),
        ({"saucer": 99, "look": {}}, "recipe version 99"),
        ({"saucer": 2, "look": {"steps": [{"kind": "explode"}]}}, "not sound"),
        (_changed_numbers, "its numbers were changed"),
        (lambda: {**whole(), "encodings": {"camera-x": {"name": "a"}}}, "is not sound at"),
    ],
)
def test_damaged_files_leave_nothing(designer, damaged, words):
    answer = send(designer, damaged() if callable(damaged) else damaged)
    assert answer.status_code == 422
    assert words in answer.json()["message"]
    assert "night.saucer.json" in answer.json()["message"]
    assert nothing_kept()


def test_a_failure_at_the_end_takes_everything_back(designer, monkeypatch):
    def broken(*_, **__):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("saucer_server.looks.rules.create", broken)
    assert send(designer, whole()).status_code == 507
    assert nothing_kept()


def test_only_designers_bring_recipes_in(applier):
    assert send(applier, whole()).status_code == 403
    assert send(applier, whole(), "/presets/file").status_code == 403
    assert nothing_kept()


def test_presets_go_out_and_come_in_as_files(designer, other, applier):
    content = {"kind": "group", "label": "Night", "steps": STEPS[1:]}
    luts.adopt(
        TABLE, Person.objects.get(username="ines"), expects="srgb", gives="srgb", rights="r", origin="o"
    )
    kept = designer.post("/presets", {"name": "Night: two", "note": "for lamps", "content": content}).json()
    answer = designer.get(f"/presets/{kept['id']}/file")
    assert 'filename="Night- two.saucer.json"' in answer["Content-Disposition"]
    assert other.get(f"/presets/{kept['id']}/file").status_code == 404
    BorrowedLut.objects.all().delete()
    made = send(other, answer.content, "/presets/file").json()
    assert (made["name"], made["kind"]) == ("Night: two", "group")
    assert "It brought the LUT" in made["said"][0]
    assert Preset.objects.get(pk=made["id"]).content == Preset.objects.get(pk=kept["id"]).content
    # A preset is no look, and a look is no preset.
    assert "holds a preset" in send(other, answer.content).json()["message"]
    assert "holds a whole look" in send(other, whole(), "/presets/file").json()["message"]


def test_a_preset_holds_one_step(designer):
    text = recipe.dumps(
        LookValue(steps=[{"id": k, "kind": "contrast"} for k in "ab"]), tables=no_tables, preset=True
    )
    assert "one step or one group, not 2" in send(designer, text.encode(), "/presets/file").json()["message"]
