"""Kinds of clip that are written: how each keeps its pictures, and the encoder that makes them."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

import numpy as np
from av.video.frame import VideoFrame
from numpy.typing import NDArray

from ..encodings import Encoding
from ..encodings.ycbcr import U16, Layout
from .clips import PIXEL_LIMIT
from .declared import CICP

#: Bytes of frames that x264 holds back to look ahead; it holds each twice, as it came and as it is looked at.
HELD_BACK = 128 * 2**20
#: Frames that it holds back at most.
AHEAD = 40
#: Bytes from which on a frame is large: x264 would hold more than half a gigabyte of such frames.
LARGE = 8 * 2**20
#: Threads of an encoder, each of which holds a frame or more. Their number does not follow the cores of the
#: machine, so that memory and bytes are the same on every one.
THREADS = 4
#: The same for large frames.
THREADS_LARGE = 2
#: Pixels of a frame of H.264 at level 5.2, 36,864 blocks of 16 × 16 (ITU-T H.264, table A-1): few devices
#: play larger ones. FFV1 has the same limit here, because FFmpeg's encoder takes 80 bytes of memory a pixel.
LEVEL_52 = 36_864 * 256
#: H.273: primaries, transfer and matrix of a clip in an encoding; the last alone is always said.
_UNSAID = (2, 2, 1)


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


def picture_stream(
    out: Any, kind: ClipKind, end: Encoding, size: tuple[int, int], rate: Fraction, base: Fraction
) -> Any:
    """A stream of pictures of that kind in an open file. end: the encoding of its colours; size: width and
    height; base: seconds of a tick."""
    frame = _bytes(size, kind)
    options = dict(kind.options) | (_bounded(frame) if kind.encoder == "libx264" else {})
    stream = out.add_stream(kind.encoder, rate=rate, options=options)
    context = stream.codec_context
    stream.width, stream.height, stream.pix_fmt = *size, kind.pixels
    context.time_base = base
    context.thread_type, context.thread_count = "AUTO", THREADS_LARGE if is_large(size, kind) else THREADS
    # What a player needs to know stands once before the frames, so that lengths can follow one another.
    context.flags |= 1 << 22
    primaries, transfer, matrix = tags_of(end)
    context.color_primaries, context.color_trc, context.colorspace, context.color_range = (
        primaries,
        transfer,
        matrix,
        1,
    )
    return stream


def _bytes(size: tuple[int, int], kind: ClipKind) -> int:
    """Bytes of a frame of that size, in 4:2:0."""
    return size[0] * size[1] * 3 // 2 * (2 if kind.depth > 8 else 1)


def is_large(size: tuple[int, int], kind: ClipKind) -> bool:
    """Whether frames of that width and height are held one at a time, to stay within a worker's memory."""
    return _bytes(size, kind) > LARGE


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


def filled(planes: Sequence[U16], kind: ClipKind, end: Encoding) -> VideoFrame:
    """A frame of a kind that holds these planes. end: the encoding of its colours."""
    height, width = planes[0].shape
    out = VideoFrame(width, height, kind.pixels)
    for plane, codes in zip(out.planes, planes, strict=True):
        _fill(plane, codes, kind.depth)
    primaries, transfer, matrix = tags_of(end)
    out.colorspace, out.color_range = matrix, 1
    out.color_primaries, out.color_trc = primaries, transfer
    return out


def _fill(plane: Any, codes: NDArray[np.uint16], depth: int) -> None:
    kind = np.uint8 if depth <= 8 else np.dtype("<u2")
    rows = np.frombuffer(plane, dtype=kind).reshape(codes.shape[0], -1)
    rows[:, : codes.shape[1]] = codes
