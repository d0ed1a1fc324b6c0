"""Made clips whose frames carry their number in pixels."""

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.video.frame import VideoFrame
from saucer_core.encodings.ycbcr import Layout, to_planes

RATE = 24
#: Pixels a side of the blocks that hold the bits of a frame's number.
BLOCK = 16


def numbered(number: int, width: int = 256, height: int = 160, gentle: bool = False) -> np.ndarray:
    """A soft picture, of pale colours where it is gentle. Along its top, blocks that are black or white hold
    the frame's number."""
    down, across = np.mgrid[0:height, 0:width].astype(np.float32)
    rgb = np.stack([across / width, down / height, 0.5 + 0.3 * np.sin(across / 40 + number / 9)], axis=-1)
    if gentle:
        rgb = 0.42 + 0.16 * (rgb - 0.5)
    for bit in range(12):
        rgb[:BLOCK, bit * BLOCK : (bit + 1) * BLOCK] = 1.0 if number >> bit & 1 else 0.0
    return (0.05 + 0.9 * rgb).astype(np.float32)


def number_of(rgb: np.ndarray) -> int:
    """The number that a picture of ``numbered`` holds."""
    blocks = rgb[:BLOCK, : 12 * BLOCK, 1].reshape(BLOCK, 12, BLOCK).mean(axis=(0, 2))
    return sum(1 << bit for bit in range(12) if blocks[bit] > 0.5)


def written(
    path: Path,
    count: int,
    *,
    pixels="yuv422p10le",
    layout=None,
    stamps=None,
    sound=0.0,
    heard=0.0,
    codec="ffv1",
    size: tuple[int, int] = (256, 160),
    gentle: bool = False,
    reel: str = "",
) -> Path:
    """A lossless clip of numbered frames. reel: what it says that it was recorded on. sound: seconds after
    the first frame at which a tone begins; none for 0. heard: when it ends; with the pictures for 0."""
    layout = layout or Layout(10, 2, 1, 1, full=False)
    with av.open(str(path), "w") as out:
        out.metadata["timecode"] = "10:00:00:00"
        if reel:
            out.metadata["reel_name"] = reel
        stream = out.add_stream(codec, rate=RATE)
        stream.width, stream.height, stream.pix_fmt = *size, pixels
        context = stream.codec_context
        context.color_primaries, context.color_trc = (9, 1) if layout.matrix == 9 else (1, 1)
        context.colorspace, context.color_range = (
            (0 if pixels[0] == "g" else layout.matrix),
            2 if layout.full else 1,
        )
        track = out.add_stream("pcm_s16le", rate=48000) if sound else None
        for k in range(count):
            rgb = numbered(k, *size, gentle=gentle)
            if pixels.startswith("gbr"):
                codes = np.round(rgb * 1023).astype(np.uint16)
                planes = [codes[..., c] for c in (1, 2, 0)]
            else:
                planes = list(to_planes(rgb, layout))
            frame = VideoFrame(rgb.shape[1], rgb.shape[0], pixels)
            for plane, held in zip(frame.planes, planes, strict=True):
                rows = np.frombuffer(memoryview(plane), dtype="<u2" if layout.depth > 8 else "u1")
                rows.reshape(held.shape[0], -1)[:, : held.shape[1]] = held
            frame.color_range, frame.colorspace = context.color_range, context.colorspace
            frame.pts, frame.time_base = stamps[k] if stamps else k, Fraction(1, RATE)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
        if track is not None:
            _tone(out, track, sound, heard or count / RATE)
    return path


def _tone(out, track, begin: float, end: float) -> None:
    times = np.arange(round((end - begin) * 48000))
    tone = (np.sin(times * 2 * np.pi * 1000 / 48000) * 12000).astype(np.int16)
    for at in range(0, len(tone), 1024):
        block = av.AudioFrame.from_ndarray(tone[None, at : at + 1024], format="s16", layout="mono")
        block.sample_rate, block.pts = 48000, round(begin * 48000) + at
        block.time_base = Fraction(1, 48000)
        out.mux(track.encode(block))
    out.mux(track.encode(None))
