"""Review clips: every frame in its place and at its time, colours, slate, sound, chapters, and going on."""

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from saucer_core.errors import FileError
from saucer_core.formats import clips, pictures
from saucer_core.formats.review_writing import (
    MovingSource,
    ReviewShot,
    ReviewSize,
    StillSource,
    frames_of,
    join,
    render_shot,
    usual_rate,
)
from saucer_core.look import Look
from saucer_core.treatment import Treatment

DEMO = Path(__file__).parents[2] / "demo" / "clips" / "from_yard_to_fire_log.mov"
SMALL = ReviewSize(540, True)


def numbered(path: Path, count: int, rate: int, *, tone: float = 0.0) -> Path:
    """A clip whose frames carry their number as a grey, with a sound of that pitch where one is wanted."""
    with av.open(str(path), "w") as out:
        stream = out.add_stream("ffv1", rate=rate)
        stream.width, stream.height, stream.pix_fmt = 320, 180, "yuv444p10le"
        stream.codec_context.time_base = Fraction(1, rate)
        sound = out.add_stream("pcm_s16le", rate=48_000, layout="stereo") if tone else None
        for k in range(count):
            frame = av.VideoFrame.from_ndarray(
                np.full((180, 320, 3), 40 + 2 * k, np.uint8), format="rgb24"
            ).reformat(format="yuv444p10le", dst_colorspace=1, dst_color_range=1)
            frame.colorspace, frame.color_range, frame.pts = 1, 1, k
            frame.time_base = Fraction(1, rate)
            out.mux(stream.encode(frame))
            if sound is not None:
                first, end = round(k * 48_000 / rate), round((k + 1) * 48_000 / rate)
                wave = np.sin(2 * np.pi * tone * np.arange(first, end) / 48_000) * 16_000
                heard = av.AudioFrame.from_ndarray(
                    np.stack([wave, wave]).T.astype(np.int16).reshape(1, -1), format="s16", layout="stereo"
                )
                heard.sample_rate, heard.pts, heard.time_base = 48_000, first, Fraction(1, 48_000)
                out.mux(sound.encode(heard))
        out.mux(stream.encode(None))
    return path


def moving(path: Path, first: int = 0, last: int | None = None) -> MovingSource:
    found = clips.look_through(path)
    return MovingSource(path, found, first, found.facts.frames - 1 if last is None else last)


def shot(source, look=None, slate=None) -> ReviewShot:
    """A shot in BT.709 under a look."""
    program = Treatment(look, "bt709_display", goes_out="bt709_display").compile()
    return ReviewShot(source, program.operations, None, slate)


def review(shots, tmp_path, *, size=SMALL, kind="h264", rate=Fraction(24), name="review"):
    lengths = [
        render_shot(one, size, kind, rate, tmp_path / name / str(k), lambda *_: None)
        for k, one in enumerate(shots)
    ]
    counts = [len(frames_of(one.source, rate)) for one in shots]
    sounds = [one.source if isinstance(one.source, MovingSource) else None for one in shots]
    target = tmp_path / f"{name}.mp4"
    named = [(f"Shot {k}", sound, count) for k, (sound, count) in enumerate(zip(sounds, counts, strict=True))]
    chapters = join(lengths, named, size, kind, rate, target, lambda: None)
    return target, chapters


def greys(path: Path, place=(270, 480)) -> list[float]:
    """The code of 8 bit that each frame shows at a place."""
    with av.open(str(path)) as container:
        return [float(clips.colours_of(f)[place].mean()) * 255 for f in container.decode(video=0)]


@pytest.mark.parametrize("kind", ["h264", "h264_10"])
def test_each_frame_is_the_one_that_its_time_names(tmp_path, kind):
    source = moving(numbered(tmp_path / "a.mkv", 30, 24), 5, 24)
    still = StillSource(np.full((90, 160, 3), 0.5, np.float32))
    target, chapters = review([shot(source), shot(still), shot(source)], tmp_path, kind=kind)
    seen = greys(target)
    assert [c.begin for c in chapters] == [0, 20, 20 + 96]
    wanted = [40 + 2 * k for k in range(5, 25)]
    assert np.abs(np.array(seen[:20]) - wanted).max() <= 1.5
    assert np.abs(np.array(seen[20:116]) - 127.5).max() <= 1.5
    assert np.abs(np.array(seen[116:]) - wanted).max() <= 1.5
    facts = clips.look_through(target).facts
    assert (facts.width, facts.height, facts.frames, facts.rate) == (960, 540, 136, "24/1")
    assert (facts.depth, facts.encoding) == (10 if kind == "h264_10" else 8, "bt709_display")
    with av.open(str(target)) as container:
        held = container.chapters()
    assert [c["metadata"]["title"] for c in held] == ["Shot 0", "Shot 1", "Shot 2"]
    assert [round(c["start"] * c["time_base"] * 24) for c in held] == [0, 20, 116]


def test_another_rate_keeps_the_times(tmp_path):
    """Twelve frames a second are shown twice, fifty are left out: what is on the screen at a time stays."""
    for rate, count in ((12, 24), (50, 100)):
        source = moving(numbered(tmp_path / f"{rate}.mkv", count, rate))
        numbers = frames_of(source, Fraction(24))
        assert len(numbers) == 48
        assert numbers == [k * rate // 24 for k in range(48)]
    assert usual_rate({"24/1": 3.0, "25/1": 9.0, "": 99.0}) == 25
    assert usual_rate({}) == 24


def test_the_picture_keeps_its_shape_and_the_slate_covers_nothing(tmp_path):
    tall = StillSource(np.ones((320, 180, 3), np.float32))
    line = np.full((SMALL.slate_rows, SMALL.width, 3), 200, np.uint8)
    target, _ = review([shot(tall, slate=lambda number: line)], tmp_path)
    with av.open(str(target)) as container:
        page = next(container.decode(video=0)).to_ndarray(format="rgb24").astype(float)
    left, top, width, height = SMALL.place(Fraction(180, 320))
    assert top + height == SMALL.rows - SMALL.slate_rows
    assert width / height == pytest.approx(180 / 320, abs=0.01)
    assert page[top + 2 : top + height - 2, left + 2 : left + width - 2].min() > 250
    assert page[: SMALL.rows - SMALL.slate_rows, : left - 2].max() < 4
    assert np.abs(page[-SMALL.slate_rows + 2 :] - 200).max() < 4
    # Without a line the picture has the whole height.
    assert ReviewSize(540, False).place(Fraction(16, 9)) == (0, 0, 960, 540)


def test_colours_are_those_of_the_look(tmp_path):
    """Against the look computed on the frame by itself; a review clip of 10 bit loses some tenths of a
    code."""
    look = Look.model_validate(
        {
            "input": "film_log",
            "output": "bt709_display",
            "steps": [{"kind": "scene_to_display"}, {"kind": "saturation", "amount": 1.3}],
        }
    )
    source = moving(DEMO, 70, 75)
    program = Treatment(look, "film_log", goes_out="bt709_display").compile()
    one = ReviewShot(source, program.operations, None, None)
    size = ReviewSize(540, False)
    target, _ = review([one], tmp_path, size=size, kind="h264_10", rate=Fraction(source.found.facts.rate))
    found = clips.look_through(target)
    # As a player shows it: codes outside of black and white end there.
    seen = np.clip(clips.frames_at(target, [3], found.stamps)[3], 0, 1)
    stamps = source.found.stamps
    frame = clips.frames_at(source.path, [73], stamps)[73]
    wanted = np.clip(program(pictures.resize(frame, seen.shape[1], seen.shape[0])), 0, 1)
    off = np.abs(pictures.resize(seen, 32, 18) - pictures.resize(wanted, 32, 18)) * 255
    assert np.median(off) < 1
    assert np.percentile(off, 99) < 4


def test_sound_lies_beside_its_pictures(tmp_path):
    """A tone, silence, a tone: each as long as its pictures, within one frame."""
    loud = moving(numbered(tmp_path / "loud.mkv", 48, 24, tone=440.0))
    quiet = moving(numbered(tmp_path / "quiet.mkv", 24, 24))
    target, _ = review([shot(loud), shot(quiet), shot(loud)], tmp_path)
    with av.open(str(target)) as container:
        sound = container.streams.audio[0]
        assert (sound.codec_context.name, sound.codec_context.sample_rate) == ("aac", 48_000)
        heard = [
            (round(float(f.pts * f.time_base) * 48_000), f.to_ndarray()) for f in container.decode(audio=0)
        ]
    wave = np.zeros(48_000 * 6)
    for at, samples in heard:
        begin = max(at, 0)
        part = samples[0][begin - at :]
        wave[begin : begin + len(part)] = part[: len(wave) - begin]
    strength = np.array([np.abs(wave[k * 2000 : (k + 1) * 2000]).mean() for k in range(120)])
    assert strength[2:46].min() > 0.1
    assert strength[50:70].max() < 0.02
    assert strength[74:118].min() > 0.1


def test_a_clip_without_any_sound_has_no_track(tmp_path):
    target, _ = review([shot(moving(numbered(tmp_path / "q.mkv", 10, 24)))], tmp_path)
    assert clips.look_through(target).facts.sound == ""


def test_it_goes_on_where_it_stopped(tmp_path):
    source = moving(numbered(tmp_path / "long.mkv", 60, 24))
    one = shot(source)
    numbers = frames_of(source, Fraction(120))
    assert len(numbers) == 300

    def stop(done: int, count: int) -> None:
        if done > 250:
            raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        render_shot(one, SMALL, "h264", Fraction(120), tmp_path / "parts", stop)
    assert [p.name for p in (tmp_path / "parts").iterdir()] == ["00000.nut"]
    first = (tmp_path / "parts" / "00000.nut").stat().st_mtime_ns
    parts = render_shot(one, SMALL, "h264", Fraction(120), tmp_path / "parts", lambda *_: None)
    assert [p.name for p in parts] == ["00000.nut", "00001.nut"]
    assert parts[0].stat().st_mtime_ns == first


def test_frames_that_are_not_there_are_named(tmp_path):
    source = moving(numbered(tmp_path / "short.mkv", 20, 24))
    (tmp_path / "other.mkv").write_bytes(numbered(tmp_path / "half.mkv", 10, 24).read_bytes())
    broken = MovingSource(tmp_path / "other.mkv", source.found, 5, 19)
    with pytest.raises(FileError, match=r"frame 11 cannot be read"):
        render_shot(shot(broken), SMALL, "h264", Fraction(24), tmp_path / "parts", lambda *_: None)
    assert not list((tmp_path / "parts").iterdir())
