"""Packs that go out: whole, listed with checksums, and without loss into an empty Saucer."""

import hashlib
import io
import json
import zipfile

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.baking.bake import bake
from saucer_core.formats import cube
from saucer_core.look import Look as LookValue
from saucer_core.treatment import Treatment
from saucer_server.catalogue import collecting
from saucer_server.catalogue.models import Collection, Entry
from saucer_server.catalogue.rules import set_tags
from saucer_server.jobs.models import Job
from saucer_server.jobs.rules import Cancelled
from saucer_server.looks import rules as looks
from saucer_server.looks.models import Look, Revision
from saucer_server.luts.models import BorrowedLut
from saucer_server.outgoing import packing
from saucer_server.outgoing.models import Outgoing
from saucer_server.packs import keeping, reading
from saucer_server.people.models import Person


@pytest.fixture
def lut(designer):
    table = bake(
        Treatment(LookValue.model_validate({"steps": [{"kind": "contrast", "amount": 1.3}]})).compile(), 9
    )
    about = {
        "name": "Firing",
        "expects": "bt709_display",
        "gives": "bt709_display",
        "rights": "to anyone",
        "origin": "ours",
    }
    answer = designer.upload(
        "/luts", {**about, "file": SimpleUploadedFile("firing.cube", cube.write_text(table).encode())}
    )
    return answer.json()


@pytest.fixture
def series(designer, lead, lut, frame):
    person = Person.objects.get(username="ines")
    made = []
    for name, steps, rights in (
        ("Ember & Tide", [{"id": "c", "kind": "contrast", "amount": 1.2}], "to anyone"),
        (
            "窯の口",
            [
                {
                    "id": "l",
                    "kind": "lut",
                    "table": lut["digest"],
                    "name": "Firing",
                    "expects": "bt709_display",
                    "gives": "bt709_display",
                }
            ],
            "ask only us",
        ),
        ("Ember: Tide?", [{"id": "s", "kind": "saturation", "amount": 0.5}], "inside the studio"),
    ):
        row = looks.create(
            person,
            name,
            LookValue.model_validate({"steps": steps}),
            "a note",
            rights=rights,
            origin="the yard",
        )
        looks.keep_revision(row, person, "first")
        set_tags(row, ["fire", "🔥 hot"])
        made.append(row)
    recipe = LookValue.model_validate({"steps": [{"id": "c", "kind": "contrast", "amount": 1.4}]})
    looks.save_draft(made[0].pk, person, recipe, 1)
    newest = looks.keep_revision(made[0], person, "harder")
    looks.set_status(newest, Person.objects.get(username="odile"), "approved")
    collecting.add(person, "Kiln series", [made[1], made[0]])
    collecting.create(person, "Thin colour", "range=saturation::0.7")
    return made


def out(who, **said):
    answer = who.post(
        "/outgoing", {"name": "Kiln pack", "collections": ["Kiln series", "Thin colour"], **said}
    )
    assert answer.status_code == 201, answer.content
    packing.make(answer.json()["id"])
    row = who.get(f"/outgoing/{answer.json()['id']}").json()
    return row, b"".join(who.get(f"/outgoing/{row['id']}/file").streaming_content)


def opened(data):
    with zipfile.ZipFile(io.BytesIO(data)) as z:
        return {n: z.read(n) for n in z.namelist()}


def test_a_pack_holds_recipes_files_previews_a_page_and_lists(designer, series):
    row, data = out(designer, kinds=["cube", "cdl"], grid=9)
    files = opened(data)
    assert row["count"] == 3
    assert {n for n in files if n.endswith(".saucer.json")} == {
        "Kiln series/窯の口.saucer.json",
        "Kiln series/Ember & Tide.saucer.json",
        "Thin colour/Ember- Tide.saucer.json",
    }
    assert sum(n.startswith("beside/files/Kiln series/") and n.endswith(".cube") for n in files) == 2
    assert sum(n.startswith("beside/previews/") for n in files) == 3
    assert b"Ember &amp; Tide r2" in files["beside/contact sheet.html"]
    contents = json.loads(files["saucer-contents.json"])
    for listed in contents["files"]:
        assert hashlib.sha256(files[listed["path"]]).hexdigest() == listed["sha256"]
        assert f"{listed['sha256']}  {listed['path']}" in files["beside/contents.txt"].decode()
    assert {x["look"]: x["rights"] for x in contents["looks"]}["Ember & Tide"] == "to anyone"
    assert any("CDL" in why or "cdl" in why for why in row["left_out"]), "what cannot be written is said"


def test_taken_out_again_it_says_what_changed(designer, lead, series):
    assert out(designer)[0]["changes"] == []
    assert out(designer)[0]["changes"] == ["nothing changed"]
    person = Person.objects.get(username="ines")
    looks.save_draft(
        series[1].pk,
        person,
        LookValue.model_validate({"steps": [{"id": "c", "kind": "contrast", "amount": 0.9}]}),
        1,
    )
    looks.keep_revision(series[1], person, "without the table")
    collecting.take_out(person, "Kiln series", series[0])
    changes = out(designer)[0]["changes"]
    assert "窯の口: r1 → r2" in changes
    assert "Ember & Tide is not in it any more" in changes


def emptied():
    """As a new Saucer is, but for its people."""
    Outgoing.objects.all().delete()
    Entry.objects.all().delete()
    Collection.objects.all().delete()
    Revision.objects.all().delete()
    Look.objects.all().delete()
    BorrowedLut.objects.all().delete()


def brought_in(who, data):
    pack = who.post("/packs", {"name": "From elsewhere"}).json()
    who.upload(f"/packs/{pack['id']}/files", {"files": [SimpleUploadedFile("kiln.zip", data)], "paths": "[]"})
    who.post(f"/packs/{pack['id']}/read", {"frame": None})
    reading.read(pack["id"])
    found = who.get(f"/packs/{pack['id']}").json()
    who.send("PATCH", f"/packs/{pack['id']}", {"origin": "the other house", "rights": "ask first"})
    who.post(f"/packs/{pack['id']}/keep")
    keeping.keep(pack["id"])
    return found


def told(name):
    look = Look.objects.get(name=name)
    return {
        "note": look.note,
        "rights": look.rights,
        "tags": [t.name for t in look.tags.all()],
        "draft": look.draft,
        "collections": collecting.of_look(look),
        "statuses": [r.status for r in look.revisions.order_by("number")],
        "revisions": [(r.number, r.recipe, r.digest) for r in look.revisions.order_by("number")],
    }


def test_into_an_empty_saucer_nothing_is_lost(designer, lead, series):
    names = [look.name for look in series]
    before = {name: told(name) for name in names}
    _, data = out(designer, kinds=["cube"], grid=9)
    emptied()
    items = brought_in(lead, data)["items"]
    assert {i["name"] for i in items} == set(names), "nothing that lies beside comes in"
    assert not any(i["reason"] for i in items)
    for name in names:
        after = told(name)
        if "Thin colour" not in before[name]["collections"] and name == "Ember: Tide?":
            after["collections"].remove("Thin colour")
        assert after == before[name]
    assert [p.look.name for p in Collection.objects.get(name="Kiln series").placed.all()] == [
        "窯の口",
        "Ember & Tide",
    ]
    kept = Look.objects.get(name="Ember & Tide")
    assert "was r2 by Ines" in kept.revisions.get(number=2).note
    assert kept.origin.startswith("the yard; the other house")
    assert BorrowedLut.objects.count() == 1
    found = lead.get("/catalogue?q=fire&status=approved").json()["cards"]
    assert [c["name"] for c in found] == ["Ember & Tide"]


def test_a_designer_who_brings_it_in_approves_nothing(designer, series):
    _, data = out(designer)
    emptied()
    brought_in(designer, data)
    assert set(Revision.objects.values_list("status", flat=True)) == {"draft"}
    assert "approved" in Look.objects.get(name="Ember & Tide").revisions.get(number=2).note


def test_what_may_not_be_passed_on_stops_a_pack(designer, applier, lead, series):
    Look.objects.filter(pk=series[0].pk).update(rights="ask first")
    body = {"name": "Kiln pack", "collections": ["Kiln series"]}
    stopped = designer.post("/outgoing", body)
    assert stopped.status_code == 409
    assert "Ember & Tide" in stopped.json()["message"]
    assert designer.post("/outgoing", {**body, "anyway": True}).status_code == 409
    assert lead.post("/outgoing", {**body, "anyway": True}).status_code == 201
    assert applier.post("/outgoing", body).status_code == 403


def test_packs_that_cannot_be(designer, series):
    assert designer.post("/outgoing", {"name": "x", "collections": ["none such"]}).status_code == 404
    assert designer.post("/outgoing", {"name": "x"}).status_code == 409
    assert (
        "pdf"
        in designer.post("/outgoing", {"name": "x", "collections": ["Kiln series"], "kinds": ["pdf"]}).json()[
            "message"
        ]
    )
    assert Outgoing.objects.count() == Job.objects.count() == 0
    assert designer.get("/outgoing/9999/file").status_code == 404


def test_a_pack_that_is_stopped_leaves_no_file(designer, series):
    row = designer.post("/outgoing", {"name": "Kiln pack", "collections": ["Kiln series"]}).json()
    designer.post(f"/jobs/{row['job']['id']}/cancel")
    with pytest.raises(Cancelled):
        packing.make(row["id"])
    assert not designer.get(f"/outgoing/{row['id']}").json()["ready"]
    assert designer.get(f"/outgoing/{row['id']}/file").status_code == 404


def test_a_record_that_is_not_sound_says_where(designer, series):
    _, data = out(designer)
    name = "Thin colour/Ember- Tide.saucer.json"
    for damage, words in (
        (
            lambda r: r["revisions"].append({"number": 2, "look": {"steps": [{"kind": "nonsense"}]}}),
            "an earlier revision is not sound",
        ),
        (lambda r: r["revisions"][0].pop("number"), "has no number"),
        (lambda r: r.update(rights="a\0b"), "no text"),
        (lambda r: r["revisions"].insert(0, 7), "is not an object"),
    ):
        whole = json.loads(opened(data)[name])
        damage(whole["record"])
        pack = designer.post("/packs", {"name": "Damaged"}).json()
        file = SimpleUploadedFile("a.saucer.json", json.dumps(whole).encode())
        designer.upload(f"/packs/{pack['id']}/files", {"files": [file], "paths": "[]"})
        designer.post(f"/packs/{pack['id']}/read", {"frame": None})
        reading.read(pack["id"])
        (item,) = designer.get(f"/packs/{pack['id']}").json()["items"]
        assert words in item["reason"]
