"""Cut lists of a project: matched to clips, compared, taken and taken back; what waits; and lists that go
out."""

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import numpy as np
import opentimelineio as library
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from procrastinate.contrib.django.models import ProcrastinateJob
from saucer_core.formats.cutlists import cmx, otio, reading
from saucer_core.formats.cutlists.model import CutList, Event
from saucer_core.formats.timecode import frames_of
from saucer_core.steps.slope_offset_power import Correction
from saucer_server.clips import rules as clips
from saucer_server.cuts import taking, waiting
from saucer_server.cuts.models import Cut
from saucer_server.errors import RuleError
from saucer_server.frames.models import Frame
from saucer_server.jobs.models import Job
from saucer_server.projects.models import Layer, Shot

from ..moving import written
from .test_delivering import delivered, package

RATE = Fraction(24)
#: Where made clips begin, and where cuts do.
TEN, ONE = frames_of("10:00:00:00", RATE), frames_of("01:00:00:00", RATE)
WARM = Correction((1.08, 1.02, 0.95), (0.01, 0.0, -0.02), (1.0, 1.1, 1.0), 0.9)


@pytest.fixture
def project(lead):
    return lead.post("/projects", {"name": "Kiln"}).json()["id"]


@pytest.fixture(scope="module")
def files(tmp_path_factory):
    folder = tmp_path_factory.mktemp("clips")
    return {
        name: written(folder / f"{name}.mkv", 96, size=(64, 40), gentle=name == "gate").read_bytes()
        for name in ("shelf", "yard", "gate")
    }


def bring(lead, project, files, name):
    said = {"file": SimpleUploadedFile(f"{name}.mkv", files[name]), "encoding": "srgb"}
    made = lead.upload(f"/projects/{project}/clips", said).json()
    clips.look_through(made["id"])
    return made["id"]


@pytest.fixture
def held(lead, project, files):
    """Two clips of 96 frames that begin at ten."""
    return {name: bring(lead, project, files, name) for name in ("shelf", "yard")}


def listed(*events, title="kiln"):
    """A cut of events: clip, first frame of it, and how many frames, one after the other."""
    at, made = ONE, []
    for name, first, length, *more in events:
        correction = more[0] if more else None
        made.append(Event(f"{name}.mkv", "", TEN + first, length, at, length, correction=correction))
        at += length
    return CutList(title, RATE, False, tuple(made))


def send(lead, project, cut, name="cut.otio"):
    file = SimpleUploadedFile(name, reading.write(cut, name).encode())
    return lead.upload(f"/projects/{project}/cuts", {"file": file, "rate": "24/1"})


def work(job_id, run):
    run(**ProcrastinateJob.objects.get(pk=Job.objects.get(pk=job_id).queue_id).args)


def take(lead, project, cut):
    """Proposes a cut and takes it: what was told of it before, and the shots after."""
    told = send(lead, project, cut).json()
    answer = lead.post(f"/projects/{project}/cuts/{told['id']}/take", {"seen": told["seen"]})
    assert answer.status_code == 201, answer.json()
    work(answer.json()["id"], taking.take)
    assert Job.objects.get(pk=answer.json()["id"]).state == "done"
    return told, shots_of(lead, project)


def shots_of(lead, project):
    return lead.get(f"/projects/{project}").json()["shots"]


def places(shots):
    return [(s["number"], s["cut"]["first"], s["cut"]["last"]) for s in shots]


FIRST = (("shelf", 0, 24), ("yard", 10, 24), ("gate", 0, 12), ("shelf", 40, 24))


@pytest.mark.django_db(transaction=True)
def test_a_cut_comes_in_is_seen_first_and_then_taken(lead, project, held):
    told = send(lead, project, listed(*FIRST)).json()
    assert [x["kinds"] for x in told["changed"]] == [["new"]] * 4
    assert [(x["clip"], x["first"], x["last"], x["by"]) for x in told["after"]] == [
        (held["shelf"], 0, 23, "name"),
        (held["yard"], 10, 33, "name"),
        (None, 0, 0, ""),
        (held["shelf"], 40, 63, "name"),
    ]
    assert (told["waiting"], told["number"], told["after"][1]["before"], told["after"][1]["behind"]) == (
        1,
        None,
        10,
        62,
    )
    assert told["after"][2]["why"] == "only the timecode fits"
    assert told["after"][2]["range"] == "10:00:00:00 – 10:00:00:11"
    assert shots_of(lead, project) == []
    job = lead.post(f"/projects/{project}/cuts/{told['id']}/take", {}).json()
    # Twice is once.
    assert lead.post(f"/projects/{project}/cuts/{told['id']}/take", {}).status_code == 409
    work(job["id"], taking.take)
    work(job["id"], taking.take)
    shots = shots_of(lead, project)
    assert places(shots) == [(1, 0, 23), (2, 10, 33), (4, 40, 63)]
    assert [s["frame"]["name"] for s in shots] == ["shelf", "yard", "shelf"]
    whole = lead.get(f"/projects/{project}/cuts").json()
    assert [(c["number"], c["current"], c["waiting"]) for c in whole] == [(1, True, 1)]
    change = lead.get(f"/projects/{project}").json()["changes"][0]
    assert (change["kind"], change["words"]) == ("cut", "cut 1, cut.otio: 0 stay, 4 change")


@pytest.mark.django_db(transaction=True)
def test_a_recut_keeps_looks_trims_and_notes_with_their_source(lead, project, held, revision):
    _, (one, yard, three) = take(lead, project, listed(*FIRST))
    wish = {"shots": [yard["id"]], "layers": [{"revision": revision.pk, "strength": 0.7}]}
    assert lead.post(f"/projects/{project}/assign", wish).status_code == 200
    trim = {"shots": [three["id"]], "trim": {"exposure": 0.5}}
    assert lead.post(f"/projects/{project}/trim", trim).status_code == 200
    note = {"shot": yard["id"], "first": 12, "last": 12, "text": "Too blue."}
    assert lead.post(f"/projects/{project}/notes", note).status_code == 201
    # The two uses of one clip change places, the first is longer; the yard goes; another one comes.
    second = listed(("shelf", 40, 24), ("gate", 0, 12), ("shelf", 0, 30), ("yard", 60, 20))
    told, shots = take(lead, project, second)
    by_shot = {x["shot"]: x for x in told["changed"] if x["shot"]}
    assert by_shot[one["id"]]["kinds"] in (["longer"], ["moved", "longer"])
    assert "0:06 more at its end" in by_shot[one["id"]]["how"]
    assert by_shot[yard["id"]]["kinds"] == ["gone"]
    assert [s["id"] for s in shots][:2] == [three["id"], one["id"]]
    assert places(shots) == [(1, 40, 63), (3, 0, 29), (4, 60, 79)]
    assert shots[0]["trim"]["exposure"] == 0.5
    assert yard["id"] not in [s["id"] for s in shots]
    assert not Layer.objects.filter(shot_id=yard["id"]).exists()
    assert lead.get("/projects").json()[0]["shots"] == 3
    # A cut brings it back, some frames later: with its look and its note.
    third = listed(("shelf", 40, 24), ("yard", 14, 24), ("shelf", 0, 30))
    told, shots = take(lead, project, third)
    assert [x["kinds"] for x in told["changed"] if x["new"] == 1] == [["back"]]
    back = next(s for s in shots if s["id"] == yard["id"])
    assert (back["layers"][0]["strength"], back["cut"]["first"]) == (0.7, 14)
    notes = lead.get(f"/projects/{project}/notes").json()
    assert [n["shot"] for n in notes] == [yard["id"]]


@pytest.mark.django_db(transaction=True)
def test_a_cut_is_taken_back_as_one_and_done_again(lead, project, held):
    _, first = take(lead, project, listed(*FIRST))
    _, second = take(lead, project, listed(("yard", 0, 40), ("shelf", 40, 24, WARM), ("shelf", 90, 6)))
    assert [s["id"] for s in first] != [s["id"] for s in second]

    def undo():
        change = lead.get(f"/projects/{project}").json()["changes"][0]["id"]
        answer = lead.post(f"/projects/{project}/changes/{change}/undo")
        assert answer.status_code == 200, answer.json()
        return answer.json()["shots"]

    def same(now, then):
        keys = ("id", "number", "name", "cut", "trim", "scene", "frame")
        assert [{k: s[k] for k in keys} for s in now] == [{k: s[k] for k in keys} for s in then]

    same(undo(), first)
    assert [c["current"] for c in lead.get(f"/projects/{project}/cuts").json()] == [False, True]
    same(undo(), second)
    same(undo(), first)
    # A still that came since stays, behind those of the cut.
    still = Frame.objects.filter(of_shot=True).first()
    lead.post(f"/projects/{project}/shots", {"frames": [still.pk]})
    same(undo()[:-1], second)
    assert [s["number"] for s in shots_of(lead, project)] == [1, 2, 3, 4]


@pytest.mark.django_db(transaction=True)
def test_an_event_that_waits_becomes_a_shot_when_its_clip_comes(lead, project, held, files):
    scene = lead.post(f"/projects/{project}/scenes", {"name": "Gate"})
    assert scene.status_code == 201
    _, shots = take(lead, project, listed(*FIRST))
    # One that somebody adds stands behind all that the cut will have.
    lead.post(f"/projects/{project}/cut", {"clip": held["yard"]})
    gate = bring(lead, project, files, "gate")
    assert lead.get(f"/projects/{project}/cuts").json()[0]["waiting"] == 1
    waiting.clip_came(gate)
    waiting.clip_came(gate)
    now = shots_of(lead, project)
    assert [(s["number"], s["name"]) for s in now][:3] == [(1, "shelf"), (2, "yard"), (3, "gate")]
    assert lead.get(f"/projects/{project}/cuts").json()[0]["waiting"] == 0
    # The cut that is taken back takes it along, and brings it again.
    change = next(c for c in lead.get(f"/projects/{project}").json()["changes"] if c["kind"] == "cut")
    assert lead.post(f"/projects/{project}/changes/{change['id']}/undo").json()["shots"] == []
    again = lead.get(f"/projects/{project}").json()["changes"][0]["id"]
    lead.post(f"/projects/{project}/changes/{again}/undo")
    assert [s["id"] for s in shots_of(lead, project)] == [s["id"] for s in now]
    assert {s["id"] for s in shots} < {s["id"] for s in now}


@pytest.mark.django_db(transaction=True)
def test_a_clip_is_chosen_by_hand_where_it_holds_the_frames(lead, project, held):
    told = send(lead, project, listed(*FIRST)).json()
    path = f"/projects/{project}/cuts/{told['id']}"
    chosen = {"clips": [{"place": 2, "clip": held["yard"]}]}
    assert lead.send("PATCH", path, chosen).json()["after"][2]["by"] == "hand"
    left = {"clips": [{"place": 2, "clip": None}, {"place": 0, "clip": None}]}
    assert lead.send("PATCH", path, left).json()["waiting"] == 2
    late = send(lead, project, listed(("gate", 90, 12))).json()
    refused = lead.send(
        "PATCH", f"/projects/{project}/cuts/{late['id']}", {"clips": [{"place": 0, "clip": held["yard"]}]}
    )
    assert refused.status_code == 422
    assert "has 10:00:00:00 – 10:00:03:23 alone" in refused.json()["message"]
    # After it was taken, too.
    job = lead.post(f"{path}/take", {}).json()
    work(job["id"], taking.take)
    answer = lead.post(f"{path}/clips", {"place": 2, "clip": held["yard"]})
    assert answer.status_code == 201
    work(answer.json()["id"], waiting.fill_by_hand)
    assert places(shots_of(lead, project)) == [(2, 10, 33), (3, 0, 11), (4, 40, 63)]
    assert lead.post(f"{path}/clips", {"place": 2, "clip": held["yard"]}).status_code == 409


@pytest.mark.django_db(transaction=True)
def test_cdls_of_a_list_become_trims_where_that_is_wanted(lead, project, held):
    _, shots = take(lead, project, listed(("shelf", 0, 24), ("yard", 0, 24)))
    lead.post(f"/projects/{project}/trim", {"shots": [shots[0]["id"]], "trim": {"exposure": 0.5}})
    far = replace(WARM, slope=(9.0, 1.0, 1.0))
    told = send(
        lead, project, listed(("shelf", 0, 24, WARM), ("yard", 0, 24, WARM), ("yard", 40, 9, far))
    ).json()
    assert [(x["carries"], x["cdl"] is None, x["taken"]) for x in told["after"]] == [
        (True, False, False),
        (True, False, False),
        (True, True, False),
    ]
    path = f"/projects/{project}/cuts/{told['id']}"
    assert lead.send("PATCH", path, {"corrections": [0, 2]}).json()["after"][0]["taken"]
    work(lead.post(f"{path}/take", {}).json()["id"], taking.take)
    first, second, _ = (s["trim"] for s in shots_of(lead, project))
    assert (first["exposure"], first["red"]["slope"], first["saturation"]) == (0.0, 1.08, 0.9)
    assert second["red"]["slope"] == 1.0


@pytest.mark.django_db(transaction=True)
def test_somebody_elses_change_since_is_told(lead, other, project, held, revision, monkeypatch):
    _, shots = take(lead, project, listed(*FIRST))
    told = send(lead, project, listed(("shelf", 0, 24))).json()
    wish = {"shots": [shots[0]["id"]], "layers": [{"revision": revision.pk}]}
    assert other.post(f"/projects/{project}/assign", wish).status_code == 200
    path = f"/projects/{project}/cuts/{told['id']}"
    refused = lead.post(f"{path}/take", {"seen": told["seen"]})
    assert refused.status_code == 409
    assert "was quicker" in refused.json()["message"]
    # A shot that goes while pictures are made: nothing is half done.
    job = lead.post(f"{path}/take", {}).json()
    pictured = taking._pictured

    def meanwhile(*given):
        lead.send("DELETE", f"/projects/{project}/shots/{shots[0]['id']}")
        return pictured(*given)

    monkeypatch.setattr(taking, "_pictured", meanwhile)
    kept = set(Frame.objects.exclude(pk=shots[0]["frame"]["id"]).values_list("pk", flat=True))
    with pytest.raises(RuleError):
        work(job["id"], taking.take)
    row = Job.objects.get(pk=job["id"])
    assert (row.state, "changed while this cut was being taken" in row.reason) == ("failed", True)
    assert places(shots_of(lead, project)) == [(2, 10, 33), (4, 40, 63)]
    assert set(Frame.objects.values_list("pk", flat=True)) == kept
    assert lead.get(path).json()["number"] is None


@pytest.mark.django_db(transaction=True)
def test_who_may_and_what_is_refused(lead, applier, other, stranger, project, held):
    told = send(lead, project, listed(*FIRST)).json()
    path = f"/projects/{project}/cuts"
    lead.send("PATCH", f"/projects/{project}", {"members": [lead.get("/me").json()["id"]]})
    for who, status in ((other, 403), (stranger, 401)):
        assert send(who, project, listed(*FIRST)).status_code == status
        assert who.post(f"{path}/{told['id']}/take", {}).status_code == status
        assert who.send("DELETE", f"{path}/{told['id']}").status_code == status
    assert applier.get(f"{path}/{told['id']}").status_code == 200
    elsewhere = lead.post("/projects", {"name": "Yard"}).json()["id"]
    assert lead.get(f"/projects/{elsewhere}/cuts/{told['id']}").status_code == 404
    for name, text, said in (
        ("cut.otio", "{}", "cut.otio"),
        ("cut.txt", "hello", "is no cut list that Saucer reads"),
        ("cut.edl", "hello", "cut.edl"),
        ("cut.otio", "[" * 5000, "nested deeper"),
    ):
        answer = lead.upload(path, {"file": SimpleUploadedFile(name, text.encode()), "rate": "24/1"})
        assert answer.status_code == 422
        assert said in answer.json()["message"]
    assert lead.send("DELETE", f"{path}/{told['id']}").status_code == 204
    assert not Cut.objects.exists()


@pytest.mark.django_db(transaction=True)
def test_a_list_goes_out_with_looks_and_comes_in_again(lead, project, held, revision, tmp_path):
    cut = listed(("shelf", 0, 24, WARM), ("yard", 10, 24), ("shelf", 40, 24))
    told, shots = take(lead, project, cut)
    wish = {"shots": [s["id"] for s in shots[:2]], "layers": [{"revision": revision.pk, "strength": 0.8}]}
    lead.post(f"/projects/{project}/assign", wish)
    lead.post(
        f"/projects/{project}/trim",
        {"shots": [shots[1]["id"]], "trim": {"red": {"slope": 1.25}}, "parts": ["cdl"]},
    )
    path = f"/projects/{project}/cuts/{told['id']}/list"
    answer = lead.get(path)
    assert "cut with looks.otio" in answer["Content-Disposition"]
    out = tmp_path / "out.otio"
    out.write_bytes(answer.content)
    # OpenTimelineIO 0.18.1 reads it and hands it on unchanged.
    timeline = library.adapters.read_from_file(str(out), "otio_json")
    clip = timeline.tracks[0][1]
    said = clip.effects[0].metadata["saucer"]
    assert (said["looks"][0]["name"], said["looks"][0]["strength"]) == ("Warm shelf", 0.8)
    assert (
        timeline.to_json_string()
        == library.adapters.read_from_string(timeline.to_json_string(), "otio_json").to_json_string()
    )
    again = otio.read(out, out.name)
    assert [(e.name, e.start, e.length, e.at) for e in again.events] == [
        (e.name, e.start, e.length, e.at) for e in cut.events
    ]
    assert again.events[1].correction == Correction(slope=(1.25, 1.0, 1.0))
    # What the list said and nobody took is not on the shot.
    assert again.events[0].correction is None
    listing = cmx.read(lead.get(f"{path}?form=edl").content.decode(), "out.edl", RATE)
    assert listing.events[1].correction.slope == (1.25, 1.0, 1.0)
    assert np.isclose(Shot.objects.get(pk=shots[1]["id"]).trim.red.slope, 1.25)


@pytest.mark.django_db(transaction=True)
def test_a_delivery_says_its_cut_and_takes_the_list_along(lead, project, held, revision, tmp_path):
    _, shots = take(lead, project, listed(("shelf", 0, 24), ("gate", 0, 9), ("yard", 10, 24)))
    wish = {"shots": [shots[1]["id"]], "layers": [{"revision": revision.pk}]}
    lead.post(f"/projects/{project}/assign", wish)
    row = delivered(lead, project, {"parts": ["shots", "cut"], "grid": 9})
    assert (row.cut, row.contents.cut) == (1, 1)
    paths = {file.path for file in row.contents.files}
    assert {"cut/kiln.otio", "cut/kiln.edl"} < paths
    body = package(lead, row)
    out = tmp_path / "kiln.otio"
    out.write_bytes(body.read("cut/kiln.otio"))
    timeline = library.adapters.read_from_file(str(out), "otio_json")
    said = [clip.effects[0].metadata["saucer"] for clip in timeline.tracks[0] if len(clip.effects)]
    # The LUT lies where the list says, from where the list lies; a shot without a look is not delivered.
    assert [str(Path("cut") / one["lut"]).replace("cut/../", "") in paths for one in said] == [True]
    assert [(e.name, e.at - ONE, e.lasts) for e in otio.read(out, out.name).events] == [
        ("shelf.mkv", 0, 24),
        ("gate.mkv", 24, 9),
        ("yard.mkv", 33, 24),
    ]
    assert "of cut 1" in body.read("contents.txt").decode()
    # Made once more from the same, nothing is made.
    again = delivered(lead, project, {"parts": ["shots", "cut"], "grid": 9})
    assert [f.sha256 for f in again.contents.files] == [f.sha256 for f in row.contents.files]
