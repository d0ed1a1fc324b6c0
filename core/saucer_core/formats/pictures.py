"""Pictures of every depth, through OpenImageIO: PNG, JPEG, TIFF, EXR."""

import re
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import OpenImageIO as oiio

from ..arrays import F32
from ..encodings import Encoding
from ..errors import FileError
from .files import whole
from .icc import profile

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
    """What a picture file says of itself.

    width, height: in pixels, as it is looked at. depth: like ``8 bit``, ``16 bit``, ``half float``. profile: the description of an
    embedded colour profile. alpha: whether it says what is transparent.
    """

    kind: str
    width: int
    height: int
    depth: str
    profile: str = ""
    alpha: bool = False


@dataclass(frozen=True)
class Picture:
    """A picture with all that its file holds.

    rgb: float32 ``(height, width, 3)``, integers scaled to 0–1, turned the way it is looked at. alpha: float32 ``(height, width)``,
    ``None`` where there is none; ``rgb`` is not multiplied by it. tags: names and values that another file can keep. icc: the bytes
    of an embedded colour profile, empty where there is none.
    """

    rgb: F32
    facts: PictureFacts
    alpha: F32 | None = None
    tags: tuple[tuple[str, Any], ...] = ()
    icc: bytes = b""


_DEPTHS = {"uint8": "8 bit", "uint16": "16 bit", "half": "half float", "float": "32-bit float"}
#: The depths that each kind of file can hold, from shallow to deep.
HOLDS = {"PNG": ("uint8", "uint16"), "JPEG": ("uint8",), "TIFF": ("uint8", "uint16", "float"), "EXR": ("half", "float")}
#: Tags that say how a file is laid out or what its codes mean: these do not outlive it.
_OWN_TAGS = re.compile(
    r"(oiio|openexr|tiff|png|jpeg|ICCProfile|exr|acesImageContainerFlag)\b|compression$|planarconfig|Orientation|DateTime$|chromaticities|"
    r"whiteLuminance|adoptedNeutral|colorInteropID|CICP|Exif:(ColorSpace|ExifVersion|FlashPixVersion|PixelXDimension|PixelYDimension)|"
    r"screenWindow|ICCProfile|XResolution|YResolution|ResolutionUnit|name$|type$|view$|chunkCount|Gamma",
    re.IGNORECASE,
)  # fmt: skip


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
    """The picture's colours, see ``load``, and its facts."""
    found = load(path, name)
    return found.rgb, found.facts


def facts_of(path: Path) -> PictureFacts:
    """What a picture file says of itself, as it lies; no pixel is read. Raises ``FileError``."""
    kind = _recognise(path, path.name)
    source = oiio.ImageInput.open(str(path))
    if source is None:
        raise FileError(path.name, f"cannot be opened as {kind}: it is damaged or cut short ({_why()})")
    spec = source.spec()
    source.close()
    depth = str(spec.format)
    return PictureFacts(kind, spec.width, spec.height, _DEPTHS.get(depth, depth), _profile(spec), spec.alpha_channel >= 0)


def load(path: Path, name: str | None = None) -> Picture:
    """The picture in a file, grey repeated to three channels. Raises ``FileError``; sizes are checked before any pixel is read."""
    name = name or path.name
    try:
        return _loaded(path, name)
    except UnicodeDecodeError:
        raise FileError(name, "says things of itself that are no text: it is damaged") from None


def _loaded(path: Path, name: str) -> Picture:
    if path.stat().st_size > SIZE_LIMIT:
        raise FileError(name, f"larger than {SIZE_LIMIT // 2**20} MiB, the most a picture may be")
    kind = _recognise(path, name)
    # Colours that are not multiplied by their alpha stay so.
    asked = oiio.ImageSpec()
    asked.attribute("oiio:UnassociatedAlpha", 1)
    source = oiio.ImageInput.open(str(path), asked)
    if source is None:
        raise FileError(name, f"cannot be opened as {kind}: it is damaged or cut short ({_why()})")
    try:
        spec = source.spec()
        if spec.width * spec.height > PIXEL_LIMIT or max(spec.width, spec.height) > 32768 or spec.depth > 1:
            raise FileError(name, f"{spec.width} × {spec.height} pixels are more than the {PIXEL_LIMIT // 10**6} million Saucer takes")
        channels = [c.rpartition(".")[2].upper() for c in spec.channelnames]
        wanted = [channels.index(c) for c in "RGB"] if set("RGB") <= set(channels) else [0, 0, 0]
        alpha_at = spec.alpha_channel
        pixels = source.read_image(0, 0, 0, max(*wanted, alpha_at) + 1, oiio.FLOAT)
        if pixels is None or source.has_error:
            raise FileError(name, f"cannot be read to its end: it is damaged or cut short ({_why(source)})")
    finally:
        source.close()
    whole = np.asarray(pixels, dtype=np.float32).reshape(spec.height, spec.width, -1)
    turn = _TURNS.get(int(spec.getattribute("Orientation") or 1), _TURNS[1])
    rgb = np.ascontiguousarray(turn(whole[..., wanted]))
    alpha = np.ascontiguousarray(turn(whole[..., alpha_at])) if alpha_at >= 0 else None
    finite = np.isfinite(rgb)
    if not finite.all():
        row, column = np.argwhere(~finite)[0][:2]
        raise FileError(
            name,
            f"{int((~finite).any(axis=-1).sum())} pixels are not numbers, the first at x {column}, y {row}. Render it again without them",
        )
    if alpha is not None:
        alpha = np.clip(np.nan_to_num(alpha), 0, 1)
        if not int(spec.getattribute("oiio:UnassociatedAlpha") or 0):
            rgb = np.where(alpha[..., None] > 0, rgb / np.where(alpha > 0, alpha, 1)[..., None], rgb).astype(np.float32)
    depth = str(spec.format)
    facts = PictureFacts(kind, rgb.shape[1], rgb.shape[0], _DEPTHS.get(depth, depth), _profile(spec), alpha is not None)
    tags = tuple((a.name, a.value) for a in spec.extra_attribs if not _OWN_TAGS.match(a.name) and isinstance(a.value, str | int | float))
    icc = spec.getattribute("ICCProfile")
    return Picture(rgb, facts, alpha, tags, b"" if icc is None else np.asarray(icc).astype(np.uint8).tobytes())


#: How pixels are turned for each value of the orientation tag (Exif 2.32, tag 274).
_TURNS: dict[int, Callable[[F32], F32]] = {
    1: lambda p: p,
    2: lambda p: p[:, ::-1],
    3: lambda p: p[::-1, ::-1],
    4: lambda p: p[::-1],
    5: lambda p: np.swapaxes(p, 0, 1),
    6: lambda p: np.swapaxes(p, 0, 1)[:, ::-1],
    7: lambda p: np.swapaxes(p, 0, 1)[::-1, ::-1],
    8: lambda p: np.swapaxes(p, 0, 1)[::-1],
}


def _profile(spec: "oiio.ImageSpec") -> str:
    """The description of an embedded colour profile; empty where there is none."""
    if spec.getattribute("ICCProfile") is None:
        return ""
    return str(spec.getattribute("ICCProfile:profile_description") or "without a name")


def _why(source: "oiio.ImageInput | oiio.ImageOutput | None" = None) -> str:
    text = source.geterror() if source is not None else oiio.geterror()
    return " ".join(str(text).split()).rpartition(": ")[2][:120] or "no reason given"


def depth_for(name: str, wanted: str | None, source: str = "") -> str:
    """The depth (an OpenImageIO name) that a picture file of that name is written in.

    wanted: asked for by name. source: the depth of the picture it is made from, in words: kept where the file can hold it, else the
    deepest it can. Without either: 8 bit for JPEG, 16 bit for PNG and TIFF, half float for EXR. Raises ``FileError``.
    """
    suffix = Path(name).suffix.lower()
    kind = next((k for k, _, suffixes in _KINDS if suffix in suffixes), None)
    if kind is None:
        raise FileError(name, f"Saucer writes {', '.join(SUFFIXES)}, not “{suffix}”")
    holds = HOLDS[kind]
    if wanted is not None:
        if wanted not in holds:
            raise FileError(name, f"{kind} files hold {' or '.join(holds)}, not {wanted}")
        return wanted
    given = next((key for key, words in _DEPTHS.items() if words == source), None)
    if given is not None:
        return given if given in holds else holds[-1]
    return {"JPEG": "uint8", "EXR": "half"}.get(kind, "uint16")


#: Identifiers of encodings that files carry (Color Interop Forum, "Color Space Encodings for Texture Assets and CG Rendering", and
#: OpenImageIO 3), where there is one.
_INTEROP = {
    "srgb": "srgb_rec709_display", "display_p3": "srgb_p3d65_display", "bt709_display": "g24_rec709_display",
    "bt2020_display": "g24_rec2020_display", "pq": "pq_rec2020_display", "hlg": "hlg_rec2020_display", "gamma_22": "g22_rec709_display",
    "linear_709": "lin_rec709_scene", "linear_p3": "lin_p3d65_scene", "linear_2020": "lin_rec2020_scene", "aces2065_1": "lin_ap0_scene",
    "acescg": "lin_ap1_scene", "acescc": "acescc_ap1_scene", "acescct": "acescct_ap1_scene",
}  # fmt: skip
#: ITU-T H.273 codes (primaries, transfer, matrix, full range) that a PNG carries.
CICP = {
    "srgb": (1, 13, 0, 1), "display_p3": (12, 13, 0, 1), "bt709_display": (1, 1, 0, 1), "bt2020_display": (9, 14, 0, 1),
    "pq": (9, 16, 0, 1), "hlg": (9, 18, 0, 1),
}  # fmt: skip


def _say_encoding(spec: "oiio.ImageSpec", at: Encoding, suffix: str) -> None:
    if at.key in _INTEROP:
        spec.attribute("oiio:ColorSpace", _INTEROP[at.key])
    if suffix == ".png" and at.key in CICP:
        spec.attribute("CICP", oiio.TypeDesc("int[4]"), CICP[at.key])
    if suffix != ".exr" and (described := profile(at)):
        spec.attribute("ICCProfile", oiio.TypeDesc(f"uint8[{len(described)}]"), np.frombuffer(described, dtype=np.uint8))
    if suffix == ".exr":
        p = at.primaries
        spec.attribute("chromaticities", oiio.TypeDesc("float[8]"), (*p.red, *p.green, *p.blue, *p.white))


def write(
    path: Path, rgb: F32, depth: str | None = None, *, like: Picture | None = None, at: Encoding | None = None, icc: bytes = b""
) -> None:
    """Writes float32 ``(height, width, 3 or 4)``; whole or not at all.

    depth: see ``depth_for``. like: the picture it was made from, whose alpha and tags it keeps. at: the encoding of the colours, which the
    file then says where its kind can. icc: a colour profile to embed.
    Values beyond 0–1 are clipped by the integer kinds, beyond 65,504 by half float. Raises ``FileError``.
    """
    suffix, depth = path.suffix.lower(), depth_for(path.name, depth)
    multiplied = suffix == ".exr"
    if like is not None and like.alpha is not None and suffix not in (".jpg", ".jpeg"):
        rgb = np.concatenate([rgb * like.alpha[..., None] if multiplied else rgb, like.alpha[..., None]], axis=-1)
    low, high = {"half": (-65504.0, 65504.0), "float": (-np.inf, np.inf)}.get(depth, (0.0, 1.0))
    pixels = np.ascontiguousarray(np.clip(rgb, low, high), dtype=np.float32)

    def fill(part: Path) -> None:
        target = oiio.ImageOutput.create(str(part))
        spec = oiio.ImageSpec(pixels.shape[1], pixels.shape[0], pixels.shape[2], depth)
        if not multiplied:
            spec.attribute("oiio:UnassociatedAlpha", 1)
        for key, value in like.tags if like is not None else ():
            spec.attribute(key, value)
        if icc:
            spec.attribute("ICCProfile", oiio.TypeDesc(f"uint8[{len(icc)}]"), np.frombuffer(icc, dtype=np.uint8))
        elif at is not None:
            _say_encoding(spec, at, suffix)
        if suffix == ".exr":
            spec.attribute("compression", "zip")
        if suffix == ".png" and depth == "uint16":
            # The lower half of a 16-bit code is as good as noise: more effort takes twice the time and saves half a per cent.
            spec.attribute("png:compressionLevel", 2)
        if suffix in (".jpg", ".jpeg"):
            spec.attribute("Compression", "jpeg:92")
        if target is None or not target.open(str(part), spec) or not target.write_image(pixels) or not target.close():
            raise FileError(path.name, f"cannot be written ({_why(target)})")

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
