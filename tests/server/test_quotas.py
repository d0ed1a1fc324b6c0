"""Who holds what, and the most that one person or project may hold."""

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_server.delivering import room
from saucer_server.errors import RuleError
from saucer_server.frames.models import Frame
from saucer_server.people import quotas, uploads
from saucer_server.people.models import Upload
from saucer_server.people.rules import Person
from saucer_server.projects.models import Project

from .conftest import in_a_project
from .test_frames import png

pytestmark = pytest.mark.django_db(transaction=True)


def told(api, name):
    return next(one for one in api.get("/people/holdings").json()["people"] if one["name"] == name)


def test_leads_see_who_holds_what_and_others_themselves(designer, lead, frame, revision, tmp_path):
    size = Frame.objects.get().bytes
    assert size == (tmp_path / "ramp.png").stat().st_size
    project = in_a_project("Kiln series", [frame, frame], revision)
    designer.post(f"/projects/{project.pk}/deliveries", {"parts": ["looks"], "grid": 9})
    mine = told(designer, "Ines")
    assert {part["what"]: (part["count"], part["bytes"]) for part in mine["parts"]}["frame"] == (1, size)
    assert [one["name"] for one in designer.get("/people/holdings").json()["people"]] == ["Ines"]
    everybody = lead.get("/people/holdings").json()
    assert [one["name"] for one in everybody["people"]] == ["Ines", "Odile"]
    assert {part["what"] for part in mine["parts"]} >= {"frame", "delivery", "piece of work under way"}
    (held,) = everybody["projects"]
    assert (held["name"], held["bytes"]) == ("Kiln series", size)
    assert (everybody["person_limit"], everybody["project_limit"]) == (None, None)


def test_nobody_holds_more_than_they_may(designer, other, lead, settings, tmp_path):
    data = png(tmp_path)
    settings.PERSON_GB = 1.5 * len(data) / quotas.GB
    assert designer.upload("/frames", {"file": SimpleUploadedFile("a.png", data)}).status_code == 201
    answer = designer.upload("/frames", {"file": SimpleUploadedFile("b.png", data)})
    assert answer.status_code == 507
    assert "You hold 0.0 GB" in answer.json()["message"]
    assert Frame.objects.count() == 1
    assert other.upload("/frames", {"file": SimpleUploadedFile("b.png", data)}).status_code == 201
    # What is in the bin counts until it is gone for good.
    number = Frame.objects.get(added_by__username="ines").pk
    designer.send("DELETE", f"/frames/{number}")
    assert designer.upload("/frames", {"file": SimpleUploadedFile("b.png", data)}).status_code == 507
    designer.send("DELETE", f"/bin/frame/{number}")
    assert designer.upload("/frames", {"file": SimpleUploadedFile("b.png", data)}).status_code == 201


def test_what_is_being_sent_counts(designer, settings):
    ines = Person.objects.get(username="ines")
    settings.PERSON_GB = 1
    uploads.admit("one", ines, 700 * uploads.MIB)
    with pytest.raises(RuleError, match="1 GB that one person may"):
        uploads.admit("two", ines, 700 * uploads.MIB)
    assert Upload.objects.count() == 1


def test_a_project_that_holds_too_much_makes_no_delivery(lead, frame, revision, settings, monkeypatch):
    project = in_a_project("Kiln series", [frame], revision)
    ask = lambda: lead.post(f"/projects/{project.pk}/deliveries", {"parts": ["looks"], "grid": 9})  # noqa: E731
    settings.PROJECT_GB = 0.5 * frame.bytes / quotas.GB
    answer = ask()
    assert answer.status_code == 507
    assert answer.json()["message"].startswith("Kiln series holds 0.0 GB of the")
    settings.PROJECT_GB = 1
    assert ask().status_code == 201
    monkeypatch.setattr(room, "UNDER_WAY", 1)
    assert ask().status_code == 429


def test_a_private_project_is_not_told_to_others(designer, lead, frame, revision):
    project = in_a_project("Secret", [frame], revision)
    lead.send("PATCH", f"/projects/{project.pk}", {"members": [], "private": True})
    assert Project.objects.get().circle_id is not None
    assert designer.get("/people/holdings").json()["projects"] == []
    assert [one["name"] for one in lead.get("/people/holdings").json()["projects"]] == ["Secret"]
