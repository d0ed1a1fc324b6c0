"""Numbered sequences of pictures come in as clips, through the interface and a worker."""

import io
import os
import zipfile
from pathlib import Path

import numpy as np
import pytest
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from saucer_core.errors import FileError
from saucer_core.formats import clips, pictures
from saucer_server.clips import proxying, rules, sequencing, tasks
from saucer_server.clips.models import Clip
from saucer_server.housekeeping import sweep
from saucer_server.jobs.models import Job

pytestmark = pytest.mark.django_db(transaction=True)


def codes(number: int) -> np.ndarray:
    return np.random.default_rng(number).integers(0, 65536, (36, 64, 3))


@pytest.fixture
def sequence(tmp_path):
    """A ZIP of thirteen pictures of 16 bit, the ninth of which is missing."""
    data = io.BytesIO()
    with zipfile.ZipFile(data, "w") as out:
        for number in (n for n in range(100, 113) if n != 108):
            path = tmp_path / f"glaze.{number}.png"
            pictures.write(path, (codes(number) / 65535).astype(np.float32), "uint16")
            out.write(path, f"glaze/{path.name}")
    return data.getvalue()


def bring(person, data: bytes, **about):
    return person.upload("/clips", {**about, "file": SimpleUploadedFile("glaze.zip", data)})


def test_a_sequence_becomes_a_clip_that_stands_among_the_frames_and_plays(lead, sequence):
    made = bring(lead, sequence, rate="25/1", encoding="film_log", light="noon")
    assert made.status_code == 201, made.content
    zipped = Clip.objects.get(pk=made.json()["id"]).file
    tasks.look(clip_id=made.json()["id"])
    seen = lead.get(f"/clips/{made.json()['id']}").json()
    assert (seen["facts"]["frames"], seen["facts"]["rate"], seen["facts"]["depth"]) == (13, "25/1", 16)
    assert seen["encoding"] == "film_log"
    assert seen["facts"]["doubts"] == ["has no picture for number 108: the one before is held"]
    clip = Clip.objects.get(pk=seen["id"])
    assert clip.bytes == default_storage.size(clip.file)
    found = clips.frames_at(Path(default_storage.path(clip.file)), [8, 12], rules.found(clip).stamps)
    assert np.array_equal(np.rint(found[8] * 65535), codes(107))
    assert np.array_equal(np.rint(found[12] * 65535), codes(112))
    frame = next(f for f in lead.get("/frames").json() if f["clip"] == clip.pk)
    assert (frame["encoding"], frame["light"]) == ("film_log", "noon")
    assert frame["doubt"] == "It has no picture for number 108: the one before is held."
    proxying.make(clip.pk)
    assert lead.get(f"/clips/{clip.pk}").json()["plays"]
    # The ZIP has done its work; the night lets it go.
    os.utime(default_storage.path(zipped), (0, 0))
    sweep.unused()
    assert not default_storage.exists(zipped)
    assert default_storage.exists(clip.file)


def test_a_worker_that_dies_leaves_the_sequence_to_begin_with(lead, sequence, monkeypatch):
    made = bring(lead, sequence).json()["id"]
    look = clips.look_through

    def dies(*args, **more):
        raise KeyboardInterrupt

    monkeypatch.setattr(clips, "look_through", dies)
    with pytest.raises(KeyboardInterrupt):
        tasks.look(clip_id=made)
    assert sequencing.is_sequence(Clip.objects.get(pk=made))
    monkeypatch.setattr(clips, "look_through", look)
    tasks.look(clip_id=made)
    assert lead.get(f"/clips/{made}").json()["facts"]["frames"] == 13


def test_what_is_no_sequence_is_refused_at_once_and_nothing_is_kept(lead):
    empty = io.BytesIO()
    with zipfile.ZipFile(empty, "w") as out:
        out.writestr("kiln.txt", "no picture")
    refused = bring(lead, empty.getvalue())
    assert refused.status_code == 422
    assert "holds no numbered pictures" in refused.content.decode()
    assert bring(lead, b"PK").status_code == 422
    assert bring(lead, empty.getvalue(), rate="7/1").status_code == 422
    assert not Clip.objects.exists()
    assert not Job.objects.exists()


def test_a_picture_that_cannot_be_read_is_named_in_the_job(lead, sequence):
    data = io.BytesIO(sequence)
    with zipfile.ZipFile(data, "a") as out:
        out.writestr("glaze/glaze.113.png", b"\x89PNG\r\n\x1a\n" + bytes(60))
    made = bring(lead, data.getvalue()).json()
    with pytest.raises(FileError):
        tasks.look(clip_id=made["id"])
    job = lead.get(f"/clips/{made['id']}").json()["job"]
    assert job["state"] == "failed"
    assert "glaze.113.png" in job["reason"]
    assert lead.get(f"/clips/{made['id']}").json()["facts"] is None
