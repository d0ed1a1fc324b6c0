"""The reel on the server: cuts that jump and what mends them, and notes on moments of a project."""

import pytest
from saucer_server.clips import rules as clips
from saucer_server.projects.models import Shot
from saucer_server.reel.models import ReelNote

from .test_clips import bring, cut
from .test_clips import project as project

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def shots(lead, project):
    """Three shots of the demo's clip, in the order of the clip, in one scene."""
    made = bring(lead, project, encoding="film_log").json()
    clips.look_through(made["id"])
    cut(lead, project, clips.find(made["id"]))
    ids = list(Shot.objects.filter(project=project).order_by("number").values_list("pk", flat=True))
    scene = lead.post(f"/projects/{project}/scenes", {"name": "Yard to fire", "shots": ids}).json()
    scenes = lead.get(f"/projects/{project}").json()["scenes"]
    assert scene, scenes
    return scenes[0]["id"], ids


def cuts_of(person, project, scene):
    answer = person.get(f"/projects/{project}/reel/scenes/{scene}")
    assert answer.status_code == 200, answer.content
    return answer.json()


def test_a_cut_from_day_to_night_jumps_and_its_trim_mends_it(lead, project, shots):
    scene, ids = shots
    seen = cuts_of(lead, project, scene)
    assert [one["shot"] for one in seen["shots"]] == ids
    assert seen["shots"][0]["jumps"] == []
    dark = next(one for one in seen["shots"] if any("darker" in jump["text"] for jump in one["jumps"]))
    at = ids.index(dark["shot"])
    assert dark["begins"]["tone"] < seen["shots"][at - 1]["ends"]["tone"] - 12
    mended = lead.get(f"/projects/{project}/reel/shots/{dark['shot']}/mended").json()
    assert mended["aim"]["tone"] == pytest.approx(seen["shots"][at - 1]["ends"]["tone"], abs=0.01)
    assert mended["trim"]["exposure"] > 0.3
    kept = lead.post(f"/projects/{project}/trim", {"shots": [dark["shot"]], "trim": mended["trim"]})
    assert kept.status_code == 200, kept.content
    now = cuts_of(lead, project, scene)["shots"][at]
    assert now["begins"]["tone"] == pytest.approx(mended["after"]["tone"], abs=0.5)
    assert not any("darker" in jump["text"] for jump in now["jumps"])


def test_what_is_meant_is_no_jump_and_the_first_has_no_cut_before_it(lead, project, shots):
    scene, ids = shots
    for shot in ids:
        lead.send("PATCH", f"/projects/{project}/shots/{shot}", {"meant": ["tone", "skin", "grey"]})
    assert all(one["jumps"] == [] for one in cuts_of(lead, project, scene)["shots"])
    refused = lead.get(f"/projects/{project}/reel/shots/{ids[0]}/mended")
    assert refused.status_code == 409
    assert "first of its scene" in refused.content.decode()
    assert lead.get(f"/projects/{project}/reel/scenes/999999").status_code == 404
    assert cuts_of(lead, project, 0)["shots"] == []


def note_on(person, project, shot, **said):
    return person.post(f"/projects/{project}/notes", {"shot": shot, "text": "Deeper.", **said})


def test_a_note_names_what_was_on_the_shot_and_keeps_it(lead, designer, project, shots, revision):
    _, ids = shots
    row = Shot.objects.get(pk=ids[1])
    on = {"shots": [ids[1]], "layers": [{"revision": revision.pk, "strength": 0.7}]}
    assert lead.post(f"/projects/{project}/assign", on).status_code == 200
    made = note_on(designer, project, ids[1], first=row.first, last=row.first + 5, x=0.25, y=0.5)
    assert made.status_code == 201, made.content
    said = made.json()
    assert (said["place"], said["first"], said["last"]) == (f"2 {row.name}", row.first, row.first + 5)
    assert said["wore"] == [{"revision": revision.pk, "strength": 0.7, "words": str(revision)}]
    then = lead.get(f"/projects/{project}/notes/{said['id']}/worn").json()
    assert then["strength"] == pytest.approx(0.7)
    # Another look, and then no shot: the note stays what it was.
    lead.post(f"/projects/{project}/assign", {"shots": [ids[1]], "layers": []})
    assert lead.send("DELETE", f"/projects/{project}/shots/{ids[1]}").status_code < 300
    later = lead.get(f"/projects/{project}/notes").json()[0]
    assert (later["shot"], later["place"], later["wore"]) == (None, said["place"], said["wore"])
    assert lead.get(f"/projects/{project}/notes/{said['id']}/worn").json() == then


def test_notes_are_answered_settled_changed_and_taken_away(lead, designer, project, shots):
    _, ids = shots
    note = note_on(designer, project, ids[0]).json()["id"]
    at = f"/projects/{project}/notes/{note}"
    reply = lead.post(f"{at}/replies", {"text": "It is."})
    assert (reply.status_code, reply.json()["mine"]) == (201, True)
    assert (
        lead.post(f"/projects/{project}/notes/{reply.json()['id']}/replies", {"text": "?"}).status_code == 422
    )
    assert lead.send("PUT", f"{at}/settled", {"settled": True}).json()["settled_by"] is not None
    assert lead.send("PATCH", at, {"text": "Not mine."}).status_code == 403
    assert designer.send("PATCH", at, {"text": "Deeper, still."}).json()["text"] == "Deeper, still."
    seen = designer.get(f"/projects/{project}/notes").json()
    assert [(n["text"], n["mine"], [r["text"] for r in n["replies"]]) for n in seen] == [
        ("Deeper, still.", True, ["It is."])
    ]
    activity = lead.get("/activity").content.decode()
    assert f"/projects/{project}/reel?shot={ids[0]}" in activity
    assert designer.send("DELETE", f"/projects/{project}/notes/{reply.json()['id']}").status_code == 403
    assert designer.send("DELETE", at).status_code == 204
    assert not ReelNote.objects.exists()


def test_open_notes_wait_for_those_who_work_on_the_project(lead, designer, project, shots):
    _, ids = shots
    assert note_on(designer, project, ids[0]).status_code == 201
    own = note_on(lead, project, ids[0]).json()["id"]
    waits = lead.get("/projects/notes/waiting").json()
    assert [(n["project"], n["shot"], n["text"]) for n in waits] == [(project, ids[0], "Deeper.")]
    # She neither made the project nor is she a member of it.
    assert designer.get("/projects/notes/waiting").json() == []
    members = {"members": [int(designer.client.session["_auth_user_id"])]}
    assert lead.send("PATCH", f"/projects/{project}", members).status_code == 200
    assert [n["id"] for n in designer.get("/projects/notes/waiting").json()] == [own]
    lead.send("PUT", f"/projects/{project}/notes/{waits[0]['id']}/settled", {"settled": True})
    assert lead.get("/projects/notes/waiting").json() == []


def test_frames_that_the_shot_does_not_have_are_refused(lead, project, shots):
    _, ids = shots
    row = Shot.objects.get(pk=ids[1])
    assert note_on(lead, project, ids[1], first=row.first - 1, last=row.first).status_code == 422
    assert note_on(lead, project, ids[1], first=row.first, last=row.last + 1).status_code == 422
    assert note_on(lead, project, ids[1], first=row.last, last=row.first).status_code == 422
    assert note_on(lead, project, ids[1], first=row.first, last=row.last, x=0.5).status_code == 422
    assert note_on(lead, project, 999999).status_code == 404
    assert not ReelNote.objects.exists()
