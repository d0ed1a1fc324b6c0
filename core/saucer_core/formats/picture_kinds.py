"""Kinds of picture files that are written: what each is called, and what it can hold and say."""

from dataclasses import dataclass
from pathlib import Path

from ..encodings import Encoding
from ..errors import FileError
from .declared import CICP, usual
from .icc import profile, recognised

#: Depths by OpenImageIO's names, which has none for 10 and 12 bit, and as they are said.
DEPTHS = {
    "uint8": "8 bit",
    "uint10": "10 bit",
    "uint12": "12 bit",
    "uint16": "16 bit",
    "half": "half float",
    "float": "32-bit float",
}


@dataclass(frozen=True)
class WrittenKind:
    """A kind of picture file that is written.

    depths: that it holds, from shallow to deep; usual: the one where nothing asks for another. alpha: whether
    it holds transparency. says: by what it says the encoding of its colours: a tag of Saucer's own, codes of
    ITU-T H.273, a colour profile. compression: as OpenImageIO is told it. whole: whether a library of its own
    writes it, from the whole picture. always_says: whether it cannot leave the encoding unsaid. notes:
    whether it keeps what a file says of its camera, its time and its makers.
    """

    name: str
    suffixes: tuple[str, ...]
    depths: tuple[str, ...]
    usual: str
    alpha: bool = True
    says: tuple[str, ...] = ("profile",)
    compression: str = ""
    whole: bool = False
    always_says: bool = False
    notes: bool = True

    def describes(self, at: Encoding) -> bool:
        """Whether a file of this kind describes colours in that encoding to other programs."""
        return ("codes" in self.says and at.key in CICP) or ("profile" in self.says and bool(profile(at)))

    def can_say(self, at: Encoding) -> bool:
        """Whether a file of this kind is taken for that encoding where it is read: by what it says, or where
        it says nothing."""
        by_codes = "codes" in self.says and at.key in CICP
        by_profile = "profile" in self.says and recognised(profile(at)) == at.key
        return (
            "tag" in self.says
            or by_codes
            or by_profile
            or (usual(self.name) == at.key and not self.always_says)
        )


#: JPEG as little compressed as a look at it asks for; kinds that can do without loss do.
WRITTEN_KINDS = (
    WrittenKind("PNG", (".png",), ("uint8", "uint16"), "uint16", says=("tag", "codes", "profile")),
    WrittenKind("JPEG", (".jpg", ".jpeg"), ("uint8",), "uint8", alpha=False, compression="jpeg:92"),
    WrittenKind("TIFF", (".tif", ".tiff"), ("uint8", "uint16", "float"), "uint16"),
    WrittenKind("EXR", (".exr",), ("half", "float"), "half", says=("tag",)),
    WrittenKind("DPX", (".dpx",), ("uint10", "uint12", "uint16"), "uint10", says=(), notes=False),
    WrittenKind("Radiance HDR", (".hdr",), ("float",), "float", alpha=False, says=(), notes=False),
    WrittenKind("WebP", (".webp",), ("uint8",), "uint8", compression="lossless:100", notes=False),
    WrittenKind(
        "JPEG XL",
        (".jxl",),
        ("uint8", "uint16", "float"),
        "uint16",
        says=("codes", "profile"),
        compression="jpegxl:100",
        always_says=True,
        notes=False,
    ),
    WrittenKind(
        "HEIF",
        (".heic", ".heif", ".hif"),
        ("uint8", "uint10"),
        "uint10",
        says=("codes", "profile"),
        whole=True,
        notes=False,
    ),
    WrittenKind("AVIF", (".avif",), ("uint8", "uint10"), "uint10", says=("codes",), whole=True, notes=False),
)
#: Suffixes of the files that are written.
WRITTEN = tuple(s for kind in WRITTEN_KINDS for s in kind.suffixes)


def kind_of(name: str) -> WrittenKind:
    """The kind of file that a name asks for. Raises ``FileError``."""
    suffix = Path(name).suffix.lower()
    kind = next((k for k in WRITTEN_KINDS if suffix in k.suffixes), None)
    if kind is None:
        raise FileError(name, f"Saucer writes {', '.join(WRITTEN)}, not “{suffix}”")
    return kind


def depth_for(name: str, wanted: str | None, source: str = "") -> str:
    """The depth, a key of ``DEPTHS``, that a picture file of that name is written in.

    wanted: asked for by name. source: the depth of the picture it is made from, in words: kept where the file
    can hold it, else the deepest it can. Without either the usual one of its kind. Raises ``FileError``.
    """
    kind = kind_of(name)
    if wanted is not None:
        if wanted not in kind.depths:
            raise FileError(name, f"{kind.name} files hold {' or '.join(kind.depths)}, not {wanted}")
        return wanted
    given = next((key for key, words in DEPTHS.items() if words == source), None)
    if given is not None:
        return given if given in kind.depths else kind.depths[-1]
    return kind.usual
