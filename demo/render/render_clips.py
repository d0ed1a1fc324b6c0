"""Makes the demo's clips from its rendered scenes, in film log, 10 bit: ``python -m demo.render.render_clips [NAME ...]``.

Small on purpose: they are to be tried with, not admired. The scenes were rendered once; here windows move over them and light changes.
"""

import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import partial
from pathlib import Path

import av
import numpy as np
from av.video.frame import VideoFrame
from saucer_core.arrays import F32
from saucer_core.encodings import encoding, meet
from saucer_core.encodings.ycbcr import Layout, to_planes
from saucer_core.formats import pictures

SCENES = Path(__file__).parents[1] / "scenes"
CLIPS = Path(__file__).parents[1] / "clips"
#: Frames a second.
RATE = 24
#: Length of a shot of the clip that is cut, in frames.
CUT = 44
#: Length of a clip of one shot, in frames.
LONG = 120
LAYOUT = Layout(10, 2, 2, 1, full=False)
SOUND = 48_000


@dataclass(frozen=True)
class DemoClip:
    """A clip. frames: linear light of the scene; crf: how finely it is encoded."""

    file: str
    width: int
    height: int
    timecode: str
    frames: Callable[[int, int], Iterator[F32]]
    crf: int = 18
    sound: bool = False


def _scene(name: str, wide: int) -> F32:
    light, _ = pictures.read(SCENES / f"{name}.exr")
    return pictures.resize(light, wide, round(light.shape[0] * wide / light.shape[1]))


def _window(picture: F32, x: float, y: float, width: int, height: int) -> F32:
    """A part of the picture from a place between pixels on, bilinear."""
    left, top = int(x), int(y)
    a, b = np.float32(x - left), np.float32(y - top)
    part = picture[top : top + height + 1, left : left + width + 1]
    rows = part[:, :-1] * (1 - a) + part[:, 1:] * a
    return np.ascontiguousarray(rows[:-1] * (1 - b) + rows[1:] * b, dtype=np.float32)


def _shot(
    scene: str, wide: int, move: Callable[[float], tuple[float, float, float]], frames: int, width: int, height: int
) -> Iterator[F32]:
    """wide: what the scene is scaled to; move: where the window is, as shares of what it can move, and the light."""
    scaled = _scene(scene, wide)
    reach = (scaled.shape[1] - width - 2, scaled.shape[0] - height - 2)
    for k in range(frames):
        x, y, gain = move(k / max(frames - 1, 1))
        yield _window(scaled, x * reach[0], y * reach[1], width, height) * np.float32(gain)


def yard_to_fire(width: int, height: int) -> Iterator[F32]:
    """A slow move along the yard, the fire that breathes, the wheel that is passed by."""
    shot = partial(_shot, frames=CUT, width=width, height=height)
    yield from shot("yard_noon", 840, lambda t: (0.1 + 0.7 * t, 0.5, 0.7))
    yield from shot("kiln_night", 760, lambda t: (0.5, 0.2 + 0.5 * t, 1.5 + 0.25 * np.sin(9 * t) + 0.1 * np.sin(31 * t)))
    yield from shot("wheel_window", 800, lambda t: (0.9 - 0.8 * t, 0.4, 1.0))


def yard_at_dusk(width: int, height: int) -> Iterator[F32]:
    """A slow pan over the yard at dusk, under a clean sky."""
    yield from _shot("yard_dusk", 1280, lambda t: (0.05 + 0.9 * t, 0.0, 1.9), LONG, width, height)


def fire_at_night(width: int, height: int) -> Iterator[F32]:
    """The kiln mouth at night: its fire flickers, most where it is near, and the dark is grainy."""
    rng = np.random.default_rng(24)
    down, across = np.mgrid[0:height, 0:width].astype(np.float32)
    near = np.exp(-(((across / width - 0.5) / 0.35) ** 2 + ((down / height - 0.55) / 0.4) ** 2))[..., None]
    steady = list(_shot("kiln_night", width + 30, lambda t: (0.5, 0.5, 1.4), 1, width, height))[0]
    breath = np.convolve(rng.normal(0, 1, LONG + 8), np.hanning(9) / 4, "valid")[:LONG]
    for k in range(LONG):
        # It breathes, and from the middle on it flickers from one frame to the next.
        flicker = 0.16 * breath[k] + (0.18 * (-1) ** k * np.sin(np.pi * (k - 60) / 30) if 60 <= k < 90 else 0.0)
        light = steady * (1 + near * np.float32(flicker))
        yield light + rng.normal(0, 1, light.shape).astype(np.float32) * (0.0012 + 0.012 * np.sqrt(np.maximum(light, 0)))


#: Where the heads stand in the scene, as shares of its width and height: middle, half width, and how far each turns.
_HEADS = ((0.19, 0.36, 0.12, 1.0), (0.5, 0.34, 0.11, -0.7), (0.82, 0.34, 0.11, 0.8))


def heads_into_shade(width: int, height: int) -> Iterator[F32]:
    """The clay heads turn a little, while the light of the window leaves them one after the other."""
    scene = _scene("clay_heads", width)[:height]
    down, across = np.mgrid[0:height, 0:width].astype(np.float32)
    x, y = across / width, down / height
    for k in range(LONG):
        t = k / (LONG - 1)
        shift = np.zeros_like(x)
        for middle, top, half, turn in _HEADS:
            # A head turns like a cylinder: its middle moves most, its outline stays.
            inside = np.clip(1 - ((x - middle) / half) ** 2, 0, 1) * np.clip(1 - ((y - top) / 0.3) ** 2, 0, 1)
            shift += inside * turn * 0.016 * np.sin(2 * np.pi * t)
        from_x = np.clip(across + shift * width, 0, width - 1.001)
        left = from_x.astype(np.int32)
        part = (from_x - left)[..., None]
        rows = down.astype(np.int32)
        moved = scene[rows, left] * (1 - part) + scene[rows, left + 1] * part
        # The edge of the shade, soft as a window makes it, goes from the left to the right.
        lit = 1 / (1 + np.exp((1.5 * t - 0.25 - x) / 0.07))
        yield (moved * (0.16 + 1.9 * lit[..., None])).astype(np.float32)


DEMO_CLIPS = (
    DemoClip("from_yard_to_fire_log.mov", 640, 360, "10:00:00:00", yard_to_fire, sound=True),
    DemoClip("heads_into_shade_log.mov", 960, 540, "14:07:22:00", heads_into_shade),
    DemoClip("fire_at_night_log.mov", 960, 540, "21:30:10:00", fire_at_night, crf=19, sound=True),
    DemoClip("yard_at_dusk_log.mov", 960, 540, "19:44:00:00", yard_at_dusk, crf=12),
)


def write(clip: DemoClip) -> None:
    """Writes a clip: H.264 of 10 bit in MOV, with timecode."""
    light, log = encoding("linear_709"), encoding("film_log")
    with av.open(str(CLIPS / clip.file), "w", format="mov") as out:
        out.metadata["timecode"] = clip.timecode
        stream = out.add_stream("libx264", rate=RATE, options={"crf": str(clip.crf), "preset": "slow"})
        stream.width, stream.height, stream.pix_fmt = clip.width, clip.height, "yuv420p10le"
        stream.codec_context.colorspace, stream.codec_context.color_range = 1, 1
        sound = out.add_stream("aac", rate=SOUND) if clip.sound else None
        count = 0
        for count, rgb in enumerate(clip.frames(clip.width, clip.height), 1):
            frame = VideoFrame(clip.width, clip.height, "yuv420p10le")
            for plane, codes in zip(frame.planes, to_planes(meet(rgb, light, log), LAYOUT), strict=True):
                rows = np.frombuffer(plane, dtype="<u2").reshape(codes.shape[0], -1)
                rows[:, : codes.shape[1]] = codes
            frame.colorspace, frame.color_range = 1, 1
            frame.pts, frame.time_base = count - 1, Fraction(1, RATE)
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
        if sound is not None:
            _hum(out, sound, SOUND * count // RATE)


def _hum(out, sound, total: int) -> None:
    at = np.arange(total) / SOUND
    hum = (0.06 * np.sin(2 * np.pi * 110 * at) * (1 + 0.4 * np.sin(2 * np.pi * 0.7 * at))).astype(np.float32)
    for begin in range(0, total, 1024):
        block = av.AudioFrame.from_ndarray(hum[None, begin : begin + 1024], format="fltp", layout="mono")
        block.sample_rate, block.pts, block.time_base = SOUND, begin, Fraction(1, SOUND)
        out.mux(sound.encode(block))
    out.mux(sound.encode(None))


def main(names: list[str]) -> None:
    """Writes the clips of that name; all of them without one."""
    CLIPS.mkdir(exist_ok=True)
    for clip in DEMO_CLIPS:
        if not names or Path(clip.file).stem in names:
            write(clip)


if __name__ == "__main__":
    main(sys.argv[1:])
