"""Proxies on the server: ordered, made by workers in parts, gone on with, and given byte by byte to those who
may see the clip."""

import errno
import time
from pathlib import Path
from threading import Thread

import av
import numpy as np
import pytest
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connections
from procrastinate.contrib.django.models import ProcrastinateJob
from saucer_core.formats import proxies
from saucer_core.formats.clips import colours_of
from saucer_core.screen import for_screen
from saucer_server import storage
from saucer_server.clips import proxying, rules, tasks
from saucer_server.clips.models import Clip
from saucer_server.clips.proxying import LOCKS, PARTS
from saucer_server.housekeeping import sweep
from saucer_server.jobs.locks import taken
from saucer_server.jobs.models import Job
from saucer_server.jobs.rules import Cancelled, Progress

from .test_clips import CLIP, bring

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def project(lead):
    return lead.post("/projects", {"name": "Kiln"}).json()["id"]


@pytest.fixture
def clip(lead, project, monkeypatch):
    """A clip that was looked through, whose proxy is ordered, of three parts."""
    monkeypatch.setattr(proxies, "PART", 48)
    made = bring(lead, project, encoding="film_log").json()
    tasks.look(clip_id=made["id"])
    return Clip.objects.get(pk=made["id"])


def parts_of(clip: Clip) -> list[str]:
    folder = proxying._folder(clip)
    return sorted(default_storage.listdir(folder)[1]) if default_storage.exists(folder) else []


def test_a_proxy_is_ordered_once_when_a_clip_was_looked_through(lead, clip):
    seen = lead.get(f"/clips/{clip.pk}").json()
    assert (seen["plays"], seen["proxy_job"]["state"], seen["proxy_job"]["total"]) == (False, "waiting", 3)
    assert lead.get(f"/clips/{clip.pk}/proxy").status_code == 404
    assert lead.get(f"/clips/{clip.pk}/proxy/file").status_code == 404
    assert lead.post(f"/clips/{clip.pk}/proxy").status_code == 201
    assert Job.objects.filter(kind="proxy").count() == 1
    queued = [job for job in ProcrastinateJob.objects.all() if job.args.get("clip_id") == clip.pk]
    names = [job.task_name.rpartition(".")[2] for job in queued]
    assert sorted(names) == ["help_with_proxy", "look", "make_proxy"]


def test_a_made_proxy_plays_and_its_bytes_are_given_in_ranges(lead, clip, settings):
    proxying.make(clip.pk)
    seen = lead.get(f"/clips/{clip.pk}").json()
    assert (seen["plays"], seen["proxy_job"]["state"]) == (True, "done")
    index = lead.get(f"/clips/{clip.pk}/proxy").json()
    assert len(index["offsets"]) == seen["facts"]["frames"] == 132
    assert parts_of(clip) == []
    address = f"/clips/{clip.pk}/proxy/file"
    whole = lead.get(address)
    data = b"".join(whole.streaming_content)
    assert (whole.status_code, whole["Content-Type"], int(whole["Content-Length"])) == (
        200,
        "video/mp4",
        len(data),
    )
    begin, size = index["offsets"][40], index["sizes"][40]
    part = lead.client.get(f"/api{address}", headers={"Range": f"bytes={begin}-{begin + size - 1}"})
    assert part.status_code == 206
    assert part["Content-Range"] == f"bytes {begin}-{begin + size - 1}/{len(data)}"
    assert b"".join(part.streaming_content) == data[begin : begin + size]
    assert lead.client.get(f"/api{address}", headers={"Range": f"bytes={len(data)}-"}).status_code == 416
    # With the front before it, the front gives the bytes; this process says which file.
    settings.FRONT_FILES = True
    handed = lead.get(address)
    assert handed["X-Accel-Redirect"] == f"/-/files/{Clip.objects.get(pk=clip.pk).proxy}"


def test_two_clips_of_one_file_take_nothing_from_each_other(lead, project, clip):
    other = bring(lead, project, encoding="film_log").json()
    tasks.look(clip_id=other["id"])
    second = Clip.objects.get(pk=other["id"])
    assert second.digest == clip.digest
    seen = rules.found(second)
    proxying._encode(second, seen, 0, Progress(second.proxy_job))
    assert parts_of(second) == ["00000.nut"]
    proxying.make(clip.pk)
    # What was made for the other one is still there, and both play.
    assert parts_of(second) == ["00000.nut"]
    proxying.make(second.pk)
    names = Clip.objects.filter(pk__in=[clip.pk, second.pk]).values_list("proxy", flat=True)
    assert len(set(names)) == 2
    assert all(default_storage.exists(name) for name in names)


def test_a_full_disk_keeps_what_is_whole_and_says_so(lead, clip, monkeypatch):
    put = storage.put_file
    room = [2]

    def full(name, file):
        room[0] -= 1
        if room[0] < 0:
            raise OSError(errno.ENOSPC, "No space left on device")
        return put(name, file)

    monkeypatch.setattr(storage, "put_file", full)
    with pytest.raises(OSError, match="No space"):
        proxying.make(clip.pk)
    seen = lead.get(f"/clips/{clip.pk}").json()
    assert (seen["plays"], seen["proxy_job"]["state"]) == (False, "failed")
    assert "disk" in seen["proxy_job"]["reason"]
    assert parts_of(clip) == ["00000.nut", "00001.nut"]
    assert lead.get(f"/clips/{clip.pk}/proxy").status_code == 404
    # With room again it goes on from there.
    monkeypatch.setattr(storage, "put_file", put)
    assert lead.post(f"/clips/{clip.pk}/proxy").json()["proxy_job"]["state"] == "waiting"
    proxying.make(clip.pk)
    assert lead.get(f"/clips/{clip.pk}").json()["plays"]
    assert parts_of(clip) == []


def test_work_of_a_dead_worker_is_gone_on_with(clip, monkeypatch):
    encode = proxies.encode

    def dies(source, found, part, target, tell):
        if part == 1:
            raise KeyboardInterrupt
        encode(source, found, part, target, tell)

    monkeypatch.setattr(proxies, "encode", dies)
    with pytest.raises(KeyboardInterrupt):
        proxying.make(clip.pk)
    assert parts_of(clip) == ["00000.nut"]
    made = []

    def counts(source, found, part, target, tell):
        made.append(part)
        encode(source, found, part, target, tell)

    monkeypatch.setattr(proxies, "encode", counts)
    Job.objects.filter(kind="proxy").update(state="waiting")
    proxying.make(clip.pk)
    assert made == [1, 2]
    assert Clip.objects.get(pk=clip.pk).proxy


def test_two_workers_share_the_parts_and_make_none_twice(clip, monkeypatch):
    made, encode = [], proxies.encode

    def helps(source, found, part, target, tell):
        made.append(part)
        encode(source, found, part, target, tell)

    monkeypatch.setattr(proxies, "encode", helps)
    with taken(LOCKS, clip.pk * PARTS + 1) as got:
        assert got

        def other() -> None:
            proxying.help_with(clip.pk)
            connections.close_all()

        helper = Thread(target=other)
        helper.start()
        helper.join()
    assert made == [0, 2]
    proxying.make(clip.pk)
    assert made == [0, 2, 1]


def test_a_cancelled_proxy_can_be_asked_for_again(lead, clip):
    job = lead.get(f"/clips/{clip.pk}").json()["proxy_job"]["id"]
    assert lead.post(f"/jobs/{job}/cancel").status_code == 200
    with pytest.raises(Cancelled):
        proxying.make(clip.pk)
    assert not Clip.objects.get(pk=clip.pk).proxy
    assert lead.post(f"/clips/{clip.pk}/proxy").json()["proxy_job"]["state"] == "waiting"
    proxying.make(clip.pk)
    assert lead.get(f"/clips/{clip.pk}").json()["plays"]


def test_a_clip_that_goes_while_its_proxy_is_made_keeps_nothing_half(lead, clip):
    assert lead.send("DELETE", f"/clips/{clip.pk}").status_code == 204
    proxying.make(clip.pk)
    assert lead.get(f"/clips/{clip.pk}/proxy/file").status_code == 404


def test_the_sweep_keeps_a_proxy_and_its_index(clip):
    proxying.make(clip.pk)
    row = Clip.objects.get(pk=clip.pk)
    sweep.unused(time.time() + 2 * sweep.YOUNG)
    assert default_storage.exists(row.proxy)
    assert default_storage.exists(row.proxy_index)


def test_a_stranger_gets_no_byte(client, clip):
    proxying.make(clip.pk)
    assert client.get(f"/api/clips/{clip.pk}/proxy/file").status_code == 401
    assert client.get(f"/api/clips/{clip.pk}/proxy").status_code == 401


def test_a_clip_that_was_not_looked_through_has_to_wait(lead, project):
    made = bring(lead, project).json()
    assert lead.post(f"/clips/{made['id']}/proxy").status_code == 409
    assert Path(Clip.objects.get(pk=made["id"]).file).suffix == ".mov"


def test_a_clip_that_is_brought_stands_among_the_frames(lead, designer):
    file = SimpleUploadedFile("yard_log.mov", CLIP.read_bytes())
    made = lead.upload("/clips", {"file": file, "encoding": "film_log"}).json()
    assert [f for f in lead.get("/frames").json() if f["clip"]] == []
    tasks.look(clip_id=made["id"])
    tasks.look(clip_id=made["id"])
    (stands,) = [f for f in lead.get("/frames").json() if f["clip"]]
    assert (stands["clip"], stands["number"], stands["encoding"]) == (made["id"], 66, "film_log")
    assert lead.post(f"/clips/{made['id']}/frame").json()["id"] == stands["id"]
    lead.send("PATCH", f"/clips/{made['id']}", {"encoding": "acescct"})
    assert designer.get("/frames").json()[-1]["encoding"] == "acescct"
    assert lead.send("DELETE", f"/clips/{made['id']}").status_code == 204
    assert [f["clip"] for f in lead.get("/frames").json() if f["id"] == stands["id"]] == [None]


def standing(lead, clip: Clip) -> int:
    return lead.post(f"/clips/{clip.pk}/frame").json()["id"]


def rest(who, frame: int, at: int | None, **said) -> np.ndarray:
    look = {"input": "film_log", "output": "film_log", "steps": []}
    body = {"look": look, "frame": frame, "at": at, **said}
    answer = who.client.post(
        "/api/exact?width=640",
        body,
        content_type="application/json",
        headers={"X-CSRFToken": who.client.cookies["csrftoken"].value},
    )
    assert answer.status_code == 200, answer.content
    width, height = np.frombuffer(answer.content[:8], "<u4")
    return np.frombuffer(answer.content[8:], "<f2").reshape(height, width, 3).astype(np.float32)


def test_every_frame_of_a_clip_is_worked_on_like_a_still(lead, clip):
    """What is rendered is what the player shows: the proxy's frame, through the core."""
    frame = standing(lead, clip)
    proxying.make(clip.pk)
    with av.open(default_storage.path(Clip.objects.get(pk=clip.pk).proxy)) as container:
        wanted = {k: colours_of(f) for k, f in enumerate(container.decode(video=0)) if k in (0, 65, 131)}
    for number, rgb in wanted.items():
        shown = rest(lead, frame, number)
        assert np.abs(shown - for_screen(rgb, "film_log")).max() < 2e-3
    body = {"look": None, "frame": frame, "at": 40}
    assert lead.post("/readings", body).status_code == 200
    places = lead.get(f"/moments/{frame}/131/places?input=film_log&width=640&trimmed=false")
    assert places.status_code == 200
    assert lead.get(f"/moments/{frame}/132/places?input=film_log").status_code == 404
    assert lead.post("/readings", {**body, "at": 132}).status_code == 404


def test_a_still_has_no_moments(lead, frame):
    answer = lead.post("/readings", {"look": None, "frame": frame.pk, "at": 3})
    assert answer.status_code == 404
    assert "is a still" in answer.json()["message"]


def test_a_moment_is_kept_as_a_still_with_the_trim(lead, clip):
    frame = standing(lead, clip)
    lead.send("PATCH", f"/frames/{frame}", {"trim": {"exposure": 0.5}})
    held = lead.post("/clips/held", {"frame": frame, "number": 12}).json()
    assert (held["clip"], held["trim"]["exposure"], held["name"]) == (None, 0.5, "yard_log, frame 12")
    assert lead.post("/clips/held", {"frame": frame, "number": 999}).status_code == 404


def test_a_private_clip_stands_for_its_circle_alone(lead, designer):
    private = lead.post("/projects", {"name": "Kiln, private"}).json()["id"]
    assert lead.send("PATCH", f"/projects/{private}", {"private": True}).status_code == 200
    made = bring(lead, private, encoding="film_log").json()
    tasks.look(clip_id=made["id"])
    frame = standing(lead, Clip.objects.get(pk=made["id"]))
    lead.post("/clips/held", {"frame": frame, "number": 12})
    assert [f["id"] for f in designer.get("/frames").json() if f["name"].startswith("yard_log")] == []
    assert designer.post("/readings", {"look": None, "frame": frame, "at": 3}).status_code == 404
    assert len([f for f in lead.get("/frames").json() if f["name"].startswith("yard_log")]) == 2
