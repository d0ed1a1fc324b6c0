"""Bakes over HTTP: what a look can be written as, what tables cost, and files that are what they say."""

import errno
import hashlib
import io
import json
import zipfile

import numpy as np
import PyOpenColorIO as ocio
import pytest
from django.test import Client
from saucer_core.baking.bake import bake
from saucer_core.formats import pictures
from saucer_core.formats import recipe as recipes
from saucer_core.formats.cube import read_text
from saucer_core.look import Look as LookValue
from saucer_core.treatment import Treatment, evaluate
from saucer_server.bakes.finished import PICTURE_KINDS
from saucer_server.bakes.models import Bake
from saucer_server.bakes.names import named
from saucer_server.fields import safe_name
from saucer_server.frames import rules as frames
from saucer_server.frames.models import Frame
from saucer_server.people.activity import Event


def order(who, revision, **said):
    return who.post(f"/revisions/{revision.pk}/bakes", {"kinds": ["cube"], "grid": 5, **said})


def made(who, revision, **said):
    answer = order(who, revision, **said)
    assert answer.status_code == 201, answer.content
    return answer.json()


def content(who, row):
    return who.get(f"/bakes/{row['id']}/file")


def test_a_baked_file_gives_the_same_pixels_elsewhere(designer, revision, tmp_path):
    """OpenColorIO 2.6, tetrahedral, against the core's table: at most 1e-5; against the look: the stated
    error."""
    (row,) = made(designer, revision, grid=17, title="T", rights="ask first", note="for dusk")
    answer = content(designer, row)
    assert row["name"] == "Warm shelf_r1_BT.709 display_17.cube"
    assert 'filename="Warm shelf_r1_BT.709 display_17.cube"' in answer["Content-Disposition"]
    text = answer.content.decode()
    recipe = LookValue.model_validate(revision.recipe)
    for line in (
        "# Rights: ask first",
        "# Note: for dusk",
        f"# Checksum of the look: {recipe.digest()}",
        "# Goes out as: BT.709 display",
    ):
        assert line in text
    path = tmp_path / "b.cube"
    path.write_bytes(answer.content)
    transform = ocio.FileTransform(str(path), interpolation=ocio.INTERP_TETRAHEDRAL)
    cpu = ocio.Config.CreateRaw().getProcessor(transform).getOptimizedCPUProcessor(ocio.OPTIMIZATION_NONE)
    rgb = np.random.default_rng(1).uniform(0, 1, (4000, 3)).astype(np.float32)
    theirs = rgb.copy()
    cpu.applyRGB(theirs)
    np.testing.assert_allclose(theirs, bake(Treatment(recipe).compile(), 17).apply(rgb), atol=1e-5)
    off = np.abs(np.clip(evaluate(recipe, rgb), 0, 1) - np.clip(theirs, 0, 1)).max() * 1023
    assert off <= row["deviation"]["largest"] * 1.02 + 0.1


def test_several_files_are_made_at_once_and_each_is_what_it_says(designer, revision):
    kinds = ["cube", "clf", "carrier_png", "recipe"]
    rows = {
        row["format"]: row
        for row in made(designer, revision, kinds=kinds, method="fitted", parts=["look", "grid", "method"])
    }
    assert list(rows) == kinds
    assert [row["name"] for row in rows.values()] == [
        "Warm shelf_5_fitted.cube",
        "Warm shelf_5_fitted.clf",
        "Warm shelf.png",
        "Warm shelf.saucer.json",
    ]
    assert [row["grid"] for row in rows.values()] == [5, 5, 0, 0]
    assert rows["recipe"]["deviation"] is None
    files = {key: content(designer, row).content for key, row in rows.items()}
    for key, data in files.items():
        assert rows[key]["checksum"] == hashlib.sha256(data).hexdigest()
        assert rows[key]["bytes"] == len(data)
    assert recipes.loads(files["recipe"].decode(), "r").look == LookValue.model_validate(revision.recipe)
    fitted, sampled = (
        read_text(files["cube"].decode(), "f").grid,
        bake(Treatment(LookValue.model_validate(revision.recipe)).compile(), 5).grid,
    )
    assert np.abs(fitted - sampled).max() > 1e-3


def test_baking_again_gives_the_same_bytes_and_old_files_stay(designer, other, revision):
    (first,) = made(designer, revision, method="fitted")
    (again,) = made(other, revision, method="fitted")
    assert again["id"] != first["id"]
    assert again["checksum"] == first["checksum"]
    assert content(designer, first).content == content(other, again).content
    rows = designer.get(f"/looks/{revision.look_id}/bakes").json()
    assert [(r["id"], r["fetched"], r["made_by"]) for r in rows] == [
        (again["id"], 1, "Tomas"),
        (first["id"], 1, "Ines"),
    ]


def test_narrow_range(designer, revision):
    (full,), (narrow,) = (
        made(designer, revision, code_range=code_range) for code_range in ("full", "narrow")
    )
    codes = [read_text(content(designer, row).content.decode(), "b").grid[1, 2, 3] for row in (full, narrow)]
    assert not np.allclose(*codes)
    answer = order(designer, revision, kinds=["cube", "recipe"], code_range="narrow")
    assert answer.status_code == 422
    assert "Recipe has no narrow range" in answer.json()["message"]


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"grid": 1}, "grid"),
        ({"grid": 500}, "grid"),
        ({"kinds": ["exe"]}, "not “exe”"),
        ({"kinds": []}, "at least one kind"),
        ({"kinds": ["cube", "cdl"]}, ".cdl: A CDL holds one"),
        ({"title": "x" * 999}, "title"),
        ({"title": "a\0b"}, "title"),
        ({"parts": ["look", "../.."]}, "A file name is made of"),
        ({"parts": []}, "A file name is made of"),
        ({"method": "guessed"}, "method"),
    ],
)
def test_impossible_bakes(designer, revision, body, words):
    answer = order(designer, revision, **body)
    assert answer.status_code == 422
    assert words in answer.json()["message"]
    assert Bake.objects.count() == 0


def test_a_full_disk_keeps_nothing(designer, revision, monkeypatch):
    def full(*_):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr("os.replace", full)
    answer = order(designer, revision)
    assert answer.status_code == 507
    assert "disk is full" in answer.json()["message"]
    assert Bake.objects.count() == 0


def test_what_a_look_can_be_written_as(designer, look, revision):
    answer = designer.post(
        f"/looks/{look.pk}/offers?revision={revision.pk}", {"kinds": [], "grid": 65, "method": "fitted"}
    )
    offers = {o["offer"]["key"]: o for o in answer.json()}
    assert not offers["cube"]["offer"]["why"]
    assert offers["cube"]["name"] == "Warm shelf_r1_BT.709 display_65.cube"
    assert "mixes channels" in offers["cube_1d"]["offer"]["why"]
    assert offers["recipe"]["name"] == "Warm shelf_r1_BT.709 display.saucer.json"
    draft = designer.post(f"/looks/{look.pk}/offers", {"kinds": []}).json()
    assert draft[0]["name"].startswith("Warm shelf_r2_")


def test_proofs_say_what_an_eye_would_see(designer, look, revision, frame):
    asked = {"revision": revision.pk, "frames": [frame.pk]}
    small, large = (
        designer.post(f"/looks/{look.pk}/proof", {**asked, "grid": grid}).json() for grid in (5, 33)
    )
    for part in ("cube", "pictures"):
        assert small["report"][part]["delta_mean"] > large["report"][part]["delta_mean"]
    assert small["bytes"] < large["bytes"]
    assert not small["enough"]
    assert large["enough"]
    assert {c["frame"] for c in small["chips"]} == {"Ramp"}
    assert all(c[name].startswith("#") for c in small["chips"] for name in ("before", "look", "table"))
    fitted = designer.post(f"/looks/{look.pk}/proof", {**asked, "grid": 5, "method": "fitted"}).json()
    assert fitted["report"]["cube"]["delta_mean"] < small["report"]["cube"]["delta_mean"]
    alone = designer.post(f"/looks/{look.pk}/proof", {"grid": 5}).json()
    assert alone["report"]["pictures"] is None


def test_the_step_at_fault_is_named(designer, look, frame):
    blamed = designer.post(f"/looks/{look.pk}/blame", {"grid": 9, "frames": [frame.pk]}).json()
    assert sum(s["share"] for s in blamed["shares"]) == pytest.approx(1)
    easing = blamed["easing"]
    assert easing["after"]["pictures"]["delta_99"] < easing["before"]["pictures"]["delta_99"]


def test_the_error_is_drawn_on_a_frame(designer, look, frame):
    shown, *errors = (
        designer.get(f"/looks/{look.pk}/proof/{frame.pk}{more}")
        for more in ("", "?method=sampled&grid=5", "?method=sampled&grid=33")
    )
    assert {a.status_code for a in (shown, *errors)} == {200}
    assert shown["Content-Type"] == "image/jpeg"
    assert len(errors[0].content) > len(errors[1].content)
    assert designer.get(f"/looks/{look.pk}/proof/{frame.pk}?method=sampled&grid=1").status_code == 422
    assert designer.get(f"/looks/{look.pk}/proof/999").status_code == 404


def test_too_many_frames_are_refused(designer, look):
    assert designer.post(f"/looks/{look.pk}/proof", {"frames": list(range(1, 40))}).status_code == 422
    assert designer.post(f"/looks/{look.pk}/proof", {"frames": [77]}).status_code == 404
    assert Frame.objects.count() == 0


@pytest.mark.parametrize(
    ("name", "safe"),
    [
        ("Ember & Tide", "Ember & Tide"),
        ("Glasur, früh", "Glasur, früh"),
        ("釉薬", "釉薬"),
        ("a/b\\c:d*e?f", "a-b-c-d-e-f"),
        ("../../etc", "etc"),
        (" .hidden. ", "hidden"),
        ("CON", "CON-"),
        ("\x00\n", "look"),
        ("", "look"),
        ("ü" * 300, "ü" * 80),
    ],
)
def test_file_names_keep_what_file_systems_take(name, safe):
    assert safe_name(name) == safe


def test_kinds_of_one_suffix_get_names_of_their_own():
    values = {"look": "Ash", "revision": "r2", "grid": "33"}
    assert named(("look", "grid"), values, "cube", ".cube") == "Ash_33.cube"
    assert named(("look", "revision"), {**values, "grid": ""}, "cube_1d", ".cube") == "Ash_r2_1d.cube"
    assert named(("look",), values, "clf_exact", ".clf") == "Ash_exact.clf"


def test_recipes_go_out_with_what_they_borrow(designer, revision):
    (row,) = made(designer, revision, kinds=["recipe"])
    assert json.loads(content(designer, row).content)["tables"] == {}


@pytest.mark.parametrize("kind", PICTURE_KINDS)
def test_a_finished_picture_is_the_frame_at_full_size(designer, look, frame, tmp_path, kind):
    answer = designer.get(f"/looks/{look.pk}/finished/{frame.pk}?kind={kind}")
    known = PICTURE_KINDS[kind]
    assert f'filename="Ramp_Warm shelf{known.suffix}"' in answer["Content-Disposition"]
    path = tmp_path / f"got{known.suffix}"
    path.write_bytes(answer.content)
    got = pictures.load(path)
    wanted = evaluate(LookValue.model_validate(look.draft), frames.pixels(frame, "bt709_display", 64))
    assert got.rgb.shape == (36, 64, 3)
    tolerance = {"uint8": 0.003, "uint16": 1e-5, "half": 1e-3, "float": 1e-6}[known.depth] + (
        0.05 if kind == "jpeg" else 0
    )
    np.testing.assert_allclose(
        got.rgb, wanted if known.suffix == ".exr" else wanted.clip(0, 1), atol=tolerance
    )
    assert known.suffix == ".exr" or got.facts.profile == "BT.709 display"


def test_finished_pictures_as_one_package(designer, look, frame):
    other = frames.Frame.objects.get(pk=frame.pk)
    other.pk = None
    other.save()
    answer = designer.get(f"/looks/{look.pk}/finished?frame={frame.pk}&frame={other.pk}&kind=jpeg")
    assert answer["Content-Type"] == "application/zip"
    with zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content))) as package:
        first, second = package.namelist()
        assert package.testzip() is None
        assert package.read(first) == designer.get(f"/looks/{look.pk}/finished/{frame.pk}?kind=jpeg").content
        # Two frames of one name do not lie over each other.
        assert second == first.replace(".jpg", " 2.jpg")
    for wrong, status in (("frame=999", 404), ("kind=jpeg", 422), (f"frame={frame.pk}&kind=gif", 422)):
        assert designer.get(f"/looks/{look.pk}/finished?{wrong}").status_code == status, wrong


def test_a_finished_picture_with_its_finish_or_without(designer, look, frame):
    draft = {"steps": [], "finish": {"vignette": {"amount": 0.8}}}
    assert (
        designer.send(
            "PUT", f"/looks/{look.pk}/draft", {"version": look.draft_version, "draft": draft}
        ).status_code
        == 200
    )
    with_it, without = (
        designer.get(f"/looks/{look.pk}/finished/{frame.pk}?finish={on}").content for on in ("true", "false")
    )
    assert with_it != without
    assert designer.get(f"/looks/{look.pk}/finished/{frame.pk}?kind=gif").status_code == 422
    assert designer.get(f"/looks/{look.pk}/finished/999").status_code == 404


def test_what_a_script_fetches_is_in_the_activity(designer, revision):
    """By a token, and once an hour; somebody before a screen is not written down."""
    made = order(designer, revision).json()[0]
    designer.get(f"/bakes/{made['id']}/file")
    assert not Event.objects.filter(said="fetched by a token").exists()
    secret = designer.post("/me/tokens", {"name": "render room"}).json()["secret"]
    for _ in range(3):
        answer = Client().get(f"/api/bakes/{made['id']}/file", headers={"Authorization": f"Bearer {secret}"})
        assert answer.status_code == 200
    event = Event.objects.get(said="fetched by a token")
    assert (event.by.username, event.about, event.to) == (
        "ines",
        made["name"],
        f"/catalogue/look/{revision.look_id}",
    )
