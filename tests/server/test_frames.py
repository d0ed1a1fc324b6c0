"""Frames over HTTP."""

import errno
import tempfile
from pathlib import Path

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from saucer_core.encodings import encoding
from saucer_core.formats import pictures
from saucer_server.frames.models import Frame
from saucer_server.people.models import Person
from saucer_server.projects import rules as projects


def png(tmp_path, name="pot.png"):
    path = tmp_path / f"made{name[-4:]}"
    pictures.write(path, np.full((9, 16, 3), 0.4, np.float32))
    return path.read_bytes()


def add(who, data, name="pot.png", **about):
    return who.upload("/frames", {"encoding": "srgb", **about, "file": SimpleUploadedFile(name, data)})


def test_an_applier_brings_a_frame_and_trims_it(applier, tmp_path):
    made = add(applier, png(tmp_path), name="pot.png", light="noon")
    assert made.status_code == 201
    frame = made.json()
    assert (frame["name"], frame["width"], frame["height"], frame["depth"], frame["light"]) == (
        "pot",
        16,
        9,
        "16 bit",
        "noon",
    )
    before = applier.get(f"/frames/{frame['id']}/still?width=16").content
    changed = applier.send(
        "PATCH",
        f"/frames/{frame['id']}",
        {"trim": {"exposure": 1, "temperature": 0, "tint": 0, "contrast": 1}},
    )
    assert changed.json()["trim"]["exposure"] == 1
    assert changed.json()["version"] != frame["version"]
    assert applier.get(f"/frames/{frame['id']}/still?width=16").content != before
    assert applier.get(f"/frames/{frame['id']}/still?width=16&trimmed=false").content == before


@pytest.mark.parametrize("name", ["pot.exr", "pot.tif", "pot.jpg"])
def test_other_kinds(applier, tmp_path, name):
    assert add(applier, png(tmp_path, name), name=name, encoding="linear_709").status_code == 201


def test_what_a_file_declares_of_itself_is_believed_unless_somebody_says_otherwise(applier, tmp_path):
    path = tmp_path / "made.exr"
    pictures.write(path, np.full((9, 16, 3), 0.4, np.float32), at=encoding("acescg"))
    told = applier.upload("/frames", {"file": SimpleUploadedFile("a.exr", path.read_bytes())}).json()
    assert told["encoding"] == "acescg"
    assert told["encoding_by"].startswith("declared by")
    said = add(applier, path.read_bytes(), name="a.exr", encoding="linear_709").json()
    assert (said["encoding"], said["encoding_by"]) == ("linear_709", "said by who brought it")
    plain = applier.upload("/frames", {"file": SimpleUploadedFile("a.png", png(tmp_path))}).json()
    assert plain["encoding"] == "srgb"
    assert plain["encoding_by"].startswith("assumed")


def test_what_is_not_read_of_a_file_is_said(applier, tmp_path):
    pages = [Image.new("RGB", (16, 9), (90, 120, 40 * k)) for k in range(3)]
    pages[0].save(tmp_path / "pages.tif", save_all=True, append_images=pages[1:])
    made = add(applier, (tmp_path / "pages.tif").read_bytes(), name="pages.tif").json()
    assert made["unread"] == ["2 more pages of the file: the first alone is read"]


def test_bad_pictures_leave_nothing(applier, tmp_path):
    good = png(tmp_path)
    cases = [
        (good[:60], "pot.png", "damaged or cut short"),
        (b"", "pot.png", "empty"),
        (good, "pot.jpg", "holds PNG data"),
        (b"MZ\x90", "pot.exe", "not a picture"),
    ]
    for data, name, words in cases:
        answer = add(applier, data, name=name)
        assert answer.status_code == 422, (name, answer.content)
        assert words in answer.json()["message"]
    assert add(applier, good, encoding="nonsense").status_code == 422
    assert Frame.objects.count() == 0


def test_a_hostile_name_stays_a_name(applier, tmp_path):
    made = add(applier, png(tmp_path), name="../../etc/passwd.png").json()
    assert made["file_name"] == "passwd.png"


def test_removing(applier, designer, lead, frame):
    assert applier.send("DELETE", f"/frames/{frame.pk}").status_code == 403
    project = lead.post("/projects", {"name": "P"}).json()
    lead.post(f"/projects/{project['id']}/shots", {"frames": [frame.pk]})
    used = designer.send("DELETE", f"/frames/{frame.pk}")
    assert used.status_code == 409
    assert "a shot of P" in used.json()["message"]
    shot = lead.get(f"/projects/{project['id']}").json()["shots"][0]
    lead.send("DELETE", f"/projects/{project['id']}/shots/{shot['id']}")
    assert designer.send("DELETE", f"/frames/{frame.pk}").status_code == 204


def test_a_picture_in_narrow_range_is_doubted_in_words(applier, tmp_path):
    full = np.repeat(np.linspace(0, 1, 256, dtype=np.float32)[None, :, None], 3, axis=2).repeat(32, axis=0)
    narrow = full * np.float32(876 / 1023) + np.float32(64 / 1023)
    doubts = {}
    for name, rgb in (("full.png", full), ("narrow.png", narrow)):
        pictures.write(tmp_path / name, rgb, "uint16")
        data = (tmp_path / name).read_bytes()
        doubts[name] = add(applier, data, name=name, encoding="bt709_display").json()["doubt"]
    assert doubts["full.png"] == ""
    assert doubts["narrow.png"].startswith("Black stands at 64 and white at 940 of 1023")
    assert doubts["narrow.png"].endswith("Export it again in full range.")
    # The ends of a logarithm are no black and white.
    assert add(applier, data, name="narrow.png", encoding="film_log").json()["doubt"] == ""


def test_a_picture_dropped_in_for_now_is_seen_by_oneself_alone(designer, other, lead, frame):
    def drop(name):
        y, x = np.mgrid[0:9, 0:16].astype(np.float32)
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "now.png"
            pictures.write(path, np.stack([x / 15, y / 8, x / 15], axis=-1))
            file = SimpleUploadedFile(f"{name}.png", path.read_bytes())
        return designer.upload(
            "/frames", {"name": name, "encoding": "srgb", "passing": "true", "file": file}
        ).json()

    def names(who):
        return [f["name"] for f in who.get("/frames").json()]

    first = drop("one")
    assert first["passing"]
    assert names(designer) == ["Ramp", "one"]
    assert names(other) == names(lead) == ["Ramp"]
    kept = drop("two")
    assert not designer.send("PATCH", f"/frames/{kept['id']}", {"passing": False}).json()["passing"]
    for name in ("three", "four", "five"):
        drop(name)
    assert names(designer) == ["Ramp", "two", "three", "four", "five"], "the oldest went, what was kept stays"
    assert names(other) == ["Ramp", "two"]
    bad = SimpleUploadedFile("x.png", b"no picture")
    assert (
        designer.upload(
            "/frames", {"name": "x", "encoding": "srgb", "passing": "true", "file": bad}
        ).status_code
        == 422
    )
    assert len(names(designer)) == 5


def test_what_somebody_dropped_in_for_now_is_nobody_elses_by_its_number(
    designer, other, lead, revision, tmp_path
):
    """Not as a still, under a look, in a sheet, as a finished picture or a shot; once a shot of its bringer
    has it, everybody sees it."""
    mine = add(designer, png(tmp_path), passing="true").json()["id"]
    look = revision.look_id
    asked = [
        f"/frames/{mine}/still?width=16",
        f"/frames/{mine}/places?input=srgb&width=16",
        f"/revisions/{revision.pk}/still?frame={mine}&width=16",
        f"/looks/{look}/still?frame={mine}&width=16",
        f"/looks/{look}/finished/{mine}",
        f"/looks/{look}/finished?frame={mine}",
        f"/looks/{look}/proof/{mine}",
        f"/inspect/look/{look}/still?frame={mine}&width=16",
    ]
    recipe = revision.recipe
    sent = [
        (f"/looks/{look}/proof", {"revision": revision.pk, "frames": [mine], "grid": 5}),
        ("/exact", {"look": recipe, "frame": mine}),
        ("/readings", {"look": recipe, "frame": mine}),
        ("/picture", {"look": recipe, "frame": mine}),
        ("/checks", {"look": recipe, "frames": [mine]}),
        ("/sheets", {"name": "S", "looks": [look], "frames": [mine]}),
    ]
    for who in (other, lead):
        assert {path: who.get(path).status_code for path in asked} == dict.fromkeys(asked, 404)
        assert [who.post(path, body).status_code for path, body in sent] == [404] * len(sent)
    assert {path: designer.get(path).status_code for path in asked} == dict.fromkeys(asked, 200)
    assert {designer.post(path, body).status_code for path, body in sent} <= {200, 201}
    number = lead.post("/projects", {"name": "Mine"}).json()["id"]
    assert lead.post(f"/projects/{number}/shots", {"frames": [mine]}).status_code == 404
    project = projects.find(number)
    projects.add_shots(
        project, Person.objects.get(username="odile"), [projects.NewShot(Frame.objects.get(pk=mine))]
    )
    assert other.get(asked[0]).status_code == 200


def test_a_disk_that_takes_nothing_in_still_shows_what_is_there(designer, frame, monkeypatch):
    """A files folder mounted for reading alone."""

    def closed(*_, **__):
        raise OSError(errno.EROFS, "Read-only file system")

    monkeypatch.setattr("os.replace", closed)
    assert designer.get(f"/frames/{frame.pk}/still?width=48")["Content-Type"] == "image/jpeg"


def test_a_frame_on_a_shot_of_a_private_project_does_not_tell_its_name(designer, lead, frame):
    project = lead.post("/projects", {"name": "Secret"}).json()["id"]
    lead.post(f"/projects/{project}/shots", {"frames": [frame.pk]})
    assert "a shot of Secret" in designer.send("DELETE", f"/frames/{frame.pk}").json()["message"]
    lead.send("PATCH", f"/projects/{project}", {"private": True})
    told = designer.send("DELETE", f"/frames/{frame.pk}")
    assert (told.status_code, "Secret" in told.json()["message"]) == (409, False)
    assert "a private project" in told.json()["message"]
