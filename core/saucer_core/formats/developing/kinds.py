"""Kinds of pictures that are developed: turned into one that Saucer reads, by a process of its own."""

from dataclasses import dataclass
from pathlib import Path

from ...errors import FileError

#: Bytes of a file's head that its kind is told by.
_HEAD = 32


@dataclass(frozen=True)
class ForeignKind:
    """A kind of picture. work: what the child process does with it. light: whether it holds light."""

    name: str
    suffixes: tuple[str, ...]
    work: str
    light: bool = False


#: Suffixes of camera raw: DNG is published, the others are what LibRaw reads.
RAW = ForeignKind(
    "camera raw",
    (
        *(".dng", ".3fr", ".arw", ".cr2", ".cr3", ".crw", ".dcr", ".erf", ".fff", ".iiq", ".kdc", ".mef"),
        *(".mos", ".mrw", ".nef", ".nrw", ".orf", ".pef", ".raf", ".raw", ".rw2", ".rwl", ".sr2", ".srf"),
        *(".srw", ".x3f"),
    ),
    "raw",
    light=True,
)
HEIF = ForeignKind("HEIF", (".heic", ".heif", ".hif"), "heif")
AVIF = ForeignKind("AVIF", (".avif",), "avif")
WEBP = ForeignKind("WebP", (".webp",), "oiio")
JXL = ForeignKind("JPEG XL", (".jxl",), "oiio")
CINEON = ForeignKind("Cineon", (".cin",), "oiio")
RADIANCE = ForeignKind("Radiance HDR", (".hdr",), "oiio", light=True)

KINDS = (RAW, HEIF, AVIF, WEBP, JXL, CINEON, RADIANCE)
SUFFIXES = tuple(s for kind in KINDS for s in kind.suffixes)

#: Brands of ISO base media files (ISO/IEC 14496-12, 4.3): HEIF (ISO/IEC 23008-12, 10) and AVIF (AV1 Image
#: File Format, 6).
_HEIF_BRANDS = (b"heic", b"heix", b"heim", b"heis", b"hevc", b"hevx", b"mif1", b"msf1", b"heif")
_AVIF_BRANDS = (b"avif", b"avis")


def of_file(path: Path, name: str) -> ForeignKind | None:
    """The kind of a file by how it begins, and by its name where raw is concerned; ``None`` for any other.

    Camera raw is told by its suffix: most of it begins as a TIFF does. Raises ``FileError`` for an empty
    file, and for one whose suffix is that of another kind.
    """
    with path.open("rb") as file:
        head = file.read(_HEAD)
    if not head:
        raise FileError(name, "is empty")
    suffix = Path(name).suffix.lower()
    kind = RAW if suffix in RAW.suffixes else _by_head(head)
    if kind is not None and suffix not in kind.suffixes:
        said = f"its name ends in {suffix}" if suffix else "its name has no ending"
        raise FileError(
            name, f"holds {kind.name} data, but {said}. Rename it to {kind.suffixes[0]} and bring it again"
        )
    return kind


def _by_head(head: bytes) -> ForeignKind | None:
    if head[4:8] == b"ftyp":
        brands = [head[8:12], *(head[k : k + 4] for k in range(16, len(head), 4))]
        if any(b in _AVIF_BRANDS for b in brands):
            return AVIF
        return HEIF if any(b in _HEIF_BRANDS for b in brands) else None
    if head[:4] == b"RIFF" and head[8:12] == b"WEBP":
        return WEBP
    if head[:2] == b"\xff\x0a" or head[:12] == b"\0\0\0\x0cJXL \r\n\x87\n":
        return JXL
    if head[:4] in (b"\x80\x2a\x5f\xd7", b"\xd7\x5f\x2a\x80"):
        return CINEON
    return RADIANCE if head.startswith((b"#?RADIANCE", b"#?RGBE")) else None
