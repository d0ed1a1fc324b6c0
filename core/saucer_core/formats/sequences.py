"""Numbered sequences of pictures in a ZIP, read into one clip that loses none of their codes.

The clip is FFV1 (RFC 9043) in Matroska: R'G'B' of the depth of the pictures. Pictures in linear light are
kept as ACEScct of 16 bit (Academy S-2016-001), in which a step is smaller than one of half float.
"""

import re
import tempfile
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Annotated

import av
import numpy as np
from av.video.frame import VideoFrame
from pydantic import AfterValidator, Field

from ..arrays import F32, by_tiles
from ..encodings import Encoding, conversion, encoding
from ..errors import FileError
from ..operations import fuse, run_all
from . import pictures
from .clips import PIXEL_LIMIT, SIZE_LIMIT
from .files import whole
from .timecode import text_of
from .zips import NotTaken, files_of, name_of, opened, place, take

__all__ = ["RATES", "SUFFIX", "USUAL_RATE", "Numbered", "Rate", "Taken", "numbered", "to_clip"]

SUFFIX = ".zip"
#: Frames of the longest sequence.
FRAME_LIMIT = 20_000
#: Frames a second that a sequence may be shown at, by fraction.
RATES = {
    "12/1": "12",
    "15/1": "15",
    "16/1": "16",
    "18/1": "18",
    "24000/1001": "23.976",
    "24/1": "24",
    "25/1": "25",
    "30000/1001": "29.97",
    "30/1": "30",
    "48/1": "48",
    "50/1": "50",
    "60000/1001": "59.94",
    "60/1": "60",
}
USUAL_RATE = "24/1"


def _known(rate: str) -> str:
    if rate not in RATES:
        raise ValueError(f"“{rate}” is no rate that Saucer shows a sequence at. Known: {', '.join(RATES)}.")
    return rate


Rate = Annotated[str, Field(max_length=20), AfterValidator(_known)]
#: What linear light is kept as.
_LOG = "acescct"
#: How many names or numbers are said of many.
_SAID = 5
#: Names of numbered pictures.
NUMBERED = re.compile(r"(?P<stem>.*?)(?P<number>\d{1,10})(?P<suffix>\.\w+)")
#: How FFV1 holds each depth of pictures; any other goes into the deepest.
_PIXELS = {"8 bit": ("bgr0", 8), "10 bit": ("gbrp10le", 10), "12 bit": ("gbrp12le", 12)}
_DEEPEST = ("gbrp16le", 16)
_OPTIONS = {"level": "3", "slices": "4", "slicecrc": "1"}
#: Nothing of the time or machine is written: the same pictures make the same bytes.
_EXACT_FILE, _EXACT_CODES = 0x400, 1 << 23


@dataclass(frozen=True)
class Numbered:
    """A sequence. first: its first number; names: of its pictures in the ZIP by number, ``None`` where one is
    missing; others: files of the ZIP that are no part of it."""

    first: int
    names: tuple[str | None, ...]
    others: tuple[str, ...]

    @property
    def missing(self) -> tuple[int, ...]:
        """The numbers that have no picture."""
        return tuple(self.first + k for k, name in enumerate(self.names) if name is None)


@dataclass(frozen=True)
class Taken:
    """What became of a sequence. encoding: of the clip; doubts: what is not as it should be, in words."""

    encoding: str
    doubts: tuple[str, ...]


def numbered(packed: zipfile.ZipFile, name: str) -> Numbered:
    """The one sequence of a ZIP, by the names of its files. Raises ``FileError``."""
    found: dict[tuple[str, str, str], dict[int, str]] = {}
    others: list[str] = []
    for entry in files_of(packed):
        where = place(name_of(entry))
        if where is None:
            continue
        folder, file = where
        parts = NUMBERED.fullmatch(file)
        if parts is None or parts["suffix"].lower() not in pictures.SUFFIXES:
            others.append(file)
            continue
        of = found.setdefault((folder, parts["stem"], parts["suffix"].lower()), {})
        number = int(parts["number"])
        if number in of:
            raise FileError(
                name, f"number {number} is there twice, as {Path(of[number]).name} and as {file}. Keep one"
            )
        of[number] = entry.filename
    return _only(found, others, name)


def _only(found: dict[tuple[str, str, str], dict[int, str]], others: list[str], name: str) -> Numbered:
    if not found:
        said = ", ".join(pictures.SUFFIXES)
        raise FileError(name, f"holds no numbered pictures, like kiln_0001.png (of {said})")
    longest = sorted(found.values(), key=len, reverse=True)
    if len(longest) > 1 and len(longest[1]) > 1:
        both = " and ".join(Path(of[min(of)]).name for of in longest[:2])
        raise FileError(name, f"holds several sequences: those of {both}. Bring one at a time")
    of = longest[0]
    first, last = min(of), max(of)
    count = last - first + 1
    if count > FRAME_LIMIT:
        raise FileError(
            name,
            f"its numbers run from {first} to {last}: {count:,} frames, where {FRAME_LIMIT:,} are the most. "
            "Cut it into parts",
        )
    if count > 2 * len(of):
        raise FileError(
            name,
            f"its numbers run from {first} to {last}, but {count - len(of):,} of them have no picture. Bring "
            "all of it",
        )
    rest = [Path(one).name for group in longest[1:] for one in group.values()]
    return Numbered(first, tuple(of.get(first + k) for k in range(count)), tuple(others + rest))


def to_clip(
    source: Path,
    target: Path,
    *,
    name: str,
    rate: str = USUAL_RATE,
    read_as: str = "",
    tell: Callable[[int, int], None] = lambda done, of: None,
) -> Taken:
    """Reads the sequence of a ZIP into one clip; whole or not at all. A missing picture shows the one before
    it.

    name: of the ZIP, for errors. rate: one of ``RATES``. read_as: the key of the encoding that the pictures
    are read as, empty for what they declare. tell: told how many of how many frames are done; what it raises
    ends the work. Raises ``FileError``.
    """
    with opened(source, name, SIZE_LIMIT, "a sequence") as packed, tempfile.TemporaryDirectory() as folder:
        reading = _Reading(packed, numbered(packed, name), name, Path(folder))
        first = reading.first()
        at = encoding(read_as or first.facts.encoding)
        work = _Encoding(at, first.facts, Fraction(rate))
        whole(target, lambda path: work.write(reading, path, tell))
    return Taken(work.kept.key, tuple(_doubts(reading, first.facts, at, work, bool(read_as))))


class _Reading:
    """Reads the pictures of a sequence one after the other."""

    def __init__(self, packed: zipfile.ZipFile, of: Numbered, name: str, folder: Path) -> None:
        self._packed, self.of, self._name, self._folder = packed, of, name, folder
        self.alpha = False

    def first(self) -> pictures.Picture:
        """The first picture."""
        return self._picture(self.of.names[0] or "")

    def all(self) -> Iterator[F32 | None]:
        """The colours of every frame, ``None`` for that of the one before."""
        size: tuple[int, ...] | None = None
        for name in self.of.names:
            if name is None:
                yield None
                continue
            picture = self._picture(name)
            rgb = _shown(picture)
            size = size or rgb.shape
            if rgb.shape != size:
                raise FileError(
                    Path(name).name,
                    f"is {rgb.shape[1]} × {rgb.shape[0]}, where the pictures before are "
                    f"{size[1]} × {size[0]}. Bring pictures of one size",
                )
            self.alpha |= picture.alpha is not None
            yield rgb

    def _picture(self, name: str) -> pictures.Picture:
        # The suffix says what kind of picture it is taken for; the rest of the name stays in the ZIP.
        path = self._folder / f"picture{Path(name).suffix.lower()}"
        try:
            take(self._packed, self._packed.getinfo(name), path, pictures.SIZE_LIMIT)
            picture = pictures.load(path, Path(name).name)
        except NotTaken as error:
            raise FileError(self._name, f"{Path(name).name} {error}") from None
        finally:
            path.unlink(missing_ok=True)
        if picture.rgb.shape[0] * picture.rgb.shape[1] > PIXEL_LIMIT:
            raise FileError(Path(name).name, "is larger than a frame of a clip may be (8192 × 4320)")
        return picture


def _shown(picture: pictures.Picture) -> F32:
    """The picture as it is shown: the window of an EXR, black where it has no pixels."""
    window = picture.window
    if window is None:
        return picture.rgb
    out = np.zeros((window.height, window.width, 3), np.float32)
    high, wide = picture.rgb.shape[:2]
    top, left = window.y - window.top, window.x - window.left
    rows = slice(max(top, 0), min(top + high, window.height))
    columns = slice(max(left, 0), min(left + wide, window.width))
    if rows.start < rows.stop and columns.start < columns.stop:
        out[rows, columns] = picture.rgb[
            rows.start - top : rows.stop - top, columns.start - left : columns.stop - left
        ]
    return out


class _Encoding:
    """Writes the clip. kept: the encoding of its codes; beyond: frames with values that it cannot hold."""

    def __init__(self, at: Encoding, facts: pictures.PictureFacts, rate: Fraction) -> None:
        self._at, self._rate = at, rate
        self.linear = at.response == "linear"
        self.kept = encoding(_LOG) if self.linear else at
        self._operations = fuse(conversion(at, self.kept))
        self._pixels, self._depth = _DEEPEST if self.linear else _PIXELS.get(facts.depth, _DEEPEST)
        self.depth_words = f"{self._depth} bit"
        self.beyond = 0

    def write(self, reading: _Reading, path: Path, tell: Callable[[int, int], None]) -> None:
        """Writes all frames."""
        count = len(reading.of.names)
        with av.open(str(path), "w", format="matroska") as out:
            out.flags |= _EXACT_FILE
            stream = out.add_stream("ffv1", rate=self._rate, options=_OPTIONS)
            context = stream.codec_context
            context.flags |= _EXACT_CODES
            context.thread_type, context.thread_count = "AUTO", 2
            context.time_base = 1 / self._rate
            context.color_range = 2
            frame: VideoFrame | None = None
            for number, rgb in enumerate(reading.all()):
                if rgb is not None:
                    frame = self._frame(rgb)
                assert frame is not None, "the first number of a sequence has a picture"
                if number == 0:
                    stream.width, stream.height, stream.pix_fmt = frame.width, frame.height, self._pixels
                    out.metadata["timecode"] = _timecode(reading.of.first, self._rate)
                frame.pts, frame.time_base = number, context.time_base
                for packet in stream.encode(frame):
                    out.mux(packet)
                tell(number + 1, count)
            for packet in stream.encode(None):
                out.mux(packet)

    def _frame(self, rgb: F32) -> VideoFrame:
        if self.linear:
            rgb = by_tiles(lambda tile: run_all(self._operations, tile), rgb)
        self.beyond += bool(rgb.min() < 0 or rgb.max() > 1)
        most = 2**self._depth - 1
        codes = np.rint(np.clip(rgb, 0, 1) * np.float32(most))
        if self._depth == 8:
            return VideoFrame.from_ndarray(codes.astype(np.uint8), format="rgb24").reformat(
                format=self._pixels
            )
        return VideoFrame.from_ndarray(codes.astype(np.uint16), format=self._pixels)


def _timecode(number: int, rate: Fraction) -> str:
    """The number of a frame as a timecode, counted from midnight (common practice)."""
    return text_of(number, rate)


def _doubts(
    reading: _Reading, facts: pictures.PictureFacts, at: Encoding, work: _Encoding, asked: bool
) -> Iterator[str]:
    missing = reading.of.missing
    if missing:
        what = "number" if len(missing) == 1 else "numbers"
        said = _listed([str(number) for number in missing])
        yield f"has no picture for {what} {said}: the one before is held"
    if not asked and not facts.declared:
        yield f"is read as {at.label}, {facts.taken_from}"
    if work.linear:
        yield f"is in linear light ({at.label}): it is kept and shown as {work.kept.label}"
    if work.beyond:
        yield (
            f"holds values beyond what {work.kept.label} of {work.depth_words} keeps in {work.beyond} "
            f"{'frame' if work.beyond == 1 else 'frames'}: they are clipped"
        )
    if reading.alpha:
        yield "has transparency, which is left out"
    if reading.of.others:
        yield f"comes with other files, which are left out: {_listed(reading.of.others)}"


def _listed(words: "list[str] | tuple[str, ...]") -> str:
    """A few of them, and how many more there are."""
    more = len(words) - _SAID
    return ", ".join(words[:_SAID]) + (f" and {more} more" if more > 0 else "")
