"""Drafts, revisions, live tables, bakes and borrowed tables over HTTP."""

import struct

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.baking.bake import bake
from saucer_core.encodings import encoding, meet
from saucer_core.formats.cube import write_text
from saucer_core.look import Look as LookValue
from saucer_core.screen import for_screen
from saucer_core.stack import Layer, stacked
from saucer_core.treatment import Treatment, evaluate
from saucer_server.frames import rules as frames
from saucer_server.looks.models import Look, SetAside
from saucer_server.luts.models import BorrowedLut

from .conftest import STEPS


def draft(**change):
    return {"input": "bt709_display", "output": "bt709_display", "steps": [{**STEPS[0], **change}]}


def save(who, look, version, body):
    return who.send("PUT", f"/looks/{look.pk}/draft", {"version": version, "draft": body})


def test_a_draft_saves_with_its_version(designer, look):
    assert save(designer, look, 1, draft(amount=1.5)).json()["version"] == 2
    assert designer.get(f"/looks/{look.pk}").json()["draft"]["steps"][0]["amount"] == 1.5


def test_a_stale_save_keeps_both(designer, other, look):
    assert save(designer, look, 1, draft(amount=1.5)).status_code == 200
    late = save(other, look, 1, draft(amount=0.7))
    assert late.status_code == 409
    detail = late.json()["detail"]
    assert detail["version"] == 2
    assert detail["draft"]["steps"][0]["amount"] == 1.5
    assert "nothing is lost" in late.json()["message"]
    assert Look.objects.get().draft["steps"][0]["amount"] == 1.5
    kept = other.get(f"/looks/{look.pk}").json()["set_aside"]
    assert kept[0]["draft"]["steps"][0]["amount"] == 0.7
    # Trying again does not pile up copies; settling it removes it.
    save(other, look, 1, draft(amount=0.7))
    assert SetAside.objects.count() == 1
    assert save(other, look, 2, draft(amount=0.6)).status_code == 200
    other.send("DELETE", f"/looks/{look.pk}/set-aside/{kept[0]['id']}")
    assert SetAside.objects.count() == 0


def test_late_pages_of_one_person_keep_what_each_of_them_has(designer, look):
    save(designer, look, 1, draft(amount=1.5))
    for tab, amount in (("one", 0.5), ("two", 0.6), ("three", 0.7), ("one", 0.8)):
        late = designer.send(
            "PUT", f"/looks/{look.pk}/draft", {"version": 1, "draft": draft(amount=amount), "tab": tab}
        )
        assert late.status_code == 409
    kept = designer.get(f"/looks/{look.pk}").json()["set_aside"]
    assert {a["draft"]["steps"][0]["amount"] for a in kept} == {0.6, 0.7, 0.8}


def test_saving_the_same_twice_is_no_conflict(designer, look):
    save(designer, look, 1, draft())
    stored = Look.objects.get().draft
    assert save(designer, look, 1, stored).status_code == 200


def test_a_revision_never_changes(designer, look, revision):
    before = designer.get(f"/revisions/{revision.pk}/recipe").json()
    save(designer, look, 1, draft(amount=2.0))
    assert designer.get(f"/revisions/{revision.pk}/recipe").json() == before
    second = designer.post(f"/looks/{look.pk}/revisions", {"note": "harder"}).json()
    assert (second["number"], second["note"]) == (2, "harder")
    assert second["digest"] != revision.digest


def test_a_look_that_cannot_be_computed_is_not_kept(designer, look):
    save(designer, look, 1, {"steps": [{"kind": "encode", "to": "film_log", "id": "e"}]})
    answer = designer.post(f"/looks/{look.pk}/revisions")
    assert answer.status_code == 422
    assert "The steps end in film log" in answer.json()["message"]
    assert "film log" in designer.get(f"/looks/{look.pk}").json()["trouble"]
    assert not look.revisions.exists()


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"steps": [{"kind": "exposure", "stops": 99}]}, "stops"),
        ({"steps": [{"kind": "sharpen"}]}, "steps"),
        ({"steps": [{"kind": "curves", "red": [[0.5, 0], [0.2, 1]]}]}, "rise from left to right"),
        ({"steps": [{"kind": "levels", "surprise": 1}]}, "surprise"),
        ({"input": "nonsense"}, "input"),
    ],
)
def test_unsound_drafts_are_refused_in_words(designer, look, body, words):
    answer = save(designer, look, 1, body)
    assert answer.status_code == 422
    assert words in answer.json()["message"]
    assert Look.objects.get().draft_version == 1


def parse_live(content):
    import json

    (length,) = struct.unpack("<I", content[:4])
    head = json.loads(content[4 : 4 + length])
    size = head["size"]
    return head, np.frombuffer(content[4 + length :], dtype="<f2").reshape(size, size, size, 3)


def test_the_live_table_is_the_look_for_the_screen(designer, frame):
    recipe = LookValue.model_validate({"steps": STEPS})
    answer = designer.post("/live", {"look": recipe.model_dump(mode="json"), "frame": frame.pk})
    head, table = parse_live(answer.content)
    expected = for_screen(bake(Treatment(recipe).compile(), 33).grid, recipe.output)
    np.testing.assert_allclose(table, np.clip(expected, -1, 2), atol=1e-3)
    assert set(head["traces"]) == {"a", "b"}
    assert head["traces"]["a"]["encoding"] == "bt709_display"


def test_the_picture_at_rest_is_the_looks_own(designer, frame):
    recipe = LookValue.model_validate({"steps": STEPS})
    body = {"look": recipe.model_dump(mode="json"), "frame": frame.pk}
    content = designer.post("/exact?width=64", body).content
    width, height = struct.unpack("<II", content[:8])
    sent = np.frombuffer(content[8:], dtype="<f2").reshape(height, width, 3)
    expected = for_screen(evaluate(recipe, frames.pixels(frame, recipe.input, 64)), recipe.output)
    np.testing.assert_allclose(sent, expected, atol=2e-3)
    assert designer.post("/exact?width=64", {"look": {}}).status_code == 422


def test_a_picture_arrives_as_places_in_the_table(designer, frame):
    content = designer.get(f"/frames/{frame.pk}/places?input=film_log&width=64").content
    width, height = struct.unpack("<II", content[:8])
    sent = np.frombuffer(content[8:], dtype="<f2").reshape(height, width, 3)
    expected = meet(frames.original(frame, 64), encoding("srgb"), encoding("film_log"))
    np.testing.assert_allclose(sent, np.clip(expected, -4, 4), atol=1e-3)


def test_a_missing_table_is_named(designer):
    look = {"steps": [{"id": "s", "kind": "lut", "table": "f" * 64, "name": "Old print"}]}
    answer = designer.post("/live", {"look": look})
    assert answer.status_code == 422
    assert answer.json()["detail"] == {"step": "s"}
    assert "“Old print” is not in the catalogue" in answer.json()["message"]


def cube_file(name="print.cube", data=None):
    return SimpleUploadedFile(
        name,
        data
        or write_text(
            bake(Treatment(LookValue.model_validate({"steps": STEPS})).compile(), 5, title="Print")
        ).encode(),
    )


ABOUT = {"expects": "bt709_display", "gives": "bt709_display", "rights": "free", "origin": "ours"}


def test_a_lut_comes_in_and_is_used(designer, look):
    made = designer.upload("/luts", {**ABOUT, "file": cube_file()})
    assert made.status_code == 201, made.content
    lut = made.json()
    assert (lut["name"], lut["size"]) == ("Print", 5)
    again = designer.upload("/luts", {**ABOUT, "file": cube_file()})
    assert again.status_code == 409
    assert "here already" in again.json()["message"]
    step = {"kind": "lut", "id": "l", "table": lut["digest"], "name": "Print"}
    answer = designer.post("/live", {"look": {"steps": [step]}})
    assert answer.status_code == 200, answer.content[:500]
    save(designer, look, 1, {"steps": [step]})
    assert designer.send("DELETE", f"/luts/{lut['id']}").status_code == 409
    # As a copy of the files that is older than the database leaves it.
    BorrowedLut.objects.all().delete()
    assert "“Print” is not in the catalogue" in designer.get(f"/looks/{look.pk}").json()["trouble"]
    assert designer.post(f"/looks/{look.pk}/revisions").status_code == 422


def test_a_lut_is_not_removed_while_something_names_it(designer, look):
    """A draft, a revision, a step inside a group, a preset: each is told, and nothing is gone."""
    lut = designer.upload("/luts", {**ABOUT, "file": cube_file()}).json()
    step = {"kind": "lut", "id": "l", "table": lut["digest"], "name": "Print"}
    group = {"kind": "group", "id": "g", "label": "Both", "steps": [step]}
    save(designer, look, 1, {"steps": [group]})
    assert designer.post(f"/looks/{look.pk}/revisions", {"note": ""}).status_code == 201
    save(designer, look, 2, {"steps": []})
    preset = designer.post("/presets", {"name": "Printed", "content": step})
    assert preset.status_code == 201, preset.content
    answer = designer.send("DELETE", f"/luts/{lut['id']}")
    assert answer.status_code == 409
    assert (
        answer.json()["message"]
        == "“Print” is in “Warm shelf” r1, the preset “Printed”. Take it out there first."
    )
    assert designer.post("/live", {"look": {"steps": [step]}}).status_code == 200
    save(designer, look, 3, {"steps": [step]})
    assert "the draft of “Warm shelf”" in designer.send("DELETE", f"/luts/{lut['id']}").json()["message"]


def test_a_lut_that_nothing_names_is_removed(designer):
    lut = designer.upload("/luts", {**ABOUT, "file": cube_file()}).json()
    assert designer.send("DELETE", f"/luts/{lut['id']}").status_code == 204
    assert designer.get("/luts").json() == []


@pytest.mark.parametrize(
    ("file", "words"),
    [
        (cube_file(data=b"LUT_3D_SIZE 5\n0 0 0\n"), "cut short"),
        (cube_file(data=b"LUT_3D_SIZE 2\n0 0 x\n"), "line 2"),
        (cube_file("print.exe"), "not a LUT file"),
        (cube_file(data=b"\x89PNG\r\n\x1a\n\0\0\0"), "binary"),
    ],
)
def test_broken_luts_are_refused(designer, file, words):
    answer = designer.upload("/luts", {**ABOUT, "file": file})
    assert answer.status_code == 422
    assert words in answer.json()["message"]
    assert designer.get("/luts").json() == []


def test_a_lut_needs_rights_and_origin(designer):
    answer = designer.upload("/luts", {**ABOUT, "rights": "", "file": cube_file()})
    assert answer.status_code == 422
    assert "rights" in answer.json()["message"]


def test_the_catalogue_finds(designer, look, revision):
    designer.send("PUT", f"/catalogue/{look.pk}/tags", {"tags": ["Dusk", " dusk ", "warm"]})

    def names(query):
        return [c["name"] for c in designer.get(f"/catalogue?{query}").json()["cards"]]

    assert names("q=shel+war") == ["Warm shelf"]
    assert names("q=ines") == ["Warm shelf"]
    assert names("q=dusk") == ["Warm shelf"]
    assert names("tag=dusk&tag=warm") == ["Warm shelf"]
    assert names("tag=dusk&tag=cold") == []
    assert names("q=nothing") == []
    assert names("status=approved") == []
    assert designer.get("/catalogue/filters").json()["tags"] == [
        {"name": "dusk", "count": 1},
        {"name": "warm", "count": 1},
    ]
    assert designer.get("/catalogue").json()["cards"][0]["tags"] == ["dusk", "warm"]


def test_a_look_without_a_revision_is_not_catalogued(designer, look):
    assert designer.get("/catalogue").json()["total"] == 0


def test_stills_and_saucers(designer, revision, frame):
    still = designer.get(f"/revisions/{revision.pk}/still?frame={frame.pk}&width=64&strength=0.5")
    assert still.content.startswith(b"\xff\xd8")
    assert designer.get(f"/revisions/{revision.pk}/saucer?size=64").content.startswith(b"\x89PNG")
    assert designer.post("/saucer", {"steps": STEPS}).content.startswith(b"\x89PNG")
    assert designer.get(f"/revisions/{revision.pk}/saucer?size=9999").status_code == 422


def test_the_way_to_the_bench_shows_ones_own_work_first_and_the_newest_of_it(designer, other, look, revision):
    theirs = other.post("/looks", {"name": "Their newest"}).json()
    mine = designer.post("/looks", {"name": "My newest"}).json()
    listed = designer.get("/looks").json()
    assert [(x["name"], x["mine"], x["revision"], x["status"]) for x in listed] == [
        ("My newest", True, None, ""),
        ("Warm shelf", True, revision.number, "draft"),
        ("Their newest", False, None, ""),
    ]
    assert listed[2]["draft_by"] == "Tomas"
    # Who changes a draft last has it among their own.
    assert designer.send("PATCH", f"/looks/{mine['id']}", {"shared": True}).status_code == 200
    changed = other.send(
        "PUT", f"/looks/{mine['id']}/draft", {"version": mine["draft_version"], "draft": {"steps": []}}
    )
    assert changed.status_code == 200, changed.content
    assert [x["name"] for x in designer.get("/looks").json()] == ["Warm shelf", "My newest", "Their newest"]
    assert [x["name"] for x in other.get("/looks").json()] == ["My newest", "Their newest", "Warm shelf"]
    assert theirs["id"] == other.get("/looks").json()[1]["id"]


def test_a_draft_is_pictured_on_a_frame(applier, look, frame):
    answer = applier.get(f"/looks/{look.pk}/still?frame={frame.pk}&width=64&v=1")
    assert answer.status_code == 200
    assert answer["Content-Type"] == "image/jpeg"
    assert applier.get(f"/looks/{look.pk}/still?frame=999&width=64").status_code == 404


def test_a_list_of_looks_takes_few_questions(designer, look, django_assert_max_num_queries):
    for k in range(12):
        designer.post("/looks", {"name": f"Shelf {k}"})
    with django_assert_max_num_queries(6):
        assert len(designer.get("/looks").json()) == 13


def test_a_look_of_which_nothing_was_kept_has_no_history(designer):
    made = designer.post("/looks", {"name": "Just begun"}).json()["id"]
    answer = designer.get(f"/looks/{made}/history")
    assert (answer.status_code, answer.json()) == (200, [])


def test_looks_of_any_encodings_stack_as_the_core_stacks_them(designer):
    """A display look over one that renders scene light: the stack expects what the first look expects."""

    def kept(name, draft):
        look = designer.post("/looks", {"name": name, "draft": draft}).json()
        return designer.post(f"/looks/{look['id']}/revisions", {"note": ""}).json()["id"]

    rendering = {
        "input": "film_log",
        "output": "bt709_display",
        "steps": [{"id": "r", "kind": "scene_to_display"}],
    }
    display = {"input": "bt709_display", "output": "bt709_display", "steps": STEPS}
    ids = [kept("Render", rendering), kept("Warm", display)]
    made = designer.get(f"/revisions/stack?revision={ids[0]}&revision={ids[1]}").json()
    wanted = stacked(
        [
            Layer(LookValue.model_validate(rendering), name="Render", revision=ids[0]),
            Layer(LookValue.model_validate(display), name="Warm", revision=ids[1]),
        ]
    )
    assert LookValue.model_validate(made) == wanted
    assert designer.post("/live", {"look": made}).status_code == 200
    assert designer.get(f"/revisions/stack?revision={ids[0]}&revision=99999").status_code == 404
    assert designer.get("/revisions/stack").status_code == 422
