"""Proxies of clips: codes that come back, every frame by its bytes, times, sound, parts, and clips that are
broken."""

import subprocess
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from av.video.frame import VideoFrame
from saucer_core.encodings.ycbcr import Layout
from saucer_core.errors import FileError
from saucer_core.formats import clips, proxies
from saucer_core.formats.clips import colours_of

from ..moving import BLOCK, RATE, number_of, written

ROOT = Path(__file__).parents[2]
CLIP = ROOT / "demo/clips/from_yard_to_fire_log.mov"


def proxied(path: Path, folder: Path):
    """The proxy of a clip and its index."""
    found = clips.look_through(path)
    parts = []
    for k in range(proxies.parts_of(found)):
        parts.append(folder / f"{k}.nut")
        proxies.encode(path, found, k, parts[-1], lambda done: None)
    return folder / "proxy.mp4", proxies.join(path, found, parts, folder / "proxy.mp4"), found


def frames_of(path: Path) -> list[np.ndarray]:
    with av.open(str(path)) as container:
        return [colours_of(frame) for frame in container.decode(video=0)]


def quality(one: np.ndarray, other: np.ndarray) -> float:
    """Peak signal to noise in dB."""
    return float(-10 * np.log10(np.mean((one.astype(np.float64) - other) ** 2)))


LAYOUTS = {
    "BT.709, 10 bit, 4:2:2": ("yuv422p10le", Layout(10, 2, 1, 1, full=False)),
    "BT.601, 8 bit, 4:2:0": ("yuv420p", Layout(8, 2, 2, 6, full=False)),
    "BT.2020, 12 bit, 4:4:4, full": ("yuv444p12le", Layout(12, 1, 1, 9, full=True)),
    "R'G'B', 10 bit": ("gbrp10le", Layout(10, 1, 1, 1, full=True)),
}


@pytest.mark.parametrize("name", LAYOUTS)
def test_codes_come_back_whatever_the_clip_holds_them_in(name, tmp_path):
    pixels, layout = LAYOUTS[name]
    path = written(tmp_path / "clip.mkv", 14, pixels=pixels, layout=layout)
    proxy, index, _ = proxied(path, tmp_path)
    assert (index.width, index.height, index.depth) == (256, 160, 10)
    # Below the blocks, whose colour edges 4:2:0 cannot hold.
    for before, after in zip(frames_of(path), frames_of(proxy), strict=True):
        assert quality(before[BLOCK * 2 :], after[BLOCK * 2 :]) >= 45


def test_luma_of_the_demo_clip_comes_back_within_45_db(tmp_path):
    proxy, index, _ = proxied(CLIP, tmp_path)
    assert index.codec.startswith("av01.0.")
    assert index.codec.endswith(".10")
    with av.open(str(CLIP)) as source, av.open(str(proxy)) as made:
        for before, after in zip(source.decode(video=0), made.decode(video=0), strict=True):
            luma = [
                np.frombuffer(memoryview(f.planes[0]), "<u2").reshape(f.height, -1)[:, : f.width]
                for f in (before, after)
            ]
            assert quality(luma[0] / 1023, luma[1] / 1023) >= 45


def test_every_frame_is_found_by_its_bytes_and_begins_at_a_key_frame(tmp_path, monkeypatch):
    monkeypatch.setattr(proxies, "PART", 2 * proxies.KEY)
    path = written(tmp_path / "clip.mkv", 100)
    proxy, index, found = proxied(path, tmp_path)
    assert proxies.parts_of(found) == 5
    data = proxy.read_bytes()
    assert len(index.offsets) == len(index.sizes) == 100
    assert index.keys[:3] == (0, 12, 24)
    for number in np.random.default_rng(24).permutation(100)[:30]:
        first = max(k for k in index.keys if k <= number)
        decoder: Any = av.CodecContext.create("libdav1d", "r")
        got: list[VideoFrame] = []
        for k in range(first, number + 1):
            got += decoder.decode(av.Packet(data[index.offsets[k] : index.offsets[k] + index.sizes[k]]))
        got += decoder.decode(None)
        assert number_of(colours_of(got[-1])) == number


def test_unequal_times_are_kept(tmp_path):
    stamps = [0, 1, 2, 5, 6, 7, 20, 21]
    path = written(tmp_path / "clip.mkv", 8, stamps=stamps)
    _, index, _ = proxied(path, tmp_path)
    shown = [at * RATE / index.timescale for at in index.shown]
    assert np.allclose(shown[:8], stamps, atol=0.03)
    assert index.timecode == "10:00:00:00"


def test_sound_begins_when_it_did(tmp_path):
    path = written(tmp_path / "clip.mov", 48, sound=0.75, codec="prores_ks")
    proxy, index, _ = proxied(path, tmp_path)
    assert index.sound
    loud = []
    with av.open(str(proxy)) as container:
        for frame in container.decode(audio=0):
            data = frame.to_ndarray()[0].astype(np.float64)
            loud += [(float(frame.time) + k / 48000, abs(data[k])) for k in range(0, len(data), 7)]
    begun = next(at for at, level in loud if level > 0.05)
    assert abs(begun - 0.75) < 1 / RATE
    assert not proxied(written(tmp_path / "silent.mkv", 3), tmp_path)[1].sound


def test_sound_that_lasts_longer_than_the_pictures_stays(tmp_path):
    path = written(tmp_path / "clip.mov", 12, sound=0.1, heard=2.5, codec="prores_ks")
    proxy, index, _ = proxied(path, tmp_path)
    assert len(index.offsets) == 12
    assert index.shown[-1] / index.timescale == pytest.approx(0.5)
    with av.open(str(proxy)) as container:
        last = max(frame.time + frame.samples / 48000 for frame in container.decode(audio=0))
    assert last == pytest.approx(2.5, abs=0.1)
    assert [number_of(rgb) for rgb in frames_of(proxy)] == list(range(12))


#: Bytes that making a proxy takes at 3840 × 2160, with what Python and its packages take.
MOST = 2**30
LARGE = """
import sys
from pathlib import Path
from saucer_core.formats import clips, proxies
path = Path(sys.argv[1])
found = clips.look_through(path)
proxies.encode(path, found, 0, path.parent / "0.nut", lambda done: None)
proxies.join(path, found, [path.parent / "0.nut"], path.parent / "proxy.mp4")
# Of this process alone, and not of the one that began it.
told = Path("/proc/self/status").read_text().split("VmHWM:")[1].split()[0]
print(int(told) * 1024)
"""


def test_a_large_clip_takes_bounded_memory(tmp_path):
    path = tmp_path / "large.mp4"
    with av.open(str(path), "w") as out:
        stream = out.add_stream("libx264", rate=RATE, options={"preset": "ultrafast", "crf": "10"})
        stream.width, stream.height, stream.pix_fmt = 3840, 2160, "yuv420p10le"
        rgb = np.random.default_rng(4).integers(0, 255, (270, 480, 3), dtype=np.uint8)
        frame = VideoFrame.from_ndarray(rgb, format="rgb24").reformat(3840, 2160, "yuv420p10le")
        for k in range(40):
            frame.pts = k
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    ran = subprocess.run([sys.executable, "-c", LARGE, str(path)], capture_output=True, text=True, check=True)
    assert int(ran.stdout) < MOST


@pytest.mark.parametrize(
    ("width", "height", "size"),
    [(3840, 2160, (1280, 720)), (641, 361, (640, 360)), (90, 3000, (90, 3000)), (1, 1, (2, 2))],
)
def test_size_is_even_and_keeps_the_shape(width, height, size):
    found = clips.look_through(CLIP)
    assert proxies.size_of(replace(found.facts, width=width, height=height)) == size


def test_one_frame_and_odd_sizes_play(tmp_path):
    path = written(tmp_path / "clip.mkv", 1, size=(213, 121))
    _, index, _ = proxied(path, tmp_path)
    assert (index.width, index.height, len(index.offsets)) == (212, 120, 1)


def test_a_clip_that_breaks_off_gives_what_is_whole(tmp_path):
    whole = written(tmp_path / "whole.mkv", 40)
    path = tmp_path / "cut.mkv"
    path.write_bytes(whole.read_bytes()[: whole.stat().st_size * 2 // 3])
    _, index, found = proxied(path, tmp_path)
    assert 10 < len(index.offsets) == found.facts.frames < 40


def test_a_part_is_whole_or_not_there(tmp_path):
    found = clips.look_through(CLIP)

    class Stopped(Exception):
        pass

    def tell(done: int) -> None:
        raise Stopped

    with pytest.raises(Stopped):
        proxies.encode(CLIP, found, 0, tmp_path / "part.nut", tell)
    assert not list(tmp_path.iterdir())
    proxies.encode(CLIP, found, 0, tmp_path / "part.nut", lambda done: None)
    with pytest.raises(FileError, match="Make it again"):
        proxies.join(CLIP, found, [], tmp_path / "proxy.mp4")
    assert [p.name for p in tmp_path.iterdir()] == ["part.nut"]
