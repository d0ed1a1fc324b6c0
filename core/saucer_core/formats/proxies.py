"""Proxies: clips made small enough to be played, in the clip's own encoding.

A proxy is AV1 of 10 bit in MP4 (AOMedia, "AV1 Codec ISO Media File Format Binding" 1.2), with a key frame
at least every ``KEY`` frames, so that a player begins anywhere. Log stays log: no transfer function is
touched. What changes is the size, the layout (4:2:0, narrow range) and the matrix, which is BT.709's whatever
the clip has. Beside it stands an index: where in the file each frame lies, and when it is shown.

It is made in parts, each encoded by itself and kept whole, so that several workers make one and what a dead
one had under way is all that is lost.
"""

import os
from collections.abc import Callable, Iterator, Sequence
from contextlib import closing
from dataclasses import dataclass
from fractions import Fraction
from heapq import merge
from itertools import islice, pairwise
from pathlib import Path
from typing import Any

import av
import numpy as np
from av.filter import Graph
from av.video.frame import PictureType, VideoFrame
from av.video.reformatter import Interpolation

from ..encodings.ycbcr import Layout
from ..errors import FileError
from .clips import ClipFacts, Found, frames_from, layout_of, opened
from .files import whole

#: Pixels: the widest a proxy is made; a clip that is less wide keeps its width.
WIDTH = 1280
#: Frames from one key frame to the next at most: where a shot begins, there is one too.
KEY = 12
#: Frames of a part: whole groups, some ten seconds.
PART = 20 * KEY
#: How a proxy holds its pictures: 10 bit, 4:2:0, BT.709's matrix, narrow range.
LAYOUT = Layout(10, 2, 2, 1, full=False)
_PIXELS = "yuv420p10le"
#: The same with a difference for every pixel.
_WHOLE = "yuv444p10le"
#: Options of the encoder (SVT-AV1): quick, and near enough that codes come back within 45 dB.
OPTIONS = {"preset": "9", "crf": "10", "svtav1-params": f"keyint={KEY}:lp=2"}
# The encoder writes its settings to the error output of the process unless it is told to name faults alone.
os.environ.setdefault("SVT_LOG", "1")
#: Samples a second, and bits a second, of the sound (Opus, RFC 6716).
_SAMPLES = 48_000
_BITS = 96_000


@dataclass(frozen=True)
class ProxyIndex:
    """What a player needs to know of a proxy.

    codec: as RFC 6381 names it. depth: bits of a code; rows: of the matrix that gives R'G'B' from codes, as
    ``Layout.rows``. rate: frames a second as a fraction; timescale: ticks a second. offsets, sizes: of each
    frame in the file, in bytes; shown: when it is shown, in ticks from the first frame on, and when the last
    one ends. keys: the frames that can be decoded by themselves. timecode: of the first frame, empty for
    none. sound: whether there is any. Pictures stand upright.
    """

    width: int
    height: int
    codec: str
    depth: int
    rows: tuple[float, ...]
    rate: str
    timescale: int
    offsets: tuple[int, ...]
    sizes: tuple[int, ...]
    shown: tuple[int, ...]
    keys: tuple[int, ...]
    timecode: str
    sound: bool


def size_of(facts: ClipFacts, widest: int = WIDTH) -> tuple[int, int]:
    """Width and height of a clip's proxy: even, not larger than the clip, in its shape and upright."""
    across, down = (facts.height, facts.width) if facts.turned % 180 else (facts.width, facts.height)
    width = max(min(widest, across) // 2 * 2, 2)
    return width, max(round(down * width / across / 2) * 2, 2)


def parts_of(found: Found) -> int:
    """In how many parts a clip's proxy is made."""
    return -(-len(found.stamps) // PART)


def encode(source: Path, found: Found, part: int, target: Path, tell: Callable[[int], None]) -> None:
    """Writes a part of a proxy, counted from 0; whole or not at all. tell: told how many of its frames are
    done; what it raises ends the work. Raises ``FileError``."""
    first = part * PART
    wanted = min(PART, len(found.stamps) - first)
    with closing(opened(source, source.name)) as container:
        whole_frames = found.facts.deinterlaced
        frames = islice(frames_from(container, found.stamps, first, source.name, whole_frames), wanted)
        whole(target, lambda path: _encode(frames, found.facts, wanted, path, tell))


def _encode(
    frames: Iterator[VideoFrame], facts: ClipFacts, wanted: int, path: Path, tell: Callable[[int], None]
) -> None:
    width, height = size_of(facts)
    given = 0
    with av.open(str(path), "w", format="nut") as out:
        stream = out.add_stream("libsvtav1", rate=Fraction(facts.rate), options=OPTIONS)
        stream.width, stream.height, stream.pix_fmt = width, height, _PIXELS
        context = stream.codec_context
        context.time_base = 1 / Fraction(facts.rate)
        _tag(context, facts)
        for frame in frames:
            small = _upright(frame, width, height, facts.turned)
            small.pts, small.time_base = given, context.time_base
            # The clip's own key frames are not the proxy's.
            small.pict_type = PictureType.NONE
            for packet in stream.encode(small):
                out.mux(packet)
            given += 1
            if given % KEY == 0:
                tell(given)
        for packet in stream.encode(None):
            out.mux(packet)
    if given < wanted:
        raise FileError(path.name, f"frame {given + 1} of {wanted} of a part cannot be read")
    tell(given)


def _tag(context: Any, facts: ClipFacts) -> None:
    """Says of the stream what the clip says of its colours; the matrix and range are the proxy's own."""
    context.color_primaries, context.color_trc = facts.tags[:2]
    context.colorspace, context.color_range = LAYOUT.matrix, 1


def _upright(frame: VideoFrame, width: int, height: int, turned: int) -> VideoFrame:
    """The frame in the proxy's size and layout, turned as a player shows it."""
    if not turned % 360:
        return _small(frame, width, height, _PIXELS)
    across, down = (height, width) if turned % 180 else (width, height)
    # Turned with a difference for every pixel: those of two columns become those of two rows.
    lying = _small(frame, across, down, _WHOLE)
    made = VideoFrame(width, height, _WHOLE)
    for source, target in zip(lying.planes, made.planes, strict=True):
        codes = np.frombuffer(memoryview(source), np.uint16).reshape(source.height, -1)[:, : source.width]
        rows = np.frombuffer(memoryview(target), np.uint16).reshape(target.height, -1)
        rows[:, : target.width] = np.rot90(codes, turned // 90 % 4)
    made.colorspace, made.color_range = lying.colorspace, lying.color_range
    return made.reformat(format=_PIXELS)


def _small(frame: VideoFrame, width: int, height: int, pixels: str) -> VideoFrame:
    """The frame in that size and layout of pixels; its codes go through no transfer function."""
    at = layout_of(frame)
    return frame.reformat(
        width,
        height,
        pixels,
        src_colorspace=at.matrix,
        dst_colorspace=LAYOUT.matrix,
        interpolation=Interpolation.AREA if width < frame.width else Interpolation.BICUBIC,
        src_color_range=2 if at.full or frame.format.is_rgb else 1,
        dst_color_range=1,
    )


def join(source: Path, found: Found, parts: Sequence[Path], target: Path) -> ProxyIndex:
    """Puts the parts of a proxy one after the other, with the clip's sound; whole or not at all. Raises
    ``FileError``."""
    whole(target, lambda path: _joined(source, found, parts, path))
    return _index(target, found)


def _joined(source: Path, found: Found, parts: Sequence[Path], path: Path) -> None:
    width, height = size_of(found.facts)
    with (
        closing(opened(source, source.name)) as container,
        # The table of frames stands before them: a video element begins without the end of the file.
        av.open(str(path), "w", format="mp4", options={"movflags": "+faststart"}) as out,
    ):
        base = container.streams.video[0].time_base or Fraction(1, 1000)
        stream = out.add_stream("libsvtav1", rate=Fraction(found.facts.rate), options=OPTIONS)
        stream.width, stream.height, stream.pix_fmt = width, height, _PIXELS
        stream.time_base = base
        _tag(stream.codec_context, found.facts)
        shown = _shown(found, base)
        pictures = _pictures(parts, shown, base, stream)
        sounds = _sounds(container, out, found.stamps[0] * base)
        number = 0
        # In the order of their times, so that a player reads the file from one end to the other.
        for packet in merge(pictures, sounds, key=lambda packet: packet.pts * packet.time_base):
            number += packet.stream is stream
            out.mux(packet)
    if number != len(found.stamps):
        raise FileError(source.name, f"its proxy has {number} frames of {len(found.stamps)}. Make it again")


def _shown(found: Found, base: Fraction) -> tuple[int, ...]:
    """When each frame is shown, in ticks from the first on, and when the last one ends."""
    first = found.stamps[0]
    last = max(round(1 / Fraction(found.facts.rate) / base), 1)
    times = [stamp - first for stamp in found.stamps]
    return (*times, times[-1] + last)


def _pictures(parts: Sequence[Path], shown: Sequence[int], base: Fraction, stream: Any) -> Iterator[Any]:
    """The frames of the parts, encoded, each with the time that it has in the clip."""
    number = 0
    for part in parts:
        with av.open(str(part)) as held:
            for packet in held.demux(video=0):
                if packet.pts is None or number + 1 == len(shown):
                    continue
                packet.pts = packet.dts = shown[number]
                packet.duration = shown[number + 1] - shown[number]
                packet.time_base, packet.stream = base, stream
                yield packet
                number += 1


def _sounds(container: Any, out: Any, begin: Fraction) -> Iterator[Any]:
    """The first sound of the clip as Opus, from the first frame on: silence where it begins later or pauses.
    Nothing where the clip has none, or none that can be read."""
    if not container.streams.audio:
        return iter(())
    stream = out.add_stream("libopus", rate=_SAMPLES, layout="stereo")
    stream.bit_rate = _BITS
    return _encoded(container, container.streams.audio[0], stream, begin)


def _encoded(container: Any, held: Any, stream: Any, begin: Fraction) -> Iterator[Any]:
    graph = Graph()
    graph.link_nodes(
        graph.add_abuffer(template=held),
        graph.add("asetpts", f"PTS-{float(begin)}/TB"),
        graph.add("aresample", f"{_SAMPLES}:async=1:min_hard_comp=0.02:first_pts=0"),
        graph.add("aformat", "sample_fmts=s16:channel_layouts=stereo"),
        graph.add("abuffersink"),
    ).configure()
    try:
        for frame in container.decode(held):
            graph.push(frame)
            yield from _pulled(graph, stream)
        graph.push(None)
        yield from _pulled(graph, stream)
    except av.FFmpegError:
        # What could be read of it is kept: the pictures do not depend on it.
        pass
    yield from stream.encode(None)


def _pulled(graph: Graph, stream: Any) -> Iterator[Any]:
    while True:
        try:
            yield from stream.encode(graph.pull())
        except (av.BlockingIOError, av.EOFError):
            return


def _index(path: Path, found: Found) -> ProxyIndex:
    with av.open(str(path)) as container:
        stream = container.streams.video[0]
        base = stream.time_base or Fraction(1, 1000)
        packets = [p for p in container.demux(stream) if p.size]
        places = [(int(p.pos), int(p.size), int(p.pts or 0)) for p in packets if p.pos is not None]
        keys = tuple(k for k, p in enumerate(packets) if p.is_keyframe)
        told = bytes(stream.codec_context.extradata or b"")
        sound = bool(container.streams.audio)
        size = stream.codec_context.width, stream.codec_context.height
    gaps = [after - before for before, after in pairwise((*keys, len(places)))]
    if len(places) != len(found.stamps) or keys[:1] != (0,) or max(gaps) > KEY:
        raise FileError(path.name, "is no whole proxy. Make it again")
    last = max(round(1 / Fraction(found.facts.rate) / base), 1)
    times = tuple(at for _, _, at in places)
    return ProxyIndex(
        width=size[0],
        height=size[1],
        codec=_codec(told),
        depth=LAYOUT.depth,
        rows=LAYOUT.rows(),
        rate=found.facts.rate,
        timescale=round(1 / base),
        offsets=tuple(offset for offset, _, _ in places),
        sizes=tuple(size for _, size, _ in places),
        shown=(*times, times[-1] + last),
        keys=keys,
        timecode=found.facts.timecode,
        sound=sound,
    )


def _codec(told: bytes) -> str:
    """The codec by its configuration record (AV1 in ISOBMFF 1.2, 2.3.3 and 5): profile, level, tier,
    depth."""
    profile, level, tier = told[1] >> 5, told[1] & 31, "H" if told[2] >> 7 else "M"
    return f"av01.{profile}.{level:02d}{tier}.{LAYOUT.depth}"
