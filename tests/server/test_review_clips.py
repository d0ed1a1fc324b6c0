"""Review clips: ordered from a project, made in pieces, watched by its people, handed on by feeds."""

import hashlib
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from procrastinate.contrib.django.models import ProcrastinateJob
from saucer_core.formats import clips
from saucer_server.clips import rules as server_clips
from saucer_server.delivering import making, parts
from saucer_server.delivering.models import Delivery, Piece
from saucer_server.jobs.models import Job
from saucer_server.projects import fromclip

from .test_delivering import CLIP, delivered, order, package

REVIEW: dict[str, Any] = {
    "parts": ["review"],
    "review": {"rows": 540, "slate": ["shot", "look", "timecode", "for"], "whom": "Ida"},
}

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture
def project(lead, frame, revision):
    """Two scenes: a clip's shot under a look in the second, a still without one in the first, one in none."""
    made = lead.post("/projects", {"name": "Kiln & yard"}).json()
    path = f"/projects/{made['id']}"
    shots = lead.post(f"{path}/shots", {"frames": [frame.pk] * 2}).json()["shots"]
    clip = lead.upload(
        f"{path}/clips", {"file": SimpleUploadedFile("fire.mov", CLIP.read_bytes()), "encoding": "film_log"}
    ).json()
    server_clips.look_through(clip["id"])
    job = lead.post(f"{path}/cut", {"clip": clip["id"], "firsts": [44]}).json()
    fromclip.make(**ProcrastinateJob.objects.get(pk=Job.objects.get(pk=job["id"]).queue_id).args)
    cut = lead.get(path).json()["shots"][-1]
    yard, fire = (
        lead.post(f"{path}/scenes", {"name": name}).json()["scenes"][-1]["id"] for name in ("Yard", "Fire")
    )
    lead.send("PATCH", f"{path}/shots/{cut['id']}", {"scene": fire})
    lead.send("PATCH", f"{path}/shots/{shots[1]['id']}", {"scene": yard, "name": "Shelf / “dusk”"})
    lead.post(f"{path}/assign", {"shots": [cut["id"]], "layers": [{"revision": revision.pk}]})
    return made["id"]


def watched(who, project, number):
    return who.get(f"/projects/{project}/deliveries/{number}/review")


def test_a_reel_is_one_file_with_a_chapter_for_each_shot(lead, applier, project, tmp_path):
    row = delivered(lead, project, REVIEW)
    said = watched(applier, project, row.number).json()
    # By scene, and those in none last; shots without a look are in it, too.
    assert [c["scene"] for c in said["chapters"]] == ["Yard", "Fire", ""]
    assert [c["words"] != "" for c in said["chapters"]] == [False, True, False]
    assert [c["begin"] for c in said["chapters"]] == [0, 4, pytest.approx(4 + 44 / 24, abs=1e-3)]
    assert (said["whom"], said["size"], said["rate"]) == ("Ida", "960 × 540", "24")
    assert said["seconds"] == pytest.approx(8 + 44 / 24, abs=0.01)
    assert row.left_out == []
    # The package holds that one file, and none of those that it was made from.
    z = package(lead, row)
    assert [n for n in z.namelist() if n.startswith("review/")] == ["review/Kiln & yard.mp4"]
    film = z.extract("review/Kiln & yard.mp4", tmp_path)
    found = clips.look_through(Path(film))
    assert (found.facts.frames, found.facts.encoding, found.facts.sound) == (
        96 + 44 + 96,
        "bt709_display",
        "aac",
    )
    # The slate stands under every picture, and says another timecode with every frame.
    seen = clips.frames_at(Path(film), [100, 101], found.stamps)
    strip = [seen[n][-22:] for n in (100, 101)]
    assert strip[0].max() > 0.6
    assert np.abs(strip[0][:, 400:760] - strip[1][:, 400:760]).max() < 0.1
    assert np.abs(strip[0][:, 860:] - strip[1][:, 860:]).max() > 0.3


def test_it_is_watched_in_ranges_by_people_of_the_project_alone(lead, other, stranger, project):
    row = delivered(lead, project, REVIEW)
    at = f"/projects/{project}/deliveries/{row.number}/review/file"
    whole = b"".join(lead.get(at).streaming_content)
    file = row.contents.files[0]
    assert hashlib.sha256(whole).hexdigest() == file.sha256
    part = lead.send("GET", at, HTTP_RANGE="bytes=100-299")
    assert (part.status_code, part["Content-Type"]) == (206, "video/mp4")
    assert b"".join(part.streaming_content) == whole[100:300]
    assert stranger.get(at).status_code == 401
    assert watched(stranger, project, row.number).status_code == 401
    assert watched(other, project, row.number).status_code == 200
    lead.send("PATCH", f"/projects/{project}", {"private": True})
    assert watched(lead, project, row.number).status_code == 200
    assert watched(other, project, row.number).status_code == 404
    assert other.get(at).status_code == 404


def test_one_scene_and_what_is_not_there(lead, project):
    fire = next(s["id"] for s in lead.get(f"/projects/{project}").json()["scenes"] if s["name"] == "Fire")
    plan = {**REVIEW, "review": {**REVIEW["review"], "scene": fire, "slate": []}}
    row = delivered(lead, project, plan)
    said = watched(lead, project, row.number).json()
    assert (said["title"], len(said["chapters"])) == ("Kiln & yard, Fire", 1)
    gone = lead.post(f"/projects/{project}/deliveries", {**plan, "review": {"scene": 2**30}})
    assert gone.status_code == 404
    assert watched(lead, project, 99).status_code == 404
    plain = delivered(lead, project, {"parts": ["cdl"]})
    assert watched(lead, project, plain.number).status_code == 404
    assert lead.post(f"/projects/{project}/deliveries", {**plan, "review": {"rows": 500}}).status_code == 422


def counted(monkeypatch):
    """What is made from now on."""
    made: list[Any] = []

    def counting(make):
        def counted(source, work):
            made.append(source)
            return make(source, work)

        return counted

    for maker in (parts.REVIEW_SHOTS, parts.REVIEWS):
        monkeypatch.setitem(maker.__dict__, "make", counting(maker.make))
    return made


def test_shots_that_stay_are_not_made_again(lead, project, monkeypatch):
    delivered(lead, project, REVIEW)
    made = counted(monkeypatch)
    delivered(lead, project, REVIEW)
    assert made == []
    shot = next(s for s in lead.get(f"/projects/{project}").json()["shots"] if s["name"].startswith("Shelf"))
    trim = {"exposure": 0.4, "temperature": 0, "tint": 0, "contrast": 1}
    lead.post(f"/projects/{project}/trim", {"shots": [shot["id"]], "trim": trim})
    delivered(lead, project, REVIEW)
    assert [type(source).__name__ for source in made] == ["OfReviewShot", "OfReview"]


def test_it_is_put_together_after_all_of_its_frames(lead, project):
    row = order(lead, project, REVIEW)
    pieces = list(Piece.objects.filter(delivery=row))
    assert [type(p.source).__name__ for p in pieces] == ["OfReviewShot"] * 3 + ["OfReview"]
    # A helper that comes first makes what it may, and leaves the end to whoever leads.
    making.help_with(row.pk)
    states = list(Piece.objects.filter(delivery=row).values_list("state", flat=True))
    assert states[:3] == ["done"] * 3
    making.make(row.pk)
    assert Delivery.objects.get(pk=row.pk).ready


def test_a_feed_hands_it_on_beside_the_newest_tables(lead, stranger, project):
    feed = lead.post(f"/projects/{project}/feeds", {"name": "Editing"}).json()
    at = feed["address"].partition("/api")[2]
    delivered(lead, project, REVIEW)
    assert [f["path"] for f in stranger.get(at).json()["files"]][-1] == "review/Kiln & yard.mp4"
    tables = delivered(lead, project, {"parts": ["looks"], "grid": 17})
    assert not [f for f in stranger.get(at).json()["files"] if f["path"].startswith("review/")]
    newer = delivered(lead, project, {**REVIEW, "review": {"rows": 540}})
    said = stranger.get(at).json()
    assert said["delivery"] == tables.number
    review = next(f for f in said["files"] if f["path"].startswith("review/"))
    assert review["sha256"] == newer.contents.files[0].sha256
    got = stranger.get(review["address"].partition("/api")[2])
    assert hashlib.sha256(b"".join(got.streaming_content)).hexdigest() == review["sha256"]
    # What is said to be otherwise is told from the tables before, not from the review clip.
    again = delivered(lead, project, {"parts": ["looks"], "grid": 17})
    assert [c.text for c in again.changes] == ["1 shot unchanged"]
