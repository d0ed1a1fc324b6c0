"""Clips that lie on their side and clips whose frames hold two fields: upright and whole wherever they are
read."""

from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest
from av.video.frame import VideoFrame
from saucer_core.encodings import encoding
from saucer_core.formats import clips, proxies
from saucer_core.formats.clip_kinds import CLIP_KINDS
from saucer_core.formats.clip_writing import ClipWork, render

from .test_proxies import frames_of, proxied

WIDE, HIGH = 320, 192


def lying(path: Path, rotation: int) -> Path:
    """A clip that is red on the left and blue at the bottom, as it is stored; players turn it."""
    rgb = np.full((HIGH, WIDE, 3), 90, np.uint8)
    rgb[:, : WIDE // 4] = (200, 40, 40)
    rgb[-HIGH // 4 :, WIDE // 2 :] = (40, 40, 200)
    with av.open(str(path), "w") as out:
        stream = out.add_stream("prores_ks", rate=24)
        stream.width, stream.height, stream.pix_fmt = WIDE, HIGH, "yuv422p10le"
        stream.set_display_rotation(rotation)
        for k in range(8):
            frame = VideoFrame.from_ndarray(rgb, format="rgb24").reformat(
                format="yuv422p10le", dst_colorspace=1, dst_color_range=1
            )
            frame.colorspace, frame.color_range, frame.pts = 1, 1, k
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    return path


@pytest.mark.parametrize("rotation", [90, 180, 270])
def test_a_clip_is_upright_in_its_frames_and_in_its_proxy(rotation, tmp_path):
    source = lying(tmp_path / "a.mov", rotation)
    proxy, index, found = proxied(source, tmp_path)
    turned = found.facts.turned
    assert turned % 360 in {rotation, 360 - rotation}
    with av.open(str(source)) as container:
        stored = clips.colours_of(next(container.decode(video=0)))
    wanted = np.rot90(stored, turned // 90)
    one = clips.frames_at(source, [3], found.stamps)[3]
    assert np.array_equal(one, wanted)
    in_order = dict(clips.frames_in_order(source, [2, 5], found.stamps))
    assert np.array_equal(in_order[5], wanted)
    assert (index.width, index.height) == (wanted.shape[1], wanted.shape[0])
    # But for the edges of colour, which 4:2:0 cannot hold.
    assert np.percentile(np.abs(frames_of(proxy)[0] - wanted), 95) < 0.006
    # Red stands where a player shows it: the left of what is stored, turned counterclockwise.
    red = frames_of(proxy)[0][..., 0]
    side = {90: red[-40:], 180: red[:, -40:], 270: red[:40]}[turned % 360]
    assert side.mean() > 0.6


def woven(path: Path, count: int = 12) -> Path:
    """A bar that moves eight pixels a field, on interlaced frames, top field first."""

    def field(time: int) -> np.ndarray:
        rgb = np.full((HIGH, WIDE), 60, np.uint8)
        rgb[:, 20 + 8 * time : 60 + 8 * time] = 200
        return rgb

    with av.open(str(path), "w") as out:
        stream = out.add_stream("libx264", rate=25, options={"crf": "4", "x264-params": "tff=1:keyint=4"})
        stream.width, stream.height, stream.pix_fmt = WIDE, HIGH, "yuv420p"
        stream.codec_context.time_base = Fraction(1, 25)
        for k in range(count):
            both = field(2 * k)
            both[1::2] = field(2 * k + 1)[1::2]
            frame = VideoFrame(WIDE, HIGH, "yuv420p")
            for plane, codes in zip(frame.planes, (both, None, None), strict=True):
                rows = np.frombuffer(memoryview(plane), np.uint8).reshape(plane.height, -1)
                rows[:] = 128
                if codes is not None:
                    rows[:, :WIDE] = codes
            frame.pts, frame.time_base = k, Fraction(1, 25)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    return path


def combed(rgb: np.ndarray) -> float:
    """How much neighbouring rows differ."""
    return float(np.abs(np.diff(rgb[8:-8, :, 1], axis=0)).mean())


def of_its_time(rgb: np.ndarray, number: int) -> bool:
    """Whether the bar stands where one of the frame's two fields has it."""
    begin = float(np.argmax(rgb[HIGH // 2, :, 1] > 0.5))
    return min(abs(begin - (20 + 8 * time)) for time in (2 * number, 2 * number + 1)) <= 2


def test_fields_are_made_whole_frames_by_choice(tmp_path):
    source = woven(tmp_path / "a.mp4")
    found = clips.look_through(source)
    assert found.facts.interlaced
    assert any("interlaced" in doubt for doubt in found.facts.doubts)
    assert not found.facts.deinterlaced
    plain = clips.frames_at(source, [5], found.stamps)[5]
    assert combed(plain) > 0.03
    for number in (0, 5, 11):
        whole = clips.frames_at(source, [number], found.stamps, deinterlaced=True)[number]
        assert combed(whole) < 0.006
        assert of_its_time(whole, number)
    in_order = dict(clips.frames_in_order(source, [4, 5, 9], found.stamps, deinterlaced=True))
    alone = clips.frames_at(source, [9], found.stamps, deinterlaced=True)[9]
    assert np.abs(in_order[9] - alone).max() < 0.02


def test_its_proxy_and_what_is_delivered_are_whole_too(tmp_path):
    source = woven(tmp_path / "a.mp4")
    found = clips.look_through(source)
    wanted = replace(found, facts=replace(found.facts, deinterlaced=True))
    part, target = tmp_path / "0.nut", tmp_path / "proxy.mp4"
    proxies.encode(source, wanted, 0, part, lambda done: None)
    index = proxies.join(source, wanted, [part], target)
    assert len(index.offsets) == 12
    assert max(combed(rgb) for rgb in frames_of(target)) < 0.006
    out = tmp_path / "out.mkv"
    end, kind = encoding("bt709_display"), CLIP_KINDS["ffv1"]
    work = ClipWork(source, wanted, first=2, last=9, operations=(), end=end, kind=kind)
    render(work, tmp_path / "lengths", out, lambda *_: None)
    made = frames_of(out)
    assert len(made) == 8
    assert max(combed(rgb) for rgb in made) < 0.006
    assert all(of_its_time(rgb, 2 + k) for k, rgb in enumerate(made))
