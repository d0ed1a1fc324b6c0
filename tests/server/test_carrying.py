"""Carriers over HTTP: taken away, changed elsewhere, brought back, kept as a look or refused in words."""

import base64
import io

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from saucer_core.formats import pictures
from saucer_core.look import Look as LookValue
from saucer_core.treatment import Treatment
from saucer_server.looks.models import Look
from saucer_server.luts import rules as luts
from saucer_server.luts.models import BorrowedLut

ABOUT = {"expects": "bt709_display", "gives": "bt709_display"}
SAID = {**ABOUT, "take": "as it is", "rights": "ask first", "origin": "the shed's other program"}


def taken(who, **asked):
    words = "&".join(
        f"{k}={v}" for k, v in {"layout": "hald", "size": 6, "encoding": "bt709_display", **asked}.items()
    )
    answer = who.get(f"/carriers/file?{words}")
    assert answer.status_code == 200, answer.content
    return answer


def colours(data: bytes, tmp_path, name="carrier.png"):
    path = tmp_path / name
    path.write_bytes(data)
    return pictures.load(path).rgb


def changed(data: bytes, tmp_path, change) -> bytes:
    """The carrier as another program gives it back: 16-bit PNG."""
    path = tmp_path / "back.png"
    pictures.write(path, np.clip(change(colours(data, tmp_path)), 0, 1).astype(np.float32), "uint16")
    return path.read_bytes()


def send(who, path, data, file_name="night.png", **fields):
    return who.upload(path, {**fields, "file": SimpleUploadedFile(file_name, data)})


def darker(rgb):
    return rgb**1.3


def test_every_kind_can_be_taken_away(designer, tmp_path):
    for kind in designer.get("/carriers/kinds").json():
        size, points = kind["sizes"][0]
        rgb = colours(taken(designer, layout=kind["layout"], size=size).content, tmp_path)
        assert rgb.shape[0] * rgb.shape[1] >= points**3
    answer = taken(designer, file="tiff32")
    assert 'filename="carrier hald 36 BT.709 display.tif"' in answer["Content-Disposition"]
    for bad in (
        "layout=ring&size=6&encoding=srgb",
        "layout=hald&size=99&encoding=srgb",
        "layout=hald&size=6&encoding=x",
    ):
        assert designer.get(f"/carriers/file?{bad}").status_code == 422


def test_a_carrier_that_comes_back_is_measured_and_shown_before_anything_is_kept(designer, frame, tmp_path):
    back = changed(taken(designer).content, tmp_path, darker)
    found = send(designer, "/carriers/read", back, **ABOUT, frame=frame.pk).json()
    assert (found["verdict"], found["layout"], found["grid"], found["findings"]) == ("accept", "hald", 36, [])
    for part in ("picture", "damage", "before", "after"):
        kind, data = found[part].split(",")
        assert kind == "data:image/jpeg;base64"
        assert Image.open(io.BytesIO(base64.b64decode(data))).size[0] > 0
    before, after = (
        np.asarray(Image.open(io.BytesIO(base64.b64decode(found[k].split(",")[1])))).mean()
        for k in ("before", "after")
    )
    assert after < before
    assert found["saucer"].startswith("data:image/png")
    assert not Look.objects.exists()
    assert not BorrowedLut.objects.exists()


def test_it_becomes_a_look_that_remembers_where_it_comes_from(designer, tmp_path):
    back = changed(taken(designer).content, tmp_path, darker)
    answer = send(designer, "/carriers/keep", back, **SAID, name="Night")
    assert answer.status_code == 201, answer.content
    made = answer.json()
    look = designer.get(f"/looks/{made['id']}").json()
    assert (look["name"], look["note"]) == ("Night", "Carried over in night.png, the shed's other program.")
    (row,) = designer.get("/luts").json()
    assert (row["name"], row["rights"], row["size"]) == ("Night", "ask first", 36)
    rgb = np.random.default_rng(1).uniform(0, 1, (200, 3)).astype(np.float32)
    out = Treatment(LookValue.model_validate(look["draft"])).compile(luts.table)(rgb)
    np.testing.assert_allclose(out, darker(rgb), atol=2e-3)


def test_noise_is_smoothed_if_one_says_so(designer, tmp_path):
    noise = np.random.default_rng(4)
    back = changed(
        taken(designer, size=8).content, tmp_path, lambda rgb: rgb + noise.normal(0, 1.5 / 255, rgb.shape)
    )
    found = send(designer, "/carriers/read", back, **ABOUT).json()
    assert found["verdict"] == "smooth"
    assert found["findings"][0]["kind"] == "noise"
    assert found["smoothing"][0] > 0
    rows = [
        send(designer, "/carriers/keep", back, **{**SAID, "take": take, "name": take}).status_code
        for take in ("as it is", "smoothed")
    ]
    assert rows == [201, 201]
    assert BorrowedLut.objects.count() == 2
    assert Look.objects.get(name="smoothed").note.endswith("smoothed.")


@pytest.mark.parametrize(
    ("damage", "words"),
    [
        (lambda rgb: rgb[:-8], "cropped or resized"),
        (lambda rgb: np.random.default_rng(1).uniform(0, 1, rgb.shape), "in no order that a carrier has"),
        (
            lambda rgb: (
                rgb * (1 - 0.3 * np.hypot(*np.meshgrid(*[np.linspace(-1, 1, 216)] * 2))[..., None] ** 2)
            ),
            "vignette",
        ),
    ],
)
def test_damage_is_refused_in_words_and_nothing_is_kept(designer, tmp_path, damage, words):
    back = changed(taken(designer).content, tmp_path, damage)
    found = send(designer, "/carriers/read", back, **ABOUT).json()
    assert found["verdict"] == "refuse"
    assert any(words in f["words"] for f in found["findings"])
    answer = send(designer, "/carriers/keep", back, **SAID)
    assert answer.status_code == 422
    assert words in answer.json()["message"]
    assert answer.json()["message"].startswith("night.png was not kept")
    assert not Look.objects.exists()
    assert not BorrowedLut.objects.exists()


def test_steps_that_may_be_meant_are_asked_about_and_taken(designer, tmp_path):
    back = changed(taken(designer).content, tmp_path, lambda rgb: np.round(rgb * 4) / 4)
    found = send(designer, "/carriers/read", back, **ABOUT).json()
    assert found["verdict"] == "ask"
    assert "posterised" in found["findings"][0]["words"]
    assert found["saucer"]
    assert send(designer, "/carriers/keep", back, **SAID).status_code == 201
    assert BorrowedLut.objects.count() == 1


def test_a_file_that_is_no_picture(designer):
    answer = send(designer, "/carriers/read", b"MZ\x90", file_name="a.png", **ABOUT)
    assert answer.status_code == 422
    assert "a.png" in answer.json()["message"]
    assert send(designer, "/carriers/keep", b"", **SAID).status_code == 422


def test_nothing_to_smooth_is_said(designer, tmp_path):
    back = changed(taken(designer).content, tmp_path, darker)
    assert (
        "no noise to take out"
        in send(designer, "/carriers/keep", back, **{**SAID, "take": "smoothed"}).json()["message"]
    )


def test_only_designers_bring_looks_in(applier, designer):
    data = taken(designer).content
    assert send(applier, "/carriers/read", data, **ABOUT).status_code == 403
    assert send(applier, "/carriers/keep", data, **SAID).status_code == 403


def test_a_frame_beside_it(designer, tmp_path):
    path = tmp_path / "tall.png"
    pictures.write(path, np.random.default_rng(1).uniform(0, 1, (400, 600, 3)).astype(np.float32))
    frame = send(designer, "/frames", path.read_bytes(), encoding="bt709_display").json()
    data = taken(designer, frame=frame["id"]).content
    assert colours(data, tmp_path).shape == (216, 216 + 320, 3)
    found = send(designer, "/carriers/read", changed(data, tmp_path, darker), **ABOUT).json()
    assert (found["verdict"], found["grid"]) == ("accept", 36)
    small = designer.get(f"/carriers/file?layout=hald&size=9&encoding=bt709_display&frame={frame['id']}")
    assert "at least 729 pixels high" in small.json()["message"]
