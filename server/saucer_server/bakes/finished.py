"""The finished picture: a frame at full size under a look, as a file for other programs."""

import io
import tempfile
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

from saucer_core.arrays import F32
from saucer_core.encodings import encoding
from saucer_core.finish import finish
from saucer_core.formats.pictures import BAND, through
from saucer_core.operations import Operation, apply
from saucer_core.treatment import Treatment
from saucer_core.trim import Trim

from ..caches import FULL_SIZE
from ..errors import RuleError
from ..fields import safe_name
from ..frames.rules import Frame, opened
from ..looks.rules import LookValue
from ..luts.rules import table
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


#: Bytes a pixel that a picture takes while all of it must lie in memory: as it is, and while what spreads is
#: added.
FINISH_BYTES = 40


def write(
    look: LookValue,
    frame: Frame,
    trim: Trim,
    path: Path,
    kind: PictureKind,
    *,
    with_finish: bool,
    out: Sequence[Operation] = (),
    gives: str = "",
    name: str = "",
    source: str = "",
) -> list[str]:
    """Writes a frame at full size under a look, with its transparency and tags where there is room; gives
    what was left out, in words.

    out, gives: what brings the look's output to another encoding, and which. name: for the grain, in place of
    the frame's digest.
    source: how the frame is encoded, where that is not said by itself. Raises ``LookError``.
    """
    program = Treatment(look, source or frame.encoding, trim).compile(table)
    ends = with_finish and look.finish.active()

    def ended(rgb: F32) -> F32:
        return apply(out, finish(rgb, look.finish, look.output, name or frame.digest))

    with (
        opened(frame) as file,
        FULL_SIZE.take(frame.width * frame.height * FINISH_BYTES if ends or file.turned else 4 * BAND),
    ):
        return through(
            file,
            path,
            program if ends else lambda rgb: apply(out, program(rgb)),
            kind.depth,
            then=ended if ends else None,
            before=encoding(source or frame.encoding),
            at=encoding(gives or look.output),
        )


def make(
    look: LookValue, look_name: str, frame: Frame, kind_key: str, with_finish: bool
) -> tuple[str, bytes]:
    """Name and bytes of the file: every pixel computed, in the look's output encoding, which the file says
    where its kind can.

    Transparency and tags of the frame's own file are kept where there is room. Raises ``LookError``, and 422
    for a kind there is not.
    """
    kind = PICTURE_KINDS.get(kind_key)
    if kind is None:
        raise RuleError(
            422, f"A finished picture is one of {', '.join(PICTURE_KINDS)}, not “{kind_key[:40]}”."
        )
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"picture{kind.suffix}"
        write(look, frame, frame.trim, path, kind, with_finish=with_finish)
        return f"{safe_name(f'{frame.name}_{look_name}')}{kind.suffix}", path.read_bytes()


def package(
    look: LookValue, look_name: str, frames: Iterable[Frame], kind_key: str, with_finish: bool
) -> Iterator[bytes]:
    """A ZIP of finished pictures in pieces, each picture made when its turn comes: no more than one is in
    memory.

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
