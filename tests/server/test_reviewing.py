"""Notes and reviews: who may, what is kept, and what happens where two people decide at once."""

from datetime import date, timedelta

import pytest
from saucer_core.look import Look as LookValue
from saucer_server.looks import rules as looks
from saucer_server.looks.models import Look, Revision
from saucer_server.people.models import Person, Role
from saucer_server.reviewing.models import Note, Review

from .conftest import Api, in_a_project, person


@pytest.fixture
def odile(lead):
    return Person.objects.get(username="odile").pk


@pytest.fixture
def asked(designer, revision, odile):
    answer = designer.post(f"/revisions/{revision.pk}/reviews", {"of": odile, "words": "Skin on the heads?"})
    assert answer.status_code == 201, answer.content
    return answer.json()


def status(revision):
    return Revision.objects.get(pk=revision.pk).status


def test_a_review_is_asked_for_sent_back_and_approved(designer, lead, revision, odile):
    due = str(date.today() + timedelta(days=3))
    one = designer.post(
        f"/revisions/{revision.pk}/reviews", {"of": odile, "due": due, "words": "Skin?"}
    ).json()
    assert status(revision) == "in review"
    (waiting,) = lead.get("/waiting").json()["asked"]
    assert (waiting["id"], waiting["due"], waiting["words"], waiting["asked_by"]) == (
        one["id"],
        due,
        "Skin?",
        "Ines",
    )
    refused = lead.post(f"/reviews/{one['id']}/answer", {"approve": False, "words": "  "})
    assert (refused.status_code, "Say why" in refused.json()["message"]) == (422, True)
    lead.post(f"/reviews/{one['id']}/answer", {"approve": False, "words": "Red at full strength."})
    assert status(revision) == "draft"
    (back,) = designer.get("/waiting").json()["answered"]
    assert (back["stand"], back["answer"], back["answered_by"]) == (
        "sent back",
        "Red at full strength.",
        "Odile",
    )
    designer.post(f"/reviews/{one['id']}/seen")
    assert designer.get("/waiting").json()["answered"] == []
    again = designer.post(f"/revisions/{revision.pk}/reviews", {"of": odile}).json()
    assert lead.post(f"/reviews/{again['id']}/answer", {"approve": True}).json()["stand"] == "approved"
    assert status(revision) == "approved"
    assert lead.get("/waiting").json() == {"asked": [], "answered": []}
    assert [r["stand"] for r in designer.get(f"/looks/{revision.look_id}/reviews").json()] == [
        "approved",
        "sent back",
    ]


def test_who_may_ask_and_decide(designer, other, applier, lead, revision, asked, odile):
    assert applier.post(f"/revisions/{revision.pk}/reviews", {"of": odile}).status_code == 403
    tomas = Person.objects.get(username="tomas").pk
    assert designer.post(f"/revisions/{revision.pk}/reviews", {"of": tomas}).status_code == 404
    assert other.post(f"/reviews/{asked['id']}/answer", {"approve": True}).status_code == 403
    assert other.post(f"/reviews/{asked['id']}/withdraw").status_code == 403
    assert designer.post(f"/revisions/{revision.pk}/reviews", {"of": odile}).status_code == 409, (
        "asked already"
    )
    past = {"of": odile, "due": "2001-01-01"}
    assert "gone by" in designer.post(f"/revisions/{revision.pk}/reviews", past).json()["message"]
    assert [p["name"] for p in designer.get("/deciders").json()] == ["Odile"]
    assert status(revision) == "in review"


def test_a_second_decision_says_that_somebody_was_quicker(lead, revision, asked):
    second = Api(person("bruno", Role.LEAD))
    assert second.post(f"/reviews/{asked['id']}/answer", {"approve": False, "words": "no"}).status_code == 200
    late = lead.post(f"/reviews/{asked['id']}/answer", {"approve": True})
    assert late.status_code == 409
    assert "Bruno was quicker" in late.json()["message"]
    assert status(revision) == "draft"


def test_retiring_what_somebody_is_about_to_approve(lead, revision, asked):
    lead.send("PUT", f"/revisions/{revision.pk}/status", {"status": "approved"})
    lead.post(f"/revisions/{revision.pk}/retire", {})
    late = lead.post(f"/reviews/{asked['id']}/answer", {"approve": True})
    assert late.status_code == 409
    assert status(revision) == "retired"
    assert Review.objects.get().stand == "withdrawn"


def test_what_is_taken_back_is_a_draft_again(designer, lead, revision, odile, asked):
    second = person("bruno", Role.LEAD)
    designer.post(f"/revisions/{revision.pk}/reviews", {"of": second.pk})
    designer.post(f"/reviews/{asked['id']}/withdraw")
    assert status(revision) == "in review", "somebody else is still asked"
    other_one = Review.objects.get(asked_of=second)
    designer.post(f"/reviews/{other_one.pk}/withdraw")
    assert status(revision) == "draft"
    assert designer.post(f"/reviews/{other_one.pk}/withdraw").status_code == 409


def test_a_revision_made_a_draft_again_waits_for_nobody(designer, lead, revision, asked):
    designer.send("PUT", f"/revisions/{revision.pk}/status", {"status": "draft"})
    assert lead.get("/waiting").json()["asked"] == []
    assert (
        designer.post(
            f"/revisions/{revision.pk}/reviews", {"of": Person.objects.get(username="odile").pk}
        ).status_code
        == 201
    )
    assert len(lead.get("/waiting").json()["asked"]) == 1


def test_retiring_names_a_successor(designer, lead, revision, look):
    lead.send("PUT", f"/revisions/{revision.pk}/status", {"status": "approved"})
    heir = looks.create(look.maker, "Warmer shelf", LookValue())
    assert lead.post(f"/revisions/{revision.pk}/retire", {"successor": heir.pk}).status_code == 409, (
        "it has no revision"
    )
    looks.keep_revision(heir, look.maker, "")
    assert lead.post(f"/revisions/{revision.pk}/retire", {"successor": look.pk}).status_code == 422
    assert designer.post(f"/revisions/{revision.pk}/retire", {}).status_code == 403
    assert status(revision) == "approved"
    assert lead.post(f"/revisions/{revision.pk}/retire", {"successor": heir.pk}).json()["status"] == "retired"
    assert designer.get(f"/looks/{look.pk}").json()["successor"] == {"id": heir.pk, "name": "Warmer shelf"}


def test_notes_are_pinned_answered_and_settled(designer, applier, lead, revision, frame):
    base = f"/looks/{revision.look_id}/notes"
    spot = {"revision": revision.pk, "frame": frame.pk, "x": 0.25, "y": 0.5, "text": "Leans red."}
    note = applier.post(base, spot).json()
    reply = designer.post(
        f"{base}/{note['id']}/replies", {"revision": revision.pk, "text": "Cheek is 49° now."}
    )
    assert reply.status_code == 201
    designer.send("PUT", f"{base}/{note['id']}/settled", {"settled": True})
    (seen,) = lead.get(base).json()
    assert (seen["frame"], seen["x"], seen["y"], seen["by"], seen["settled_by"]) == (
        frame.pk,
        0.25,
        0.5,
        "Vera",
        "Ines",
    )
    assert [r["text"] for r in seen["replies"]] == ["Cheek is 49° now."]
    assert (
        designer.post(
            f"{base}/{reply.json()['id']}/replies", {"revision": revision.pk, "text": "x"}
        ).status_code
        == 422
    )
    assert designer.send("PUT", f"{base}/{note['id']}", {"text": "mine now"}).status_code == 403
    assert designer.send("DELETE", f"{base}/{note['id']}").status_code == 403
    assert (
        applier.send("PUT", f"{base}/{note['id']}", {"text": "Leans red a little."}).json()["text"]
        == "Leans red a little."
    )
    assert lead.send("DELETE", f"{base}/{note['id']}").status_code == 204
    assert Note.objects.count() == 0


def test_notes_stay_whose_frame_went(designer, revision, frame):
    """Frames went from under notes before these held them."""
    base = f"/looks/{revision.look_id}/notes"
    designer.post(base, {"revision": revision.pk, "frame": frame.pk, "x": 1, "y": 0, "text": "edge"})
    Note.objects.update(frame=None)
    (note,) = designer.get(base).json()
    assert (note["frame"], note["text"]) == (None, "edge")


@pytest.mark.parametrize(
    "spot",
    [
        {"frame": 1},
        {"x": 0.5, "y": 0.5},
        {"frame": 1, "x": 0.5},
        {"frame": 1, "x": 2, "y": 0},
        {"frame": 10**30, "x": 0, "y": 0},
    ],
)
def test_half_a_spot_is_none(designer, revision, spot):
    assert (
        designer.post(
            f"/looks/{revision.look_id}/notes", {"revision": revision.pk, "text": "x", **spot}
        ).status_code
        == 422
    )


def test_a_note_is_on_a_revision_of_its_look(designer, revision):
    elsewhere = looks.create(revision.look.maker, "Other", LookValue())
    assert (
        designer.post(f"/looks/{elsewhere.pk}/notes", {"revision": revision.pk, "text": "x"}).status_code
        == 422
    )


def test_strangers_see_nothing_of_it(stranger, revision):
    for path in (
        "/waiting",
        "/deciders",
        f"/looks/{revision.look_id}/notes",
        f"/looks/{revision.look_id}/reviews",
    ):
        assert stranger.get(path).status_code == 401


def saved(look, steps, **more):
    row = Look.objects.get(pk=look.pk)
    return looks.save_draft(
        row.pk, row.maker, LookValue.model_validate({"steps": steps, **more}), row.draft_version
    )


CONTRAST, RICH = (
    {"id": "a", "kind": "contrast", "amount": 1.2},
    {"id": "b", "kind": "saturation", "amount": 0.8},
)


def test_what_changed_between_revisions(designer, look, revision, frame):
    saved(look, [{**CONTRAST, "amount": 1.4}, RICH])
    second = looks.keep_revision(look, look.maker, "harder")
    newest, first = designer.get(f"/looks/{look.pk}/history").json()
    assert first["since"] is None
    assert newest["revision"]["number"] == 2
    assert ["1.2" in c["text"] and "1.4" in c["text"] for c in newest["since"]["changes"]] == [True]
    assert 0.3 < newest["since"]["mean"] < newest["since"]["largest"]
    said = designer.get(f"/revisions/{revision.pk}/since/{second.pk}").json()
    assert "1.4 → 1.2" in said["changes"][0]["text"].replace(" ×", "")
    picture = designer.get(f"/revisions/{revision.pk}/against/{second.pk}?frame={frame.pk}&width=64")
    assert picture.content.startswith(b"\xff\xd8")


def test_parts_of_a_variation_are_taken_over(designer, other, look, revision):
    child = other.post(f"/looks/{look.pk}/variations", {"name": "Night shelf"}).json()
    saved(
        Look.objects.get(pk=child["id"]),
        [CONTRAST, {**RICH, "amount": 0.5}, {"id": "n", "kind": "exposure", "stops": -1.0}],
    )
    night = Look.objects.get(pk=child["id"])
    there = looks.keep_revision(night, night.maker, "")
    mine = saved(look, [{**CONTRAST, "amount": 1.5}, {**RICH, "amount": 0.9}])
    found = designer.get(f"/looks/{look.pk}/taking?revision={there.pk}").json()
    assert found["known"]
    assert {p["key"]: p["who"] for p in found["parts"]} == {"a": "mine", "b": "both", "n": "theirs"}
    tried = designer.post(f"/looks/{look.pk}/taking", {"revision": there.pk, "parts": ["n"]}).json()
    assert [s["id"] for s in tried["steps"]] == ["a", "b", "n"]
    assert Look.objects.get(pk=look.pk).draft_version == mine.draft_version, "nothing was kept"
    body = {"revision": there.pk, "parts": ["n", "b"], "version": found["version"]}
    assert designer.send("PUT", f"/looks/{look.pk}/taking", body).json()["version"] == found["version"] + 1
    assert [s["amount"] for s in Look.objects.get(pk=look.pk).draft["steps"][:2]] == [1.5, 0.5]
    late = designer.send("PUT", f"/looks/{look.pk}/taking", {**body, "parts": ["a"]})
    assert (late.status_code, "nothing was taken over" in late.json()["message"]) == (409, True)


def test_an_earlier_revision_is_its_own_beginning(designer, look, revision):
    saved(look, [{**CONTRAST, "amount": 1.5}, RICH])
    found = designer.get(f"/looks/{look.pk}/taking?revision={revision.pk}").json()
    assert [(p["key"], p["who"]) for p in found["parts"]] == [("a", "mine")]
    unrelated = looks.create(look.maker, "Elsewhere", LookValue())
    assert not designer.get(f"/looks/{unrelated.pk}/taking?revision={revision.pk}").json()["known"]


def test_taking_over_is_for_designers(applier, look, revision):
    body = {"revision": revision.pk, "parts": [], "version": look.draft_version}
    assert applier.send("PUT", f"/looks/{look.pk}/taking", body).status_code == 403


def test_which_projects_use_a_look(designer, lead, frame, revision):
    project = in_a_project("Episode two", [frame, frame], revision)
    assert designer.get(f"/projects/using/{revision.look_id}").json() == [
        {
            "project": project.pk,
            "name": "Episode two",
            "revision": 1,
            "shots": 2,
            "names": ["1 Ramp", "2 Ramp"],
        }
    ]
