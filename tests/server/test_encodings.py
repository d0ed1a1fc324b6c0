"""Camera encodings of the team over HTTP."""

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.encodings import CameraEncoding, definition, encoding
from saucer_core.formats import pictures, recipe
from saucer_core.look import Look
from saucer_server.encodings import rules

NUMBERS = {
    "name": "Shed log",
    "red": [0.7, 0.3],
    "green": [0.2, 0.8],
    "blue": [0.13, 0.04],
    "white": [0.3127, 0.329],
    "base": 10,
    "log_side_slope": 0.25,
    "log_side_offset": 0.4,
    "lin_side_slope": 5.5,
    "lin_side_offset": 0.05,
    "lin_side_break": 0.011,
}


@pytest.fixture(autouse=True)
def _nothing_remembered():
    rules._known.clear()
    yield
    rules._known.clear()


def kept(who, **more):
    answer = who.post("/encodings/team", {**NUMBERS, **more})
    assert answer.status_code == 201, answer.content
    return answer.json()


def labels(who):
    return {e["key"]: e for e in who.get("/encodings").json()}


def test_an_encoding_is_known_everywhere_once_it_is_kept(designer, applier, tmp_path):
    key = CameraEncoding(**NUMBERS).key()
    look = {
        "name": "Shed",
        "draft": {
            "input": key,
            "output": "bt709_display",
            "steps": [{"id": "p", "kind": "scene_to_display"}],
        },
    }
    assert designer.post("/looks", look).status_code == 422
    row = kept(designer)
    assert row["key"] == key
    assert (
        labels(applier)[key]
        | {"label": "Shed log", "own": True, "offered": True, "response": "log", "referred": "scene"}
        == labels(applier)[key]
    )
    assert designer.post("/looks", look).status_code == 201
    path = tmp_path / "pot.png"
    pictures.write(path, np.full((9, 16, 3), 0.4, np.float32))
    frame = applier.upload(
        "/frames", {"encoding": key, "file": SimpleUploadedFile("pot.png", path.read_bytes())}
    )
    assert frame.status_code == 201
    # Code 0.4 lies near mid grey of this curve, which a display shows near 0.4 as well.
    still = applier.get(f"/frames/{frame.json()['id']}/still?width=16")
    assert still.status_code == 200


def test_check_values_come_with_it_and_before_it_is_kept(designer, applier):
    measured = applier.post("/encodings/team/measured", NUMBERS).json()
    assert measured == kept(designer)["measured"]
    grey = next(c for c in measured["checks"] if c["name"] == "mid grey")
    assert grey["code"] == pytest.approx(0.25 * np.log10(5.5 * 0.18 + 0.05) + 0.4, abs=1e-6)
    assert grey["ten_bit"] == pytest.approx(grey["code"] * 1023)
    assert grey["video_percent"] == pytest.approx((grey["ten_bit"] - 64) / 8.76)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"lin_side_break": -0.5}, "the break lies where the logarithm has no value"),
        ({"blue": [0.45, 0.55]}, "on one line"),
        ({"white": [0.3, 0.0]}, "white point"),
        ({"base": 1}, "base"),
        ({"base": "NaN"}, "base"),
        ({"name": "a\0b"}, "name"),
        ({"extra": 1}, "extra"),
    ],
)
def test_numbers_that_cannot_be(designer, change, words):
    answer = designer.post("/encodings/team", {**NUMBERS, **change})
    assert answer.status_code == 422
    assert words in answer.json()["message"]
    assert designer.get("/encodings/team").json() == []


def test_the_same_numbers_or_name_are_not_kept_twice(designer, other):
    first = kept(designer)
    again = other.post("/encodings/team", {**NUMBERS, "name": "Another"})
    assert again.status_code == 409
    assert "as “Shed log”" in again.json()["message"]
    assert again.json()["detail"]["id"] == first["id"]
    for name in ("shed LOG", "ACEScct", "  sRGB "):
        answer = other.post("/encodings/team", {**NUMBERS, "base": 2, "name": name})
        assert answer.status_code == 409, name
        assert "another name" in answer.json()["message"]
    assert other.post("/encodings/team", {**NUMBERS, "base": 2, "name": "   "}).status_code == 422


def test_who_may_change_one(applier, designer, other, lead):
    assert applier.post("/encodings/team", NUMBERS).status_code == 403
    row = kept(designer)
    path = f"/encodings/team/{row['id']}"
    assert other.send("PATCH", path, {"offered": False}).status_code == 403
    assert lead.send("PATCH", path, {"name": "Barn log"}).json()["name"] == "Barn log"
    assert encoding(row["key"]).label == "Barn log"
    kept(other, name="Loft log", base=2)
    assert designer.send("PATCH", path, {"name": "loft log"}).status_code == 409
    assert designer.send("PATCH", path, {"name": " "}).status_code == 422
    assert designer.send("PATCH", "/encodings/team/999", {"offered": False}).status_code == 404


def test_withdrawn_is_not_offered_but_goes_on(designer):
    row = kept(designer)
    draft = {
        "input": row["key"],
        "output": "bt709_display",
        "steps": [{"id": "p", "kind": "scene_to_display"}],
    }
    look = designer.post("/looks", {"name": "Shed", "draft": draft}).json()
    assert (
        designer.send("PATCH", f"/encodings/team/{row['id']}", {"offered": False}).json()["offered"] is False
    )
    assert labels(designer)[row["key"]]["offered"] is False
    assert designer.get(f"/looks/{look['id']}").json()["draft"]["input"] == row["key"]
    again = designer.post("/encodings/team", NUMBERS)
    assert "offer it again" in again.json()["message"]


def test_recipes_carry_it(designer):
    row = kept(designer)
    text = recipe.dumps(Look(input=row["key"], output=row["key"]), tables=lambda _: None)
    assert definition(row["key"]) == CameraEncoding(**NUMBERS)
    assert row["key"] in text
    assert '"log_side_slope": 0.25' in text
