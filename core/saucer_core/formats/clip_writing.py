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
from av.video.frame import VideoFrame

from ..arrays import F32, by_tiles
from ..encodings import Encoding
from ..encodings.ycbcr import planes_for, through, to_planes
from ..errors import FileError
from ..operations import Operation, fuse, run_all
from .clip_joining import pictures_in_time
from .clip_kinds import CLIP_KINDS, ClipKind, filled, is_large, layout_for, picture_stream
from .clips import Found, colours_of, frames_from, opened, plain, planes_of
from .files import whole
from .timecode import later

#: Frames that are encoded in one go. A worker that dies loses at most these.
LENGTH = 240


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
Finish = Callable[[F32, int], F32]


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
            if is_large(_size(stream), work.kind):
                # Several frames at once are decoded faster, but all of them are held.
                stream.thread_type = "SLICE"
            found = work.found
            frames = frames_from(
                container, found.stamps, work.first + done, work.source.name, found.facts.deinterlaced
            )
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


def _size(source: Any) -> tuple[int, int]:
    return source.codec_context.width, source.codec_context.height


def _stream(work: ClipWork, out: Any, source: Any) -> Any:
    stream = picture_stream(
        out, work.kind, work.end, _size(source), source.average_rate or Fraction(24), source.time_base
    )
    if source.sample_aspect_ratio:
        stream.codec_context.sample_aspect_ratio = source.sample_aspect_ratio
    return stream


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
    return filled(made, work.kind, work.end)


def _stamps(work: ClipWork, rate: Fraction, base: Fraction) -> tuple[int, ...]:
    """When each frame of the part is shown, and when the last one ends."""
    stamps = work.found.stamps
    end = (
        stamps[work.last + 1]
        if work.last + 1 < len(stamps)
        else stamps[work.last] + max(round(1 / rate / base), 1)
    )
    return (*stamps[work.first : work.last + 1], end)


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
        for packet in pictures_in_time(parts, stream, stamps, base):
            out.mux(packet)
        for packet in _sounds(source, pairs, begin, end):
            out.mux(packet)
    return left


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
