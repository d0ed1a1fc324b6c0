"""The bin: what is removed stays for thirty days, comes back as it was, and nothing that is in use goes."""

from datetime import timedelta

import pytest
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone
from saucer_server.errors import RuleError
from saucer_server.frames.models import Frame
from saucer_server.housekeeping import sweep
from saucer_server.luts.models import BorrowedLut
from saucer_server.people.rules import Person
from saucer_server.presets.models import Preset
from saucer_server.projects.models import Project, Shot
from saucer_server.removals import rules as removals
from saucer_server.reviewing import notes
from saucer_server.sheets.models import Mark

from .conftest import in_a_project
from .test_frames import png
from .test_looks import ABOUT, cube_file

CONTRAST = {"kind": "contrast", "amount": 1.3}


def later(days):
    """As the night's work finds it so many days from now."""
    return timezone.now() + timedelta(days=days)


def in_bin(api):
    return [(one["kind"], one["name"]) for one in api.get("/bin").json()]


@pytest.fixture
def things(designer, frame, look, revision, tmp_path, transactional_db):
    """One of each kind that can be removed, with its address, and a frame on a sheet, which cannot."""
    stays = designer.upload("/frames", {"file": SimpleUploadedFile("stays.png", png(tmp_path))}).json()["id"]
    lut = designer.upload("/luts", {**ABOUT, "file": cube_file()}).json()
    preset = designer.post(
        "/presets", {"name": "Firm", "note": "", "content": CONTRAST, "shared": False}
    ).json()
    sheet = designer.post("/sheets", {"name": "Which", "looks": [look.pk], "frames": [stays]}).json()
    designer.post("/collections", {"name": "Kiln", "note": "warm"})
    designer.post("/collections/Kiln/looks", {"looks": [look.pk]})
    return {
        "frame": f"/frames/{frame.pk}",
        "lut": f"/luts/{lut['id']}",
        "preset": f"/presets/{preset['id']}",
        "sheet": f"/sheets/{sheet['id']}",
        "collection": "/collections/Kiln",
    }


def test_each_kind_goes_to_the_bin_and_comes_back_as_it_was(things, designer, look):
    before = {
        key: designer.get(path).content for key, path in things.items() if key in ("sheet", "collection")
    }
    lists = {
        path: designer.get(path).json()
        for path in ("/frames", "/luts", "/presets?kind=contrast&encoding=srgb", "/sheets")
    }
    for path in things.values():
        assert designer.send("DELETE", path).status_code == 204, path
        assert designer.send("DELETE", path).status_code == 404, path
    told = designer.get("/bin").json()
    assert {one["kind"] for one in told} == set(things)
    assert all(one["owner"] == one["removed_by"] == "Ines" for one in told)
    assert all(one["bytes"] > 0 for one in told if one["kind"] in ("frame", "lut"))
    assert designer.get("/luts").json() == designer.get("/sheets").json() == []
    assert [one["name"] for one in designer.get("/frames").json()] == ["stays"]
    assert "Kiln" not in str(designer.get("/catalogue/filters").json()["collections"])
    assert "Warm shelf" not in designer.get("/catalogue?collection=Kiln").content.decode()
    for one in told:
        assert designer.post(f"/bin/{one['kind']}/{one['id']}/back").status_code == 204
    assert in_bin(designer) == []
    assert {path: designer.get(path).json() for path in lists} == lists
    assert "Warm shelf" in designer.get("/catalogue?collection=Kiln").content.decode()
    assert {key: designer.get(things[key]).content for key in before} == before


def test_a_frame_in_the_bin_still_shows_what_it_is(things, designer, frame):
    number = frame.pk
    designer.send("DELETE", f"/frames/{number}")
    assert designer.get(f"/frames/{number}/still").status_code == 404
    assert designer.get(f"/bin/frame/{number}/still").content[:2] == b"\xff\xd8"
    sheet = designer.get("/bin/frame/999/still")
    assert sheet.status_code == 404


def test_what_is_in_the_bin_goes_for_good_after_thirty_days(
    things, designer, django_capture_on_commit_callbacks
):
    file = BorrowedLut.objects.get().file
    designer.send("DELETE", things["lut"])
    assert removals.empty(later(29)) == 0
    sweep.unused(later(40).timestamp())
    assert default_storage.exists(file)
    assert removals.empty(later(31)) == 1
    assert not BorrowedLut.objects.ever().exists()
    sweep.unused(later(40).timestamp())
    assert not default_storage.exists(file)
    assert in_bin(designer) == []


def test_one_can_let_it_go_before_its_time(things, designer, other, applier):
    designer.send("DELETE", things["preset"])
    (one,) = designer.get("/bin").json()
    path = f"/bin/preset/{one['id']}"
    assert other.send("DELETE", path).status_code == other.post(f"{path}/back").status_code == 403
    assert applier.get("/bin").json() == other.get("/bin").json() == []
    assert designer.send("DELETE", path).status_code == 204
    assert designer.post(f"{path}/back").status_code == 404
    assert designer.post("/bin/kiln/1/back").status_code == 404


def test_leads_and_owners_put_back_what_a_lead_removed(things, designer, lead):
    lead.send("DELETE", things["frame"])
    (one,) = designer.get("/bin").json()
    assert (one["owner"], one["removed_by"]) == ("Ines", "Odile")
    assert in_bin(lead) == [("frame", "Ramp")]
    assert designer.post(f"/bin/frame/{one['id']}/back").status_code == 204


def test_what_was_put_to_use_in_the_bin_is_taken_out_instead_of_deleted(
    things, designer, lead, frame, revision
):
    """Rules put nothing to use that is in the bin; should something name it all the same, it stays."""
    designer.send("DELETE", things["frame"])
    with pytest.raises(RuleError, match="not here any more"):
        in_a_project("Kiln series", [frame], revision)
    Shot.objects.create(project=Project.objects.get(), number=1, name="x", frame=frame)
    assert removals.empty(later(31)) == 0
    assert "Ramp" in [one["name"] for one in designer.get("/frames").json()]


def test_a_frame_on_a_sheet_or_under_a_note_is_not_removed(designer, lead, frame, look, revision):
    sheet = designer.post("/sheets", {"name": "Which", "looks": [look.pk], "frames": [frame.pk]}).json()
    notes.pin(look, revision, Person.objects.get(username="odile"), "too dark here", (frame, 0.5, 0.5))
    answer = designer.send("DELETE", f"/frames/{frame.pk}")
    assert answer.status_code == 409
    assert answer.json()["message"] == (
        "This frame is on the contact sheet “Which”, under a note on “Warm shelf”. Take it out there first."
    )
    assert sheet["columns"][0]["frame"] == frame.pk
    assert Frame.objects.count() == 1


def test_votes_come_back_with_their_sheet(designer, lead, frame, look, revision):
    sheet = designer.post("/sheets", {"name": "Which", "looks": [look.pk], "frames": [frame.pk]}).json()
    row, column = sheet["rows"][0]["id"], sheet["columns"][0]["id"]
    lead.send(
        "PUT", f"/sheets/{sheet['id']}/marks", {"row": row, "column": column, "verdict": "for", "note": ""}
    )
    designer.send("DELETE", f"/sheets/{sheet['id']}")
    designer.post(f"/bin/sheet/{sheet['id']}/back")
    assert Mark.objects.get().verdict == "for"


def test_a_name_that_was_taken_meanwhile_is_said(things, designer):
    designer.send("DELETE", things["collection"])
    designer.post("/collections", {"name": "Kiln"})
    (one,) = designer.get("/bin").json()
    answer = designer.post(f"/bin/collection/{one['id']}/back")
    assert answer.status_code == 409
    assert "Rename that one" in answer.json()["message"]
    designer.send("PATCH", "/collections/Kiln", {"name": "Kiln two"})
    assert designer.post(f"/bin/collection/{one['id']}/back").status_code == 204
    assert len(designer.get("/collections/Kiln").json()["looks"]) == 1


def test_the_same_lut_brought_in_again_leaves_the_bin(things, designer):
    number = int(things["lut"].rpartition("/")[2])
    designer.send("DELETE", things["lut"])
    assert designer.upload("/luts", {**ABOUT, "file": cube_file()}).json()["id"] == number
    assert in_bin(designer) == []


def test_a_lut_is_held_by_a_preset_in_the_bin(designer):
    lut = designer.upload("/luts", {**ABOUT, "file": cube_file()}).json()
    step = {"kind": "borrowed", "digest": lut["digest"], "title": "x", "expects": "srgb", "gives": "srgb"}
    made = Preset.objects.create(
        owner=Person.objects.get(username="ines"), name="Held", kind="borrowed", content=step
    )
    designer.send("DELETE", f"/presets/{made.pk}")
    assert "“Held” in the bin" in designer.send("DELETE", f"/luts/{lut['id']}").json()["message"]


def test_a_preset_does_not_come_back_beyond_the_limit(designer, monkeypatch):
    from saucer_server.presets import rules

    made = designer.post(
        "/presets", {"name": "Firm", "note": "", "content": CONTRAST, "shared": False}
    ).json()["id"]
    designer.send("DELETE", f"/presets/{made}")
    monkeypatch.setattr(rules, "PRESET_LIMIT", 0)
    assert designer.post(f"/bin/preset/{made}/back").status_code == 409


def test_what_was_dropped_in_for_now_is_gone_at_once(designer, tmp_path):
    file = SimpleUploadedFile("now.png", png(tmp_path))
    number = designer.upload("/frames", {"file": file, "passing": "true"}).json()["id"]
    assert designer.send("DELETE", f"/frames/{number}").status_code == 204
    assert in_bin(designer) == []
    assert not Frame.objects.ever().exists()
