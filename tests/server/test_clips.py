"""Clips on the server: taken in, looked through by a worker, cut, corrected, and made into shots of a
project."""

from pathlib import Path

import pytest
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from procrastinate.contrib.django.models import ProcrastinateJob
from saucer_core.formats import clips as reading
from saucer_server.clips import moments, proxying
from saucer_server.clips import rules as clips
from saucer_server.clips.models import Clip
from saucer_server.frames import rules as frame_rules
from saucer_server.frames.models import Frame
from saucer_server.jobs.models import Job
from saucer_server.jobs.rules import Cancelled
from saucer_server.people.models import Person
from saucer_server.projects import fromclip
from saucer_server.projects.models import Shot

from ..core.test_turned_and_woven import combed, woven

CLIP = Path(__file__).parents[2] / "demo" / "clips" / "from_yard_to_fire_log.mov"


def lead_of(lead) -> Person:
    """The person behind an interface."""
    return Person.objects.get(pk=lead.get("/me").json()["id"])


@pytest.fixture
def project(lead):
    return lead.post("/projects", {"name": "Kiln"}).json()["id"]


def bring(who, project, name="yard_log.mov", data=None, **said):
    file = SimpleUploadedFile(name, CLIP.read_bytes() if data is None else data)
    return who.upload(f"/projects/{project}/clips", {"file": file, **said})


@pytest.fixture
def clip(lead, project):
    made = bring(lead, project, encoding="film_log").json()
    clips.look_through(made["id"])
    return Clip.objects.get(pk=made["id"])


def cut(who, project, clip, **said):
    answer = who.post(f"/projects/{project}/cut", {"clip": clip.pk, **said})
    if answer.status_code == 201:
        work(answer.json()["id"])
    return answer


def work(job_id):
    queued = ProcrastinateJob.objects.get(pk=Job.objects.get(pk=job_id).queue_id)
    fromclip.make(**queued.args)


@pytest.mark.django_db(transaction=True)
def test_a_clip_is_looked_through_by_a_worker(lead, project):
    made = bring(lead, project).json()
    assert (made["facts"], made["job"]["state"]) == (None, "waiting")
    assert lead.get(f"/clips/{made['id']}/still?frame=0").status_code == 409
    assert ProcrastinateJob.objects.get(pk=Job.objects.get().queue_id).task_name.endswith("look")
    clips.look_through(made["id"])
    seen = lead.get(f"/clips/{made['id']}").json()
    assert (seen["facts"]["frames"], seen["cuts"], seen["facts"]["timecode"]) == (
        132,
        [0, 44, 88],
        "10:00:00:00",
    )
    assert seen["job"]["state"] == "done"
    assert lead.get(f"/clips/{made['id']}/still?frame=131&width=64")["Content-Type"] == "image/jpeg"
    assert lead.get(f"/clips/{made['id']}/still?frame=132").status_code == 404
    # A worker that comes once more finds it done.
    clips.look_through(made["id"])
    assert Job.objects.get().state == "done"


def test_its_encoding_is_told_by_rule_or_said(lead, project):
    rule = {"by": "name", "pattern": "*_log*", "encoding": "film_log"}
    lead.send("PATCH", f"/projects/{project}", {"reading": [rule]})
    assert bring(lead, project).json()["encoding"] == "film_log"
    assert bring(lead, project, "other.mov").json()["encoding"] == ""
    made = bring(lead, project, "other.mov", encoding="pq").json()
    assert made["encoding"] == "pq"
    assert lead.send("PATCH", f"/clips/{made['id']}", {"encoding": "hlg"}).json()["encoding"] == "hlg"


def test_cuts_are_corrected(lead, clip):
    path = f"/clips/{clip.pk}"
    assert lead.send("PATCH", path, {"cuts": [100, 44]}).json()["cuts"] == [0, 44, 100]
    refused = lead.send("PATCH", path, {"cuts": [0, 132]})
    assert refused.status_code == 422
    assert "frames 0 to 131" in refused.json()["message"]
    assert lead.get(path).json()["cuts"] == [0, 44, 100]


@pytest.mark.django_db(transaction=True)
def test_shots_are_cut_with_a_picture_each(lead, project, clip):
    assert cut(lead, project, clip, firsts=[0, 88]).status_code == 201
    shots = lead.get(f"/projects/{project}").json()["shots"]
    assert [(s["cut"]["first"], s["cut"]["last"], s["name"]) for s in shots] == [
        (0, 43, "yard_log 1"),
        (88, 131, "yard_log 3"),
    ]
    assert {s["frame"]["encoding"] for s in shots} == {"film_log"}
    assert lead.get(f"/projects/{project}/shots/{shots[0]['id']}/still?width=64").status_code == 200
    assert lead.get("/frames").json() == []
    assert lead.send("DELETE", f"/clips/{clip.pk}").status_code == 409
    for shot in shots:
        lead.send("DELETE", f"/projects/{project}/shots/{shot['id']}")
    assert Frame.objects.count() == 0
    assert lead.send("DELETE", f"/clips/{clip.pk}").status_code == 204


@pytest.mark.django_db(transaction=True)
def test_a_worker_that_comes_twice_cuts_once(lead, project, clip):
    answer = cut(lead, project, clip)
    assert Shot.objects.count() == 3
    work(answer.json()["id"])
    assert Shot.objects.count() == 3


@pytest.mark.django_db(transaction=True)
def test_cutting_that_is_stopped_leaves_no_shot_and_no_frame(lead, project, clip):
    answer = lead.post(f"/projects/{project}/cut", {"clip": clip.pk})
    lead.post(f"/jobs/{answer.json()['id']}/cancel")
    with pytest.raises(Cancelled):
        work(answer.json()["id"])
    assert (Shot.objects.count(), Frame.objects.count()) == (0, 0)
    assert lead.get(f"/jobs/{answer.json()['id']}").json()["state"] == "cancelled"


def test_cuts_that_moved_are_told(lead, project, clip):
    answer = lead.post(f"/projects/{project}/cut", {"clip": clip.pk, "firsts": [0, 7]})
    assert answer.status_code == 422
    assert "cut elsewhere" in answer.json()["message"]


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("broken.mov", b"nothing of a clip" * 99, "not a clip"),
        ("half.mov", "half", "not a clip"),
    ],
)
def test_what_cannot_be_read_fails_with_its_reason(lead, project, name, data, said):
    whole = CLIP.read_bytes()
    made = bring(lead, project, name, whole[: len(whole) // 2] if data == "half" else data).json()
    with pytest.raises(Exception, match=said):
        clips.look_through(made["id"])
    seen = lead.get(f"/clips/{made['id']}").json()
    assert (seen["facts"], seen["cuts"], seen["job"]["state"]) == (None, [], "failed")
    assert said in seen["job"]["reason"]
    assert "/tmp" not in seen["job"]["reason"]


def test_other_files_are_refused_at_the_door(lead, project):
    answer = bring(lead, project, "notes.txt", b"x")
    assert answer.status_code == 422
    assert Clip.objects.count() == 0


def test_strangers_and_others(stranger, designer, lead, project, clip):
    assert stranger.get(f"/clips/{clip.pk}").status_code == 401
    assert stranger.get(f"/clips/{clip.pk}/still?frame=0").status_code == 401
    assert designer.send("DELETE", f"/clips/{clip.pk}").status_code == 403


@pytest.mark.django_db(transaction=True)
def test_a_worker_goes_on_where_a_dead_one_stood(lead, project, monkeypatch):
    """What was looked at is written down; nothing of that stays once the clip is known."""
    monkeypatch.setattr(reading, "KEPT_EVERY", 10)
    row = Clip.objects.get(pk=bring(lead, project).json()["id"])
    real = reading.look_through

    def dying(path, name, tell, *, begun, keep):
        def last(at):
            keep(at)
            if len(at.stamps) == 20:
                raise SystemExit

        return real(path, name, tell, begun=begun, keep=last)

    monkeypatch.setattr(reading, "look_through", dying)
    with pytest.raises(SystemExit):
        clips.look_through(row.pk)
    row.refresh_from_db()
    assert row.stamps.endswith(".begun-20.json")
    begun = row.stamps
    monkeypatch.setattr(
        reading, "look_through", lambda *words, **said: real(*words, **said) if said["begun"] else 1 / 0
    )
    clips.look_through(row.pk)
    row.refresh_from_db()
    assert row.facts.frames == len(clips.found(row).stamps)
    assert not default_storage.exists(begun)


@pytest.mark.django_db(transaction=True)
def test_fields_are_made_whole_frames_where_somebody_says_so(lead, other, project, tmp_path):
    data = woven(tmp_path / "a.mp4").read_bytes()
    made = bring(lead, project, "fields.mp4", data, encoding="bt709_display").json()
    clips.look_through(made["id"])
    at = f"/clips/{made['id']}"
    assert lead.get(at).json()["facts"]["interlaced"]
    clip = Clip.objects.get(pk=made["id"])
    before, still = clips.at(clip, 5), lead.get(f"{at}/still?frame=5").content
    proxying.order(clip, lead_of(lead))
    proxying.make(clip.pk)
    first = Clip.objects.get(pk=clip.pk)
    assert first.proxy
    assert first.samples
    answer = lead.send("PATCH", at, {"deinterlaced": True})
    assert (answer.status_code, answer.json()["deinterlaced"], answer.json()["plays"]) == (200, True, False)
    clip = Clip.objects.get(pk=made["id"])
    assert combed(clips.at(clip, 5)) < 0.006 < combed(before)
    assert lead.get(f"{at}/still?frame=5").content != still
    # Its proxy was asked for anew, and is another file.
    assert clip.proxy_job.state == "waiting"
    proxying.make(clip.pk)
    second = Clip.objects.get(pk=clip.pk)
    assert second.proxy not in ("", first.proxy)
    moment = moments.moment(moments.stand(second, lead_of(lead)), 5)
    assert combed(frame_rules.original(moment, 320)) < 0.006
    # What was made before is not taken for it, and comes back with the choice.
    lead.send("PATCH", at, {"deinterlaced": False})
    assert combed(clips.at(Clip.objects.get(pk=clip.pk), 5)) == pytest.approx(combed(before))


@pytest.mark.django_db(transaction=True)
def test_whole_frames_have_no_fields(lead, clip):
    answer = lead.send("PATCH", f"/clips/{clip.pk}", {"deinterlaced": True})
    assert (answer.status_code, answer.json()["message"]) == (
        422,
        f"{clip.name} is not interlaced: its frames are whole already.",
    )
