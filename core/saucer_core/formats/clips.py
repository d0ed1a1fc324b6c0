"""Reading clips, through PyAV: what a file says of itself, its frames as colours, and where one shot ends and
the next begins."""

from collections.abc import Callable, Iterator, Sequence
from contextlib import closing
from dataclasses import dataclass, field
from itertools import chain, islice
from pathlib import Path
from typing import Any

import av
import numpy as np
from av.filter import Graph
from av.video.frame import VideoFrame
from numpy.typing import NDArray

from ..arrays import F32
from ..encodings.ycbcr import LUMA, U16, Layout, reduced, to_rgb
from ..errors import FileError
from .reducing import means

SUFFIXES = (".mov", ".mp4", ".mkv", ".m4v", ".avi", ".mxf", ".webm", ".nut")
#: Bytes of a clip that is brought in. Where a clip lies already, it may be larger.
SIZE_LIMIT = 4 * 2**30
FRAME_LIMIT = 200_000
#: After so many frames it is written down how far looking a clip through has come.
KEPT_EVERY = 5000
ENDS = "ends in the middle"
PIXEL_LIMIT = 8192 * 4320
#: Threads of a decoder, each of which holds a frame.
DECODING = 3
#: Pixels of a frame above which a single one is read by one thread.
LARGE = 4096 * 2304
#: Share of a picture's tones that changes at a hard cut (common practice; the figure is Saucer's own).
CUT_SHARE = 0.055
#: Times that a cut changes more than the frames around it do (Saucer's own figure).
CUT_TIMES = 3.5
#: Frames to each side that a cut is compared with.
CUT_AROUND = 10
#: Frames of the shortest shot.
SHORTEST = 6
#: Size at which frames are compared.
SMALL = (64, 36)

#: Encodings by what H.273 calls primaries and transfer.
_TAGGED = {
    (1, 1): "bt709_display",
    (1, 6): "bt709_display",
    (1, 13): "srgb",
    (12, 13): "display_p3",
    (9, 14): "bt2020_display",
    (9, 15): "bt2020_display",
    (9, 1): "bt2020_display",
    (9, 16): "pq",
    (9, 18): "hlg",
}
UNSAID = 2


@dataclass(frozen=True)
class ClipFacts:
    """What a clip is.

    rate: frames a second as a fraction, ``24/1``. frames: whole ones. depth: bits a sample. tags: numbers of
    primaries, transfer and matrix of H.273. encoding: what the tags name, empty where they name none. doubts:
    what is not as it should be, in words. turned: degrees, counterclockwise, by which a player turns the
    pictures. interlaced: whether each frame holds two fields, one after the other in time. deinterlaced:
    whether somebody wants them read as whole frames. reel: what the file says that it was recorded on.
    """

    width: int
    height: int
    rate: str
    frames: int
    seconds: float
    codec: str
    pixels: str
    depth: int
    full_range: bool
    tags: tuple[int, int, int]
    encoding: str
    timecode: str
    sound: str
    doubts: tuple[str, ...] = ()
    turned: int = 0
    interlaced: bool = False
    deinterlaced: bool = False
    reel: str = ""


@dataclass(frozen=True)
class Found:
    """A clip looked through. cuts: the first frame of every shot, 0 first. stamps: when each frame is shown,
    in ticks of the file."""

    facts: ClipFacts
    cuts: tuple[int, ...]
    stamps: tuple[int, ...] = field(repr=False)


def opened(path: Path, name: str) -> Any:
    """The container and its picture stream. Raises ``FileError``."""
    try:
        container = av.open(str(path), options={"protocol_whitelist": "file"})
    except (av.FFmpegError, ValueError, OSError) as error:
        raise FileError(name, f"is not a clip that can be read ({_why(error)})") from None
    if not container.streams.video:
        container.close()
        raise FileError(name, "holds no picture. Bring a clip that does, or a still")
    stream = container.streams.video[0]
    stream.thread_type, stream.codec_context.thread_count = "AUTO", DECODING
    if not 0 < stream.codec_context.width * stream.codec_context.height <= PIXEL_LIMIT:
        size = f"{stream.codec_context.width} × {stream.codec_context.height}"
        container.close()
        raise FileError(name, f"{size} pixels are no size that Saucer takes (up to 8192 × 4320)")
    return container


def _why(error: Exception) -> str:
    return str(getattr(error, "strerror", "") or error).split("\n")[0][:120]


def decoded(container: Any, name: str, doubts: list[str] | None = None) -> Iterator[VideoFrame]:
    """The frames in order. Where the file breaks off, the whole ones are given and the doubt is noted; raises
    ``FileError`` for none."""
    stream, count, first = container.streams.video[0], 0, None
    try:
        for frame in container.decode(stream):
            size = (frame.width, frame.height)
            first = first or size
            if size != first:
                raise FileError(
                    name,
                    f"changes its size at frame {count + 1}, from {first[0]} × {first[1]} to {size[0]} × "
                    f"{size[1]}. Cut it there first",
                )
            count += 1
            yield frame
    except av.FFmpegError as error:
        if not count:
            raise FileError(name, f"no frame of it can be read ({_why(error)})") from None
        if doubts is not None:
            doubts.append(ENDS)


def _depth(frame: VideoFrame) -> int:
    return max(c.bits for c in frame.format.components)


def _planes(frame: VideoFrame, depth: int) -> list[U16]:
    kind = np.uint8 if depth <= 8 else np.dtype("<u2")
    found = []
    for plane in list(frame.planes)[:3]:
        rows: NDArray[Any] = np.frombuffer(memoryview(plane), dtype=kind)
        rows = rows.reshape(plane.height, -1)[:, : plane.width]
        found.append(rows.astype(np.uint16) if depth <= 8 else rows.view(np.uint16))
    return found


def _matrix(frame: VideoFrame) -> int:
    said = int(frame.colorspace)
    # Without a word, common practice: BT.709 from 720 rows on, BT.601 below.
    return said if said in LUMA else (1 if frame.height >= 720 else 6)


def _shared(frame: VideoFrame) -> tuple[int, int]:
    """Pixels that share a colour difference, across and down."""
    f = frame.format
    return max(round(f.width / max(f.chroma_width(f.width), 1)), 1), max(
        round(f.height / max(f.chroma_height(f.height), 1)), 1
    )


def layout_of(frame: VideoFrame) -> Layout:
    """How the planes of a frame hold it; for one in R'G'B' only its depth says something."""
    f = frame.format
    full = int(frame.color_range) == 2 or f.name.startswith("yuvj")
    wide, high = (1, 1) if f.is_rgb else _shared(frame)
    return Layout(_depth(frame), min(wide, 2), min(high, 2), _matrix(frame), full)


#: Layouts whose planes are read as they are; any other is put in planes of the same depth first.
_PLAIN = {
    *(f"yuv{k}p{d}" for k in ("420", "422", "444") for d in ("", "10le", "12le", "16le")),
    "yuvj420p",
    "yuvj422p",
    "yuvj444p",
    *(f"gbrp{d}" for d in ("", "10le", "12le", "16le")),
}


def plain(frame: VideoFrame) -> VideoFrame:
    """The frame in three planes of its own depth, without transparency; its codes stay."""
    f = frame.format
    if f.name in _PLAIN:
        return frame
    depth = _depth(frame)
    end = "" if depth <= 8 else f"{next(d for d in (10, 12, 16) if depth <= d)}le"
    if f.is_rgb or len(f.components) < 3:
        return frame.reformat(format=f"gbrp{end}")
    across, down = _shared(frame)
    return frame.reformat(format=f"yuv{'444' if across < 2 else '422' if down < 2 else '420'}p{end}")


def planes_of(frame: VideoFrame) -> tuple[tuple[U16, U16, U16], Layout]:
    """The planes of a frame that ``plain`` gave and whose format holds luma and differences."""
    at = layout_of(frame)
    y, u, v = _planes(frame, at.depth)
    return (y, u, v), at


def colours_of(frame: VideoFrame, by: int = 1) -> F32:
    """A frame as R'G'B', float32 ``(height, width, 3)``. by: how many pixels become one, each way: their
    mean."""
    even = plain(frame)
    depth = _depth(even)
    if even.format.is_rgb:
        g, b, r = (means(plane.astype(np.float32), by) for plane in _planes(even, depth))
        return np.stack([r, g, b], axis=-1).astype(np.float32) / np.float32(2**depth - 1)
    return to_rgb(*planes_of(even)) if by == 1 else reduced(*planes_of(even), by)


def _tones(frame: VideoFrame) -> tuple[F32, F32]:
    """A small picture of the frame and how its tones are spread, to compare it by."""
    small = (
        frame.reformat(width=SMALL[0], height=SMALL[1], format="rgb24", interpolation="AREA")
        .to_ndarray()
        .astype(np.float32)
        / 255
    )
    spread = np.concatenate([np.histogram(small[..., c], bins=16, range=(0, 1))[0] for c in range(3)])
    return small.astype(np.float32), (spread / (small[..., 0].size * 3)).astype(np.float32)


def cuts_in(changes: F32) -> tuple[int, ...]:
    """The first frame of every shot, from how much each frame differs from the one before it
    ``(frames,)``."""
    found = [0]
    for k in range(1, len(changes)):
        around = np.concatenate([changes[max(1, k - CUT_AROUND) : k], changes[k + 1 : k + 1 + CUT_AROUND]])
        usual = float(np.median(around)) if len(around) else 0.0
        if (
            changes[k] > max(CUT_SHARE, CUT_TIMES * usual)
            and changes[k] >= around.max(initial=0) * 0.8
            and k - found[-1] >= SHORTEST
        ):
            found.append(k)
    if len(found) > 1 and len(changes) - found[-1] < SHORTEST:
        found.pop()
    return tuple(found)


def _said(container: Any, *words: str) -> str:
    """What the file or one of its streams says under one of these words."""
    for holder in (container, *container.streams):
        for key, said in holder.metadata.items():
            if key.lower() in words and said:
                return str(said)
    return ""


@dataclass(frozen=True)
class Begun:
    """A clip looked through up to a frame. changes: how much each frame differs from the one before it;
    stamps: as in ``Found``."""

    changes: tuple[float, ...]
    stamps: tuple[int, ...]


def look_through(
    path: Path,
    name: str | None = None,
    tell: Callable[[int, int], None] | None = None,
    *,
    begun: Begun | None = None,
    keep: Callable[[Begun], None] | None = None,
) -> Found:
    """Reads a clip once from end to end, ``FRAME_LIMIT`` frames at most. tell: told how many are done, of how
    many (0 where unsaid).

    begun: how far an earlier look came, to go on from. keep: told it every ``KEPT_EVERY`` frames.
    Raises ``FileError`` where it holds no whole frame, or changes its size.
    """
    name = name or path.name
    doubts: list[str] = []
    changes, stamps = (list(begun.changes), list(begun.stamps)) if begun else ([], [])
    with closing(opened(path, name)) as container:
        stream = container.streams.video[0]
        said = int(stream.frames or 0)
        frames = decoded(container, name, doubts)
        first = next(frames, None)
        if first is None:
            raise FileError(name, "holds no whole frame")
        last: tuple[F32, F32] | None = None
        if begun:
            frames = from_stamp(container, stream, stamps[-1], name, doubts)
            last = _tones(next(frames))
        for frame in frames if begun else chain([first], frames):
            if len(stamps) == FRAME_LIMIT:
                doubts.append(
                    f"is longer than {FRAME_LIMIT:,} frames: what follows is left out. Cut it into parts to "
                    "use all of it"
                )
                break
            tones = _tones(frame)
            changes.append(
                float(np.abs(tones[0] - last[0]).mean() * 0.5 + np.abs(tones[1] - last[1]).sum() * 0.5)
                if last
                else 0.0
            )
            last = tones
            stamps.append(int(frame.pts) if frame.pts is not None else len(stamps))
            if tell is not None and len(stamps) % 12 == 1:
                tell(len(stamps) - 1, min(said, FRAME_LIMIT))
            if keep is not None and len(stamps) % KEPT_EVERY == 0:
                keep(Begun(tuple(changes), tuple(stamps)))
        facts = facts_of(container, first, stamps, said, doubts)
    return Found(facts, cuts_in(np.array(changes, dtype=np.float32)), tuple(stamps))


def facts_of(container: Any, first: VideoFrame, stamps: list[int], said: int, doubts: list[str]) -> ClipFacts:
    """What an open clip is. first: its first frame; stamps: when each frame is shown, in ticks of the file;
    said: how many frames its head says, 0 where that does not matter. doubts: those known already."""
    stream = container.streams.video[0]
    context = stream.codec_context
    tags = (int(context.color_primaries), int(context.color_trc), int(first.colorspace))
    doubts[:] = [f"{ENDS}: {len(stamps)} frames are whole" if doubt == ENDS else doubt for doubt in doubts]
    steps = np.diff(np.array(stamps)) if len(stamps) > 1 else np.array([1])
    rate = stream.average_rate or stream.guessed_rate
    if said and len(stamps) < said and not doubts:
        doubts.append(f"ends in the middle: {len(stamps)} of {said} frames are whole")
    if len(steps) > 2 and steps.max() > 1.5 * max(float(np.median(steps)), 1.0):
        doubts.append("its frames do not last equally long (a variable rate); they keep the times they have")
    if UNSAID in tags[:2]:
        doubts.append("says nothing of its colours: see how it is read")
    alpha = any(c.is_alpha for c in first.format.components)
    if alpha:
        doubts.append("has transparency, which is left out")
    if first.interlaced_frame:
        doubts.append(
            "is interlaced: its fields stay woven into whole frames, unless it is deinterlaced by choice"
        )
    sound = next((s.codec_context.name for s in container.streams.audio), "")
    frames = len(stamps)
    seconds = (
        float(frames / rate) if rate else float(max(stamps) - min(stamps)) * float(stream.time_base or 0)
    )
    return ClipFacts(
        width=first.width,
        height=first.height,
        rate=f"{rate.numerator}/{rate.denominator}" if rate else "",
        frames=frames,
        seconds=round(seconds, 3),
        codec=context.name,
        pixels=first.format.name,
        depth=_depth(first),
        full_range=int(first.color_range) == 2,
        tags=tags,
        encoding=_TAGGED.get(tags[:2], ""),
        timecode=_said(container, "timecode"),
        sound=sound,
        doubts=tuple(doubts),
        turned=int(first.rotation),
        interlaced=bool(first.interlaced_frame),
        reel=_said(container, "reel_name", "reel", "tape")[:80],
    )


def upright(rgb: F32, turned: int) -> F32:
    """A frame as a player shows it. turned: degrees, counterclockwise, as ``ClipFacts`` has them."""
    return np.ascontiguousarray(np.rot90(rgb, turned // 90 % 4)) if turned % 360 else rgb


def frames_at(
    path: Path,
    wanted: list[int],
    stamps: tuple[int, ...],
    name: str | None = None,
    width: int | None = None,
    *,
    deinterlaced: bool = False,
) -> dict[int, F32]:
    """Some frames of a clip, by number, as R'G'B', upright. Raises ``FileError`` where one cannot be read.

    width: how wide they are needed; larger frames come reduced by a whole number, to at least that.
    deinterlaced: as ``ClipFacts`` has it.
    """
    name = name or path.name
    found: dict[int, VideoFrame] = {}
    with closing(opened(path, name)) as container:
        stream = container.streams.video[0]
        if stream.codec_context.width * stream.codec_context.height > LARGE:
            # Each thread holds a frame; one that is shown alone gains nothing by them.
            stream.codec_context.thread_count = 1
        for number in sorted(set(wanted)):
            frame = next(frames_from(container, stamps, number, name, deinterlaced), None)
            if frame is None:
                raise FileError(name, f"frame {number + 1} cannot be read")
            found[number] = frame
    # What the decoder held is free by now.
    return {
        number: upright(
            colours_of(found.pop(number), max(1, frame.width // width) if width else 1), int(frame.rotation)
        )
        for number, frame in list(found.items())
    }


#: Frames up to which going on is quicker than going to the next key frame.
NEAR = 48


def frames_in_order(
    path: Path,
    numbers: Sequence[int],
    stamps: tuple[int, ...],
    name: str | None = None,
    *,
    deinterlaced: bool = False,
) -> Iterator[tuple[int, F32]]:
    """Frames of a clip by number, in rising order, as R'G'B', upright, one at a time. Raises ``FileError``
    where one cannot be read. deinterlaced: as ``ClipFacts`` has it."""
    name = name or path.name
    with closing(opened(path, name)) as container:
        frames: Iterator[VideoFrame] = iter(())
        last = -NEAR - 1
        for number in numbers:
            if number - last > NEAR:
                frames, last = frames_from(container, stamps, number, name, deinterlaced), number - 1
            frame = next(islice(frames, number - last - 1, None), None)
            if frame is None:
                raise FileError(name, f"frame {number + 1} cannot be read")
            last = number
            yield number, upright(colours_of(frame), int(frame.rotation))


def frames_from(
    container: Any, stamps: Sequence[int], number: int, name: str, deinterlaced: bool
) -> Iterator[VideoFrame]:
    """The frames of an open clip from a number on; with whole frames made of their fields where that is
    wanted: each looks at the one before it and the one after it."""
    stream = container.streams.video[0]
    if not deinterlaced:
        yield from from_stamp(container, stream, stamps[number], name)
        return
    for frame in _whole(from_stamp(container, stream, stamps[max(number - 1, 0)], name), stream):
        if frame.pts is None or frame.pts >= stamps[number]:
            yield frame


def _whole(frames: Iterator[VideoFrame], stream: Any) -> Iterator[VideoFrame]:
    """Interlaced frames as whole ones, by FFmpeg's ``bwdif`` (after BBC R&D's w3fdif and yadif): as many as
    there were, each at its time."""
    graph = Graph()
    graph.link_nodes(
        graph.add_buffer(template=stream),
        graph.add("bwdif", "mode=send_frame:parity=auto:deint=all"),
        graph.add("buffersink"),
    ).configure()
    for frame in chain(frames, [None]):
        graph.push(frame)
        while True:
            try:
                made = graph.pull()
                assert isinstance(made, VideoFrame)
                # The filter counts in ticks of half the length, for the fields that it may give one by one.
                if made.pts is not None:
                    made.pts, made.time_base = made.pts // 2, stream.time_base
                yield made
            except (av.BlockingIOError, av.EOFError):
                break


def from_stamp(
    container: Any, stream: Any, stamp: int, name: str, doubts: list[str] | None = None
) -> Iterator[VideoFrame]:
    """The frames from the one that is shown at ``stamp`` on."""
    container.seek(stamp, stream=stream, backward=True, any_frame=False)
    for frame in decoded(container, name, doubts):
        if frame.pts is None or frame.pts >= stamp:
            yield frame
