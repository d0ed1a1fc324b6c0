"""Rendering clips: every frame of a part of one through operations on colours, into a file that an editing
room takes.

The work is cut into *lengths* of frames. Each is encoded by itself and kept whole; work that was stopped goes
on after the last one that is there. At the end the lengths are put one after the other without being encoded
again, and the sound of the part is copied to them.
"""

from collections.abc import Callable, Iterator, Sequence
from contextlib import closing
from dataclasses import dataclass
from fractions import Fraction
from itertools import islice
from pathlib import Path
from typing import Any

import av
import numpy as np
from av.video.frame import VideoFrame
from numpy.typing import NDArray

from ..arrays import F32, by_tiles
from ..encodings import Encoding
from ..encodings.ycbcr import Layout, planes_for, through, to_planes
from ..errors import FileError
from ..operations import Operation, fuse, run_all
from .clips import PIXEL_LIMIT, Found, colours_of, from_stamp, opened, plain, planes_of
from .declared import CICP
from .files import whole

#: Bytes of frames that x264 holds back to look ahead; it holds each twice, as it came and as it is looked at.
HELD_BACK = 128 * 2**20
#: Frames that it holds back at most.
AHEAD = 40
#: Bytes from which on a frame is large: x264 would hold more than half a gigabyte of such frames.
LARGE = 8 * 2**20
#: Threads of an encoder, each of which holds a frame or more. Their number does not follow the cores of the
#: machine, so that memory
#: and bytes are the same on every one.
THREADS = 4
#: The same for large frames.
THREADS_LARGE = 2
#: Pixels of a frame of H.264 at level 5.2, 36,864 blocks of 16 × 16 (ITU-T H.264, table A-1): few devices
#: play larger ones. FFV1 has the same limit here, because FFmpeg's encoder takes 80 bytes of memory a pixel.
LEVEL_52 = 36_864 * 256
#: Frames that are encoded in one go. A worker that dies loses at most these.
LENGTH = 240


@dataclass(frozen=True)
class ClipKind:
    """A kind of clip: what it is called, its suffix, the encoder with its options, how it keeps a picture,
    and what holds its lengths.

    most: pixels of a frame.
    """

    key: str
    label: str
    suffix: str
    encoder: str
    pixels: str
    depth: int
    wide: int
    high: int
    options: tuple[tuple[str, str], ...] = ()
    held: str = "nut"
    most: int = LEVEL_52


CLIP_KINDS = {
    k.key: k
    for k in (
        ClipKind(
            "h264",
            "H.264, 8 bit",
            ".mov",
            "libx264",
            "yuv420p",
            8,
            2,
            2,
            (("preset", "medium"), ("crf", "16")),
        ),
        ClipKind(
            "h264_10",
            "H.264, 10 bit",
            ".mov",
            "libx264",
            "yuv420p10le",
            10,
            2,
            2,
            (("preset", "medium"), ("crf", "15")),
        ),
        ClipKind(
            "prores",
            "ProRes 422 HQ, 10 bit",
            ".mov",
            "prores_ks",
            "yuv422p10le",
            10,
            2,
            1,
            (("profile", "3"),),
            "matroska",
            PIXEL_LIMIT,
        ),
        ClipKind(
            "ffv1",
            "FFV1, 10 bit, lossless",
            ".mkv",
            "ffv1",
            "yuv444p10le",
            10,
            1,
            1,
            (("level", "3"), ("slices", "4"), ("slicecrc", "1")),
        ),
    )
}
#: Sound that a container takes as it is.
_TAKES = {
    ".mov": (
        "aac",
        "alac",
        "mp3",
        "ac3",
        "pcm_s16le",
        "pcm_s24le",
        "pcm_s16be",
        "pcm_s24be",
        "pcm_f32le",
        "pcm_s32le",
    ),
    ".mkv": (
        "aac",
        "alac",
        "mp3",
        "ac3",
        "flac",
        "opus",
        "vorbis",
        "pcm_s16le",
        "pcm_s24le",
        "pcm_s32le",
        "pcm_f32le",
    ),
}
#: H.273: primaries, transfer and matrix of a clip in an encoding; the last alone is always said.
_UNSAID = (2, 2, 1)
Finish = Callable[[F32, int], F32]


def tags_of(at: Encoding) -> tuple[int, int, int]:
    """Numbers of primaries, transfer and matrix (ITU-T H.273) of a clip whose colours are in that
    encoding."""
    if at.key not in CICP:
        return _UNSAID
    primaries, transfer = CICP[at.key][:2]
    return primaries, transfer, 9 if primaries == 9 else 1


def layout_for(kind: ClipKind, at: Encoding) -> Layout:
    """How a kind keeps pictures in an encoding: narrow range, as clips are (BT.709-6, BT.2100-2)."""
    return Layout(kind.depth, kind.wide, kind.high, tags_of(at)[2], full=False)


@dataclass(frozen=True)
class ClipWork:
    """What is to be done. found: the clip as it was looked through. first, last: its frames, both included.
    operations: on the clip's colours. end: what they end in. finish: done to whole pictures after them, given
    the frame's number; ``None`` for none.
    """

    source: Path
    found: Found
    first: int
    last: int
    operations: Sequence[Operation]
    end: Encoding
    kind: ClipKind
    finish: Finish | None = None
    length: int = LENGTH

    @property
    def lengths(self) -> int:
        """How many lengths it is cut into."""
        return -(-(self.last - self.first + 1) // self.length)


def render(work: ClipWork, folder: Path, target: Path, tell: Callable[[int, int], None]) -> list[str]:
    """Writes the clip; whole or not at all. Gives what had to be left out, in words.

    folder: where its lengths are kept; those that are there already are not made again. tell: told the frames
    done and all frames, after every few; what it raises ends the work, and the whole lengths stay. Raises
    ``FileError``.
    """
    _refuse_size(work)
    folder.mkdir(parents=True, exist_ok=True)
    count = work.last - work.first + 1
    parts = [folder / f"{k:05d}.part" for k in range(work.lengths)]
    there = next((k for k, part in enumerate(parts) if not part.exists()), len(parts))
    done = min(there * work.length, count)
    tell(done, count)
    if there < len(parts):
        with closing(opened(work.source, work.source.name)) as container:
            stream = container.streams.video[0]
            if _bytes(stream, work.kind) > LARGE:
                # Several frames at once are decoded faster, but all of them are held.
                stream.thread_type = "SLICE"
            stamp = work.found.stamps[work.first + done]
            frames = from_stamp(container, stream, stamp, work.source.name)
            for part in parts[there:]:
                wanted = min(work.length, count - done)
                _encode(
                    work,
                    stream,
                    islice(frames, wanted),
                    part,
                    done,
                    wanted,
                    lambda n, at=done: tell(at + n, count),  # type: ignore[misc]
                )
                done += wanted
    left: list[str] = []
    whole(target, lambda part: left.extend(_joined(work, parts, part)))
    return left


def _refuse_size(work: ClipWork) -> None:
    facts = work.found.facts
    if facts.width * facts.height > work.kind.most:
        others = " or ".join(k.label for k in CLIP_KINDS.values() if facts.width * facts.height <= k.most)
        size = f"{facts.width} × {facts.height} pixels are too many for {work.kind.label} (up to 4096 × 2304)"
        raise FileError(work.source.name, f"{size}. Take {others}")


def _encode(
    work: ClipWork,
    source: Any,
    frames: Iterator[VideoFrame],
    part: Path,
    before: int,
    wanted: int,
    tell: Callable[[int], None],
) -> None:
    def fill(path: Path) -> None:
        given = 0
        with av.open(str(path), "w", format=work.kind.held) as out:
            stream = _stream(work, out, source)
            for frame in frames:
                made = _treated(work, frame, work.first + before + given)
                made.pts, made.time_base = frame.pts, frame.time_base
                for packet in stream.encode(made):
                    out.mux(packet)
                given += 1
                if given % 6 == 0:
                    tell(given)
            for packet in stream.encode(None):
                out.mux(packet)
        if given < wanted:
            raise FileError(
                work.source.name,
                f"frame {work.first + before + given + 1} cannot be read. Look the clip through again",
            )
        tell(given)

    whole(part, fill)


def _stream(work: ClipWork, out: Any, source: Any) -> Any:
    kind, rate = work.kind, source.average_rate or Fraction(24)
    wide, high = source.codec_context.width, source.codec_context.height
    frame = _bytes(source, kind)
    options = dict(kind.options) | (_bounded(frame) if kind.encoder == "libx264" else {})
    stream = out.add_stream(kind.encoder, rate=rate, options=options)
    context = stream.codec_context
    stream.width, stream.height, stream.pix_fmt = wide, high, kind.pixels
    context.time_base = source.time_base
    if source.sample_aspect_ratio:
        context.sample_aspect_ratio = source.sample_aspect_ratio
    context.thread_type, context.thread_count = "AUTO", THREADS_LARGE if frame > LARGE else THREADS
    # What a player needs to know stands once before the frames, so that lengths can follow one another.
    context.flags |= 1 << 22
    primaries, transfer, matrix = tags_of(work.end)
    context.color_primaries, context.color_trc, context.colorspace, context.color_range = (
        primaries,
        transfer,
        matrix,
        1,
    )
    return stream


def _bytes(source: Any, kind: ClipKind) -> int:
    """Bytes of a frame of the source's size, in 4:2:0."""
    size: int = source.codec_context.width * source.codec_context.height
    return size * 3 // 2 * (2 if kind.depth > 8 else 1)


def _bounded(frame: int) -> dict[str, str]:
    """Options of x264 that keep what it holds within a worker's memory, by the bytes of a frame.

    Large frames refer to the one before alone and none is held back; that costs about a third more bytes of
    file, at the same quality.
    """
    return (
        {"tune": "zerolatency", "refs": "1"}
        if frame > LARGE
        else {"rc-lookahead": str(min(AHEAD, HELD_BACK // (2 * frame)))}
    )


def _treated(work: ClipWork, frame: VideoFrame, number: int) -> VideoFrame:
    to, even = layout_for(work.kind, work.end), plain(frame)
    if work.finish is None and not even.format.is_rgb:
        planes, at = planes_of(even)
        made = planes_for(frame.height, frame.width, to)
        operations = fuse(work.operations)
        through(planes, at, lambda tile: run_all(operations, tile), made, to)
    else:
        operations = fuse(work.operations)
        rgb = by_tiles(lambda tile: run_all(operations, tile), colours_of(even))
        made = to_planes(work.finish(rgb, number) if work.finish is not None else rgb, to)
    out = VideoFrame(frame.width, frame.height, work.kind.pixels)
    for plane, codes in zip(out.planes, made, strict=True):
        _fill(plane, codes, to.depth)
    primaries, transfer, matrix = tags_of(work.end)
    out.colorspace, out.color_range = matrix, 1
    out.color_primaries, out.color_trc = primaries, transfer
    return out


def _fill(plane: Any, codes: NDArray[np.uint16], depth: int) -> None:
    kind = np.uint8 if depth <= 8 else np.dtype("<u2")
    rows = np.frombuffer(plane, dtype=kind).reshape(codes.shape[0], -1)
    rows[:, : codes.shape[1]] = codes


def _stamps(work: ClipWork, rate: Fraction, base: Fraction) -> tuple[int, ...]:
    """When each frame of the part is shown, and when the last one ends."""
    stamps = work.found.stamps
    end = (
        stamps[work.last + 1]
        if work.last + 1 < len(stamps)
        else stamps[work.last] + max(round(1 / rate / base), 1)
    )
    return (*stamps[work.first : work.last + 1], end)


def later(timecode: str, frames: int, rate: Fraction) -> str:
    """A timecode so many frames on (SMPTE ST 12-1: hours, minutes, seconds, frames; drop frame where it has a
    semicolon)."""
    drop, unit = ";" in timecode, max(round(rate), 1)
    hours, minutes, seconds, frame = (int(x) for x in timecode.replace(";", ":").split(":"))
    count = ((hours * 60 + minutes) * 60 + seconds) * unit + frame
    dropped = 2 * max(round(unit / 30), 1)
    if drop:
        total = hours * 60 + minutes
        count -= dropped * (total - total // 10)
    count += frames
    if drop:
        tens, rest = divmod(count, unit * 600 - dropped * 9)
        count += dropped * 9 * tens + (
            dropped * max(rest - dropped, 0) // (unit * 60 - dropped) if rest >= dropped else 0
        )
    f, s, m, h = count % unit, count // unit % 60, count // unit // 60 % 60, count // unit // 3600 % 24
    return f"{h:02d}:{m:02d}:{s:02d}{';' if drop else ':'}{f:02d}"


def _joined(work: ClipWork, parts: list[Path], path: Path) -> list[str]:
    left: list[str] = []
    kind = {".mov": "mov", ".mkv": "matroska"}[work.kind.suffix]
    with (
        closing(opened(work.source, work.source.name)) as source,
        av.open(str(path), "w", format=kind) as out,
    ):
        picture = source.streams.video[0]
        base, rate = picture.time_base or Fraction(1, 1000), picture.average_rate or Fraction(24)
        stamps = _stamps(work, rate, base)
        begin, end = stamps[0] * base, stamps[-1] * base
        timecode = work.found.facts.timecode
        if timecode:
            try:
                out.metadata["timecode"] = later(timecode, work.first, rate)
            except ValueError:
                left.append(f"the timecode {timecode[:20]}, which is none")
        # An encoder set up as for the lengths describes them; it is given nothing to encode.
        stream = _stream(work, out, picture)
        shape = picture.sample_aspect_ratio
        if work.kind.suffix == ".mkv":
            # Its container, as FFmpeg writes it, takes neither along for a picture without a word of it
            # inside.
            left += (
                [f"the shape of its pixels, {shape.numerator}:{shape.denominator}"]
                if shape and shape != 1
                else []
            )
            left += (
                [f"that a player turns it by {abs(work.found.facts.turned)}°"]
                if work.found.facts.turned
                else []
            )
        elif work.found.facts.turned:
            stream.set_display_rotation(work.found.facts.turned)
        pairs = []
        for sound in source.streams.audio:
            if sound.codec_context.name in _TAKES[work.kind.suffix]:
                pairs.append((sound, out.add_stream_from_template(sound)))
            else:
                left.append(f"sound as {sound.codec_context.name}, for which {work.kind.suffix} has no room")
        for packet in _pictures(parts, stream, stamps, base):
            out.mux(packet)
        for packet in _sounds(source, pairs, begin, end):
            out.mux(packet)
    return left


def _packets(part: Path) -> Iterator[Any]:
    with av.open(str(part)) as container:
        yield from (packet for packet in container.demux(video=0) if packet.pts is not None)


def _shown(parts: list[Path]) -> list[int]:
    """For each encoded picture, in the order of decoding, the number of the frame that it shows.

    A length keeps its times only from its own beginning on, and may shift them; their order within it holds.
    """
    numbers: list[int] = []
    for part in parts:
        held = [packet.pts for packet in _packets(part)]
        place = {pts: k for k, pts in enumerate(sorted(held), len(numbers))}
        numbers += [place[pts] for pts in held]
    return numbers


def _pictures(parts: list[Path], stream: Any, stamps: Sequence[int], base: Fraction) -> Iterator[Any]:
    """The encoded pictures in the order they are decoded in, each shown when its frame of the source was.

    stamps: of all frames, and the end of the last. Lengths do not keep the times of decoding: those are given
    here, in the same order and early enough for every picture.
    """
    times = [stamp - stamps[0] for stamp in stamps]
    numbers = _shown(parts)
    early = max((times[k] - times[number] for k, number in enumerate(numbers)), default=0)
    packets = (packet for part in parts for packet in _packets(part))
    for k, (packet, number) in enumerate(zip(packets, numbers, strict=True)):
        packet.pts, packet.dts, packet.duration = (
            times[number],
            times[k] - early,
            times[number + 1] - times[number],
        )
        packet.time_base, packet.stream = base, stream
        yield packet


def _sounds(source: Any, pairs: list[tuple[Any, Any]], begin: Fraction, end: Fraction) -> Iterator[Any]:
    if not pairs:
        return
    made = dict(pairs)
    source.seek(int(begin * 1_000_000), backward=True)
    for packet in source.demux([sound for sound, _ in pairs]):
        if packet.dts is None or packet.pts is None:
            continue
        at = packet.pts * packet.time_base
        if at >= end or at + (packet.duration or 0) * packet.time_base <= begin:
            continue
        shift = round(begin / packet.time_base)
        packet.pts, packet.dts = max(packet.pts - shift, 0), max(packet.dts - shift, 0)
        packet.stream = made[packet.stream]
        yield packet
