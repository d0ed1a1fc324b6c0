"""Deliveries: what is in them, that other programs get the same pixels, pieces, stopping, dying, rights,
names, drop folder, feeds."""

import hashlib
import io
import json
import threading
import zipfile
from datetime import timedelta
from pathlib import Path

import numpy as np
import PyOpenColorIO as ocio
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection, connections
from django.utils import timezone
from PIL import Image
from procrastinate.contrib.django.models import ProcrastinateJob
from saucer_core.formats import cdl, clips, pictures
from saucer_core.formats.recipe import read as read_recipe
from saucer_server import storage
from saucer_server.bakes import finished
from saucer_server.clips import rules as server_clips
from saucer_server.delivering import kept, making, parts, rules, screening
from saucer_server.delivering.models import Delivery, Feed, Fetch, Piece
from saucer_server.frames import rules as frames
from saucer_server.frames.rules import pixels
from saucer_server.jobs import rules as jobs
from saucer_server.jobs.locks import taken
from saucer_server.jobs.models import Job
from saucer_server.jobs.rules import Cancelled, recover
from saucer_server.looks.models import Look
from saucer_server.projects import fromclip

from ..core.test_kept import exr, noise

CLIP = Path(__file__).parents[2] / "demo" / "clips" / "from_yard_to_fire_log.mov"
NEUTRAL = {"exposure": 0, "temperature": 0, "tint": 0, "contrast": 1}
QUICK = {"parts": ["looks", "shots", "stills", "cdl", "recipes"], "grid": 17}

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(autouse=True)
def drop_folder(settings, tmp_path):
    settings.SAUCER_DROP_FOLDER = tmp_path / "shelf"
    return settings.SAUCER_DROP_FOLDER


@pytest.fixture
def project(lead, frame, revision):
    made = lead.post("/projects", {"name": "Kiln & yard"}).json()
    path = f"/projects/{made['id']}"
    shots = [s["id"] for s in lead.post(f"{path}/shots", {"frames": [frame.pk] * 3}).json()["shots"]]
    lead.post(f"{path}/assign", {"shots": shots[:1], "layers": [{"revision": revision.pk}]})
    lead.post(f"{path}/assign", {"shots": shots[1:2], "layers": [{"revision": revision.pk, "strength": 0.6}]})
    lead.send("PATCH", f"{path}/shots/{shots[1]}", {"name": "Shelf / “dusk”"})
    lead.post(
        f"{path}/trim",
        {"shots": shots[1:2], "trim": {**NEUTRAL, "exposure": 0.4, "temperature": 6, "contrast": 1.1}},
    )
    return made["id"]


def order(who, project, plan=None):
    answer = who.post(f"/projects/{project}/deliveries", QUICK if plan is None else plan)
    assert answer.status_code == 201, answer.content
    return Delivery.objects.get(project_id=project, number=answer.json()["number"])


def delivered(who, project, plan=None):
    row = order(who, project, plan)
    making.make(row.pk)
    return Delivery.objects.get(pk=row.pk)


def package(who, row):
    answer = who.get(f"/projects/{row.project_id}/deliveries/{row.number}/file")
    return zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content)))


def picture(z, name, folder):
    path = Path(z.extract(name, folder))
    return pictures.read(path)[0]


# What is in it


def test_the_list_says_what_is_in_it(lead, project, tmp_path):
    row = delivered(lead, project)
    job = Job.objects.get(pk=row.job_id)
    assert (job.state, job.done) == ("done", job.total)
    z = package(lead, row)
    assert z.testzip() is None
    contents = json.loads(z.read("contents.json"))
    assert {f["path"] for f in contents["files"]} | {
        "contents.json",
        "contents.txt",
        "checksums.sha256",
    } == set(z.namelist())
    for line in z.read("checksums.sha256").decode().splitlines():
        sha, _, path = line.partition("  ")
        assert hashlib.sha256(z.read(path)).hexdigest() == sha
    assert [s["number"] for s in contents["shots"]] == [1, 2]
    assert row.left_out == ["3 Ramp: no look is on it"]
    words = z.read("contents.txt").decode()
    assert not [n for n in z.namelist() if "/ “" in n]
    assert "luts/shots/002_Shelf - “dusk”_BT.709 display.cube" in words
    assert read_recipe(Path(z.extract("looks/Warm shelf_r1.saucer.json", tmp_path))).name == "Warm shelf"


def test_a_still_is_every_pixel_of_trim_and_look(lead, project, frame, tmp_path):
    row = delivered(lead, project)
    shot = row.shots[1]
    z = package(lead, row)
    still = picture(z, "stills/002_Shelf - “dusk”_BT.709 display.png", tmp_path)
    exact = np.clip(screening.shown(shot, 64), 0, 1)
    np.testing.assert_allclose(still, exact, atol=2 / 65535)


def test_what_a_still_loses_of_its_file_is_said(lead, designer, revision, tmp_path):
    """Alpha and a second page, as JPEG; and pages alone, as a TIFF keeps the rest: in the list to be read and
    in JSON."""
    pages = [Image.new("RGBA", (64, 48), (90, 120, 40 * k, 128)) for k in range(2)]
    pages[0].save(tmp_path / "pages.tif", save_all=True, append_images=pages[1:])
    project = lead.post("/projects", {"name": "Pages"}).json()["id"]
    shot = lead.upload(
        f"/projects/{project}/stills",
        {"file": SimpleUploadedFile("a.tif", (tmp_path / "pages.tif").read_bytes())},
    ).json()
    lead.post(f"/projects/{project}/assign", {"shots": [shot["id"]], "layers": [{"revision": revision.pk}]})
    for kind, gone in (
        ("jpeg", ["alpha, which JPEG has no room for", "1 more page of the file"]),
        ("tiff16", ["1 more page of the file"]),
    ):
        row = delivered(lead, project, {"parts": ["stills"], "picture": kind})
        (fact,) = (r.facts for r in row.contents.parts["stills"])
        z = package(lead, row)
        for words in (fact["left out"], z.read("contents.txt").decode()):
            assert all(one in words for one in gone)
            assert ("alpha" in words) is (kind == "jpeg")


@pytest.mark.parametrize(
    ("kind", "gone"),
    [
        ("exr_half", ["the channels Z", "1 more part of the file"]),
        ("png16", ["the channels Z", "1 more part of the file"]),
    ],
)
def test_what_a_still_loses_of_an_exr_file_is_said(lead, designer, revision, tmp_path, kind, gone):
    """Depth, a second part, and where the pixels lie in the picture: kept by EXR where it can, said where
    not."""
    path = exr(
        tmp_path / "a.exr",
        noise(channels=4),
        names=("R", "G", "B", "Z"),
        window=(7, -3, 0, 0, 100, 80),
        parts=2,
    )
    project = lead.post("/projects", {"name": "Parts"}).json()["id"]
    shot = lead.upload(
        f"/projects/{project}/stills", {"file": SimpleUploadedFile("a.exr", path.read_bytes())}
    ).json()
    assert len(shot["frame"]["unread"]) == 2
    lead.post(f"/projects/{project}/assign", {"shots": [shot["id"]], "layers": [{"revision": revision.pk}]})
    row = delivered(lead, project, {"parts": ["stills"], "picture": kind})
    (fact,) = (r.facts for r in row.contents.parts["stills"])
    assert all(one in fact["left out"] for one in gone)
    assert ("display window" in fact["left out"]) is (kind == "png16")


def test_tables_and_configuration_give_the_stills_in_opencolorio(
    lead, designer, project, frame, revision, tmp_path
):
    """OpenColorIO 2.6 takes each shot's frame through the shot's own table, and through the configuration's
    look of the shot; a frame of linear light among them.
    """
    light = np.random.default_rng(2).uniform(0, 4, (36, 64, 3)).astype(np.float32) ** 2
    pictures.write(tmp_path / "light.exr", light, "float")
    bright = frames.add(
        tmp_path / "light.exr",
        "light.exr",
        name="Light",
        light="noon",
        encoding_key="linear_709",
        person=frame.added_by,
    )
    path = f"/projects/{project}"
    shot = lead.post(f"{path}/shots", {"frames": [bright.pk]}).json()["shots"][-1]["id"]
    lead.post(f"{path}/assign", {"shots": [shot], "layers": [{"revision": revision.pk}]})
    row = delivered(lead, project, {"parts": ["shots", "stills", "ocio"], "grid": 33})
    z = package(lead, row)
    z.extractall(tmp_path / "out")
    config = ocio.Config.CreateFromFile(str(tmp_path / "out/opencolorio/config.ocio"))
    config.validate()
    names = list(config.getLookNames())
    for snapshot, given in ((row.shots[0], frame), (row.shots[1], frame), (row.shots[2], bright)):
        number = snapshot.number
        still = picture(z, next(n for n in z.namelist() if n.startswith(f"stills/{number:03d}")), tmp_path)
        table = next(n for n in z.namelist() if n.startswith(f"luts/shots/{number:03d}"))
        fact = next(r.facts for r in row.contents.parts["shots"] if r.shot == number)
        source, _ = (
            pictures.read(tmp_path / "light.exr")
            if given is bright
            else (np.array(pixels(given, given.encoding, 64)), None)
        )
        by_table = np.array(source, copy=True).reshape(-1, 3)
        how = ocio.FileTransform(str(tmp_path / "out" / table), interpolation=ocio.INTERP_TETRAHEDRAL)
        ocio.Config.CreateRaw().getProcessor(how).getDefaultCPUProcessor().applyRGB(by_table)
        off = np.abs(np.clip(by_table, 0, 1) - still.reshape(-1, 3)) * 1023
        assert off.mean() < 1
        assert off.max() <= fact["largest error"] + 1
        look = next(n for n in names if n.startswith(f"{number:03d}"))
        space = config.getLook(look).getProcessSpace()
        by_look = np.array(source, copy=True).reshape(-1, 3)
        to = ocio.LookTransform(src=space, dst="BT.709 display", looks=look)
        config.getProcessor(to).getDefaultCPUProcessor().applyRGB(by_look)
        off = np.abs(np.clip(by_look, 0, 1) - still.reshape(-1, 3)) * 1023
        assert off.mean() < 1.5
        assert np.percentile(off, 99) <= fact["largest error"] + 2


def test_several_encodings_from_the_same_assignments(lead, project, tmp_path):
    plan = {"parts": ["stills", "looks"], "encodings": ["bt709_display", "display_p3", "pq"]}
    row = delivered(lead, project, plan)
    z = package(lead, row)
    stills = sorted(n for n in z.namelist() if n.startswith("stills/001"))
    assert [n.rpartition("_")[2] for n in stills] == [
        "BT.2100 PQ.png",
        "BT.709 display.png",
        "Display P3.png",
    ]
    pq, plain, p3 = (picture(z, n, tmp_path) for n in stills)
    from saucer_core.encodings import convert, encoding

    np.testing.assert_allclose(
        convert(p3, encoding("display_p3"), encoding("bt709_display")), plain, atol=0.02
    )
    # The white of a standard display is 203 cd/m² (ITU-R BT.2408-7, table 1), 0.5807 of PQ (SMPTE ST 2084).
    assert 0.56 < pq.max() < 0.59
    at_hundred = package(
        lead, delivered(lead, project, {**plan, "parts": ["stills"], "encodings": ["pq"], "white": 100})
    )
    [name] = [n for n in at_hundred.namelist() if n.startswith("stills/001")]
    assert picture(at_hundred, name, tmp_path).max() < 0.52, "100 cd/m² is 0.508 of PQ"
    assert len([n for n in z.namelist() if n.startswith("luts/")]) == 3


def test_a_loss_is_measured(lead, project):
    found = lead.get(f"/projects/{project}/losses?encoding=srgb").json()
    assert 0 <= found["gamut"] <= found["worst_gamut_share"] <= 1


def shot_of_a_clip(lead, project, revision):
    """A shot cut from a clip, with a look on it."""
    path = f"/projects/{project}"
    made = lead.upload(
        f"{path}/clips", {"file": SimpleUploadedFile("fire.mov", CLIP.read_bytes()), "encoding": "film_log"}
    ).json()
    server_clips.look_through(made["id"])
    job = lead.post(f"{path}/cut", {"clip": made["id"], "firsts": [44]}).json()
    fromclip.make(**ProcrastinateJob.objects.get(pk=Job.objects.get(pk=job["id"]).queue_id).args)
    shot = lead.get(path).json()["shots"][-1]
    lead.post(f"{path}/assign", {"shots": [shot["id"]], "layers": [{"revision": revision.pk}]})


def test_a_clip_goes_out_under_its_look_with_sound(lead, project, revision, tmp_path):
    shot_of_a_clip(lead, project, revision)
    row = delivered(lead, project, {"parts": ["clips", "stills"], "clip": "ffv1"})
    z = package(lead, row)
    name = next(n for n in z.namelist() if n.startswith("clips/"))
    found = clips.look_through(Path(z.extract(name, tmp_path)))
    assert (found.facts.frames, found.facts.depth, found.facts.sound, found.facts.tags) == (
        44,
        10,
        "aac",
        (1, 1, 1),
    )
    assert found.facts.timecode == "10:00:01:20"
    # The frame that stands for the shot is frame 65 of the clip, 21 of the shot.
    still = picture(z, next(n for n in z.namelist() if n.startswith("stills/004")), tmp_path)
    frame = clips.frames_at(tmp_path / name, [21], found.stamps)[21]
    assert np.abs(frame - still).mean() < 4 / 1023


def test_trims_that_no_cdl_comes_near_are_named(lead, project, tmp_path):
    row = delivered(lead, project, {"parts": ["cdl"]})
    z = package(lead, row)
    found = cdl.corrections(z.read("cdl/trims.ccc").decode(), "trims.ccc")
    (fact,) = (r.facts for r in row.contents.parts["cdl"])
    assert fact["trims"] == f"{len(found)} of 2"
    assert ("no CDL comes near" in fact) == (len(found) < 2)


def test_what_is_otherwise_than_last_time(lead, project, revision, frame):
    delivered(lead, project)
    path = f"/projects/{project}"
    shots = lead.get(path).json()["shots"]
    lead.post(
        f"{path}/assign", {"shots": [shots[1]["id"]], "layers": [{"revision": revision.pk, "strength": 0.8}]}
    )
    lead.post(f"{path}/trim", {"shots": [shots[0]["id"]], "trim": {**NEUTRAL, "exposure": 0.1}})
    lead.post(f"{path}/assign", {"shots": [shots[2]["id"]], "layers": [{"revision": revision.pk}]})
    seen = [c["text"] for c in lead.post(f"{path}/outlook", QUICK).json()["changes"]]
    row = delivered(lead, project)
    assert [c.text for c in row.changes] == seen
    assert seen == [
        "3 Ramp: new",
        "Warm shelf r1 60% → Warm shelf r1 80%, 1 shot",
        "1 Ramp: newly trimmed",
        "0 shots unchanged",
    ]
    assert lead.get(f"{path}/deliveries/1/shots/{shots[1]['id']}/still?width=64").status_code == 200
    assert lead.get(f"{path}/deliveries/1/shots/{shots[2]['id']}/still?width=64").status_code == 404
    listed = lead.get("/projects").json()[0]["delivery"]
    assert listed["number"] == 2


# Names and rights


def test_two_shots_of_one_name_stop_it_and_the_number_helps(lead, project):
    lead.send(
        "PATCH",
        f"/projects/{project}/shots/{lead.get(f'/projects/{project}').json()['shots'][1]['id']}",
        {"name": "ramp"},
    )
    plan = {**QUICK, "names": ["shot", "out"]}
    seen = lead.post(f"/projects/{project}/outlook", plan).json()
    assert "would be one file" in seen["clash"]
    assert [n["same"] for n in seen["names"]] == [[2], [1]]
    refused = lead.post(f"/projects/{project}/deliveries", plan)
    assert refused.status_code == 409
    assert "Put the number into the names" in refused.json()["message"]
    assert Delivery.objects.count() == 0
    assert (
        lead.post(f"/projects/{project}/outlook", {**plan, "names": ["number", "shot"]}).json()["clash"] == ""
    )
    several = {**plan, "names": ["number"], "encodings": ["srgb", "display_p3"]}
    assert "Put the encoding" in lead.post(f"/projects/{project}/outlook", several).json()["clash"]


def test_a_look_that_must_be_asked_for_stops_it(lead, applier, project, revision):
    Look.objects.filter(pk=revision.look_id).update(rights="ask first")
    assert applier.post(f"/projects/{project}/outlook", QUICK).json()["held"] == [
        {"look": "Warm shelf", "shots": [1, 2]}
    ]
    refused = applier.post(f"/projects/{project}/deliveries", QUICK)
    assert refused.status_code == 409
    assert refused.json()["detail"]["held"] == ["Warm shelf"]
    assert applier.post(f"/projects/{project}/deliveries", {**QUICK, "held": "anyway"}).status_code == 403
    assert lead.post(f"/projects/{project}/deliveries", {**QUICK, "held": "leave"}).status_code == 409
    row = delivered(lead, project, {**QUICK, "held": "anyway"})
    assert b"Rights: ask first" in package(lead, row).read("luts/Warm shelf_r1.cube")


@pytest.mark.parametrize(
    "plan",
    [
        {"parts": []},
        {"parts": ["magic"]},
        {"encodings": ["no"]},
        {"grid": 1},
        {"picture": "gif"},
        {"clip": "vhs"},
        {"names": []},
    ],
)
def test_plans_that_make_no_sense(lead, project, plan):
    assert lead.post(f"/projects/{project}/deliveries", {**QUICK, **plan}).status_code == 422


def test_nothing_to_deliver(lead):
    empty = lead.post("/projects", {"name": "Empty"}).json()["id"]
    assert lead.post(f"/projects/{empty}/deliveries", {}).status_code == 409


# Pieces, workers, stopping


def counted(monkeypatch):
    """The notes under which pieces are kept from now on."""
    made: list[str] = []
    keep = kept.keep

    def noted(key, *given):
        made.append(key)
        return keep(key, *given)

    monkeypatch.setattr(kept, "keep", noted)
    return made


def test_what_is_made_is_not_made_again(lead, project, monkeypatch):
    first = delivered(lead, project)

    def never(*_, **__):
        raise AssertionError("made twice")

    monkeypatch.setattr(pictures, "write", never)
    monkeypatch.setattr(parts.tables, "bake", never)
    second = delivered(lead, project)
    assert second.contents.files == first.contents.files


def test_a_failing_piece_says_why_and_the_next_try_goes_on(lead, project, monkeypatch):
    def full(*_, **__):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("saucer_server.delivering.parts.stills.write_picture", full)
    row = order(lead, project)
    with pytest.raises(OSError, match="No space"):
        making.make(row.pk)
    seen = lead.get(f"/projects/{project}/deliveries").json()[0]
    assert (seen["ready"], seen["job"]["state"]) == (False, "failed")
    assert seen["job"]["reason"].startswith("The disk is full")
    assert lead.get(f"/projects/{project}/deliveries/1/file").status_code == 404
    done = row.pieces.filter(state="done").count()
    assert 0 < done < row.pieces.count()
    monkeypatch.setattr("saucer_server.delivering.parts.stills.write_picture", finished.write)
    made = counted(monkeypatch)
    second = delivered(lead, project)
    assert second.ready
    assert len(made) == second.pieces.count() - done


def test_two_workers_share_one_delivery(lead, project, monkeypatch):
    """Each piece is made by one of them alone."""
    row = order(lead, project)
    made = counted(monkeypatch)

    def help_out():
        try:
            making.help_with(row.pk)
        finally:
            connections.close_all()

    helpers = [threading.Thread(target=help_out) for _ in range(2)]
    for one in helpers:
        one.start()
    making.make(row.pk)
    for one in helpers:
        one.join()
    row.refresh_from_db()
    assert row.ready
    assert len(made) == len(set(made)) == row.pieces.count()


def test_a_piece_that_somebody_has_is_waited_for(lead, project):
    row = order(lead, project)
    piece = row.pieces.first()
    with taken(making.LOCKS, piece.pk) as got:
        assert got

        said: list[bool] = []

        def other():
            with taken(making.LOCKS, piece.pk) as too:
                said.append(too)
            connections.close_all()

        thread = threading.Thread(target=other)
        thread.start()
        thread.join()
    assert said == [False]


def test_a_delivery_is_stopped_and_a_part_is_left_out(lead, other, project):
    row = order(lead, project)
    assert other.post(f"/jobs/{row.job_id}/cancel").status_code == 403
    assert other.send("DELETE", f"/projects/{project}/deliveries/1/parts/stills").status_code == 403
    assert lead.send("DELETE", f"/projects/{project}/deliveries/1/parts/stills").status_code == 200
    making.make(row.pk)
    row.refresh_from_db()
    assert row.ready
    assert not [n for n in package(lead, row).namelist() if n.startswith("stills/")]
    assert "Stills: left out while it was made" in row.left_out
    second = order(lead, project)
    assert lead.post(f"/jobs/{second.job_id}/cancel").status_code == 200
    with pytest.raises(Cancelled):
        making.make(second.pk)
    second.refresh_from_db()
    assert (second.ready, second.contents) == (False, None)


def test_a_dead_workers_delivery_is_written_down(lead, project):
    order(lead, project)
    Job.objects.update(queue_id=999999)
    assert recover() == 1
    assert "Start it again" in Job.objects.get().reason


def test_an_old_delivery_is_still_fetched(lead, project, frame):
    row = order(lead, project)
    name = storage.put("deliveries/old.zip", b"PK old")
    Delivery.objects.filter(pk=row.pk).update(file=name)
    assert b"".join(lead.get(f"/projects/{project}/deliveries/1/file").streaming_content) == b"PK old"


def test_one_file_of_it(lead, project):
    delivered(lead, project)
    path = f"/projects/{project}/deliveries/1/one?path="
    assert b"TITLE" in b"".join(lead.get(f"{path}luts/Warm shelf_r1.cube").streaming_content)
    assert lead.get(f"{path}../../etc/passwd").status_code == 404


# The drop folder


def test_a_delivery_comes_to_the_drop_folder_whole(lead, project, drop_folder):
    row = delivered(lead, project, {**QUICK, "drop_folder": True})
    assert (row.drop_folder.state, row.drop_folder.place) == ("there", f"Kiln & yard {project}/001")
    there = {
        str(p.relative_to(drop_folder / row.drop_folder.place))
        for p in (drop_folder / row.drop_folder.place).rglob("*")
        if p.is_file()
    }
    assert there == {".delivery", *package(lead, row).namelist()}


def test_a_delivery_is_never_done_before_it_is_known_to_go_to_the_drop_folder(
    lead, project, drop_folder, monkeypatch
):
    """A page that follows the job stops asking once it is done."""
    seen = []
    end = jobs._end

    def ending(job, state, *reason):
        seen.append((str(state), Delivery.objects.get().drop_folder.state))
        end(job, state, *reason)

    monkeypatch.setattr(jobs, "_end", ending)
    delivered(lead, project, {**QUICK, "drop_folder": True})
    assert seen == [("done", "waiting")]


def in_the_drop_folder(row, drop_folder):
    row.refresh_from_db()
    folder = drop_folder / row.drop_folder.place
    return folder, {str(p.relative_to(folder)): p.read_bytes() for p in folder.rglob("*") if p.is_file()}


def test_projects_whose_names_become_one_do_not_touch_each_others_deliveries(
    lead, frame, revision, drop_folder
):
    rows = []
    for name in ("A/B", "A-B", "A-B", "a-b", "A-B 7"):
        made = lead.post("/projects", {"name": name}).json()["id"]
        shot = lead.post(f"/projects/{made}/shots", {"frames": [frame.pk]}).json()["shots"][0]["id"]
        lead.post(f"/projects/{made}/assign", {"shots": [shot], "layers": [{"revision": revision.pk}]})
        rows.append(delivered(lead, made, {**QUICK, "parts": ["looks"], "drop_folder": True}))
    first = [in_the_drop_folder(row, drop_folder) for row in rows]
    assert len({str(folder).lower() for folder, _ in first}) == len(rows)
    for row in reversed(rows):
        making.again(row.pk)
    assert [in_the_drop_folder(row, drop_folder) for row in rows] == first
    assert [p.name for folder, _ in first for p in folder.parent.iterdir()] == ["001"] * len(rows)


def test_nothing_is_removed_that_the_delivery_did_not_write(lead, project, drop_folder):
    row = delivered(lead, project, {**QUICK, "drop_folder": True})
    folder, before = in_the_drop_folder(row, drop_folder)
    (folder / ".delivery").write_text("of somebody else")
    (folder / "notes of the editor.txt").write_text("keep")
    making.again(row.pk)
    row.refresh_from_db()
    assert row.drop_folder.state == "failed"
    assert "move it away" in row.drop_folder.why
    assert (folder / "notes of the editor.txt").read_text() == "keep"
    assert len(list(folder.rglob("*.cube"))) == len([name for name in before if name.endswith(".cube")])


@pytest.mark.parametrize(("how", "why"), [({"there": False}, "not there"), ({"room": 2000}, "is full")])
def test_a_drop_folder_that_is_gone_or_full_leaves_nothing_half_and_is_tried_again(
    lead, project, drop_folder, how, why
):
    assert lead.send("PUT", "/drop-folder", how).json()["stand_in"] == {
        "there": True,
        "pace": 0,
        "room": 0,
        **how,
    }
    row = delivered(lead, project, {**QUICK, "drop_folder": True})
    assert row.ready
    assert row.drop_folder.state == "failed"
    assert why in row.drop_folder.why
    assert [p for p in drop_folder.rglob("*") if p.is_file() and not p.name.startswith(".")] == []
    lead.send("PUT", "/drop-folder", {})
    assert (
        lead.post(f"/projects/{project}/deliveries/1/drop-folder").json()["drop_folder"]["state"] == "waiting"
    )
    making.again(row.pk)
    row.refresh_from_db()
    assert row.drop_folder.state == "there"


def test_a_drop_folder_that_vanishes_in_between(lead, project, drop_folder, monkeypatch):
    from saucer_server.delivering import drop_folder as shelves

    real, count = shelves._piece, []

    def vanishing(out, piece):
        count.append(1)
        if len(count) == 4:
            shelves.behave(made_by, shelves.StandIn(there=False))
        real(out, piece)

    made_by = Delivery.objects.get(pk=order(lead, project).pk).made_by
    monkeypatch.setattr(shelves, "_piece", vanishing)
    row = delivered(lead, project, {**QUICK, "drop_folder": True})
    assert row.drop_folder.state == "failed"
    assert not (drop_folder / f"Kiln & yard {project}" / "002").exists()


def test_only_leads_set_the_stand_in(applier):
    assert applier.get("/drop-folder").json()["there"] is True
    assert applier.send("PUT", "/drop-folder", {"there": False}).status_code == 403


# Feeds


@pytest.fixture
def feed(lead, project):
    made = lead.post(f"/projects/{project}/feeds", {"name": "Edit room two"}).json()
    return made["id"], made["address"].partition("/api")[2]


def test_a_feed_hands_out_the_newest_delivery_to_who_has_its_address(lead, stranger, project, feed):
    _, address = feed
    assert stranger.get(address).status_code == 404
    row = delivered(lead, project)
    answer = stranger.get(address)
    manifest = answer.json()
    assert (manifest["delivery"], manifest["project"]) == (1, "Kiln & yard")
    assert {f["path"] for f in manifest["files"]} == set(package(lead, row).namelist())
    for file in manifest["files"]:
        given = stranger.get(file["address"].removeprefix("/api"))
        data = given.content if not given.streaming else b"".join(given.streaming_content)
        assert (hashlib.sha256(data).hexdigest(), len(data)) == (file["sha256"], file["bytes"])
    again = stranger.client.get("/api" + address, headers={"If-None-Match": answer["ETag"]})
    assert again.status_code == 304
    delivered(lead, project)
    assert stranger.client.get("/api" + address, headers={"If-None-Match": answer["ETag"]}).status_code == 200
    shown = lead.get(f"/projects/{project}/feeds").json()[0]
    assert shown["address"] == ""
    assert shown["days"][-1] == Fetch.objects.count()
    assert Fetch.objects.filter(status=304).count() == 1


@pytest.mark.parametrize(
    ("asked", "status", "span"),
    [
        ("bytes=0-9", 206, slice(0, 10)),
        ("bytes=5-", 206, slice(5, None)),
        ("bytes=-4", 206, slice(-4, None)),
        ("bytes=0-", 200, slice(0, None)),
        ("bytes=999999999-", 416, None),
        ("bytes=a-b", 200, slice(0, None)),
        ("bytes=9-2", 416, None),
        (f"bytes={'9' * 5000}-", 200, slice(0, None)),
        ("bytes=٣-٤", 200, slice(0, None)),
    ],
)
def test_a_part_of_a_file(lead, stranger, project, feed, asked, status, span):
    """RFC 9110, section 14: single byte ranges, suffixes, and what cannot be satisfied."""
    delivered(lead, project)
    file = next(f for f in stranger.get(feed[1]).json()["files"] if f["path"].endswith(".cube"))
    whole = b"".join(stranger.get(file["address"].removeprefix("/api")).streaming_content)
    answer = stranger.client.get(file["address"], headers={"Range": asked})
    assert answer.status_code == status
    if span is not None:
        assert b"".join(answer.streaming_content) == whole[span]


def test_a_feed_that_ended_or_was_taken_back_gives_nothing(lead, stranger, project, feed):
    pk, address = feed
    delivered(lead, project)
    file = stranger.get(address).json()["files"][-1]["address"].removeprefix("/api")
    renewed = lead.post(f"/projects/{project}/feeds/{pk}/renew").json()["address"].partition("/api")[2]
    assert stranger.get(address).status_code == 401
    assert stranger.get(file).status_code == 401
    assert stranger.get(renewed).status_code == 200
    Feed.objects.filter(pk=pk).update(ends_at=timezone.now() - timedelta(seconds=1))
    assert stranger.get(renewed).status_code == 401
    Feed.objects.filter(pk=pk).update(ends_at=None)
    lead.send("DELETE", f"/projects/{project}/feeds/{pk}")
    assert stranger.get(renewed).status_code == 401


def test_a_feed_reaches_nothing_but_its_delivery(lead, stranger, project, feed):
    row = delivered(lead, project)
    token = feed[1].rpartition("/")[2]
    other_sha = hashlib.sha256(b"elsewhere").hexdigest()
    storage.put(rules.place_of(other_sha), b"elsewhere")
    assert stranger.get(f"/feed/{token}/files/{other_sha}").status_code == 404
    assert stranger.get(f"/projects/{project}/deliveries/{row.number}/file").status_code == 401
    assert not Feed.objects.filter(token=token).exists(), "the token itself is not kept"
    assert (
        lead.post(f"/projects/{project}/feeds", {"name": "x", "ends_at": "2001-01-01T00:00:00Z"}).status_code
        == 422
    )


@pytest.mark.parametrize(
    "end",
    ["9999-12-31T23:59:59-14:00", "0001-01-01T00:00:00+14:00", "2026-12-31T18:00:00", "2300-01-01T00:00:00Z"],
)
def test_a_feed_ends_at_a_time_that_can_be_told(lead, project, end):
    """Without a zone, or at the ends of the calendar, where a zone leads out of it: refused, and the list
    goes on answering."""
    assert lead.post(f"/projects/{project}/feeds", {"name": "x", "ends_at": end}).status_code == 422
    assert lead.get(f"/projects/{project}/feeds").json() == []
    made = lead.post(f"/projects/{project}/feeds", {"name": "x", "ends_at": "2199-12-31T23:59:59-11:00"})
    assert made.status_code == 201
    assert len(lead.get(f"/projects/{project}/feeds").json()) == 1


def test_no_lock_is_left_behind(lead, project):
    row = delivered(lead, project)
    assert Piece.objects.filter(state="done").count() == row.pieces.count() > 0
    with connection.cursor() as cursor:
        mine = "database = (select oid from pg_database where datname = current_database())"
        cursor.execute(
            f"select count(*) from pg_locks where locktype = 'advisory' and classid = {making.LOCKS} "
            f"and {mine}"
        )
        assert cursor.fetchone()[0] == 0
