"""Many stills that become shots of a project: read by its rules, seen by its people alone, all or none."""

from pathlib import Path

import pytest
from saucer_server.frames.models import Frame
from saucer_server.intake.models import Intake
from saucer_server.people.rules import Person
from saucer_server.projects import rules

from .test_intake import picture, put, seen

pytestmark = pytest.mark.django_db


@pytest.fixture
def project(lead, designer):
    """A private project of ines, with a rule of how its pictures are read."""
    made = lead.post("/projects", {"name": "Quiet kiln"}).json()["id"]
    ines = Person.objects.get(username="ines")
    said = {
        "members": [ines.pk],
        "private": True,
        "reading": [{"by": "name", "pattern": "*_log*", "encoding": "film_log"}],
    }
    assert lead.send("PATCH", f"/projects/{made}", said).status_code == 200
    return made


def brought(who, project, tmp_path: Path) -> int:
    intake = who.post(f"/projects/{project}/intakes").json()["id"]
    files = [(name, picture(tmp_path, value, name)) for name, value in (("a_log.png", 0.4), ("b.png", 0.6))]
    put(who, intake, *files)
    return intake


def test_they_are_read_by_the_rules_of_the_project_and_shown_first(designer, project, tmp_path):
    intake = brought(designer, project, tmp_path)
    whole = designer.get(f"/intakes/{intake}").json()
    assert whole["project"] == {"id": project, "name": "Quiet kiln"}
    files = seen(designer, intake)
    assert (files["a_log.png"]["encoding"], files["a_log.png"]["guess"]["why"]) == (
        "film_log", "a rule of the project"
    )  # fmt: skip
    assert files["a_log.png"]["unsure"] is False
    assert files["b.png"]["encoding"] == "srgb"
    assert designer.get(f"/projects/{project}").json()["shots"] == []
    # What somebody says counts more than a rule.
    said = {"ids": [files["a_log.png"]["id"]], "encoding": "acescct"}
    designer.send("PATCH", f"/intakes/{intake}/files", said)
    kept = designer.post(f"/projects/{project}/intakes/{intake}/keep")
    assert kept.status_code == 201
    shots = kept.json()["shots"]
    assert [(s["name"], s["frame"]["encoding"]) for s in shots] == [("a_log", "acescct"), ("b", "srgb")]
    assert not Intake.objects.exists()


def test_the_rule_stands_beside_the_encoding_that_it_gave(designer, project, tmp_path):
    intake = brought(designer, project, tmp_path)
    designer.post(f"/projects/{project}/intakes/{intake}/keep")
    assert Frame.objects.get(name="a_log").encoding_by == "a rule of the project"


def test_stills_of_a_private_project_are_seen_by_its_people_alone(designer, other, project, tmp_path):
    intake = brought(designer, project, tmp_path)
    shots = designer.post(f"/projects/{project}/intakes/{intake}/keep").json()["shots"]
    numbers = [shot["frame"]["id"] for shot in shots]
    assert not {f["name"] for f in other.get("/frames").json()} & {"a_log", "b"}
    assert not {f["name"] for f in designer.get("/frames").json()} & {"a_log", "b"}
    for number in numbers:
        assert designer.get(f"/frames/{number}/still?width=64").status_code == 200
        assert other.get(f"/frames/{number}/still?width=64").status_code == 404


def test_who_may(designer, other, lead, project, tmp_path):
    intake = brought(designer, project, tmp_path)
    keep = f"/projects/{project}/intakes/{intake}/keep"
    # Others do not see the project; a lead does, but what somebody brings in is theirs alone.
    assert other.post(f"/projects/{project}/intakes").status_code == 404
    assert other.post(keep).status_code == 404
    assert lead.post(keep).status_code == 404
    # By the address of an ordinary intake they would be frames that everybody sees.
    refused = designer.post(f"/intakes/{intake}/keep")
    assert (refused.status_code, "Keep them there" in refused.json()["message"]) == (409, True)
    # An ordinary intake, and that of another project, become no shots here.
    plain = designer.post("/intakes").json()["id"]
    assert designer.post(f"/projects/{project}/intakes/{plain}/keep").status_code == 404
    assert Frame.objects.filter(name="b").count() == 0


def test_all_of_them_or_none(designer, project, tmp_path, monkeypatch):
    intake = brought(designer, project, tmp_path)
    monkeypatch.setattr(rules, "SHOTS", 1)
    refused = designer.post(f"/projects/{project}/intakes/{intake}/keep")
    assert refused.status_code == 422
    assert Frame.objects.filter(name__in=["a_log", "b"]).count() == 0
    assert len(seen(designer, intake)) == 2
