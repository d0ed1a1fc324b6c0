"""Renders the demo's clip from its scenes: three shots in film log, 10 bit, with sound and timecode. ``python -m demo.render.render_clip``.

A slow move along the yard, the fire that breathes, the wheel that is passed by. Small on purpose: it is to be tried with, not admired.
"""

from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.video.frame import VideoFrame
from saucer_core.arrays import F32
from saucer_core.encodings import encoding, meet
from saucer_core.encodings.ycbcr import Layout, to_planes
from saucer_core.formats import pictures

SCENES = Path(__file__).parents[1] / "scenes"
CLIP = Path(__file__).parents[1] / "clips" / "from_yard_to_fire_log.mov"
#: Pixels.
WIDTH = 640
#: Pixels.
HEIGHT = 360
#: Frames a second.
RATE = 24
#: Length in frames.
FRAMES = 44
LAYOUT = Layout(10, 2, 2, 1, full=False)
SOUND = 48_000


def _window(picture: F32, x: float, y: float) -> F32:
    """A part of the picture from a place between pixels on, bilinear."""
    left, top = int(x), int(y)
    a, b = np.float32(x - left), np.float32(y - top)
    part = picture[top : top + HEIGHT + 1, left : left + WIDTH + 1]
    rows = part[:, :-1] * (1 - a) + part[:, 1:] * a
    return np.ascontiguousarray(rows[:-1] * (1 - b) + rows[1:] * b, dtype=np.float32)


def _shot(scene: str, wide: int, move: Callable[[float], tuple[float, float, float]]) -> Iterator[F32]:
    """Frames of light. wide: what the scene is scaled to; move: where the window is, as shares of what it can move, and the light."""
    light, _ = pictures.read(SCENES / f"{scene}.exr")
    scaled = pictures.resize(light, wide, round(light.shape[0] * wide / light.shape[1]))
    reach = (scaled.shape[1] - WIDTH - 2, scaled.shape[0] - HEIGHT - 2)
    for k in range(FRAMES):
        x, y, gain = move(k / (FRAMES - 1))
        yield _window(scaled, x * reach[0], y * reach[1]) * np.float32(gain)


def frames() -> Iterator[F32]:
    """All frames, linear light of the scene."""
    yield from _shot("yard_noon", 840, lambda t: (0.1 + 0.7 * t, 0.5, 0.7))
    yield from _shot("kiln_night", 760, lambda t: (0.5, 0.2 + 0.5 * t, 1.5 + 0.25 * np.sin(9 * t) + 0.1 * np.sin(31 * t)))
    yield from _shot("wheel_window", 800, lambda t: (0.9 - 0.8 * t, 0.4, 1.0))


def main() -> None:
    """Writes the clip."""
    CLIP.parent.mkdir(exist_ok=True)
    light, log = encoding("linear_709"), encoding("film_log")
    with av.open(str(CLIP), "w", format="mov") as out:
        out.metadata["timecode"] = "10:00:00:00"
        stream = out.add_stream("libx264", rate=RATE, options={"crf": "18", "preset": "slow"})
        stream.width, stream.height, stream.pix_fmt = WIDTH, HEIGHT, "yuv420p10le"
        stream.codec_context.colorspace, stream.codec_context.color_range = 1, 1
        sound = out.add_stream("aac", rate=SOUND)
        for count, rgb in enumerate(frames()):
            frame = VideoFrame(WIDTH, HEIGHT, "yuv420p10le")
            for plane, codes in zip(frame.planes, to_planes(meet(rgb, light, log), LAYOUT), strict=True):
                rows = np.frombuffer(plane, dtype="<u2").reshape(codes.shape[0], -1)
                rows[:, : codes.shape[1]] = codes
            frame.colorspace, frame.color_range = 1, 1
            frame.pts, frame.time_base = count, Fraction(1, RATE)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
        total = SOUND * 3 * FRAMES // RATE
        at = np.arange(total) / SOUND
        hum = (0.06 * np.sin(2 * np.pi * 110 * at) * (1 + 0.4 * np.sin(2 * np.pi * 0.7 * at))).astype(np.float32)
        for begin in range(0, total, 1024):
            block = av.AudioFrame.from_ndarray(hum[None, begin : begin + 1024], format="fltp", layout="mono")
            block.sample_rate, block.pts, block.time_base = SOUND, begin, Fraction(1, SOUND)
            out.mux(sound.encode(block))
        out.mux(sound.encode(None))


if __name__ == "__main__":
    main()
