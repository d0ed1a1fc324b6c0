"""The finished picture: a frame at full size under a look, as a file for other programs."""

import io
import tempfile
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path

from saucer_core.encodings import encoding
from saucer_core.formats import pictures

from ..bench.pictures import finished, rendered
from ..errors import RuleError
from ..fields import safe_name
from ..frames.rules import Frame, source
from ..looks.rules import Recipe
from ..zips import streamed


@dataclass(frozen=True)
class PictureKind:
    """A kind of picture file: its key, what it is called, its suffix and depth (an OpenImageIO name)."""

    key: str
    label: str
    suffix: str
    depth: str


PICTURE_KINDS = {
    k.key: k
    for k in (
        PictureKind("png16", "PNG, 16 bit", ".png", "uint16"),
        PictureKind("png8", "PNG, 8 bit", ".png", "uint8"),
        PictureKind("tiff16", "TIFF, 16 bit", ".tif", "uint16"),
        PictureKind("exr_half", "EXR, half float", ".exr", "half"),
        PictureKind("exr_float", "EXR, float", ".exr", "float"),
        PictureKind("jpeg", "JPEG", ".jpg", "uint8"),
    )
}


def make(look: Recipe, look_name: str, frame: Frame, kind_key: str, with_finish: bool) -> tuple[str, bytes]:
    """Name and bytes of the file: every pixel computed, in the look's output encoding, which the file says where its kind can.

    Transparency and tags of the frame's own file are kept where there is room. Raises ``LookError``, and 422 for a kind there is not.
    """
    kind = PICTURE_KINDS.get(kind_key)
    if kind is None:
        raise RuleError(422, f"A finished picture is one of {', '.join(PICTURE_KINDS)}, not “{kind_key[:40]}”.")
    render = finished if with_finish else rendered
    rgb = render(look, frame, None)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"picture{kind.suffix}"
        pictures.write(path, rgb, kind.depth, like=source(frame), at=encoding(look.output))
        return f"{safe_name(f'{frame.name}_{look_name}')}{kind.suffix}", path.read_bytes()


def package(look: Recipe, look_name: str, frames: Iterable[Frame], kind_key: str, with_finish: bool) -> Iterator[bytes]:
    """A ZIP of finished pictures in pieces, each picture made when its turn comes: no more than one is in memory.

    Raises as ``make`` does, for the first picture before anything is given.
    """

    def entries() -> Iterator[tuple[str, io.BytesIO]]:
        names = set[str]()
        for frame in frames:
            name, data = make(look, look_name, frame, kind_key, with_finish)
            stem, dot, suffix = name.rpartition(".")
            count = 2
            while name in names:
                name, count = f"{stem} {count}{dot}{suffix}", count + 1
            names.add(name)
            yield name, io.BytesIO(data)

    return streamed(entries())
