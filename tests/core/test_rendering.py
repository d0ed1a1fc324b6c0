"""The render room: footage is found where it lies, its frames get their looks, and nothing is made twice."""

import json
import os
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import pytest
from saucer_core.baking.bake import bake
from saucer_core.cli.main import main
from saucer_core.effects import Finish, Vignette
from saucer_core.encodings import CameraEncoding, conversion, encoding
from saucer_core.encodings.registry import forget, known
from saucer_core.formats import clip_writing, clips, pictures, recipe
from saucer_core.formats.clip_index import glance, indexed
from saucer_core.formats.delivery import (
    Contents,
    DeliveredFile,
    ListedLook,
    ListedOut,
    ListedShot,
    ListedSource,
)
from saucer_core.formats.registry import write_table
from saucer_core.look import Look
from saucer_core.operations import apply
from saucer_core.rendering.feed import sha256_of
from saucer_core.steps import no_tables
from saucer_core.treatment import Treatment
from saucer_core.trim import Trim

from ..moving import number_of, written
from .test_pull import Feed

LOOK = Look(input="bt709_display", output="bt709_display", steps=[
    {"kind": "saturation", "id": "a", "amount": 0.6}, {"kind": "exposure", "id": "b", "stops": 0.3},
])  # fmt: skip
TRIM = Trim(exposure=0.2, contrast=1.1)
#: Of what ``moving.written`` makes.
TEN = "10:00:00:00"


def of_clip(name="kiln", first=0, last=3, **more):
    return ListedSource(
        name=name, file=f"{name}.mov", rate="24/1", timecode=TEN, first=first, last=last, **more
    )


class Delivered:
    """A delivery in a folder, and footage beside it."""

    def __init__(self, at: Path) -> None:
        self.folder, self.footage, self.out = at / "delivery", at / "footage", at / "out"
        (self.folder / "looks").mkdir(parents=True)
        self.footage.mkdir()
        text = recipe.dumps(LOOK, name="Ember", tables=no_tables)
        (self.folder / "looks" / "ember.saucer.json").write_text(text, encoding="utf-8")
        self.shots: list[ListedShot] = []
        self.cameras: tuple[CameraEncoding, ...] = ()
        self.finish = True

    def shot(
        self, source, encoding="bt709_display", strength=1.0, looks=True, lut="", trim=TRIM, number=None
    ):
        number = number or len(self.shots) + 1
        given = ListedLook(look="Ember", revision=1, strength=strength, recipe="looks/ember.saucer.json")
        if lut:
            given = given.model_copy(update={"recipe": ""})
        self.shots.append(
            ListedShot(
                number=number, name="shelf", scene="", words="Ember r1", encoding=encoding, trim=trim,
                source=source, looks=(given,) if looks else (),
                outs=(ListedOut(encoding="bt709_display", name=f"{number:03d}_shelf", lut=lut),),
            )
        )  # fmt: skip
        return self

    def write(self) -> None:
        paths = sorted(p for p in self.folder.rglob("*") if p.is_file() and p.name != "contents.json")
        files = tuple(
            DeliveredFile(
                path=p.relative_to(self.folder).as_posix(), sha256=sha256_of(p), bytes=p.stat().st_size
            )
            for p in paths
        )
        contents = Contents(
            project="Kiln series", delivery=2, made_by="Ines", made_at="2026-10-01", encodings=(),
            shots=tuple(self.shots), parts={}, files=files, cameras=self.cameras, finish=self.finish,
        )  # fmt: skip
        text = contents.model_dump_json(by_alias=True)
        (self.folder / "contents.json").write_text(text, encoding="utf-8")

    def call(self, *more, where=None):
        if where is None:
            self.write()
        asked = ["render", "--from", str(where or self.folder), "--footage", str(self.footage)]
        return [*asked, "--out", str(self.out), "--clip", "ffv1", "--json", *more]

    def render(self, capsys, *more, where=None):
        status = main(self.call(*more, where=where))
        said = capsys.readouterr()
        return status, (json.loads(said.out) if said.out else {}), said.err


@pytest.fixture
def delivered(tmp_path):
    return Delivered(tmp_path)


def frames_of(path):
    looked = clips.look_through(path)
    numbers = list(range(looked.facts.frames))
    return looked.facts, [rgb for _, rgb in clips.frames_in_order(path, numbers, looked.stamps)]


def treated(rgb, source="bt709_display", trim=TRIM):
    return Treatment(LOOK, source, trim).compile(no_tables)(rgb)


# --- What is found


def test_the_frames_of_a_shot_get_its_trim_and_look_with_handles(delivered, capsys):
    written(delivered.footage / "Kiln.mkv", 40)
    status, said, _ = delivered.shot(of_clip(first=10, last=19)).render(capsys, "--handles", "4")
    assert (status, said["made"]) == (0, ["1 shelf"])
    facts, frames = frames_of(delivered.out / "001_shelf.mkv")
    assert (facts.frames, facts.timecode) == (18, "10:00:00:06")
    _, before = frames_of(delivered.footage / "Kiln.mkv")
    wanted = [treated(rgb) for rgb in before[6:24]]
    # A table of 33 points over curves that bend little, and codes of 10 bit in 4:4:4.
    assert (
        max(
            np.abs(np.clip(made, 0, 1) - np.clip(to, 0, 1)).max()
            for made, to in zip(frames, wanted, strict=True)
        )
        < 0.01
    )


def test_handles_end_where_the_footage_does(delivered, capsys):
    written(delivered.footage / "kiln.mkv", 12)
    delivered.shot(of_clip(first=2, last=9)).render(capsys, "--handles", "12")
    assert frames_of(delivered.out / "001_shelf.mkv")[0].frames == 12


def test_footage_is_longer_than_what_was_looked_at_and_its_timecode_says_where(delivered, capsys):
    """What was brought in begins two seconds after the camera's own file."""
    written(delivered.footage / "kiln.mkv", 60)
    source = of_clip(first=3, last=6).model_copy(update={"timecode": "10:00:02:00"})
    assert delivered.shot(source, looks=True).render(capsys, "--handles", "0")[0] == 0
    _, before = frames_of(delivered.footage / "kiln.mkv")
    _, made = frames_of(delivered.out / "001_shelf.mkv")
    assert [number_of(rgb) for rgb in made] == [number_of(rgb) for rgb in before[51:55]]


def test_a_reel_tells_two_clips_of_one_name_apart(delivered, capsys):
    for reel in ("A001", "B002"):
        (delivered.footage / reel).mkdir()
        written(delivered.footage / reel / "kiln.mkv", 8, reel=reel)
    delivered.shot(of_clip(reel="B002")).shot(of_clip())
    status, said, _ = delivered.render(capsys)
    assert (status, said["made"]) == (3, ["1 shelf"])
    assert "2 clips fit: A001/kiln.mkv, B002/kiln.mkv" in said["not found"]["2 shelf"]
    assert "B002" in (delivered.out / ".saucer-render" / "made" / "001_shelf.mkv.json").read_text()


def test_numbered_pictures_are_footage_by_their_numbers(delivered, capsys):
    """Linear light comes in as the log that it was kept in, and goes out with the numbers that it has."""
    rng = np.random.default_rng(7)
    light = {n: rng.uniform(0, 1.5, (16, 24, 3)).astype(np.float32) for n in range(100, 112)}
    folder = delivered.footage / "fire"
    folder.mkdir()
    for number, rgb in light.items():
        pictures.write(folder / f"fire_{number:04d}.exr", rgb, "float", at=encoding("linear_2020"))
    source = ListedSource(name="fire", file="fire.zip", rate="24/1", timecode="00:00:04:04", first=2, last=5)
    status, said, _ = delivered.shot(source, encoding="acescct").render(
        capsys, "--handles", "1", "--picture", "exr", "--depth", "float"
    )
    assert (status, said.get("doubts")) == (0, None)
    made = sorted((delivered.out / "001_shelf").iterdir())
    assert [p.name for p in made] == [f"001_shelf.{n:07d}.exr" for n in range(101, 107)]
    log = conversion(encoding("linear_2020"), encoding("acescct"))
    for path, number in zip(made, range(101, 107), strict=True):
        found = pictures.load(path)
        assert found.facts.declared == "bt709_display"
        np.testing.assert_allclose(found.rgb, treated(apply(log, light[number]), "acescct"), atol=2e-5)


def test_a_number_without_a_picture_is_said(delivered, capsys):
    for number in (1, 2, 4):
        pictures.write(delivered.footage / f"fire.{number:04d}.png", np.full((4, 4, 3), 0.5, np.float32))
    source = ListedSource(name="fire", file="fire.zip", rate="24/1", timecode="00:00:00:01", first=0, last=3)
    status, said, _ = delivered.shot(source, encoding="srgb").render(capsys)
    assert (status, said["failed"]) == (3, {"1 shelf": "fire: has no picture for number 3"})
    assert not (delivered.out / "001_shelf").exists()


def test_a_still_is_found_by_its_name_and_another_file_is_said(delivered, capsys):
    rgb = np.random.default_rng(3).uniform(0, 1, (8, 8, 3)).astype(np.float32)
    (delivered.footage / "day 2").mkdir()
    at = delivered.footage / "day 2" / "Shelf.png"
    pictures.write(at, rgb, "uint16", at=encoding("srgb"))
    for sha in (sha256_of(at), "0" * 64):
        delivered.shot(ListedSource(name="Shelf", file="shelf.png", sha256=sha), encoding="srgb")
    _, said, _ = delivered.render(capsys)
    assert said["made"] == ["1 shelf", "2 shelf"]
    other = {
        label: [one for one in doubts if "another file" in one] for label, doubts in said["doubts"].items()
    }
    assert other == {"1 shelf": [], "2 shelf": ["is another file than the one that was looked at"]}
    found = pictures.load(delivered.out / "001_shelf.png").rgb
    np.testing.assert_allclose(found, np.clip(treated(rgb, "srgb"), 0, 1), atol=3 / 65535)


def test_a_delivery_with_luts_alone_does(delivered, capsys):
    written(delivered.footage / "kiln.mkv", 4)
    (delivered.folder / "luts").mkdir()
    program = Treatment(LOOK, "bt709_display", TRIM).compile(no_tables)
    write_table(delivered.folder / "luts" / "a.cube", bake(program, 33))
    delivered.shot(of_clip(), lut="luts/a.cube").shot(of_clip(), looks=False)
    status, said, _ = delivered.render(capsys)
    assert (status, said["made"], said["failed"]) == (
        3,
        ["1 shelf"],
        {"2 shelf": "2 shelf: no look is on it"},
    )
    _, before = frames_of(delivered.footage / "kiln.mkv")
    _, made = frames_of(delivered.out / "001_shelf.mkv")
    assert np.abs(made[2] - treated(before[2])).max() < 0.01


@pytest.mark.parametrize(
    ("more", "said"),
    [
        ({"timecode": "11:00:00:00"}, "its clip has 10:00:00:00 – 10:00:00:07 alone"),
        ({"rate": "25/1"}, "its clip has 24 frames a second, the cut 25"),
        (
            {"name": "yard", "file": "yard.mov"},
            "only the timecode fits: kiln.mkv. Give it the name of the clip, if it is it",
        ),
        (
            {"name": "yard", "file": "yard.mov", "timecode": "12:00:00:00"},
            "no clip has its name, reel or timecode",
        ),
        ({"first": 6, "last": 9}, "its clip has 10:00:00:00 – 10:00:00:07 alone"),
    ],
)
def test_footage_that_does_not_fit_is_not_taken(delivered, capsys, more, said):
    written(delivered.footage / "kiln.mkv", 8)
    (delivered.footage / "hurt.mov").write_bytes(b"no clip")
    (delivered.footage / "kiln.txt").write_text("no clip either")
    status, answer, _ = delivered.shot(of_clip().model_copy(update=more)).render(capsys)
    assert status == 3
    assert said in answer["not found"]["1 shelf"]
    assert ["hurt.mov" in one for one in answer["not read"]] == [True]
    assert said in (delivered.out / "rendered.txt").read_text()


def test_an_index_without_decoding_is_the_one_with(tmp_path):
    made = [
        written(tmp_path / "even.mov", 30, codec="prores_ks"),
        written(tmp_path / "even.mkv", 30),
        written(tmp_path / "uneven.mov", 20, codec="prores_ks", stamps=[k + (k > 7) * 3 for k in range(20)]),
    ]
    for path in made:
        looked = clips.look_through(path)
        assert indexed(path).stamps == looked.stamps
        assert glance(path).frames == looked.facts.frames
        assert glance(path).timecode == looked.facts.timecode


@pytest.mark.django_db
def test_an_encoding_of_the_team_comes_with_the_list(delivered, capsys):
    camera = CameraEncoding(
        name="Kiln camera", red=(0.73, 0.28), green=(0.14, 0.85), blue=(0.1, -0.05), white=(0.3127, 0.329),
        base=10, log_side_slope=0.25, log_side_offset=0.38, lin_side_slope=5.5, lin_side_offset=0.05,
    )  # fmt: skip
    rgb = np.full((4, 4, 3), 0.45, np.float32)
    pictures.write(delivered.footage / "shelf.png", rgb, "uint16")
    delivered.shot(ListedSource(name="shelf", file="shelf.png"), encoding=camera.key())
    assert "is not an encoding" in delivered.render(capsys)[1]["failed"]["1 shelf"]
    delivered.cameras = (camera,)
    assert delivered.render(capsys)[1]["made"] == ["1 shelf"]
    forget(camera)
    with known([camera]):
        wanted = treated(rgb, camera.key())
    found = pictures.load(delivered.out / "001_shelf.png").rgb
    np.testing.assert_allclose(found, np.clip(wanted, 0, 1), atol=2 / 65535)


# --- What is there is not made again


def test_what_is_there_is_not_made_again_and_what_is_hurt_is(delivered, capsys):
    written(delivered.footage / "kiln.mkv", 8)
    delivered.shot(of_clip(first=0, last=3)).shot(of_clip(first=4, last=7))
    assert delivered.render(capsys)[1]["made"] == ["1 shelf", "2 shelf"]
    assert delivered.render(capsys)[1]["there"] == ["1 shelf", "2 shelf"]
    hurt = delivered.out / "002_shelf.mkv"
    data, at = bytearray(hurt.read_bytes()), hurt.stat()
    data[len(data) // 2] ^= 1
    hurt.write_bytes(data)
    os.utime(hurt, ns=(at.st_atime_ns, at.st_mtime_ns))
    # Its size and time are as they were: its checksum alone tells.
    assert delivered.render(capsys)[1]["made"] == []
    assert subprocess.run(
        ["sha256sum", "-c", "checksums.sha256"], cwd=delivered.out, capture_output=True, check=False
    ).returncode
    assert delivered.render(capsys, "--verify")[1]["made"] == ["2 shelf"]
    subprocess.run(
        ["sha256sum", "-c", "checksums.sha256"], cwd=delivered.out, capture_output=True, check=True
    )
    # What somebody worked on stays as it is.
    hurt.write_bytes(b"worked on")
    assert "Move it away" in delivered.render(capsys)[1]["failed"]["2 shelf"]
    assert hurt.read_bytes() == b"worked on"
    hurt.unlink()
    assert delivered.render(capsys)[1]["made"] == ["2 shelf"]


def test_a_newer_delivery_makes_what_changed_and_keeps_what_got_another_number(delivered, capsys):
    written(delivered.footage / "kiln.mkv", 12)
    delivered.shot(of_clip(first=0, last=3)).shot(of_clip(first=4, last=7)).shot(of_clip(first=8, last=9))
    delivered.render(capsys, "--handles", "0")
    kept = (delivered.out / "001_shelf.mkv").read_bytes()
    first, second, _ = delivered.shots
    # The first two change places, the second with another trim; the third is not in it any more.
    delivered.shots = []
    delivered.shot(second.source, trim=Trim(exposure=1)).shot(first.source)
    _, said, _ = delivered.render(capsys, "--handles", "0")
    assert (said["made"], said["there"]) == (["1 shelf"], ["2 shelf"])
    assert said["not in the delivery any more"] == ["003_shelf.mkv"]
    assert (delivered.out / "002_shelf.mkv").read_bytes() == kept
    assert (delivered.out / "003_shelf.mkv").exists()


def test_what_somebody_put_there_stays(delivered, capsys):
    written(delivered.footage / "kiln.mkv", 4)
    delivered.out.mkdir()
    (delivered.out / "001_shelf.mkv").write_bytes(b"mine")
    status, said, _ = delivered.shot(of_clip()).render(capsys)
    assert (status, list(said["failed"])) == (3, ["1 shelf"])
    assert "Move it away" in said["failed"]["1 shelf"]
    assert (delivered.out / "001_shelf.mkv").read_bytes() == b"mine"


@pytest.mark.parametrize("before", [False, True])
@pytest.mark.parametrize("at", ["record", "name"])
def test_broken_off_while_it_takes_its_name_it_goes_on(delivered, capsys, monkeypatch, at, before):
    """Nobody has to move a half-done file of a render room's own away."""
    written(delivered.footage / "kiln.mkv", 8)
    delivered.shot(of_clip())
    if before:
        delivered.render(capsys)
        delivered.shots = []
        delivered.shot(of_clip(), trim=Trim(exposure=1))
    real = os.replace

    def stop(made, target):
        if Path(target).name == {"record": "001_shelf.mkv.json", "name": "001_shelf.mkv"}[at]:
            raise KeyboardInterrupt
        real(made, target)

    with monkeypatch.context() as stopped:
        stopped.setattr(os, "replace", stop)
        assert main(delivered.call()) == 130
    capsys.readouterr()
    assert not (delivered.out / "001_shelf.mkv").exists()
    assert delivered.render(capsys)[1]["made"] == ["1 shelf"]
    check = ["sha256sum", "-c", "checksums.sha256"]
    subprocess.run(check, cwd=delivered.out, capture_output=True, check=True)


def test_the_finish_is_the_deliverys_unless_it_is_left_out(delivered, capsys):
    finished = LOOK.model_copy(update={"finish": Finish(vignette=Vignette(amount=0.8))})
    text = recipe.dumps(finished, name="Ember", tables=no_tables)
    (delivered.folder / "looks" / "ember.saucer.json").write_text(text, encoding="utf-8")
    pictures.write(delivered.footage / "shelf.png", np.full((32, 48, 3), 0.5, np.float32), "uint16")
    delivered.shot(ListedSource(name="shelf", file="shelf.png"), encoding="bt709_display")
    corners: list[float] = []
    for asked, more in ((True, ()), (True, ("--without-finish",)), (False, ())):
        delivered.finish = asked
        assert delivered.render(capsys, *more)[1]["made"] or corners
        found = pictures.load(delivered.out / "001_shelf.png").rgb
        corners.append(float(found[0, 0, 0]))
    assert corners[0] < corners[1] - 0.05
    assert corners[1] == corners[2]


@pytest.mark.parametrize(
    "source", [{"rate": "1/0"}, {"rate": "x"}, {"first": 5, "last": 2}, {"last": 10**12}]
)
def test_a_list_of_nonsense_is_refused_in_words(delivered, capsys, source):
    delivered.shot(of_clip()).write()
    said = json.loads((delivered.folder / "contents.json").read_text())
    said["shots"][0]["source"] |= source
    (delivered.folder / "contents.json").write_text(json.dumps(said))
    status, _, said = delivered.render(capsys, where=delivered.folder)
    assert (status, "is not the list of a delivery (shots 0 source" in said) == (1, True)


def test_what_was_stopped_goes_on(delivered, capsys, monkeypatch):
    """The lengths of a clip that are whole are not rendered again."""
    written(delivered.footage / "kiln.mkv", 300)
    delivered.shot(of_clip(first=0, last=299))
    real, begun, limit = clip_writing.render, [], [250]

    def stopped(work, folder, target, tell):
        def end(done, count):
            tell(done, count)
            begun.append(done)
            if done >= limit[0]:
                raise KeyboardInterrupt

        return real(work, folder, target, end)

    monkeypatch.setattr("saucer_core.rendering.shot.render", stopped)
    assert main(delivered.call()) == 130
    assert not (delivered.out / "001_shelf.mkv").exists()
    limit[0] = 1000
    begun.clear()
    assert delivered.render(capsys)[1]["made"] == ["1 shelf"]
    assert min(begun) == 240
    facts, frames = frames_of(delivered.out / "001_shelf.mkv")
    assert facts.frames == 300
    assert not list((delivered.out / ".saucer-render" / "parts").iterdir())
    assert len({number_of(rgb) for rgb in frames}) == 300


def test_two_on_one_folder_share_the_work_and_one_takes_over_what_a_dead_one_had(delivered, capsys):
    written(delivered.footage / "kiln.mkv", 120, size=(640, 360))
    for k in range(10):
        delivered.shot(of_clip(first=k * 12, last=k * 12 + 11))
    call = [sys.executable, "-m", "saucer_core", *delivered.call("--handles", "0")]
    dead = subprocess.Popen(call, stdout=subprocess.PIPE)
    made = delivered.out / ".saucer-render" / "made"
    while not made.exists() or not any(made.glob("*.json")):
        assert dead.poll() is None
        time.sleep(0.02)
    dead.send_signal(signal.SIGKILL)
    dead.wait()
    early = {json.loads(p.read_text())["label"] for p in made.glob("*.json")}
    two = [subprocess.Popen(call, stdout=subprocess.PIPE, text=True) for _ in range(2)]
    answers = [json.loads(one.communicate()[0]) for one in two]
    assert [one.returncode for one in two] == [0, 0]
    by_each = [set(answer["made"]) for answer in answers]
    everything = {f"{k} shelf" for k in range(1, 11)}
    assert by_each[0].isdisjoint(by_each[1])
    assert by_each[0] | by_each[1] | early == everything
    assert early.isdisjoint(by_each[0] | by_each[1])
    assert all(set(answer["made"]) | set(answer["there"]) == everything for answer in answers)


# --- By its feed


def test_the_newest_delivery_of_a_feed_is_taken_with_its_checksums(delivered, tmp_path, capsys):
    written(delivered.footage / "kiln.mkv", 4)
    delivered.shot(of_clip()).write()
    feed = Feed()
    try:
        for path in ("contents.json", "looks/ember.saucer.json"):
            feed.files[path] = (delivered.folder / path).read_bytes()
        shutil.rmtree(delivered.folder)
        assert delivered.render(capsys, where=feed.address)[1]["made"] == ["1 shelf"]
        feed.asked.clear()
        assert delivered.render(capsys, where=feed.address)[1]["there"] == ["1 shelf"]
        assert [path for path, _ in feed.asked] == ["/feed"]
        feed.lies = True
        delivered.out = tmp_path / "elsewhere"
        status, _, said = delivered.render(capsys, where=feed.address)
        assert (status, "checksum" in said) == (1, True)
        feed.status = 401
        status, _, said = delivered.render(capsys, where=feed.address)
        assert (status, "taken back" in said, feed.address in said) == (1, True, False)
    finally:
        feed.server.shutdown()


def test_a_list_that_lies_or_is_old_is_said(delivered, tmp_path, capsys):
    written(delivered.footage / "kiln.mkv", 4)
    delivered.shot(of_clip())
    old = delivered.shots[0].model_copy(update={"source": None, "looks": (), "outs": ()})
    outside = ListedOut(encoding="bt709_display", name="../../out")
    delivered.shots += [old, delivered.shots[0].model_copy(update={"number": 3, "outs": (outside,)})]
    _, said, _ = delivered.render(capsys)
    assert "older Saucer" in said["failed"]["1 shelf"]
    assert said["made"] == ["1 shelf", "3 shelf"]
    assert (delivered.out / "003.mkv").exists()
    (delivered.folder / "contents.json").write_text('{"shots": 7}')
    status, _, said = delivered.render(capsys, where=delivered.folder)
    assert (status, "is not the list of a delivery" in said) == (1, True)
    status, _, said = delivered.render(capsys, where=tmp_path)
    assert (status, "holds no contents.json" in said) == (1, True)
    delivered.footage = tmp_path / "nowhere"
    assert "is no folder" in delivered.render(capsys)[2]
