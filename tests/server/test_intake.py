"""Bringing in many frames: workers look files through, and nothing is a frame before somebody says so."""

import json
from pathlib import Path

import numpy as np
import OpenImageIO as oiio
import pytest
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.formats import pictures
from saucer_server.frames.looking import look_through
from saucer_server.frames.rules import Frame
from saucer_server.frames.whites import AROUND
from saucer_server.intake import reading
from saucer_server.intake.models import Intake, IntakeFile
from saucer_server.jobs.models import Job, State
from saucer_server.jobs.rules import Cancelled

from demo import kinds

pytestmark = pytest.mark.django_db


@pytest.fixture(scope="module")
def folder(tmp_path_factory):
    made = tmp_path_factory.mktemp("kinds")
    kinds.write(made)
    return made


def begin(client):
    return client.post("/intakes").json()["id"]


def put(client, intake, *files):
    """Sends files by their names and bytes, and has them read as a worker does."""
    answer = client.upload(
        f"/intakes/{intake}/files",
        {
            "paths": json.dumps([name for name, _ in files]),
            "files": [SimpleUploadedFile(name.rpartition("/")[2], data) for name, data in files],
        },
    )
    if answer.status_code == 204:
        reading.lead(intake)
    return answer


def picture(tmp_path, value=0.4, name="grey.png"):
    path = tmp_path / name
    pictures.write(path, np.full((24, 32, 3), value, np.float32), "uint16")
    return path.read_bytes()


def seen(client, intake):
    return {file["name"]: file for file in client.get(f"/intakes/{intake}").json()["files"]}


def test_every_kind_comes_in_and_is_said(designer, folder):
    intake = begin(designer)
    sent = put(
        designer, intake, *((f"from the card/{p.name}", p.read_bytes()) for p in sorted(folder.iterdir()))
    )
    assert sent.status_code == 204
    assert not Frame.objects.exists()
    files = seen(designer, intake)
    assert {name for name, file in files.items() if file["stage"] == "refused"} == {"shelf_east.jpg"}
    assert "cut short" in files["shelf_east.jpg"]["reason"]
    told = {
        "yard_0417.dng": ("camera raw", "14 bit", "linear_2020"),
        "head_upright.heic": ("HEIF", "10 bit", "display_p3"),
        "kiln_night.avif": ("AVIF", "10 bit", "pq"),
        "glaze_tiles.jpg": ("JPEG", "8 bit", "display_p3"),
        "yard_wide_profile.jpg": ("JPEG", "8 bit", "bt2020_display"),
        "wheel_film.cin": ("Cineon", "10 bit", "film_log"),
        "kiln_light.hdr": ("Radiance HDR", "32-bit float", "linear_709"),
        "yard_dusk_v03.exr": ("EXR", "half float", "linear_709"),
    }
    for name, (kind, depth, key) in told.items():
        assert (files[name]["kind"], files[name]["depth"], files[name]["encoding"]) == (kind, depth, key), (
            name
        )
        assert not files[name]["unsure"], name
        shown = designer.get(f"/intakes/{intake}/files/{files[name]['id']}/picture?width=160")
        assert shown.content.startswith(b"\xff\xd8"), name
    assert files["heads_window.webp"]["unsure"]
    assert files["yard_0417.dng"]["raw"]["shot"]["kelvin"] == pytest.approx(5072, abs=5)
    kept = designer.post(f"/intakes/{intake}/keep").json()
    assert len(kept) == len(files) - 1
    assert not Intake.objects.exists()
    frames = {frame["file_name"]: frame for frame in kept}
    raw = Frame.objects.get(pk=frames["yard_0417.dng"]["id"])
    # The raw is kept as it came, beside what was developed from it.
    with default_storage.open(raw.original) as f:
        assert f.read() == (folder / "yard_0417.dng").read_bytes()
    assert designer.get(f"/frames/{raw.pk}/still?width=160").content.startswith(b"\xff\xd8")
    assert frames["head_upright.heic"]["part"]["y"] < 0.6


def test_what_is_said_of_files_is_kept_with_the_frames(designer, tmp_path):
    intake = begin(designer)
    put(designer, intake, ("a.png", picture(tmp_path, 0.2)), ("b.png", picture(tmp_path, 0.6)))
    a, b = (seen(designer, intake)[name]["id"] for name in ("a.png", "b.png"))
    url = f"/intakes/{intake}/files"
    said = {"light": "noon", "encoding": "film_log", "part": {"x": 0.25, "y": 0.75}, "name": "Wall"}
    (changed,) = designer.send("PATCH", url, {"ids": [a], **said}).json()
    assert (changed["encoding"], changed["unsure"], changed["part_by"]) == ("film_log", False, "hand")
    designer.send("PATCH", url, {"ids": [b], "chosen": False})
    sets = designer.send("PATCH", f"/intakes/{intake}", {"sets": ["kiln  and yard"]})
    assert sets.json()["sets"] == ["kiln and yard"]
    (frame,) = designer.post(f"/intakes/{intake}/keep").json()
    assert (frame["name"], frame["light"], frame["encoding"]) == ("Wall", "noon", "film_log")
    assert (frame["encoding_by"], frame["part"]) == ("said by who brought it", {"x": 0.25, "y": 0.75})
    assert frame["sets"] == ["kiln and yard"]


def test_a_file_that_is_here_already_is_left_out(designer, tmp_path):
    data = picture(tmp_path)
    intake = begin(designer)
    put(designer, intake, ("wall.png", data))
    (frame,) = designer.post(f"/intakes/{intake}/keep").json()
    again = begin(designer)
    put(designer, again, ("copy.png", data), ("folder/copy.png", data))
    # Sent twice, as after a connection that broke: nothing is there twice.
    put(designer, again, ("copy.png", data))
    files = designer.get(f"/intakes/{again}").json()["files"]
    assert [f["twin"] for f in files] == [{"frame": frame["id"], "name": "wall"}] * 2
    assert not any(f["chosen"] for f in files)
    assert designer.post(f"/intakes/{again}/keep").status_code == 409


def test_a_raw_is_developed_again_by_a_grey(designer, folder):
    intake = begin(designer)
    put(designer, intake, ("yard.dng", (folder / "yard_0417.dng").read_bytes()))
    file = seen(designer, intake)["yard.dng"]
    url = f"/intakes/{intake}/files/{file['id']}"
    changed = designer.post(f"{url}/grey", {"x": 0.52, "y": 0.45}).json()
    assert changed["stage"] == "waiting"
    reading.lead(intake)
    again = seen(designer, intake)["yard.dng"]
    assert again["raw"]["shot"] == file["raw"]["shot"]
    assert again["raw"]["used"] != file["raw"]["used"]
    assert again["picture"] != file["picture"]
    known = IntakeFile.objects.get(pk=file["id"]).known
    rgb, _ = pictures.read(Path(default_storage.path(known.file)))
    high, wide = rgb.shape[:2]
    y, x = int(0.45 * high), int(0.52 * wide)
    grey = rgb[y - AROUND : y + AROUND + 1, x - AROUND : x + AROUND + 1].mean(axis=(0, 1))
    assert np.ptp(grey) / grey.mean() < 0.03
    # One that is no raw has no white balance.
    put(designer, intake, ("tiles.jpg", (folder / "glaze_tiles.jpg").read_bytes()))
    other = seen(designer, intake)["tiles.jpg"]["id"]
    refused = designer.post(f"/intakes/{intake}/files/{other}/grey", {"x": 0.5, "y": 0.5})
    assert refused.status_code == 409


def test_a_kept_raw_is_developed_once_more_and_all_that_is_said_of_it_stays(designer, applier, folder):
    intake = begin(designer)
    put(designer, intake, ("yard.dng", (folder / "yard_0417.dng").read_bytes()))
    designer.send(
        "PATCH",
        f"/intakes/{intake}/files",
        {"ids": [seen(designer, intake)["yard.dng"]["id"]], "part": {"x": 0.2, "y": 0.3}, "name": "Yard"},
    )
    (kept,) = designer.post(f"/intakes/{intake}/keep").json()
    url = f"/frames/{kept['id']}"
    designer.send("PATCH", url, {"trim": {"exposure": 0.5}, "light": "noon"})
    before = Frame.objects.get(pk=kept["id"])
    made = designer.post(f"{url}/white", {"kelvin": 7000, "tint": 5}).json()
    after = Frame.objects.get(pk=kept["id"])
    assert made["raw"]["used"] == {"kelvin": 7000, "tint": 5}
    assert (after.name, after.light, after.trim, after.part) == (
        "Yard", "noon", before.trim, before.part
    )  # fmt: skip
    assert (after.original, after.came, after.encoding, after.encoding_by) == (
        before.original, before.came, before.encoding, before.encoding_by
    )  # fmt: skip
    assert after.digest != before.digest
    # A balance that is warmer in kelvin takes a colder light for grey: the picture becomes warmer.
    ratios = [rgb[..., 0].mean() / rgb[..., 2].mean() for rgb in (_pixels(before), _pixels(after))]
    assert ratios[1] > ratios[0]
    by_grey = designer.post(f"{url}/grey", {"x": 0.52, "y": 0.45}).json()
    rgb = _pixels(Frame.objects.get(pk=kept["id"]))
    y, x = int(0.45 * rgb.shape[0]), int(0.52 * rgb.shape[1])
    grey = rgb[y - AROUND : y + AROUND + 1, x - AROUND : x + AROUND + 1].mean(axis=(0, 1))
    assert np.ptp(grey) / grey.mean() < 0.03
    assert by_grey["version"] != made["version"]
    # Rights, and what cannot be.
    assert applier.post(f"{url}/white", {"kelvin": 5000, "tint": 0}).status_code == 403
    assert designer.post(f"{url}/white", {"kelvin": 100, "tint": 0}).status_code == 422
    assert Frame.objects.get(pk=kept["id"]).raw.used.kelvin == by_grey["raw"]["used"]["kelvin"]


def test_a_frame_that_is_no_raw_has_no_white_balance(designer, frame):
    for path, said in (("white", {"kelvin": 5000, "tint": 0}), ("grey", {"x": 0.5, "y": 0.5})):
        refused = designer.post(f"/frames/{frame.pk}/{path}", said)
        assert refused.status_code in (403, 409)
        assert refused.json()["message"]


def test_two_who_change_a_raw_do_not_mix_its_files(designer, folder, monkeypatch):
    """A better file that comes while the old one is developed anew stays."""
    intake = begin(designer)
    put(designer, intake, ("yard.dng", (folder / "yard_0417.dng").read_bytes()))
    (kept,) = designer.post(f"/intakes/{intake}/keep").json()

    def slow(*given, **more):
        Frame.objects.filter(pk=kept["id"]).update(original="frames/other.dng")
        return look_through(*given, **more)

    monkeypatch.setattr("saucer_server.frames.whites.look_through", slow)
    refused = designer.post(f"/frames/{kept['id']}/white", {"kelvin": 7000, "tint": 5})
    assert (refused.status_code, "another file meanwhile" in refused.json()["message"]) == (409, True)


def _pixels(frame) -> np.ndarray:
    return pictures.read(Path(default_storage.path(frame.file)))[0]


def test_the_part_of_an_exr_is_chosen(designer, tmp_path):
    path = tmp_path / "parts.exr"
    specs = [oiio.ImageSpec(8, 6, 3, "half") for _ in range(2)]
    for name, spec in zip(("beauty", "light"), specs, strict=True):
        spec.attribute("name", name)
    out = oiio.ImageOutput.create(str(path))
    out.open(str(path), specs)
    for number, spec in enumerate(specs):
        if number:
            out.open(str(path), spec, "AppendSubimage")
        out.write_image(np.full((6, 8, 3), 0.25 + number, np.float32))
    out.close()
    intake = begin(designer)
    put(designer, intake, ("parts.exr", path.read_bytes()))
    file = seen(designer, intake)["parts.exr"]
    assert (file["parts"], file["layer"]) == (["beauty", "light"], 0)
    designer.send("PATCH", f"/intakes/{intake}/files", {"ids": [file["id"]], "layer": 1})
    reading.lead(intake)
    again = seen(designer, intake)["parts.exr"]
    assert (again["parts"], again["layer"], again["stage"]) == (["beauty", "light"], 1, "read")
    known = IntakeFile.objects.get(pk=file["id"]).known
    rgb, _ = pictures.read(Path(default_storage.path(known.file)))
    assert np.allclose(rgb, 1.25)


def test_an_intake_is_ones_own(designer, other, applier, tmp_path):
    intake = begin(designer)
    put(designer, intake, ("a.png", picture(tmp_path)))
    file = seen(designer, intake)["a.png"]["id"]
    for path in ("", f"/files/{file}/picture"):
        assert other.get(f"/intakes/{intake}{path}").status_code == 404
    assert other.post(f"/intakes/{intake}/keep").status_code == 404
    assert other.send("DELETE", f"/intakes/{intake}").status_code == 404
    assert other.get("/intakes").json() == []
    assert applier.get(f"/intakes/{intake}").status_code == 404
    assert designer.send("DELETE", f"/intakes/{intake}").status_code == 204
    assert not IntakeFile.objects.exists()


def test_reading_is_stopped_and_goes_on(designer, tmp_path):
    intake = begin(designer)
    answer = designer.upload(
        f"/intakes/{intake}/files",
        {"paths": "[]", "files": [SimpleUploadedFile("a.png", picture(tmp_path))]},
    )
    assert answer.status_code == 204
    job = Job.objects.get()
    assert designer.post(f"/jobs/{job.pk}/cancel").status_code in (200, 204)
    with pytest.raises(Cancelled):
        reading.lead(intake)
    assert seen(designer, intake)["a.png"]["stage"] == "waiting"
    assert designer.post(f"/intakes/{intake}/keep").status_code == 409
    designer.post(f"/intakes/{intake}/read")
    assert Job.objects.latest("pk").state == State.WAITING
    reading.lead(intake)
    assert seen(designer, intake)["a.png"]["stage"] == "read"
    assert Job.objects.latest("pk").state == State.DONE


def test_frames_are_put_into_sets_removed_and_replaced(designer, other, tmp_path):
    intake = begin(designer)
    put(designer, intake, *((f"{k}.png", picture(tmp_path, k / 10)) for k in range(1, 4)))
    frames = [frame["id"] for frame in designer.post(f"/intakes/{intake}/keep").json()]
    put_in = {"ids": frames, "into": "walls"}
    assert other.send("PATCH", "/frames", put_in).status_code == 403
    assert not any(f["sets"] for f in designer.get("/frames").json())
    designer.send("PATCH", "/frames", put_in)
    out = {"ids": frames[:1], "out_of": "walls"}
    designer.send("PATCH", "/frames", out)
    assert [f["sets"] for f in designer.get("/frames").json()] == [[], ["walls"], ["walls"]]
    before = designer.get("/frames").json()[0]
    better = SimpleUploadedFile("better.png", picture(tmp_path, 0.9))
    after = designer.upload(f"/frames/{frames[0]}/file", {"file": better}).json()
    assert (after["id"], after["name"], after["file_name"]) == (frames[0], before["name"], "better.png")
    assert after["version"] != before["version"]
    bad = SimpleUploadedFile("bad.png", b"\x89PNG\r\n\x1a\n nothing")
    assert designer.upload(f"/frames/{frames[0]}/file", {"file": bad}).status_code == 422
    assert designer.get("/frames").json()[0]["version"] == after["version"]
    gone = designer.post("/frames/removed", {"ids": frames[:2]})
    assert gone.json() == []
    assert [f["id"] for f in designer.get("/frames").json()] == frames[2:]


def test_a_file_of_an_unknown_kind_is_told_in_words(designer):
    intake = begin(designer)
    put(designer, intake, ("notes.txt", b"of the day"), ("empty.dng", b""))
    files = seen(designer, intake)
    assert all(file["stage"] == "refused" and not file["chosen"] for file in files.values())
    assert files["empty.dng"]["reason"] == "is empty"
