"""Private projects: seen by their members and leads alone, with all that hangs on them; every route is asked
as every kind of asker."""

import json
import re
from pathlib import Path

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from saucer_core.look import Look as LookValue
from saucer_server.clips import rules as clips
from saucer_server.looks import rules as looks
from saucer_server.people.rules import Person, Role
from saucer_server.projects.models import Project
from saucer_server.reviewing import notes
from saucer_server.reviewing import rules as reviews_of
from saucer_server.routes import operations

from .conftest import STEPS, Api, person
from .test_frames import png

CLIP = Path(__file__).parents[2] / "demo" / "clips" / "from_yard_to_fire_log.mov"
#: Stands in the name of everything that is kept.
HIDDEN = "Secretkiln"


def routes(*methods):
    """Method and path of every operation of the interface."""
    found = {
        (method, "/" + route.removeprefix("api/").replace("<", "{").replace(">", "}"))
        for method, route, _ in operations()
    }
    return sorted((method, path) for method, path in found if method in methods)


@pytest.fixture
def kept(designer, other, applier, lead, tmp_path, settings):
    """A private project of ines and a lead, with a shot of a still, a clip, a look kept to it, and all that
    can be made of these."""
    settings.SAUCER_DROP_FOLDER = tmp_path / "shelf"
    ines, odile = (Person.objects.get(username=name) for name in ("ines", "odile"))
    made = lead.post("/projects", {"name": f"{HIDDEN} project"}).json()["id"]
    path = f"/projects/{made}"
    assert lead.send("PATCH", path, {"members": [ines.pk], "private": True}).json()["private"] is True
    still = SimpleUploadedFile(f"{HIDDEN} still.png", png(tmp_path))
    shot = designer.upload(f"{path}/stills", {"file": still}).json()
    clip = designer.upload(
        f"{path}/clips", {"file": SimpleUploadedFile(f"{HIDDEN} clip.mov", CLIP.read_bytes())}
    ).json()["id"]
    clips.look_through(clip)
    look = looks.create(ines, f"{HIDDEN} look", LookValue.model_validate({"steps": STEPS}))
    revision = looks.keep_revision(look, ines, "")
    assert designer.send("PUT", f"{path}/looks/{look.pk}", {"kept": True}).json() == [
        {"id": made, "name": f"{HIDDEN} project", "kept": True}
    ]
    designer.post(f"{path}/assign", {"shots": [shot["id"]], "layers": [{"revision": revision.pk}]})
    scene = designer.post(f"{path}/scenes", {"name": f"{HIDDEN} scene", "shots": [shot["id"]]}).json()[
        "scenes"
    ][0]["id"]
    note = notes.pin(look, revision, ines, f"{HIDDEN} words", None)
    review = reviews_of.ask(revision, ines, odile.pk, None, "")
    bake = designer.post(f"/revisions/{revision.pk}/bakes", {"kinds": ["cube"], "grid": 9}).json()[0]["id"]
    sheet = designer.post(
        "/sheets", {"name": f"{HIDDEN} sheet", "looks": [look.pk], "frames": [shot["frame"]["id"]]}
    ).json()["id"]
    outgoing = designer.post(
        "/outgoing", {"name": f"{HIDDEN} pack", "looks": [look.pk], "collections": []}
    ).json()["id"]
    designer.post(f"{path}/deliveries", {"parts": ["looks"], "grid": 9})
    feed = designer.post(f"{path}/feeds", {"name": f"{HIDDEN} feed"}).json()["id"]
    designer.send("PUT", f"/catalogue/{look.pk}/tags", {"tags": ["plain"]})
    designer.post("/collections/Kiln/looks", {"looks": [look.pk]})
    return {
        "project_id": made,
        "shot_id": shot["id"],
        "frame_id": shot["frame"]["id"],
        "clip_id": clip,
        "look_id": look.pk,
        "revision_id": revision.pk,
        "other_id": revision.pk,
        "scene_id": scene,
        "note_id": note.pk,
        "review_id": review.pk,
        "bake_id": bake,
        "sheet_id": sheet,
        "outgoing_id": outgoing,
        "number": 1,
        "feed_id": feed,
        "change_id": 1,
        "part": "looks",
        "aside_id": 1,
        "name": "Kiln",
    }


#: What leads to what is kept; a path with none of these is a list.
LEADS_THERE = {
    "project_id",
    "shot_id",
    "frame_id",
    "clip_id",
    "look_id",
    "revision_id",
    "bake_id",
    "sheet_id",
    "outgoing_id",
    "review_id",
}


def filled(path, ids):
    """The path with those keys in it; ``None`` where one is not known."""
    keys = [one.rpartition(":")[2] for one in re.findall(r"\{([^}]*)\}", path)]
    if not set(keys) <= set(ids) or not set(keys) & LEADS_THERE:
        return None
    return re.sub(r"\{([^}]*)\}", lambda m: str(ids[m[1].rpartition(":")[2]]), path)


def asked_of(path, ids):
    """What an address asks for beside its path, where it must."""
    kept = ids["revision_id"]
    return f"{path}?frame={ids['frame_id']}&width=32&revision={kept}&now={kept}&then={kept}"


@pytest.mark.django_db(transaction=True)
def test_no_route_tells_others_what_is_kept(kept, other, applier, stranger, lead, designer):
    """Everything that can be asked for, by keys and in lists: not found for others, there for members and
    leads, nothing for strangers."""
    token = other.post("/me/tokens", {"name": "x", "scope": "all"}).json()["secret"]
    wrong, seen = [], 0
    for _, path in routes("GET"):
        keyed = filled(path, kept)
        plain = "{" not in path and path != "/ready"
        if keyed is None and not plain:
            continue
        address = asked_of(keyed or path, kept)
        answers = {
            "another": other.get(address),
            "editor": applier.get(address),
            "stranger": stranger.get(address),
            "token": Client().get(f"/api{address}", headers={"Authorization": f"Bearer {token}"}),
        }
        mine = {"member": designer.get(address), "lead": lead.get(address)}
        for who, answer in {**answers}.items():
            body = b"".join(answer.streaming_content) if answer.streaming else answer.content
            if HIDDEN.encode() in body:
                wrong.append(f"{path} tells {who} a name")
            if keyed and "{name}" not in path and answer.status_code < 400:
                wrong.append(f"{path} answers {who} with {answer.status_code}")
        if keyed and mine["member"].status_code < 400:
            seen += 1
        if mine["member"].status_code >= 500 or mine["lead"].status_code >= 500:
            wrong.append(f"{path} fails: {mine['member'].content[:200]!r}")
        if keyed and mine["member"].status_code != mine["lead"].status_code:
            wrong.append(f"{path}: {[a.status_code for a in mine.values()]}")
    assert not wrong, "\n".join(wrong)
    assert seen > 35


@pytest.mark.django_db(transaction=True)
def test_no_route_lets_others_change_what_is_kept(kept, other, applier, stranger):
    """Every write that names something kept, with an empty body and with a likely one."""
    before = {p.pk: (p.name, p.shots.count(), p.members.count()) for p in Project.objects.all()}
    wrong, tried = [], 0
    body = {
        "name": "x",
        "frames": [kept["frame_id"]],
        "shots": [kept["shot_id"]],
        "layers": [],
        "looks": [kept["look_id"]],
        "kept": False,
        "frame": kept["frame_id"],
        "revision": kept["revision_id"],
        "status": "approved",
        "text": "x",
        "of": 1,
        "approve": True,
        "kinds": ["cube"],
        "grid": 9,
        "parts": ["looks"],
        "version": 1,
        "draft": {"steps": []},
        "tags": ["x"],
        "favourite": True,
        "scene": None,
        "trim": {},
        "clip": kept["clip_id"],
        "settled": True,
        "private": False,
    }
    for method, path in routes("POST", "PUT", "PATCH", "DELETE"):
        address = filled(path, kept)
        if address is None or "{name}" in path or "{" not in path:
            continue
        for who, asker in (("another", other), ("editor", applier), ("stranger", stranger)):
            for sent in ({}, body):
                status = asker.send(method, address, sent).status_code
                tried += 1
                if status < 400 or status >= 500:
                    wrong.append(f"{method} {path} answers {who} with {status}")
    assert not wrong, "\n".join(wrong)
    assert tried > 200
    assert {p.pk: (p.name, p.shots.count(), p.members.count()) for p in Project.objects.all()} == before


@pytest.mark.django_db(transaction=True)
def test_what_is_kept_is_found_in_no_search_of_others(kept, other, designer, lead):
    for who, there in ((other, 0), (designer, 1), (lead, 1)):
        assert who.get(f"/catalogue?q={HIDDEN}").json()["found"] == there
        assert len([c for c in who.get("/catalogue").json()["cards"] if HIDDEN in c["name"]]) == there
        assert len(who.get("/projects").json()) == there
        assert (
            len([n for n in who.get("/catalogue/filters").json()["projects"] if HIDDEN in n["name"]]) == there
        )
        assert (HIDDEN in json.dumps(who.get("/activity").json())) is bool(there)


@pytest.mark.django_db(transaction=True)
def test_what_is_kept_cannot_be_shown_by_others_means(kept, other, designer, lead, frame):
    """On a shot of another project, on a sheet with others' keys, in a comparison, at the bench."""
    there = lead.post("/projects", {"name": "Open"}).json()["id"]
    shot = lead.post(f"/projects/{there}/shots", {"frames": [frame.pk]}).json()["shots"][0]["id"]
    wish = {"shots": [shot], "layers": [{"revision": kept["revision_id"]}]}
    assert other.post(f"/projects/{there}/assign", wish).status_code == 404
    told = designer.post(f"/projects/{there}/assign", wish)
    assert (told.status_code, "kept to another project" in told.json()["message"]) == (409, True)
    assert (
        other.post("/sheets", {"name": "x", "looks": [kept["look_id"]], "frames": [frame.pk]}).status_code
        == 404
    )
    assert (
        other.post("/exact?width=32", {"look": {"steps": []}, "frame": kept["frame_id"]}).status_code == 404
    )
    assert other.post(f"/projects/{there}/shots", {"frames": [kept["frame_id"]]}).status_code == 404
    # A variation of it is kept as it is.
    child = designer.post(f"/looks/{kept['look_id']}/variations", {"name": f"{HIDDEN} child"}).json()
    assert child["kept"] is True
    assert other.get(f"/looks/{child['id']}").status_code == 404


@pytest.mark.django_db(transaction=True)
def test_members_come_and_go_and_a_project_opens_again(kept, other, applier, designer, lead):
    path = f"/projects/{kept['project_id']}"
    tomas, ines = (Person.objects.get(username=name) for name in ("tomas", "ines"))
    assert other.get(path).status_code == 404
    lead.send("PATCH", path, {"members": [tomas.pk]})
    assert other.get(path).status_code == 200
    assert other.get(f"/looks/{kept['look_id']}").status_code == 200
    assert designer.get(path).status_code == 404
    assert designer.send("PATCH", path, {"private": False}).status_code == 404
    assert other.send("PATCH", path, {"private": False}).status_code == 403
    lead.send("PATCH", path, {"members": [tomas.pk, ines.pk], "private": False})
    for who in (applier, designer, other):
        assert who.get(path).json()["private"] is False
        assert who.get(f"/looks/{kept['look_id']}").json()["kept"] is False
        assert who.get(f"/frames/{kept['frame_id']}/still?width=32").status_code == 200


def test_what_is_said_again_is_written_down_once(db, lead, designer):
    made = lead.post("/projects", {"name": "Kiln"}).json()["id"]
    ines = Person.objects.get(username="ines")
    for _ in range(2):
        lead.send("PATCH", f"/projects/{made}", {"members": [ines.pk], "private": True})
    said = [event["said"] for event in lead.get("/activity").json()["events"]]
    assert said == ["made a private project of", "said who changes", "started"]


@pytest.mark.django_db(transaction=True)
def test_a_look_on_shots_of_others_is_not_kept(kept, designer, lead, frame):
    look = looks.create(
        Person.objects.get(username="ines"), "Open", LookValue.model_validate({"steps": STEPS})
    )
    revision = looks.keep_revision(look, look.maker, "")
    there = lead.post("/projects", {"name": "Elsewhere"}).json()["id"]
    shot = lead.post(f"/projects/{there}/shots", {"frames": [frame.pk]}).json()["shots"][0]["id"]
    lead.post(f"/projects/{there}/assign", {"shots": [shot], "layers": [{"revision": revision.pk}]})
    assert (
        designer.send("PUT", f"/projects/{kept['project_id']}/looks/{look.pk}", {"kept": True}).status_code
        == 409
    )
    assert designer.send("PUT", f"/projects/{there}/looks/{look.pk}", {"kept": True}).status_code == 409


def test_pictures_of_what_is_kept_are_kept_by_no_front(db, settings, lead, designer, frame):
    """A pass opens what the front keeps; so nothing of a private project may be kept there."""
    settings.BEHIND_FRONT = True
    made = lead.post("/projects", {"name": "Kept"}).json()["id"]
    shot = lead.post(f"/projects/{made}/shots", {"frames": [frame.pk]}).json()["shots"][0]
    address = f"/projects/{made}/shots/{shot['id']}/still?width=32&v={shot['version']}"
    assert "X-Accel-Expires" in lead.get(address)
    lead.send("PATCH", f"/projects/{made}", {"private": True})
    assert "X-Accel-Expires" not in lead.get(address)
    assert person("gesa", Role.APPLIER)
    assert Api(Person.objects.get(username="gesa")).get(address).status_code == 404
