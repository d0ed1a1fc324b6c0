"""The inspector, and tables taken apart: what is asked for, what is kept, and who may."""

import io

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.baking.bake import bake
from saucer_core.formats import cube, pictures
from saucer_core.look import Look as LookValue
from saucer_core.treatment import Treatment
from saucer_server.inspecting import unbaking
from saucer_server.inspecting.models import Unbaking
from saucer_server.jobs.models import Job
from saucer_server.jobs.rules import Cancelled
from saucer_server.looks import rules as looks
from saucer_server.luts.models import BorrowedLut

from .test_packs import by_file, pack  # noqa: F401

FADED = LookValue.model_validate(
    {"steps": [{"id": "c", "kind": "curves", "all": [[0, 0.06], [0.5, 0.5], [1, 0.94]]}]}
)


@pytest.fixture
def lut(designer):
    text = cube.write_text(bake(Treatment(FADED).compile(), 17, title="Faded", comments=("made for tests",)))
    about = {
        "expects": "bt709_display",
        "gives": "bt709_display",
        "rights": "to anyone",
        "origin": "the yard",
    }
    answer = designer.upload("/luts", {"file": SimpleUploadedFile("faded.cube", text.encode()), **about})
    return answer.json()["id"]


def test_what_a_lut_does_is_told(applier, lut):
    found = applier.get(f"/inspect/lut/{lut}").json()
    assert (found["name"], found["origin"], found["rights"]) == ("Faded", "the yard", "to anyone")
    assert ["grid", "17 × 17 × 17"] in found["said"]
    assert ["remark", "made for tests"] in found["said"]
    assert "lowered whites" in found["words"]
    assert found["greys"]["red"][0] == pytest.approx(0.06, abs=0.005)
    assert {p["key"] for p in found["condition"]} >= {"clips", "steepest", "order", "folded"}
    assert len(found["disc"]["arrows"]) == 96


def test_the_cloud_has_a_colour_for_every_point_and_begins_at_another_look(applier, lut, look):
    one = applier.get(f"/inspect/lut/{lut}/cloud").json()
    assert len(one["before"]) == len(one["after"]) == len(one["before_rgb"]) == 3 * one["side"] ** 3
    assert len(one["delta"]) == one["side"] ** 3
    two = applier.get(f"/inspect/lut/{lut}/cloud?other=look&other_key={look.pk}").json()
    assert two["before"] == applier.get(f"/inspect/look/{look.pk}/cloud").json()["after"]


def test_pictures_of_the_inspector(applier, lut, look, frame):
    slices = applier.get(f"/inspect/lut/{lut}/slices?by=lightness").json()
    assert slices["picture"].startswith("data:image/png;base64,")
    assert len(slices["means"]) == 6
    assert applier.get(f"/inspect/lut/{lut}/slices?by=taste").status_code == 422
    for path in (
        f"/inspect/lut/{lut}/still?frame={frame.pk}",
        f"/inspect/lut/{lut}/difference?frame={frame.pk}",
        f"/inspect/lut/{lut}/difference?frame={frame.pk}&other=look&other_key={look.pk}",
    ):
        assert applier.get(path).content[:2] == b"\xff\xd8", path
    assert applier.get(f"/inspect/lut/{lut}/saucer").content[:4] == b"\x89PNG"


def test_what_there_is_not_is_said(applier, stranger, lut):
    assert applier.get("/inspect/lut/9999").status_code == 404
    assert applier.get("/inspect/frame/1").status_code == 422
    assert stranger.get(f"/inspect/lut/{lut}").status_code == 401


def test_looks_of_a_pack_are_inspected_by_whose_it_is(designer, other, pack):  # noqa: F811
    item = by_file(pack)["soft.cube"]["id"]
    found = designer.get(f"/inspect/item/{item}").json()
    assert found["origin"] == "Yard pack, not kept yet"
    assert ["file", "yard/soft.cube"] in found["said"]
    assert other.get(f"/inspect/item/{item}").status_code == 403


def taken_apart(who, kind, key):
    asked = who.post(f"/inspect/{kind}/{key}/unbake")
    assert asked.status_code == 201, asked.content
    unbaking.make(asked.json()["id"])
    return who.get(f"/unbakings/{asked.json()['id']}").json()


def test_a_table_is_taken_apart_and_opens_on_the_bench(designer, lut, frame):
    found = taken_apart(designer, "lut", lut)
    assert found["job"]["state"] == "done"
    assert [s["kind"] for s in found["found"]["steps"]]
    assert found["found"]["stages"][-1]["cube"][0] <= 0.5
    assert found["found"]["with_rest"]["cube"][0] <= 0.05
    key = found["id"]
    for rest in ("true", "false"):
        assert designer.get(f"/unbakings/{key}/still?frame={frame.pk}&rest={rest}").content[:2] == b"\xff\xd8"
    assert designer.get(f"/unbakings/{key}/difference?frame={frame.pk}").content[:2] == b"\xff\xd8"
    made = designer.post(f"/unbakings/{key}/keep", {"name": "Faded, editable", "rest": True}).json()
    look = looks.find(made["id"])
    assert (look.name, look.origin, look.rights) == ("Faded, editable", "Faded, taken apart", "to anyone")
    draft = LookValue.model_validate(look.draft)
    assert looks.sound(draft) == "", "its rest is borrowed and here"
    assert BorrowedLut.objects.get(digest=draft.lut_steps()[0].table).name == "Rest of Faded"
    bare = designer.post(f"/unbakings/{key}/keep", {"rest": False}).json()
    assert LookValue.model_validate(looks.find(bare["id"]).draft).lut_steps() == []


def test_a_lut_becomes_a_look_as_it_is(designer, applier, lut, look):
    made = designer.post(f"/inspect/lut/{lut}/keep")
    assert made.status_code == 201
    found = looks.find(made.json()["id"])
    assert (found.name, found.rights) == ("Faded", "to anyone")
    assert looks.sound(LookValue.model_validate(found.draft)) == ""
    assert applier.post(f"/inspect/lut/{lut}/keep").status_code == 403
    assert designer.post(f"/inspect/look/{look.pk}/keep").status_code == 409


def test_the_same_work_is_not_done_twice(designer, lut):
    first, again = (designer.post(f"/inspect/lut/{lut}/unbake").json()["id"] for _ in range(2))
    assert first == again
    assert Job.objects.filter(kind="unbaking").count() == 1


def test_work_that_is_stopped_gives_nothing(designer, lut):
    asked = designer.post(f"/inspect/lut/{lut}/unbake").json()
    assert designer.post(f"/unbakings/{asked['id']}/keep", {}).status_code == 409
    designer.post(f"/jobs/{asked['job']['id']}/cancel")
    with pytest.raises(Cancelled):
        unbaking.make(asked["id"])
    row = Unbaking.objects.get()
    assert (row.found, row.rest) == (None, "")
    assert designer.post(f"/inspect/lut/{lut}/unbake").json()["id"] != asked["id"], (
        "asked again it begins anew"
    )


def test_who_may_take_apart_and_see_it(designer, applier, other, lead, lut):
    assert applier.post(f"/inspect/lut/{lut}/unbake").status_code == 403
    key = designer.post(f"/inspect/lut/{lut}/unbake").json()["id"]
    for who, status in ((applier, 403), (other, 403), (lead, 200)):
        assert who.get(f"/unbakings/{key}").status_code == status


# Pairs


def png(rgb, tmp_path):
    path = tmp_path / "x.png"
    pictures.write(path, rgb, "uint8")
    return path.read_bytes()


@pytest.fixture
def two(tmp_path):
    from tests.core.test_pair import AFTER, BEFORE

    return png(BEFORE, tmp_path), png(AFTER, tmp_path)


def sent(two, **said):
    names = ("untouched.png", "treated.png")
    files = {
        k: SimpleUploadedFile(n, io.BytesIO(d).read())
        for k, n, d in zip(("before", "after"), names, two, strict=True)
    }
    return {**files, "expects": "bt709_display", "gives": "bt709_display", **said}


def test_a_pair_is_measured_before_anything_is_kept(designer, applier, two, frame):
    answer = designer.upload("/carriers/pair", sent(two, frame=frame.pk))
    found = answer.json()
    assert answer.status_code == 200
    assert found["share"] > 0.9
    for name in ("before", "after", "made", "unexplained", "frame_before", "frame_after", "frame_guessed"):
        assert found[name].startswith("data:image/jpeg;base64,"), name
    assert 0 <= found["guesses"] <= 1
    assert not BorrowedLut.objects.exists()
    assert applier.upload("/carriers/pair", sent(two)).status_code == 403


def test_a_pair_becomes_a_look(designer, two):
    answer = designer.upload(
        "/carriers/pair/keep", sent(two, name="Treated", origin="a friend", rights="ask first")
    )
    assert answer.status_code == 201, answer.content
    look = looks.find(answer.json()["id"])
    assert (look.name, look.rights) == ("Treated", "ask first")
    assert "treated.png, a friend" in look.origin
    assert looks.sound(LookValue.model_validate(look.draft)) == ""


def test_pairs_that_are_none_are_refused(designer, two, tmp_path):
    from tests.core.test_pair import scene

    other = png(scene(9)[::-1, ::-1], tmp_path)
    answer = designer.upload("/carriers/pair", sent((two[0], other)))
    assert (answer.status_code, "not the same picture" in answer.json()["message"]) == (422, True)
    linear = designer.upload("/carriers/pair", {**sent(two), "expects": "linear_709"})
    assert "linear" in linear.json()["message"]
    assert designer.upload("/carriers/pair", sent((two[0], b"no picture"))).status_code == 422
