"""Projects, deliveries and the jobs that make them."""

import io
import json
import zipfile
from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio
import pytest
from procrastinate.contrib.django.models import ProcrastinateJob
from saucer_core.formats import cube, pictures
from saucer_core.look import Look as Recipe
from saucer_core.treatment import Treatment
from saucer_server.frames import rules as frames
from saucer_server.frames.rules import pixels
from saucer_server.jobs.models import Job
from saucer_server.jobs.rules import Cancelled, recover
from saucer_server.looks.models import Revision
from saucer_server.projects import delivery
from saucer_server.projects.models import Delivery
from saucer_server.projects.rules import trim_of


@pytest.fixture
def project(lead, frame):
    made = lead.post("/projects", {"name": "Kiln & yard", "note": "n"}).json()
    return lead.post(f"/projects/{made['id']}/shots", {"frames": [frame.pk, frame.pk, frame.pk]}).json()


def assign(who, project, shots, revision, strength=1.0):
    return who.post(f"/projects/{project['id']}/assign", {"shots": shots, "revision": revision, "strength": strength})


def ids(project):
    return [s["id"] for s in project["shots"]]


def test_shots_start_with_the_frames_trim(lead, designer, frame):
    designer.send("PATCH", f"/frames/{frame.pk}", {"trim": {"exposure": 0.5, "temperature": 0, "tint": 0, "contrast": 1}})
    made = lead.post("/projects", {"name": "P"}).json()
    shots = lead.post(f"/projects/{made['id']}/shots", {"frames": [frame.pk]}).json()["shots"]
    assert shots[0]["trim"]["exposure"] == 0.5


def test_assigning_to_several(applier, project, revision):
    after = assign(applier, project, ids(project)[:2], revision.pk, 0.7).json()["shots"]
    assert [(s["revision"] or {}).get("id") for s in after] == [revision.pk, revision.pk, None]
    assert after[0]["strength"] == 0.7
    gone = assign(applier, project, [ids(project)[0], 99999], None)
    assert gone.status_code == 404
    assert applier.get(f"/projects/{project['id']}").json()["shots"][0]["revision"]["id"] == revision.pk


def test_a_retired_revision_is_not_assigned(applier, project, revision):
    Revision.objects.filter(pk=revision.pk).update(status="retired")
    answer = assign(applier, project, ids(project), revision.pk)
    assert answer.status_code == 409
    assert "is retired" in answer.json()["message"]


def test_nothing_to_deliver(applier, project):
    answer = applier.post(f"/projects/{project['id']}/deliveries", {})
    assert answer.status_code == 409
    assert Delivery.objects.count() == 0


@pytest.fixture
def ordered(applier, project, revision):
    first, second, _ = ids(project)
    assign(applier, project, [first], revision.pk)
    assign(applier, project, [second], revision.pk, 0.6)
    path = f"/projects/{project['id']}/shots/{second}"
    applier.send("PATCH", path, {"name": "Shelf / “dusk”", "trim": {"exposure": 0.4, "temperature": 10, "tint": 0, "contrast": 1.1}})
    answer = applier.post(f"/projects/{project['id']}/deliveries", {"grid": 17})
    assert answer.status_code == 201, answer.content
    return Delivery.objects.get()


@pytest.mark.django_db(transaction=True)
def test_a_delivery_holds_what_its_list_says(applier, ordered, frame, revision):
    assert ProcrastinateJob.objects.get(pk=ordered.job.queue_id).task_name.endswith("deliver")
    assert applier.get(f"/projects/{ordered.project_id}/deliveries/1/file").status_code == 404
    delivery.make(ordered.pk)
    job = Job.objects.get()
    assert (job.state, job.done, job.total) == ("done", 3, 3)
    answer = applier.get(f"/projects/{ordered.project_id}/deliveries/1/file")
    package = zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content)))
    contents = json.loads(package.read("contents.json"))
    named = {x["lut"] for x in contents["looks"]} | {x["recipe"] for x in contents["looks"]} | {x["still"] for x in contents["shots"]}
    named |= {x["lut"] for x in contents["shots"] if "lut" in x}
    assert named | {"contents.json", "contents.txt"} == set(package.namelist())
    assert len(contents["shots"]) == 2
    # The frame is sRGB, the look takes BT.709 display: a shot's own LUT takes the shot as it is.
    assert contents["shots"][0]["frame encoding"] == "sRGB"

    recipe = Recipe.model_validate(revision.recipe)
    shot = ordered.project.shots.get(number=2)
    exact = Treatment(recipe, strength=0.6).compile()(pixels(frame, recipe.input, None, trim_of(shot)))
    still = _picture(package, contents["shots"][1]["still"])
    np.testing.assert_allclose(still, np.clip(exact, 0, 1), atol=2 / 65535)
    own = cube.read_text(package.read(contents["shots"][1]["lut"]).decode(), "own.cube")
    by_table = np.clip(own.apply(pixels(frame, frame.encoding)), 0, 1)
    assert "Comes in as: sRGB" in own.comments
    assert np.abs(by_table - np.clip(exact, 0, 1)).max() * 1023 <= contents["shots"][1]["largest error"] + 0.1


def _picture(package, name):
    import tempfile

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "s.png"
        path.write_bytes(package.read(name))
        return pictures.read(path)[0]


@pytest.mark.django_db(transaction=True)
def test_every_table_of_a_delivery_is_read_by_opencolorio_and_gives_the_still(applier, lead, designer, frame, revision, tmp_path):
    """OpenColorIO 2.6 takes each shot's frame through the shot's own table; a frame of linear light among them."""
    light = np.random.default_rng(2).uniform(0, 4, (36, 64, 3)).astype(np.float32) ** 2
    pictures.write(tmp_path / "light.exr", light, "float")
    bright = frames.add(tmp_path / "light.exr", "light.exr", name="Light", light="noon", encoding_key="linear_709", person=frame.added_by)
    made = lead.post("/projects", {"name": "Yard"}).json()
    project = lead.post(f"/projects/{made['id']}/shots", {"frames": [frame.pk, bright.pk]}).json()
    assign(applier, project, ids(project), revision.pk)
    applier.post(f"/projects/{project['id']}/deliveries", {"grid": 33})
    ordered = Delivery.objects.get()
    delivery.make(ordered.pk)
    answer = applier.get(f"/projects/{project['id']}/deliveries/1/file")
    package = zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content)))
    package.extractall(tmp_path)
    contents = json.loads(package.read("contents.json"))
    tables = [name for name in package.namelist() if name.startswith("luts/")]
    assert sorted(Path(name).suffix for name in tables) == [".clf", ".cube", ".cube"]
    for name in tables:
        ocio.Config.CreateRaw().getProcessor(ocio.FileTransform(str(tmp_path / name)))
    for shot, given in zip(contents["shots"], (frame, bright), strict=True):
        rgb = np.array(pixels(given, given.encoding), copy=True).reshape(-1, 3)
        how = ocio.FileTransform(str(tmp_path / shot["lut"]), interpolation=ocio.INTERP_TETRAHEDRAL)
        ocio.Config.CreateRaw().getProcessor(how).getDefaultCPUProcessor().applyRGB(rgb)
        off = np.abs(np.clip(rgb, 0, 1) - _picture(package, shot["still"]).reshape(-1, 3)) * 1023
        assert off.mean() < 1
        assert off.max() <= shot["largest error"] + 1


def test_a_failing_delivery_says_why_and_leaves_nothing(applier, ordered, monkeypatch):
    def broken(*_, **__):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(delivery, "full_picture", broken)
    with pytest.raises(OSError, match="No space"):
        delivery.make(ordered.pk)
    shown = applier.get(f"/projects/{ordered.project_id}").json()["deliveries"][0]
    assert shown["ready"] is False
    assert shown["job"]["state"] == "failed"
    assert "No space left" in shown["job"]["reason"]


def test_a_delivery_is_stopped(applier, other, ordered):
    assert other.post(f"/jobs/{ordered.job_id}/cancel").status_code == 403
    assert applier.post(f"/jobs/{ordered.job_id}/cancel").status_code == 200
    with pytest.raises(Cancelled):
        delivery.make(ordered.pk)
    ordered.refresh_from_db()
    assert (ordered.file, ordered.job.state) == ("", "cancelled")


def test_a_dead_workers_job_is_written_down(ordered):
    ProcrastinateJob.objects.filter(pk=ordered.job.queue_id)
    Job.objects.update(queue_id=999999)
    assert recover() == 1
    job = Job.objects.get()
    assert job.state == "failed"
    assert "Start it again" in job.reason
    assert recover() == 0


def test_a_delivery_made_twice_is_one_delivery(ordered):
    delivery.make(ordered.pk)
    first = Delivery.objects.get().file
    delivery.make(ordered.pk)
    assert Delivery.objects.get().file == first or Delivery.objects.get().bytes > 0
