"""Pictures of every depth, through OpenImageIO: PNG, JPEG, TIFF, EXR."""

from dataclasses import dataclass
from pathlib import Path

import numpy as np
import OpenImageIO as oiio

from ..arrays import F32
from ..errors import FileError
from .files import whole

SIZE_LIMIT = 256 * 2**20
PIXEL_LIMIT = 64 * 10**6

#: How each kind of file begins, and the suffixes it goes by.
_KINDS: tuple[tuple[str, tuple[bytes, ...], tuple[str, ...]], ...] = (
    ("PNG", (b"\x89PNG\r\n\x1a\n",), (".png",)),
    ("JPEG", (b"\xff\xd8\xff",), (".jpg", ".jpeg")),
    ("TIFF", (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+"), (".tif", ".tiff")),
    ("EXR", (b"\x76\x2f\x31\x01",), (".exr",)),
)
SUFFIXES = tuple(s for _, _, suffixes in _KINDS for s in suffixes)


@dataclass(frozen=True)
class PictureFacts:
    """What a picture file says of itself. depth: like ``8 bit``, ``16 bit``, ``half float``; profile: of an embedded one."""

    kind: str
    width: int
    height: int
    depth: str
    profile: str = ""


_DEPTHS = {"uint8": "8 bit", "uint16": "16 bit", "half": "half float", "float": "32-bit float"}


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
                raise FileError(name, f"holds {kind} data, but {said}. Rename it to {suffixes[0]} and bring it again")
            return kind
    raise FileError(name, "is not a picture Saucer reads (PNG, JPEG, TIFF or EXR)")


def read(path: Path, name: str | None = None) -> tuple[F32, PictureFacts]:
    """The picture as float32 ``(height, width, 3)``, integers scaled to 0–1, and its facts.

    Grey is repeated to three channels, alpha is left out. Raises ``FileError``; sizes are checked before any pixel is
    read.
    """
    name = name or path.name
    if path.stat().st_size > SIZE_LIMIT:
        raise FileError(name, f"larger than {SIZE_LIMIT // 2**20} MiB, the most a picture may be")
    kind = _recognise(path, name)
    source = oiio.ImageInput.open(str(path))
    if source is None:
        raise FileError(name, f"cannot be opened as {kind}: it is damaged or cut short ({_why()})")
    try:
        spec = source.spec()
        if spec.width * spec.height > PIXEL_LIMIT or max(spec.width, spec.height) > 32768 or spec.depth > 1:
            raise FileError(name, f"{spec.width} × {spec.height} pixels are more than the {PIXEL_LIMIT // 10**6} million Saucer takes")
        depth = str(spec.format)
        profile = _profile(spec)
        channels = [c.rpartition(".")[2].upper() for c in spec.channelnames]
        wanted = [channels.index(c) for c in "RGB"] if set("RGB") <= set(channels) else [0, 0, 0]
        pixels = source.read_image(0, 0, 0, max(wanted) + 1, oiio.FLOAT)
        if pixels is None or source.has_error:
            raise FileError(name, f"cannot be read to its end: it is damaged or cut short ({_why(source)})")
    finally:
        source.close()
    rgb = np.ascontiguousarray(np.asarray(pixels, dtype=np.float32).reshape(spec.height, spec.width, -1)[..., wanted])
    finite = np.isfinite(rgb)
    if not finite.all():
        row, column = np.argwhere(~finite)[0][:2]
        raise FileError(
            name,
            f"{int((~finite).any(axis=-1).sum())} pixels are not numbers, the first at x {column}, y {row}. Render it again without them",
        )
    return rgb, PictureFacts(kind, spec.width, spec.height, _DEPTHS.get(depth, depth), profile)


def _profile(spec: "oiio.ImageSpec") -> str:
    """The description of an embedded colour profile; empty where there is none."""
    if spec.getattribute("ICCProfile") is None:
        return ""
    return str(spec.getattribute("ICCProfile:profile_description") or "without a name")


def _why(source: "oiio.ImageInput | None" = None) -> str:
    text = source.geterror() if source is not None else oiio.geterror()
    return " ".join(str(text).split()).rpartition(": ")[2][:120] or "no reason given"


def write(path: Path, rgb: F32, depth: str | None = None) -> None:
    """Writes float32 ``(height, width, 3 or 4)``; whole or not at all.

    depth: an OpenImageIO name (``uint8``, ``uint16``, ``half``, ``float``); by default 8 bit for JPEG, 16 bit for PNG and
    TIFF, half float for EXR. Values beyond 0–1 are clipped by the integer kinds. Raises ``FileError``.
    """
    suffix = path.suffix.lower()
    if suffix not in SUFFIXES:
        raise FileError(path.name, f"Saucer writes {', '.join(SUFFIXES)}, not “{suffix}”")
    defaults = {".jpg": "uint8", ".jpeg": "uint8", ".exr": "half"}
    depth = depth or defaults.get(suffix, "uint16")
    pixels = np.ascontiguousarray(rgb if depth in ("half", "float") else np.clip(rgb, 0, 1), dtype=np.float32)

    def fill(part: Path) -> None:
        target = oiio.ImageOutput.create(str(part))
        spec = oiio.ImageSpec(pixels.shape[1], pixels.shape[0], pixels.shape[2], depth)
        if suffix == ".exr":
            spec.attribute("compression", "zip")
        if suffix in (".jpg", ".jpeg"):
            spec.attribute("Compression", "jpeg:92")
        if target is None or not target.open(str(part), spec) or not target.write_image(pixels):
            raise FileError(path.name, f"cannot be written ({_why()})")
        target.close()

    whole(path, fill)


def resize(rgb: F32, width: int, height: int) -> F32:
    """A smaller picture by area averaging, float32 ``(height, width, 3)``."""
    source = oiio.ImageBuf(np.ascontiguousarray(rgb))
    out = oiio.ImageBufAlgo.resize(source, filtername="box", roi=oiio.ROI(0, width, 0, height, 0, 1, 0, rgb.shape[2]))
    return np.ascontiguousarray(out.get_pixels(oiio.FLOAT), dtype=np.float32).reshape(height, width, rgb.shape[2])


def fit(rgb: F32, width: int, height: int) -> F32:
    """The picture scaled to fit inside ``width`` × ``height``, never enlarged."""
    h, w = rgb.shape[:2]
    factor = min(width / w, height / h, 1.0)
    if factor == 1.0:
        return rgb
    return resize(rgb, max(1, round(w * factor)), max(1, round(h * factor)))
