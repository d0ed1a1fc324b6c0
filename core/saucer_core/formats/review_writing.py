"""Review clips: shots played one after the other under their looks, in one file that every browser plays.

All shots are brought to one size and one rate, for a display of BT.709. Under the picture may stand a line of
letters, the *slate*. Each shot is encoded by itself, in lengths of frames; at the end the lengths are put one
after the other without being encoded again, the sound of the shots is laid beside them, and a chapter begins
with every shot.
"""

from collections.abc import Callable, Generator, Iterator, Sequence
from contextlib import closing
from dataclasses import dataclass
from fractions import Fraction
from heapq import merge
from itertools import accumulate, islice, pairwise
from pathlib import Path
from typing import Any, Literal

import av
import numpy as np
from av.audio.resampler import AudioResampler
from av.video.frame import VideoFrame
from av.video.reformatter import Interpolation
from numpy.typing import NDArray

from ..arrays import F32, by_tiles
from ..encodings import encoding
from ..encodings.ycbcr import to_planes
from ..errors import FileError
from ..operations import Operation, fuse, run_all
from . import pictures
from .clip_joining import pictures_in_time
from .clip_kinds import CLIP_KINDS, ClipKind, filled, layout_for, picture_stream
from .clip_writing import LENGTH, Finish
from .clips import Found, colours_of, frames_from, layout_of, opened, upright
from .files import whole

#: What review clips go out in.
OUT = "bt709_display"
SUFFIX = ".mp4"
#: Kinds of clip that browsers play.
ReviewKind = Literal["h264", "h264_10"]
#: Rows of a review clip, and the pixels of each, 16 : 9.
WIDTHS = {540: 960, 720: 1280, 1080: 1920}
#: Rows of the slate for each row of the clip.
SLATE_SHARE = 1 / 24
#: Seconds that a still is shown.
STILL_SECONDS = 4
#: Frames a second where no shot moves.
USUAL_RATE = Fraction(24)
#: Samples a second, and bits a second, of the sound (AAC, ISO/IEC 14496-3).
SAMPLES = 48_000
BITS = 160_000
#: Frames of sound that are encoded at once.
CHUNK = 1024
U8 = NDArray[np.uint8]
#: A picture of the slate ``(rows, pixels, 3)``, codes of 8 bit in ``OUT``, for a frame of the shot's source.
Slate = Callable[[int], U8]


@dataclass(frozen=True)
class ReviewSize:
    """How large a review clip is. rows: of the whole, one of ``WIDTHS``; slate: whether a line stands under
    the picture."""

    rows: int
    slate: bool

    @property
    def width(self) -> int:
        """Pixels of a row."""
        return WIDTHS[self.rows]

    @property
    def slate_rows(self) -> int:
        """Rows that the slate takes: even, so that colour differences of two rows do not mix."""
        return round(self.rows * SLATE_SHARE / 2) * 2 if self.slate else 0

    def place(self, shape: Fraction) -> tuple[int, int, int, int]:
        """Where a picture of that shape, width over height, stands: left, top, width, height; all even."""
        room = self.rows - self.slate_rows
        width = min(self.width, round(room * shape / 2) * 2)
        height = min(room, round(width / shape / 2) * 2)
        return (self.width - width) // 4 * 2, (room - height) // 4 * 2, width, height


@dataclass(frozen=True)
class MovingSource:
    """Frames of a clip. found: the clip as it was looked through; first, last: its frames, both included."""

    path: Path
    found: Found
    first: int
    last: int


@dataclass(frozen=True)
class StillSource:
    """A picture ``(height, width, 3)`` that stands for ``STILL_SECONDS``."""

    rgb: F32


@dataclass(frozen=True)
class ReviewShot:
    """A shot of a review clip. operations: on its colours, which end in ``OUT``, or in what ``finish`` takes.
    finish: done to whole pictures after them, given the frame's number; it gives ``OUT``. slate: the line
    under the picture; ``None`` for none."""

    source: MovingSource | StillSource
    operations: Sequence[Operation]
    finish: Finish | None
    slate: Slate | None


def usual_rate(seconds: dict[str, float]) -> Fraction:
    """The rate that most seconds of the shots have, from the seconds of each rate; ``USUAL_RATE`` for
    none."""
    known = {Fraction(rate): length for rate, length in seconds.items() if rate}
    return max(known, key=lambda rate: (known[rate], rate)) if known else USUAL_RATE


def frames_of(source: MovingSource | StillSource, rate: Fraction) -> list[int]:
    """Which frame of the source each frame of the shot shows, at ``rate`` frames a second; 0 for a still."""
    if isinstance(source, StillSource):
        return [0] * round(STILL_SECONDS * rate)
    if Fraction(source.found.facts.rate or 0) == rate and _is_even(source):
        return list(range(source.first, source.last + 1))
    times = _times(source)
    count = max(round(times[-1] * rate), 1)
    # A frame is shown from its own time on; half a thousandth of a second more is the same time.
    places = np.searchsorted([float(t) for t in times[:-1]], np.arange(count) / float(rate) + 5e-4, "right")
    return [source.first + max(int(k) - 1, 0) for k in places]


def _times(source: MovingSource) -> list[Fraction]:
    """Seconds at which each frame of the source is shown, from its first on, and when the last one ends."""
    stamps = source.found.stamps
    with closing(opened(source.path, source.path.name)) as container:
        base = Fraction(container.streams.video[0].time_base or Fraction(1, 1000))
    shown = [(stamp - stamps[source.first]) * base for stamp in stamps[source.first : source.last + 2]]
    if source.last + 1 == len(stamps):
        shown.append(shown[-1] + 1 / Fraction(source.found.facts.rate or USUAL_RATE))
    return shown


def _is_even(source: MovingSource) -> bool:
    """Whether all frames of the source last equally long, but for the rounding of their times."""
    steps = {b - a for a, b in pairwise(source.found.stamps[source.first : source.last + 1])}
    return not steps or max(steps) - min(steps) <= 1


def render_shot(
    shot: ReviewShot,
    size: ReviewSize,
    kind: ReviewKind,
    rate: Fraction,
    folder: Path,
    tell: Callable[[int, int], None],
) -> list[Path]:
    """Writes the frames of a shot, in lengths that ``join`` takes; gives their files in order.

    folder: where they are kept; those that are there already are not made again. tell: told the frames done
    and all frames, after every few; what it raises ends the work, and the whole lengths stay. Raises
    ``FileError``.
    """
    numbers = frames_of(shot.source, rate)
    folder.mkdir(parents=True, exist_ok=True)
    parts = [folder / f"{k:05d}.nut" for k in range(-(-len(numbers) // LENGTH))]
    for k, part in enumerate(parts):
        wanted = numbers[k * LENGTH : (k + 1) * LENGTH]
        if not part.exists():
            with closing(_pictures(shot, size, wanted)) as made:
                _encode(made, size, CLIP_KINDS[kind], rate, part, _telling(tell, k * LENGTH, len(numbers)))
        tell(k * LENGTH + len(wanted), len(numbers))
    return parts


def _telling(tell: Callable[[int, int], None], before: int, count: int) -> Callable[[int], None]:
    return lambda done: tell(before + done, count)


def _encode(
    frames: Iterator[F32],
    size: ReviewSize,
    kind: ClipKind,
    rate: Fraction,
    part: Path,
    tell: Callable[[int], None],
) -> None:
    end = encoding(OUT)

    def fill(path: Path) -> None:
        with av.open(str(path), "w", format="nut") as out:
            stream = _stream(out, kind, size, rate)
            for number, rgb in enumerate(frames):
                frame = filled(to_planes(rgb, layout_for(kind, end)), kind, end)
                frame.pts, frame.time_base = number, 1 / rate
                for packet in stream.encode(frame):
                    out.mux(packet)
                if number % 6 == 5:
                    tell(number + 1)
            for packet in stream.encode(None):
                out.mux(packet)

    whole(part, fill)


def _stream(out: Any, kind: ClipKind, size: ReviewSize, rate: Fraction) -> Any:
    stream = picture_stream(out, kind, encoding(OUT), (size.width, size.rows), rate, 1 / rate)
    # Every two seconds, so that a chapter or a moment is gone to at once.
    stream.codec_context.gop_size = max(round(2 * rate), 1)
    return stream


def _pictures(shot: ReviewShot, size: ReviewSize, numbers: Sequence[int]) -> Generator[F32, None, None]:
    """Whole frames of the review clip: the picture in its place, the slate under it, black around."""
    operations = fuse(shot.operations)
    last: tuple[int, F32] | None = None
    for number, source, shape in _sources(shot.source, size, numbers):
        if last is None or last[0] != number:
            treated = by_tiles(lambda tile: run_all(operations, tile), source)
            last = number, shot.finish(treated, number) if shot.finish is not None else treated
        left, top, width, height = size.place(shape)
        page = np.zeros((size.rows, size.width, 3), np.float32)
        page[top : top + height, left : left + width] = last[1]
        if shot.slate is not None and size.slate_rows:
            page[-size.slate_rows :] = shot.slate(number).astype(np.float32) / np.float32(255)
        yield page


def _sources(
    source: MovingSource | StillSource, size: ReviewSize, numbers: Sequence[int]
) -> Iterator[tuple[int, F32, Fraction]]:
    """Each frame that is wanted, in its size on the page, as it is before its look; and its shape."""
    if isinstance(source, StillSource):
        shape = Fraction(source.rgb.shape[1], source.rgb.shape[0])
        _, _, width, height = size.place(shape)
        small = pictures.resize(source.rgb, width, height)
        for number in numbers:
            yield number, small, shape
        return
    with closing(opened(source.path, source.path.name)) as container:
        found = source.found
        frames = frames_from(container, found.stamps, numbers[0], source.path.name, found.facts.deinterlaced)
        at, rgb, shape = numbers[0] - 1, None, Fraction(1)
        for number in numbers:
            frame = next(islice(frames, number - at - 1, None), None) if number > at else None
            if frame is None and number > at:
                raise FileError(
                    source.path.name, f"frame {number + 1} cannot be read. Look the clip through again"
                )
            if frame is not None:
                at, shape = number, shape_of(frame, source.found.facts.turned)
                rgb = _in_place(frame, size, shape, source.found.facts.turned)
            assert rgb is not None
            yield number, rgb, shape


def shape_of(frame: VideoFrame, turned: int) -> Fraction:
    """Width over height of a frame as a player shows it."""
    pixel = getattr(frame, "sample_aspect_ratio", None) or Fraction(1)
    shape = Fraction(frame.width, frame.height) * Fraction(pixel)
    return 1 / shape if turned % 180 else shape


def _in_place(frame: VideoFrame, size: ReviewSize, shape: Fraction, turned: int) -> F32:
    """The frame as R'G'B' in its size on the page, upright; its codes go through no transfer function."""
    _, _, width, height = size.place(shape)
    wide, high = (height, width) if turned % 180 else (width, height)
    if (frame.width, frame.height) != (wide, high):
        at = layout_of(frame)
        frame = frame.reformat(
            wide,
            high,
            "gbrp16le" if frame.format.is_rgb else "yuv444p16le",
            src_colorspace=at.matrix,
            dst_colorspace=at.matrix,
            src_color_range=2 if at.full or frame.format.is_rgb else 1,
            dst_color_range=2 if at.full or frame.format.is_rgb else 1,
            interpolation=Interpolation.AREA if wide < frame.width else Interpolation.BICUBIC,
        )
    return upright(colours_of(frame), turned)


@dataclass(frozen=True)
class Chapter:
    """A shot of a finished review clip: what it is called, and the frame of the clip that it begins with."""

    title: str
    begin: int


def join(
    lengths: Sequence[Sequence[Path]],
    shots: Sequence[tuple[str, MovingSource | None, int]],
    size: ReviewSize,
    kind: ReviewKind,
    rate: Fraction,
    target: Path,
    alive: Callable[[], None],
) -> list[Chapter]:
    """Puts the shots of a review clip one after the other; whole or not at all. Gives their chapters.

    lengths: the files of each shot. shots: for each its title, where its sound comes from (``None`` for
    silence), and its number of frames. alive: called now and then; what it raises ends the work.
    """
    counts = [count for _, _, count in shots]
    begins = list(accumulate(counts, initial=0))
    chapters = [Chapter(title, begin) for (title, _, _), begin in zip(shots, begins, strict=False)]

    def fill(path: Path) -> None:
        with av.open(str(path), "w", format="mp4", options={"movflags": "+faststart"}) as out:
            stream = _stream(out, CLIP_KINDS[kind], size, rate)
            parts = [part for some in lengths for part in some]
            sounds = _sounds(out, [source for _, source, _ in shots], begins, rate)
            out.set_chapters(
                [
                    {
                        "id": k,
                        "start": chapter.begin,
                        "end": end,
                        "time_base": 1 / rate,
                        "metadata": {"title": chapter.title},
                    }
                    for k, (chapter, end) in enumerate(zip(chapters, begins[1:], strict=True))
                ]
            )
            moving = pictures_in_time(parts, stream, range(begins[-1] + 1), 1 / rate)
            for number, packet in enumerate(merge(moving, sounds, key=_when)):
                if number % 240 == 0:
                    alive()
                out.mux(packet)

    whole(target, fill)
    return chapters


def _when(packet: Any) -> Fraction:
    return Fraction(packet.dts * packet.time_base)


def _sounds(
    out: Any, sources: Sequence[MovingSource | None], begins: Sequence[int], rate: Fraction
) -> Iterator[Any]:
    """The sound of the shots, one after the other, as AAC; nothing where none has any."""
    if not any(source is not None and source.found.facts.sound for source in sources):
        return iter(())
    stream = out.add_stream("aac", rate=SAMPLES, layout="stereo")
    stream.bit_rate = BITS
    return _encoded(stream, _samples(sources, begins, rate))


def _samples(sources: Sequence[MovingSource | None], begins: Sequence[int], rate: Fraction) -> Iterator[F32]:
    """Samples ``(2, count)`` of all shots: each exactly as long as its pictures, silence where it has no
    sound."""
    for source, (first, end) in zip(sources, pairwise(begins), strict=True):
        left = round(end * SAMPLES / rate) - round(first * SAMPLES / rate)
        if source is not None and source.found.facts.sound:
            for samples in _heard(source):
                yield samples[:, :left]
                left -= min(samples.shape[1], left)
                if not left:
                    break
        while left > 0:
            yield np.zeros((2, min(left, SAMPLES)), np.float32)
            left -= SAMPLES


def _heard(source: MovingSource) -> Iterator[F32]:
    """The sound of a source from its first frame on; silence where it begins later or pauses. What cannot be
    read ends it."""
    with closing(opened(source.path, source.path.name)) as container:
        if not container.streams.audio:
            return
        base = Fraction(container.streams.video[0].time_base or Fraction(1, 1000))
        begin = source.found.stamps[source.first] * base
        stream = container.streams.audio[0]
        at = 0
        turn = AudioResampler(format="fltp", layout="stereo", rate=SAMPLES)
        try:
            container.seek(int(begin * 1_000_000), backward=True)
            for frame in container.decode(stream):
                place = None if frame.pts is None else round((frame.pts * frame.time_base - begin) * SAMPLES)
                for one in turn.resample(frame):
                    samples = one.to_ndarray().astype(np.float32)
                    late = (at if place is None else place) - at
                    # A resampler holds a few samples back; what is less than a frame of picture is no pause.
                    if late > SAMPLES // 100:
                        yield np.zeros((2, late), np.float32)
                        at += late
                    samples = samples[:, max(-late, 0) if at == 0 else 0 :]
                    place = None
                    at += samples.shape[1]
                    yield samples
        except av.FFmpegError:
            return


def _encoded(stream: Any, samples: Iterator[F32]) -> Iterator[Any]:
    """Packets of an encoder that is given samples in frames of its own length."""
    held, at = np.zeros((2, 0), np.float32), 0
    for some in samples:
        held = np.concatenate([held, some], axis=1)
        while held.shape[1] >= CHUNK:
            yield from _packets(stream, held[:, :CHUNK], at)
            held, at = held[:, CHUNK:], at + CHUNK
    if held.shape[1]:
        yield from _packets(stream, held, at)
    yield from stream.encode(None)


def _packets(stream: Any, samples: F32, at: int) -> Iterator[Any]:
    frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(samples), format="fltp", layout="stereo")
    frame.sample_rate, frame.pts, frame.time_base = SAMPLES, at, Fraction(1, SAMPLES)
    yield from stream.encode(frame)
