"""Clips: luma and differences, reading, cuts, rendering in lengths, and what bad files give."""

import json
import os
import subprocess
import sys
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import av
import colour
import numpy as np
import pytest
from av.video.frame import VideoFrame
from hypothesis import given, settings
from hypothesis import strategies as st
from saucer_core.baking.bake import bake
from saucer_core.cli.main import main
from saucer_core.encodings import encoding
from saucer_core.encodings.ycbcr import LUMA, Layout, planes_for, through, to_planes, to_rgb
from saucer_core.errors import FileError
from saucer_core.formats import clip_kinds, clips, cube, recipe
from saucer_core.formats.clip_kinds import CLIP_KINDS, layout_for
from saucer_core.formats.clip_writing import ClipWork, render
from saucer_core.formats.timecode import later
from saucer_core.look import Look
from saucer_core.steps import no_tables
from saucer_core.treatment import Treatment

ROOT = Path(__file__).parents[2]
WIDE, HIGH, RATE = 160, 96, 24
TEN = Layout(10, 2, 2, 1, full=False)


def picture(seed: int) -> np.ndarray:
    """Soft coloured patches."""
    small = np.random.default_rng(seed).uniform(0.1, 0.9, (4, 5, 3)).astype(np.float32)
    return np.kron(small, np.ones((HIGH // 4, WIDE // 5, 1), np.float32))


def put(out, stream, rgb, stamp, layout=TEN, pixels="yuv420p10le"):
    frame = VideoFrame(rgb.shape[1], rgb.shape[0], pixels)
    for plane, codes in zip(frame.planes, to_planes(rgb, layout), strict=True):
        rows = np.frombuffer(memoryview(plane), dtype="<u2" if layout.depth > 8 else "u1").reshape(
            codes.shape[0], -1
        )
        rows[:, : codes.shape[1]] = codes
    frame.pts, frame.time_base = stamp, Fraction(1, RATE)
    out.mux(stream.encode(frame))


def make(
    path: Path, shots: int = 3, length: int = 16, *, stamps=None, sound: bool = True, tagged: bool = True
) -> Path:
    """A clip of still shots, each with its own picture."""
    with av.open(str(path), "w") as out:
        out.metadata["timecode"] = "10:00:00:00"
        stream = out.add_stream("libx264", rate=RATE, options={"crf": "6", "preset": "fast"})
        stream.width, stream.height, stream.pix_fmt = WIDE, HIGH, "yuv420p10le"
        if tagged:
            context = stream.codec_context
            context.color_primaries, context.color_trc, context.colorspace, context.color_range = 1, 1, 1, 1
        track = out.add_stream("pcm_s16le", rate=48000) if sound else None
        for k in range(shots * length):
            put(out, stream, picture(k // length), stamps[k] if stamps else k)
        out.mux(stream.encode(None))
        if track is not None:
            tone = (np.sin(np.arange(48000 * shots * length // RATE) * 0.05) * 3000).astype(np.int16)
            for begin in range(0, len(tone), 1024):
                block = av.AudioFrame.from_ndarray(
                    tone[None, begin : begin + 1024], format="s16", layout="mono"
                )
                block.sample_rate, block.pts, block.time_base = 48000, begin, Fraction(1, 48000)
                out.mux(track.encode(block))
            out.mux(track.encode(None))
    return path


@pytest.fixture(scope="module")
def clip(tmp_path_factory):
    return make(tmp_path_factory.mktemp("clip") / "three.mov")


@pytest.fixture(scope="module")
def found(clip):
    return clips.look_through(clip)


# Luma and colour differences


@pytest.mark.parametrize("pattern", ["yuv420p10le", "yuv422p", "yuv444p12le", "gbrp10le"])
@pytest.mark.parametrize("by", [2, 3, 7])
def test_a_reduced_frame_is_the_mean_of_its_pixels(pattern, by):
    """Also where a block is cut by the right or lower edge, and where rows of a block share a colour
    difference with others."""
    frame = av.VideoFrame(46, 34, pattern)
    dice = np.random.default_rng(3)
    for plane in frame.planes:
        flat = np.frombuffer(memoryview(plane), "u1" if pattern.endswith("p") else "<u2")
        flat[:] = dice.integers(0, 250 if pattern.endswith("p") else 1000, len(flat))
    whole, small = clips.colours_of(frame), clips.colours_of(frame, by)
    assert small.shape == (-(-34 // by), -(-46 // by), 3)
    for row in range(small.shape[0]):
        for column in range(small.shape[1]):
            block = whole[row * by : (row + 1) * by, column * by : (column + 1) * by]
            assert small[row, column] == pytest.approx(block.mean(axis=(0, 1)), abs=2e-6)


@pytest.mark.parametrize("matrix", [1, 6, 9])
@pytest.mark.parametrize("full", [False, True])
def test_codes_are_those_of_colour_science(matrix, full):
    """colour-science 0.4.7, ``RGB_to_YCbCr`` with the weights of BT.709, BT.601 and BT.2020, 10-bit
    integers."""
    rgb = np.random.default_rng(1).uniform(0, 1, (6, 8, 3)).astype(np.float32)
    red, blue = LUMA[matrix]
    ours = np.stack(to_planes(rgb, Layout(10, 1, 1, matrix, full)), axis=-1)
    theirs = colour.RGB_to_YCbCr(
        rgb,
        K=np.array([red, blue]),
        in_bits=10,
        in_legal=False,
        out_bits=10,
        out_legal=not full,
        out_int=True,
    )
    assert np.abs(ours.astype(int) - theirs).max() <= 1


@pytest.mark.parametrize("matrix", sorted(LUMA))
@pytest.mark.parametrize("full", [False, True])
def test_rows_of_the_matrix_give_what_planes_give(matrix, full):
    at = Layout(10, 1, 1, matrix, full)
    codes = np.random.default_rng(matrix).integers(64, 940, (3, 4, 5)).astype(np.uint16)
    rows = np.array(at.rows()).reshape(3, 4)
    wanted = to_rgb((codes[0], codes[1], codes[2]), at)
    given = np.einsum("ck,kyx->yxc", rows[:, :3], codes.astype(np.float64)) + rows[:, 3]
    assert np.abs(given - wanted).max() < 1e-5


def test_black_and_white_of_ten_bits():
    """Recommendation ITU-R BT.709-6, table 4.6: black 64, peak 940, no colour 512."""
    y, u, v = to_planes(np.array([[[0, 0, 0], [1, 1, 1]]], dtype=np.float32), Layout(10, 1, 1, 1, full=False))
    assert y.tolist() == [[64, 940]]
    assert (u == 512).all()
    assert (v == 512).all()


@settings(max_examples=30, deadline=None)
@given(
    st.sampled_from([1, 2]),
    st.sampled_from([1, 2]),
    st.integers(0, 2**31),
    st.integers(1, 9),
    st.integers(1, 9),
    st.booleans(),
)
def test_one_colour_comes_back_whatever_the_layout(wide, high, seed, rows, columns, full):
    flat = np.random.default_rng(seed).uniform(0, 1, 3).astype(np.float32)
    layout = Layout(12, wide, high, 1, full)
    back = to_rgb(to_planes(np.broadcast_to(flat, (rows, columns, 3)).copy(), layout), layout)
    assert np.abs(back - flat).max() < 2e-3


def test_rows_and_threads_do_not_show():
    rgb = np.random.default_rng(3).uniform(0, 1, (70, 64, 3)).astype(np.float32)
    planes, made = to_planes(rgb, TEN), planes_for(70, 64, TEN)
    through(planes, TEN, lambda tile: None, made, TEN)
    for one, other in zip(made, to_planes(to_rgb(planes, TEN), TEN), strict=True):
        assert (one == other).all()


def test_differences_lie_where_ffmpeg_puts_them():
    """FFmpeg's own scaler (PyAV 18.1, accurate and with full chroma interpolation) opens the same planes to
    nearly the same colours."""
    y, x = np.mgrid[0:96, 0:160].astype(np.float32)
    rgb = np.stack(
        [0.5 + 0.3 * np.sin(x / 23), 0.5 + 0.3 * np.cos(y / 17), 0.4 + 0.2 * np.sin((x + y) / 31)], axis=-1
    ).astype(np.float32)
    planes = to_planes(rgb, TEN)
    frame = VideoFrame(160, 96, "yuv420p10le")
    for plane, codes in zip(frame.planes, planes, strict=True):
        np.frombuffer(memoryview(plane), dtype="<u2").reshape(codes.shape[0], -1)[:, : codes.shape[1]] = codes
    theirs = frame.reformat(
        format="gbrp16le",
        src_colorspace=1,
        dst_colorspace=1,
        src_color_range=1,
        dst_color_range=2,
        interpolation="BICUBIC",
    )
    g, b, r = (np.frombuffer(memoryview(p), dtype="<u2").reshape(96, -1)[:, :160] for p in theirs.planes)
    off = np.abs(to_rgb(planes, TEN) - np.stack([r, g, b], axis=-1).astype(np.float32) / 65535)[8:-8, 8:-8]
    assert off.mean() < 2.5e-3


# Reading


def test_what_a_clip_is(found):
    facts = found.facts
    assert (facts.width, facts.height, facts.rate, facts.frames, facts.depth) == (WIDE, HIGH, "24/1", 48, 10)
    assert (facts.tags, facts.encoding) == ((1, 1, 1), "bt709_display")
    assert (facts.timecode, facts.sound, facts.doubts) == ("10:00:00:00", "pcm_s16le", ())


def test_cuts_are_where_pictures_change(found):
    assert found.cuts == (0, 16, 32)


def test_a_slow_change_is_no_cut_and_a_flash_is_no_shot():
    assert clips.cuts_in(np.full(60, 0.04, np.float32)) == (0,)
    flash = np.full(40, 0.01, np.float32)
    flash[[20, 21]] = 0.4
    assert len(clips.cuts_in(flash)) == 2


def test_a_frame_by_number(clip, found):
    given = clips.frames_at(clip, [3, 20, 47], found.stamps)
    for number, rgb in given.items():
        assert np.abs(rgb - picture(number // 16)).mean() < 0.01


def test_a_clip_without_tags_says_so(tmp_path):
    facts = clips.look_through(make(tmp_path / "plain.mov", 1, 8, tagged=False, sound=False)).facts
    assert facts.encoding == ""
    assert any("nothing of its colours" in d for d in facts.doubts)


def test_a_clip_that_ends_in_the_middle(tmp_path):
    whole = make(tmp_path / "whole.mkv", 3, 30, sound=False).read_bytes()
    path = tmp_path / "cut.mkv"
    path.write_bytes(whole[: len(whole) * 6 // 10])
    facts = clips.look_through(path).facts
    assert 0 < facts.frames < 90


def test_frames_that_last_unequally_are_named(tmp_path):
    stamps = [k if k < 8 else k + 9 for k in range(16)]
    facts = clips.look_through(make(tmp_path / "variable.mov", 1, 16, stamps=stamps, sound=False)).facts
    assert any("variable" in d for d in facts.doubts)


def test_looking_through_goes_on_where_a_dead_worker_stood(clip, found, monkeypatch):
    """From every place that was written down: the same cuts, times and facts, and no frame before is looked
    at again."""
    monkeypatch.setattr(clips, "KEPT_EVERY", 7)
    kept: list[clips.Begun] = []
    assert clips.look_through(clip, keep=kept.append) == found
    assert [len(one.stamps) for one in kept] == list(range(7, len(found.stamps) + 1, 7))
    for begun in kept:
        told: list[tuple[int, int]] = []
        assert clips.look_through(clip, tell=lambda *at, told=told: told.append(at), begun=begun) == found
        assert all(done >= len(begun.stamps) for done, _ in told)


def test_a_very_long_clip_is_cut_off_with_a_word(clip, found, monkeypatch):
    monkeypatch.setattr(clips, "FRAME_LIMIT", 20)
    short = clips.look_through(clip)
    assert short.stamps == found.stamps[:20]
    assert any("longer than 20 frames" in doubt for doubt in short.facts.doubts)
    assert not any("middle" in doubt for doubt in short.facts.doubts)


def test_a_clip_that_changes_its_size_is_refused_with_the_frame(tmp_path):
    path = tmp_path / "two.h264"
    for k, (wide, high) in enumerate(((WIDE, HIGH), (2 * WIDE, HIGH))):
        with av.open(str(tmp_path / f"{k}.h264"), "w", format="h264") as out:
            stream = out.add_stream("libx264", rate=RATE, options={"tune": "zerolatency"})
            stream.width, stream.height, stream.pix_fmt = wide, high, "yuv420p10le"
            for n in range(5):
                put(out, stream, np.full((high, wide, 3), 0.4, np.float32), n)
            out.mux(stream.encode(None))
    path.write_bytes((tmp_path / "0.h264").read_bytes() + (tmp_path / "1.h264").read_bytes())
    with pytest.raises(FileError, match="changes its size at frame 6, from 160 × 96 to 320 × 96"):
        clips.look_through(path)


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("no.mov", b"nothing of the sort" * 50, "not a clip"),
        ("empty.mp4", b"", "not a clip"),
    ],
)
def test_what_is_no_clip(tmp_path, name, data, said):
    (tmp_path / name).write_bytes(data)
    with pytest.raises(FileError, match=said):
        clips.look_through(tmp_path / name)


def test_sound_alone_is_no_clip(tmp_path):
    path = tmp_path / "sound.mkv"
    with av.open(str(path), "w") as out:
        track = out.add_stream("pcm_s16le", rate=48000)
        block = av.AudioFrame.from_ndarray(np.zeros((1, 1024), np.int16), format="s16", layout="mono")
        block.sample_rate = 48000
        out.mux(track.encode(block))
        out.mux(track.encode(None))
    with pytest.raises(FileError, match="no picture"):
        clips.look_through(path)


def test_transparency_is_left_out_and_said(tmp_path):
    path = tmp_path / "glass.mov"
    with av.open(str(path), "w") as out:
        stream = out.add_stream("prores_ks", rate=RATE, options={"profile": "4"})
        stream.width, stream.height, stream.pix_fmt = WIDE, HIGH, "yuva444p10le"
        frame = VideoFrame.from_ndarray(np.full((HIGH, WIDE, 4), 128, np.uint8), format="rgba").reformat(
            format="yuva444p10le"
        )
        for k in range(3):
            frame.pts = k
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    found = clips.look_through(path)
    assert any("transparency" in d for d in found.facts.doubts)
    assert clips.frames_at(path, [1], found.stamps)[1].shape == (HIGH, WIDE, 3)


# Rendering

LOOK = Look.model_validate(
    {
        "steps": [
            {"id": "a", "kind": "saturation", "amount": 0.4},
            {"id": "b", "kind": "contrast", "amount": 1.2},
        ]
    }
)


def work(clip, found, kind, **more):
    program = Treatment(LOOK, "bt709_display").compile()
    fields = {"first": 10, "last": 37, "length": 8, **more}
    return ClipWork(
        clip, found, operations=program.operations, end=program.end, kind=CLIP_KINDS[kind], **fields
    ), program


@pytest.mark.parametrize(
    ("kind", "large"),
    [*((kind, False) for kind in CLIP_KINDS), ("h264", True), ("h264_10", True), ("ffv1", True)],
)
def test_a_part_of_a_clip_under_a_look(clip, found, tmp_path, monkeypatch, kind, large):
    if large:
        monkeypatch.setattr(clip_kinds, "LARGE", 0)
    asked, program = work(clip, found, kind)
    target = tmp_path / f"out{asked.kind.suffix}"
    told = []
    left = render(asked, tmp_path / "lengths", target, lambda done, count: told.append((done, count)))
    made = clips.look_through(target)
    assert left == []
    assert told[-1] == (28, 28)
    assert (made.facts.frames, made.facts.depth, made.cuts) == (28, asked.kind.depth, (0, 6, 22))
    assert made.facts.tags == (1, 1, 1)
    # SMPTE ST 12-1: ten frames on at 24 frames a second.
    assert made.facts.timecode == "10:00:00:10"
    assert made.facts.sound == "pcm_s16le"
    for number in (0, 13, 27):
        exact = np.clip(program(picture((10 + number) // 16)), 0, 1)
        assert np.abs(clips.frames_at(target, [number], made.stamps)[number] - exact).mean() < 0.012


@pytest.mark.parametrize("kind", ["h264", "h264_10", "ffv1"])
def test_what_few_can_play_is_refused_before_it_is_made(clip, found, tmp_path, kind):
    """ITU-T H.264, table A-1: frames of 36,864 macroblocks at level 5.2."""
    eight = replace(found, facts=replace(found.facts, width=7680, height=4320))
    asked, _ = work(clip, eight, kind)
    with pytest.raises(FileError, match=r"7680 × 4320 pixels are too many .*Take ProRes 422 HQ, 10 bit$"):
        render(asked, tmp_path / "lengths", tmp_path / "out", lambda done, count: None)
    assert not (tmp_path / "lengths").exists()


def test_lossless_keeps_every_code(clip, found, tmp_path):
    asked, program = work(clip, found, "ffv1")
    target = tmp_path / "out.mkv"
    render(asked, tmp_path / "lengths", target, lambda done, count: None)
    source, made = (
        clips.frames_at(p, [k], f.stamps)[k]
        for p, f, k in ((clip, found, 20), (target, clips.look_through(target), 10))
    )
    to = layout_for(asked.kind, encoding("bt709_display"))
    assert np.abs(made - to_rgb(to_planes(program(source), to), to)).max() < 1e-6


def test_work_that_was_stopped_goes_on_where_it_stood(clip, found, tmp_path):
    asked, _ = work(clip, found, "h264_10")
    straight = tmp_path / "straight.mov"
    render(asked, tmp_path / "once", straight, lambda done, count: None)

    class Stopped(Exception):
        pass

    def stop(done, count):
        if done > 18:
            raise Stopped

    lengths, target = tmp_path / "lengths", tmp_path / "again.mov"
    with pytest.raises(Stopped):
        render(asked, lengths, target, stop)
    assert not target.exists()
    whole = {p.name: p.stat().st_mtime_ns for p in lengths.iterdir()}
    assert sorted(whole) == ["00000.part", "00001.part"]
    told = []
    render(asked, lengths, target, lambda done, count: told.append(done))
    assert told[0] == 16
    assert {n: (lengths / n).stat().st_mtime_ns for n in whole} == whole
    a, b = (clips.look_through(p) for p in (straight, target))
    assert a.stamps == b.stamps
    for number in (0, 15, 16, 27):
        one, other = (clips.frames_at(p, [number], f.stamps)[number] for p, f in ((straight, a), (target, b)))
        assert np.abs(one - other).max() < 1e-6


KILLED = """
import sys
from pathlib import Path
from tests.core.test_clips import clips, render, work
clip, folder = Path(sys.argv[1]), Path(sys.argv[2])
asked, _ = work(clip, clips.look_through(clip), "h264_10")
render(asked, folder / "lengths", folder / "out.mov", lambda done, count: print(done, flush=True))
"""


def test_work_that_was_killed_goes_on_from_what_is_whole(clip, found, tmp_path):
    """SIGKILL: nothing can be tidied up, and nothing half-made counts."""
    asked = [sys.executable, "-c", KILLED, str(clip), str(tmp_path)]
    with subprocess.Popen(
        asked, stdout=subprocess.PIPE, text=True, env={**os.environ, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT}"}
    ) as worker:
        assert worker.stdout is not None
        for line in worker.stdout:
            if int(line) > 18:
                worker.kill()
                break
    assert not (tmp_path / "out.mov").exists()
    work_again, _ = work(clip, found, "h264_10")
    told: list[int] = []
    render(work_again, tmp_path / "lengths", tmp_path / "out.mov", lambda done, count: told.append(done))
    assert told[0] == 16
    assert clips.look_through(tmp_path / "out.mov").facts.frames == 28


def test_unequal_times_are_kept(tmp_path):
    stamps = [k if k < 8 else k + 9 for k in range(16)]
    clip = make(tmp_path / "variable.mov", 1, 16, stamps=stamps, sound=False)
    found = clips.look_through(clip)
    asked, _ = work(clip, found, "h264", first=2, last=14)
    render(asked, tmp_path / "lengths", tmp_path / "out.mov", lambda done, count: None)
    made = clips.look_through(tmp_path / "out.mov").stamps
    wanted = np.array(stamps[2:15]) - 2
    assert np.allclose(np.array(made) / max(made) * wanted[-1], wanted, atol=0.01)


def test_sound_that_has_no_room_is_left_out_and_said(tmp_path):
    path = tmp_path / "opus.mkv"
    with av.open(str(path), "w") as out:
        stream = out.add_stream("libx264", rate=RATE)
        stream.width, stream.height, stream.pix_fmt = WIDE, HIGH, "yuv420p10le"
        track = out.add_stream("libopus", rate=48000)
        for k in range(12):
            put(out, stream, picture(0), k)
        out.mux(stream.encode(None))
        for begin in range(0, 24000, 960):
            block = av.AudioFrame.from_ndarray(np.zeros((1, 960), np.int16), format="s16", layout="mono")
            block.sample_rate, block.pts, block.time_base = 48000, begin, Fraction(1, 48000)
            out.mux(track.encode(block))
        out.mux(track.encode(None))
    found = clips.look_through(path)
    asked, _ = work(path, found, "h264", first=0, last=11)
    left = render(asked, tmp_path / "lengths", tmp_path / "out.mov", lambda done, count: None)
    assert any("opus" in one for one in left)
    assert clips.look_through(tmp_path / "out.mov").facts.sound == ""


def test_timecodes_go_on():
    """SMPTE ST 12-1, section 7: drop frame leaves out 00 and 01 of every minute but each tenth (values worked
    by hand)."""
    assert later("01:00:00:00", 25, Fraction(25)) == "01:00:01:00"
    assert later("23:59:59:23", 1, Fraction(24)) == "00:00:00:00"
    assert later("00:00:59;29", 1, Fraction(30000, 1001)) == "00:01:00;02"
    assert later("00:09:59;29", 1, Fraction(30000, 1001)) == "00:10:00;00"


# At the command line


def call(capsys, *words):
    status = main([*map(str, words), "--json"])
    said = capsys.readouterr()
    return status, json.loads(said.out) if said.out else {}, said.err


def test_apply_puts_a_look_on_a_clip(clip, tmp_path, capsys):
    look = tmp_path / "ours.saucer.json"
    recipe.write(look, LOOK, name="Ours", tables=no_tables)
    status, said, _ = call(capsys, "apply", look, clip, "-o", tmp_path / "out.mkv", "--strength", "0.5")
    assert (status, said["frames"], said["kind"], said["to"]) == (
        0,
        48,
        "FFV1, 10 bit, lossless",
        "bt709_display",
    )
    made = clips.look_through(tmp_path / "out.mkv")
    exact = np.clip(Treatment(LOOK, "bt709_display", strength=0.5).compile()(picture(1)), 0, 1)
    assert np.abs(clips.frames_at(tmp_path / "out.mkv", [20], made.stamps)[20] - exact).mean() < 0.01
    assert made.facts.sound == "pcm_s16le"
    assert [p.name for p in tmp_path.iterdir() if p.name.startswith(".")] == []


def test_apply_takes_a_table_to_a_clip(clip, tmp_path, capsys):
    table = tmp_path / "t.cube"
    table.write_text(cube.write_text(bake(Treatment(LOOK, "bt709_display").compile(), 17)))
    assert (
        call(capsys, "apply", table, clip, "-o", tmp_path / "out.mov", "--quiet")[1]["kind"]
        == "H.264, 10 bit"
    )


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["-o", "out.avi"], "is written as .mov or .mkv"),
        (["-o", "out.mov", "--clip", "ffv1"], "is written as .mkv"),
        (["-o", "out.mov", "--depth", "half"], "cannot be used here"),
    ],
)
def test_what_a_clip_cannot_be_is_said(clip, tmp_path, capsys, monkeypatch, words, said):
    look = tmp_path / "ours.saucer.json"
    recipe.write(look, LOOK, name="Ours", tables=no_tables)
    monkeypatch.chdir(tmp_path)
    status, _, told = call(capsys, "apply", look, clip, *words)
    assert status in (1, 2)
    assert said in told


def test_a_clip_that_says_nothing_must_be_told(tmp_path, capsys):
    look = tmp_path / "ours.saucer.json"
    recipe.write(look, LOOK, name="Ours", tables=no_tables)
    plain = make(tmp_path / "plain.mov", 1, 8, tagged=False, sound=False)
    status, _, told = call(capsys, "apply", look, plain, "-o", tmp_path / "out.mov")
    assert status == 1
    assert "--encoding" in told
    assert call(capsys, "apply", look, plain, "-o", tmp_path / "out.mov", "--encoding", "srgb")[0] == 0


def made_clip(path, codes, *, rotation=0, shape=None):
    """A clip whose luma is the given codes ``(height, width)`` in ten bits: lossless as .mkv, ProRes as
    .mov."""
    encoder, pixels = ("ffv1", "yuv444p10le") if path.suffix == ".mkv" else ("prores_ks", "yuv422p10le")
    with av.open(str(path), "w") as out:
        stream = out.add_stream(encoder, rate=24)
        stream.width, stream.height, stream.pix_fmt = codes.shape[1], codes.shape[0], pixels
        context = stream.codec_context
        context.color_primaries, context.color_trc, context.colorspace, context.color_range = 1, 1, 1, 1
        if shape:
            context.sample_aspect_ratio = shape
        if rotation:
            stream.set_display_rotation(rotation)
        for k in range(6):
            frame = VideoFrame(codes.shape[1], codes.shape[0], pixels)
            for plane, values in zip(
                frame.planes, (codes, np.full_like(codes, 512), np.full_like(codes, 512)), strict=True
            ):
                rows = np.frombuffer(memoryview(plane), dtype="<u2").reshape(codes.shape[0], -1)
                rows[:, : plane.width] = values[:, : plane.width]
            frame.pts, frame.colorspace, frame.color_range, frame.color_primaries, frame.color_trc = (
                k,
                1,
                1,
                1,
                1,
            )
            for packet in stream.encode(frame):
                out.mux(packet)
        for packet in stream.encode(None):
            out.mux(packet)
    return path


def on_clip(tmp_path, capsys, source, name, look=None):
    path = tmp_path / "look.saucer.json"
    recipe.write(path, look or Look(), name="one", tables=no_tables)
    assert main(["apply", str(path), str(source), "-o", str(tmp_path / name), "--json", "--quiet"]) == 0
    return json.loads(capsys.readouterr().out), tmp_path / name


def test_what_lies_above_white_stays_apart_in_a_clip(tmp_path, capsys):
    """Ten-bit narrow range holds 64 to 940 and, above white, up to 1,019 (ITU-R BT.709-6, 4.6). A little
    darker it is still graded."""
    codes = np.repeat(np.linspace(4, 1019, 64).astype(np.uint16)[None], 16, axis=0)
    source = made_clip(tmp_path / "a.mkv", codes)
    darker = Look.model_validate({"steps": [{"kind": "levels", "all": {"out_white": 0.9}}]})
    _, out = on_clip(tmp_path, capsys, source, "out.mkv", darker)
    with av.open(str(out)) as container:
        frame = next(container.decode(video=0))
        made = np.frombuffer(memoryview(frame.planes[0]), dtype="<u2").reshape(16, -1)[0, :64].astype(float)
    wanted = 64 + (codes[0].astype(float) - 64) * 0.9
    assert np.abs(made - wanted)[np.abs(codes[0].astype(float) - 64) > 20].max() <= 2


def test_shape_and_place_of_a_clip_are_kept(tmp_path, capsys):
    codes = np.full((32, 48), 500, np.uint16)
    source = made_clip(tmp_path / "a.mov", codes, shape=Fraction(4, 3))
    answer, out = on_clip(tmp_path, capsys, source, "out.mov")
    with av.open(str(out)) as container:
        assert container.streams.video[0].sample_aspect_ratio == Fraction(4, 3)
    assert "left out" not in answer
    assert on_clip(tmp_path, capsys, source, "out.mkv")[0]["left out"] == ["the shape of its pixels, 4:3"]
    lying = made_clip(tmp_path / "b.mov", codes, rotation=90)
    assert clips.look_through(lying).facts.turned in (90, -90)
    _, out = on_clip(tmp_path, capsys, lying, "turned.mov")
    assert clips.look_through(out).facts.turned == clips.look_through(lying).facts.turned
