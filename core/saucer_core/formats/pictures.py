"""Pictures of every depth, through OpenImageIO: PNG, JPEG, TIFF, EXR and DPX (SMPTE ST 268-1)."""

import mmap
import re
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from threading import Lock
from typing import Any

import numpy as np
import OpenImageIO as oiio
from numpy.typing import NDArray

from ..arrays import F32
from ..encodings import Encoding
from ..errors import FileError
from .bands import Band, Window
from .declared import declared, usual
from .icc import title
from .picture_kinds import DEPTHS, kind_of
from .picture_writing import ROWS_TOGETHER, Said, write_pixels
from .reducing import means, means_of_codes

SIZE_LIMIT = 256 * 2**20
PIXEL_LIMIT = 64 * 10**6
#: Passes of a progressive JPEG: encoders make ten or so, and each costs a look at the whole picture.
SCAN_LIMIT = 64

#: How each kind of file begins, and the suffixes it goes by.
_KINDS: tuple[tuple[str, tuple[bytes, ...], tuple[str, ...]], ...] = (
    ("PNG", (b"\x89PNG\r\n\x1a\n",), (".png",)),
    ("JPEG", (b"\xff\xd8\xff",), (".jpg", ".jpeg")),
    ("TIFF", (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+"), (".tif", ".tiff")),
    ("EXR", (b"\x76\x2f\x31\x01",), (".exr",)),
    ("DPX", (b"SDPX", b"XPDS"), (".dpx",)),
)
SUFFIXES = tuple(s for _, _, suffixes in _KINDS for s in suffixes)


@dataclass(frozen=True)
class PictureFacts:
    """What a picture file says of itself.

    width, height: in pixels, as it is looked at. depth: like ``8 bit``, ``16 bit``, ``half float``. profile:
    the description of an embedded colour profile. alpha: whether it says what is transparent. declared,
    declared_by: the key of the encoding that it declares, and by what; empty where it declares none that
    Saucer knows. unread: what else the file holds that is not read, in words. ink: whether its colours are
    cyan, magenta, yellow and black. parts: names of the parts of an EXR file that holds several.
    """

    kind: str
    width: int
    height: int
    depth: str
    profile: str = ""
    alpha: bool = False
    declared: str = ""
    declared_by: str = ""
    unread: tuple[str, ...] = ()
    ink: bool = False
    parts: tuple[str, ...] = ()

    @property
    def encoding(self) -> str:
        """The key of the encoding that the picture is taken for: the declared one, else what is usual for its
        kind."""
        return self.declared or usual(self.kind)

    @property
    def taken_from(self) -> str:
        """By what that is known, in words."""
        if self.declared:
            return f"declared by {self.declared_by}"
        if self.profile:
            return f"assumed: its colour profile, {self.profile}, is none that Saucer has an encoding for"
        return f"assumed, as is usual for {self.kind}: the file declares nothing"


@dataclass(frozen=True)
class Picture:
    """A picture with all that its file holds.

    rgb: float32 ``(height, width, 3)``, integers scaled to 0–1, turned the way it is looked at. alpha:
    float32 ``(height, width)``, ``None`` where there is none; ``rgb`` is not multiplied by it. tags: names
    and values that another file can keep. icc: the bytes of an embedded colour profile, empty where there is
    none. window: where the pixels lie in the picture that is shown, ``None`` where they are all of it.
    """

    rgb: F32
    facts: PictureFacts
    alpha: F32 | None = None
    tags: tuple[tuple[str, Any], ...] = ()
    icc: bytes = b""
    window: Window | None = None
    glows: NDArray[np.bool_] | None = None


#: Tags that say how a file is laid out or what its codes mean: these do not outlive it.
_OWN_TAGS = re.compile(
    r"(oiio|saucer|openexr|tiff|png|jpeg|ICCProfile|exr|acesImageContainerFlag)\b|compression$|planarconfig|Orientation|DateTime$|chromaticities|"
    r"whiteLuminance|adoptedNeutral|colorInteropID|CICP|Exif:(ColorSpace|ExifVersion|FlashPixVersion|PixelXDimension|PixelYDimension)|"
    r"screenWindow|ICCProfile|XResolution|YResolution|ResolutionUnit|name$|type$|view$|chunkCount|Gamma",
    re.IGNORECASE,
)


def _recognise(path: Path, name: str) -> str:
    with path.open("rb") as f:
        head = f.read(16)
    if not head:
        raise FileError(name, "is empty")
    suffix = Path(name).suffix.lower()
    for kind, starts, suffixes in _KINDS:
        if head.startswith(starts):
            if suffix not in suffixes:
                said = f"its name ends in {suffix}" if suffix else "its name has no ending"
                raise FileError(
                    name, f"holds {kind} data, but {said}. Rename it to {suffixes[0]} and bring it again"
                )
            return kind
    raise FileError(name, "is not a picture Saucer reads (PNG, JPEG, TIFF, EXR or DPX)")


def read(path: Path, name: str | None = None) -> tuple[F32, PictureFacts]:
    """The picture's colours, see ``load``, and its facts."""
    found = load(path, name)
    return found.rgb, found.facts


def facts_of(path: Path, name: str | None = None) -> PictureFacts:
    """What a picture file says of itself; no pixel is read. Raises ``FileError``."""
    with opened(path, name) as source:
        return source.facts


def load(path: Path, name: str | None = None, width: int | None = None) -> Picture:
    """The picture in a file, grey repeated to three channels. Raises ``FileError``; sizes are checked before
    any pixel is read.

    width: how wide it is needed at least. A picture that is several times as wide is reduced while it is
    read, by whole numbers, so that it never lies in memory in full; its facts say how large it is in the
    file. ``None``: as it is.
    """
    with opened(path, name) as source:
        return source.picture_for(width)


#: Times that a picture is larger than it is wanted, from which on it need not come to its size exactly.
_SEVERAL = 4
#: Kinds of numbers that hold codes.
_CODES = {"uint8": oiio.UINT8, "uint16": oiio.UINT16}
#: Parts of a file that are counted.
_PARTS = 1000
#: Bytes of pixels that are read at a time.
BAND = 8 * 2**20


class Source:
    """An open picture file, whose pixels are read band by band.

    facts: what it says of itself, as it is looked at. tags, icc: see ``Picture``. turned: whether its rows
    are not those that are seen.
    """

    def __init__(self, file: "oiio.ImageInput", kind: str, name: str, beside: str = "") -> None:
        self._file, self._name, self._kind, self._beside = file, name, kind, beside
        self._reading, self._closed = Lock(), False
        spec = file.spec()
        if spec.width * spec.height > PIXEL_LIMIT or max(spec.width, spec.height) > 32768 or spec.depth > 1:
            raise FileError(
                name,
                f"{spec.width} × {spec.height} pixels are more than the {PIXEL_LIMIT // 10**6} million "
                "Saucer takes",
            )
        self._spec = spec
        channels = [c.rpartition(".")[2].upper() for c in spec.channelnames]
        self._wanted = [channels.index(c) for c in "RGB"] if set("RGB") <= set(channels) else [0, 0, 0]
        self._multiplied = not int(spec.getattribute("oiio:UnassociatedAlpha") or 0)
        orientation = int(spec.getattribute("Orientation") or 1)
        self._turn = TURNS.get(orientation, TURNS[1])
        self.turned = orientation in TURNS and orientation != 1
        high, wide = self._turn(np.empty((spec.height, spec.width), np.bool_)).shape
        depth = str(spec.format)
        icc = spec.getattribute("ICCProfile")
        self.icc = b"" if icc is None else np.asarray(icc).astype(np.uint8).tobytes()
        self._names = self._parts()
        said = declared({a.name: a.value for a in spec.extra_attribs}, kind, self.icc)
        self.facts = PictureFacts(
            kind,
            wide,
            high,
            # A DPX of 10 or 12 bit comes spread over 16.
            f"{spec.getattribute('oiio:BitsPerSample') or 16} bit"
            if kind == "DPX"
            else DEPTHS.get(depth, depth),
            title(self.icc) if self.icc else "",
            spec.alpha_channel >= 0,
            said.key if said else "",
            said.by if said else "",
            tuple(self._unread(channels, name)),
            "CMYK" in (spec.getattribute("jpeg:ColorSpace"), spec.getattribute("tiff:ColorSpace")),
            tuple(self._names) if kind == "EXR" and len(self._names) > 1 else (),
        )
        whole = Window(spec.x, spec.y, spec.full_x, spec.full_y, spec.full_width, spec.full_height)
        self.window = None if whole == Window(0, 0, 0, 0, spec.width, spec.height) else whole
        self.tags = tuple(
            (a.name, a.value)
            for a in spec.extra_attribs
            if not _OWN_TAGS.match(a.name) and isinstance(a.value, str | int | float)
        )

    def _parts(self) -> list[str]:
        """Names of the pictures that the file holds, one after the other; some have none."""
        names = [str(self._spec.getattribute("name") or "part 1")]
        while len(names) <= _PARTS and self._file.seek_subimage(len(names), 0):
            names.append(str(self._file.spec().getattribute("name") or f"part {len(names) + 1}")[:80])
        self._file.seek_subimage(0, 0)
        # What asking for one too many left behind is no fault of the file.
        self._file.geterror()
        return names

    def _unread(self, channels: list[str], path: str) -> Iterator[str]:
        """What the file holds beside the picture that is read, in words."""
        spec = self._spec
        taken = {*self._wanted, spec.alpha_channel}
        others = [c for k, c in enumerate(spec.channelnames) if k not in taken]
        if others and not (set(channels) <= {"R", "G", "B", "A"}):
            yield f"the channels {', '.join(others[:8])}{' …' if len(others) > 8 else ''}"
        parts = len(self._names) - 1
        if parts:
            what = {"TIFF": "page", "EXR": "part"}.get(self._kind, "picture")
            yield f"{parts} more {what}{'s' if parts > 1 else ''} of the file: the first alone is read"
        if self._beside:
            yield self._beside

    def by_for(self, width: int | None) -> int:
        """How many pixels become one, each way, where the picture is needed at least so wide."""
        return 1 if width is None else max(1, self.facts.width // width)

    def bytes_at(self, width: int | None) -> int:
        """Bytes that the picture takes in memory when it is read for that width."""
        by = self.by_for(width)
        return (self.facts.width // by + 1) * (self.facts.height // by + 1) * (16 if self.facts.alpha else 12)

    def picture_for(self, width: int | None) -> Picture:
        """The picture, reduced as far as ``by_for`` says."""
        return self.picture(self.by_for(width))

    def within(self, side: int) -> F32:
        """The picture's colours, at most ``side`` a side. One that is several times as large is reduced by a
        whole number alone; scaling it after that would cost as much as reading it does."""
        by = -(-max(self.facts.width, self.facts.height) // side)
        if by >= _SEVERAL:
            return self.picture(by).rgb
        return fit(self.picture(max(by - 1, 1)).rgb, side, side)

    def bands(self, rows_by: int = 1) -> Iterator[Band]:
        """All rows from the top of the file, a multiple of ``rows_by`` at a time but for the last. Raises
        ``FileError``."""
        spec, alpha_at = self._spec, self._spec.alpha_channel
        count = max(*self._wanted, alpha_at) + 1
        # Tiles are read by whole rows of them.
        together = int(np.lcm(rows_by, spec.tile_height or 1))
        rows = max(1, BAND // (spec.width * count * 4 * together)) * together
        for first in range(0, spec.height, rows):
            last = min(first + rows, spec.height)
            read = self._read(first, last, count)
            if read is None or self._file.has_error:
                raise FileError(
                    self._name, f"cannot be read to its end: it is damaged or cut short ({_why(self._file)})"
                )
            whole = np.asarray(read, dtype=np.float32).reshape(last - first, spec.width, count)
            rgb = np.ascontiguousarray(whole[..., self._wanted])
            finite = np.isfinite(rgb)
            if not finite.all():
                self._not_numbers(first, finite)
            alpha = glows = None
            if alpha_at >= 0:
                alpha = np.clip(np.nan_to_num(whole[..., alpha_at]), 0, 1)
                if self._multiplied:
                    glows = (alpha == 0) & rgb.any(axis=-1)
                    rgb = np.where(
                        alpha[..., None] > 0, rgb / np.where(alpha > 0, alpha, 1)[..., None], rgb
                    ).astype(np.float32)
            yield Band(first, rgb, alpha, glows if glows is not None and glows.any() else None)

    @property
    def _holds_codes(self) -> bool:
        """Whether it holds whole codes alone, in rows, and nothing is transparent."""
        spec = self._spec
        return str(spec.format) in _CODES and spec.alpha_channel < 0 and not spec.tile_width

    def _reduced(self, by: int) -> F32:
        """The whole picture as it lies in the file, reduced; codes become numbers after that. Raises
        ``FileError``."""
        spec = self._spec
        count, kind = max(self._wanted) + 1, _CODES[str(spec.format)]
        rows = max(1, BAND // (spec.width * count * by)) * by
        out = np.empty((-(-spec.height // by), -(-spec.width // by), 3), np.float32)
        for first in range(0, spec.height, rows):
            last = min(first + rows, spec.height)
            read = self._read(first, last, count, kind)
            if read is None or self._file.has_error:
                raise FileError(
                    self._name, f"cannot be read to its end: it is damaged or cut short ({_why(self._file)})"
                )
            codes = np.asarray(read).reshape(last - first, spec.width, count)
            small = means_of_codes(codes, by)
            out[first // by : first // by + len(small)] = small[..., self._wanted]
        return out

    def _read(self, first: int, last: int, count: int, kind: Any = oiio.FLOAT) -> Any:
        """Rows of the first ``count`` channels, as that kind of number; ``None`` where they cannot be
        read."""
        spec = self._spec
        top, bottom = spec.y + first, spec.y + last
        with self._reading:
            if self._closed:
                raise FileError(self._name, "was closed while it was read")
            if not spec.tile_width:
                return self._file.read_scanlines(top, bottom, spec.z, 0, count, kind)
            return self._file.read_tiles(
                spec.x, spec.x + spec.width, top, bottom, spec.z, spec.z + 1, 0, count, kind
            )

    def close(self) -> None:
        """Closes the file once nobody reads it any more; who asks for rows afterwards is refused.

        A signal can leave a thread that reads ahead behind, and OpenImageIO takes the process down where a
        file is closed under its reader.
        """
        with self._reading:
            self._closed = True
            self._file.close()

    def _not_numbers(self, first: int, finite: NDArray[np.bool_]) -> None:
        row, column = np.argwhere(~finite)[0][:2]
        # Where it lies in the picture as it is looked at.
        marked = np.zeros((self._spec.height, self._spec.width), np.bool_)
        marked[first + row, column] = True
        y, x = np.argwhere(self._turn(marked))[0]
        raise FileError(
            self._name, f"pixels are not numbers, the first at x {x}, y {y}. Render it again without them"
        )

    def picture(self, by: int = 1) -> Picture:
        """The whole picture as it is looked at; ``by`` × ``by`` pixels become one, their mean, with fewer
        where the edge cuts them off."""
        size = (-(-self._spec.height // by), -(-self._spec.width // by))
        if by > 1 and self._holds_codes:
            seen = np.ascontiguousarray(self._turn(self._reduced(by)))
            return Picture(seen, self.facts, None, self.tags, self.icc)
        rgb = np.empty((*size, 3), np.float32)
        alpha = np.empty(size, np.float32) if self.facts.alpha else None
        glows: NDArray[np.bool_] | None = None
        for band in self.bands(by):
            at = band.row // by
            if band.glows is not None and by == 1:
                glows = np.zeros(size, np.bool_) if glows is None else glows
                glows[at : at + len(band.rgb)] = band.glows
            rgb[at : at + -(-len(band.rgb) // by)] = means(band.rgb, by)
            if alpha is not None and band.alpha is not None:
                alpha[at : at + -(-len(band.alpha) // by)] = means(band.alpha, by)
        seen = np.ascontiguousarray(self._turn(rgb))
        return Picture(
            seen,
            self.facts,
            None if alpha is None else np.ascontiguousarray(self._turn(alpha)),
            self.tags,
            self.icc,
            self.window if by == 1 and not self.turned else None,
            None if glows is None else np.ascontiguousarray(self._turn(glows)),
        )


def _scans(path: Path) -> int:
    """In how many passes a JPEG is drawn: its markers *start of scan* (ITU-T T.81, B.1.1.3; in the data an FF
    is followed by 00)."""
    with path.open("rb") as file, mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ) as data:
        count, at = 0, data.find(b"\xff\xda")
        while at >= 0 and count <= SCAN_LIMIT:
            count, at = count + 1, data.find(b"\xff\xda", at + 2)
    return count


@contextmanager
def opened(path: Path, name: str | None = None) -> Iterator[Source]:
    """An open picture; sizes are checked, no pixel is read yet. Raises ``FileError``."""
    name = name or path.name
    if path.stat().st_size > SIZE_LIMIT:
        raise FileError(name, f"larger than {SIZE_LIMIT // 2**20} MiB, the most a picture may be")
    kind = _recognise(path, name)
    if kind == "JPEG" and (scans := _scans(path)) > SCAN_LIMIT:
        raise FileError(
            name,
            f"is drawn in {scans} passes, where {SCAN_LIMIT} are the most Saucer reads. Save it again as an "
            "ordinary JPEG",
        )
    # Colours that are not multiplied by their alpha stay so.
    asked = oiio.ImageSpec()
    asked.attribute("oiio:UnassociatedAlpha", 1)
    file: oiio.ImageInput | None = None
    source: Source | None = None
    try:
        file = oiio.ImageInput.open(str(path), asked)
        if file is None:
            raise FileError(name, f"cannot be opened as {kind}: it is damaged or cut short ({_why()})")
        source = Source(file, kind, name, _beside(path, kind))
        yield source
    except UnicodeDecodeError:
        raise FileError(name, "says things of itself that are no text: it is damaged") from None
    finally:
        if source is not None:
            source.close()
        elif file is not None:
            file.close()


#: Bytes of a file's head in which its notes stand.
_HEAD = 65536
#: By what a JPEG says that it comes with a gain map: ISO 21496-1 (its name in the file's notes), and the XMP
#: names that came before it.
_GAIN_MAPS = (b"urn:iso:std:iso:ts:21496:-1", b"hdr-gain-map", b"hdrgm:Version", b"HDRGainMap")


def _beside(path: Path, kind: str) -> str:
    """What a file holds beside its picture, by what it says before its first pixels: the frames of an
    animation (PNG, third edition, 11.3.6.1), a gain map; empty for neither."""
    if kind not in ("PNG", "JPEG"):
        return ""
    with path.open("rb") as f:
        head = f.read(_HEAD)
    if kind == "PNG":
        return "the frames of an animation beyond the first" if b"acTL" in head.partition(b"IDAT")[0] else ""
    has_map = any(word in head for word in _GAIN_MAPS)
    return "its gain map for brighter screens: the base picture is taken" if has_map else ""


#: How pixels are turned for each value of the orientation tag (Exif 2.32, tag 274).
TURNS: dict[int, Callable[[NDArray[Any]], NDArray[Any]]] = {
    1: lambda p: p,
    2: lambda p: p[:, ::-1],
    3: lambda p: p[::-1, ::-1],
    4: lambda p: p[::-1],
    5: lambda p: np.swapaxes(p, 0, 1),
    6: lambda p: np.swapaxes(p, 0, 1)[:, ::-1],
    7: lambda p: np.swapaxes(p, 0, 1)[::-1, ::-1],
    8: lambda p: np.swapaxes(p, 0, 1)[::-1],
}


def _why(source: "oiio.ImageInput | oiio.ImageOutput | None" = None) -> str:
    text = source.geterror() if source is not None else oiio.geterror()
    return " ".join(str(text).split()).rpartition(": ")[2][:120] or "no reason given"


def write(
    path: Path,
    rgb: F32,
    depth: str | None = None,
    *,
    like: Picture | None = None,
    at: Encoding | None = None,
    icc: bytes = b"",
) -> None:
    """Writes float32 ``(height, width, 3 or 4)``; whole or not at all.

    depth: see ``depth_for``. like: the picture it was made from, whose alpha and tags it keeps. at: the
    encoding of the colours, which the file then says where its kind can. icc: a colour profile to embed.
    Values beyond 0–1 are clipped by the integer kinds, beyond 65,504 by half float. Raises ``FileError``.
    """
    alpha = like.alpha if like is not None else None
    tags = like.tags if like is not None else ()
    glows, window = (like.glows, like.window) if like is not None else (None, None)
    bands = [Band(0, rgb, alpha, glows)]
    said = Said(tags, at, icc, window)
    write_pixels(path, rgb.shape[:2], rgb.shape[2], depth, bands, alpha is not None, said)


def write_bands(
    path: Path, size: tuple[int, int], bands: Iterable[Band], depth: str, *, at: Encoding
) -> None:
    """Writes a picture of ``size`` (height, width) whose rows are made one band after the other; see
    ``write``. An EXR is not packed: noise of a sensor hardly packs, and reading takes five times as long."""
    write_pixels(path, size, 3, depth, bands, False, Said(at=at), packed=False)


def through(
    source: Source,
    path: Path,
    work: Callable[[F32], F32],
    depth: str | None = None,
    *,
    then: Callable[[F32], F32] | None = None,
    before: Encoding | None = None,
    at: Encoding | None = None,
) -> list[str]:
    """Writes what ``work`` makes of a picture, as ``write`` does; unless it must be, it never lies in memory
    in full.

    work: takes and gives float32 ``(rows, width, 3)``, each pixel for itself. then: what is done to the whole
    afterwards, where pixels depend on their neighbours or their place. before, at: the encoding of the
    colours as they come and as they go, ``None`` where nobody
    knows: a colour profile is kept where they are the same and the file declares no other. Gives what was
    left out, in words.
    """
    keeps = before == at and (at is None or source.facts.declared in ("", at.key))
    # A kind that holds no profile says the encoding as it can.
    icc = source.icc if keeps and (at is None or "profile" in kind_of(path.name).says) else b""
    as_a_whole = source.turned or then is not None
    if as_a_whole:
        found = source.picture()
        for first in range(0, len(found.rgb), ROWS_TOGETHER):
            rows = slice(first, first + ROWS_TOGETHER)
            found.rgb[rows] = work(found.rgb[rows])
        write(path, then(found.rgb) if then is not None else found.rgb, depth, like=found, at=at, icc=icc)
    else:
        size = (source.facts.height, source.facts.width)
        bands = (
            Band(band.row, work(band.rgb), band.alpha, band.glows) for band in source.bands(ROWS_TOGETHER)
        )
        said = Said(source.tags, at, icc, source.window)
        write_pixels(path, size, 3, depth, bands, source.facts.alpha, said)
    kept = kind_of(path.name).notes
    return list(_left_out(source, _written(path, at), as_a_whole, None if icc else at, bool(icc), kept))


def _written(path: Path, at: Encoding | None) -> PictureFacts:
    """What a file says that was just written; other libraries would have to decode those of their kinds."""
    if any(path.suffix.lower() in suffixes for _, _, suffixes in _KINDS):
        return facts_of(path)
    kind = kind_of(path.name)
    said = at.key if at is not None and kind.can_say(at) else ""
    return PictureFacts(kind.name, 0, 0, "", alpha=kind.alpha, declared=said)


def _left_out(
    source: Source,
    written: PictureFacts,
    as_a_whole: bool,
    at: Encoding | None,
    keeps_profile: bool,
    keeps_notes: bool,
) -> Iterator[str]:
    """What a written file does not hold of the one it was made from, in words. at: the encoding that it
    should say."""
    if source.icc and source.facts.profile and not keeps_profile:
        yield f"the colour profile {source.facts.profile}, which described the colours before"
    if source.facts.alpha and not written.alpha:
        yield f"alpha, which {written.kind} has no room for"
    if source.window is not None and (written.kind != "EXR" or as_a_whole):
        yield "where the pixels lie in the picture that is shown (EXR's display window)"
    if at is not None and written.encoding != at.key:
        yield f"a word of the encoding, {at.label}: {written.kind} has no place for it"
    if source.tags and not keeps_notes:
        yield "what the file says of its camera, its time and its makers"
    yield from source.facts.unread


def resize(rgb: F32, width: int, height: int) -> F32:
    """A smaller picture by area averaging, float32 ``(height, width, 3)``."""
    source = oiio.ImageBuf(np.ascontiguousarray(rgb))
    out = oiio.ImageBufAlgo.resize(
        source, filtername="box", roi=oiio.ROI(0, width, 0, height, 0, 1, 0, rgb.shape[2])
    )
    return np.ascontiguousarray(out.get_pixels(oiio.FLOAT), dtype=np.float32).reshape(
        height, width, rgb.shape[2]
    )


def fit(rgb: F32, width: int, height: int) -> F32:
    """The picture scaled to fit inside ``width`` × ``height``, never enlarged."""
    h, w = rgb.shape[:2]
    factor = min(width / w, height / h, 1.0)
    if factor == 1.0:
        return rgb
    return resize(rgb, max(1, round(w * factor)), max(1, round(h * factor)))
