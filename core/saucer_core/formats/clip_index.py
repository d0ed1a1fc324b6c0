"""What a clip is and when each of its frames is shown, without decoding it from end to end."""

from collections.abc import Iterator
from contextlib import closing, contextmanager
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
from av.video.frame import VideoFrame

from ..errors import FileError
from .clips import FRAME_LIMIT, ClipFacts, Found, decoded, facts_of, from_stamp, opened


def glance(path: Path, name: str | None = None) -> ClipFacts:
    """What a clip is, from its head and its first frame. Raises ``FileError`` where it has none.

    Its length is what the head says; where the head says nothing of it, the file is read, and not decoded.
    """
    name = name or path.name
    with _begun(path, name) as (container, stream, first):
        count = _said(container, stream)
        stamps = list(range(count)) if count else _read(container, stream, name)
        return facts_of(container, first, stamps, 0, [])


def indexed(path: Path, name: str | None = None) -> Found:
    """A clip with the times of all its frames. Raises ``FileError``.

    Where all frames last a whole number of ticks, the times are counted, and those of a frame in the middle
    and of the last frame are compared with what the file gives; else the file is read, and not decoded.
    """
    name = name or path.name
    with _begun(path, name) as (container, stream, first):
        stamps = _counted(container, stream, first) or _read(container, stream, name)
        return Found(facts_of(container, first, stamps, 0, []), (0,), tuple(stamps))


@contextmanager
def _begun(path: Path, name: str) -> Iterator[tuple[Any, Any, VideoFrame]]:
    """An open clip, its stream of pictures, and its first frame."""
    with closing(opened(path, name)) as container:
        first = next(decoded(container, name), None)
        if first is None:
            raise FileError(name, "holds no whole frame")
        yield container, container.streams.video[0], first


def _said(container: Any, stream: Any) -> int:
    """How many frames the head says; 0 where it does not say it."""
    if stream.frames:
        return min(int(stream.frames), FRAME_LIMIT)
    rate = stream.average_rate
    if not rate or not container.duration:
        return 0
    return min(round(Fraction(container.duration, 1_000_000) * Fraction(rate)), FRAME_LIMIT)


def _counted(container: Any, stream: Any, first: Any) -> list[int]:
    """When each frame is shown, where that can be counted; nothing where it cannot."""
    rate, base, count = stream.average_rate, stream.time_base, int(stream.frames or 0)
    if not rate or not base or not count or first.pts is None:
        return []
    tick = 1 / Fraction(rate) / base
    if tick.denominator != 1:
        return []
    stamps = [int(first.pts) + k * int(tick) for k in range(min(count, FRAME_LIMIT))]
    for number in {len(stamps) // 2, len(stamps) - 1}:
        try:
            frame = next(from_stamp(container, stream, stamps[number], ""), None)
        except FileError:
            return []
        if frame is None or frame.pts != stamps[number]:
            return []
    return stamps


def _read(container: Any, stream: Any, name: str) -> list[int]:
    """When each frame is shown, from the packets of the file."""
    container.seek(0, backward=True, any_frame=False)
    stamps: list[int] = []
    try:
        for packet in container.demux(stream):
            if packet.pts is not None:
                stamps.append(int(packet.pts))
            if len(stamps) == FRAME_LIMIT:
                break
    except av.FFmpegError as error:
        if not stamps:
            raise FileError(name, f"no frame of it can be read ({error.strerror})") from None
    return sorted(stamps)
