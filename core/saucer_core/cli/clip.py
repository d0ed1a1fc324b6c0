"""A look or a LUT on a clip, for ``apply``."""

import tempfile
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from ..baking.bake import bake_for_clip
from ..encodings import Encoding
from ..encodings import encoding as encoding_of
from ..errors import FileError
from ..finish import finishing
from ..formats import clips, recipe
from ..formats.clip_kinds import CLIP_KINDS, ClipKind
from ..formats.clip_writing import ClipWork, Finish, render
from ..formats.registry import read_table
from ..operations import Operation
from ..steps.blend import Eased
from ..treatment import Treatment
from .shared import Answer, is_recipe, present, told

_USUAL = {".mov": "h264_10", ".mkv": "ffv1"}


@dataclass(frozen=True)
class Wanted:
    """What is asked of a clip: see the options of ``apply``."""

    kind: str | None
    encoding: str | None
    strength: float
    finish: bool
    replace: bool
    quiet: bool


def _kind(target: Path, key: str | None) -> ClipKind:
    suffix = target.suffix.lower()
    kind = CLIP_KINDS.get(key or _USUAL.get(suffix, ""))
    if kind is None or kind.suffix != suffix:
        raise FileError(
            str(target),
            f"{kind.label if kind else 'a clip'} is written as "
            f"{kind.suffix if kind else ' or '.join(_USUAL)}",
        )
    return kind


def on_clip(look: Path, source: Path, target: Path, wanted: Wanted) -> Answer:
    """Writes the clip under a look or a LUT; sound and timecode come along. Raises ``FileError``."""
    kind = _kind(target, wanted.kind)
    if target.exists() and target.samefile(source) and not wanted.replace:
        raise FileError(str(target), "is the clip itself. Name another file, or allow it with --replace")
    told("looking the clip through")
    found = clips.look_through(source)
    operations, end, ends = _treated(look, source, found, wanted)

    def tell(done: int, count: int) -> None:
        if not wanted.quiet:
            told(f"frame {done} of {count}")

    with tempfile.TemporaryDirectory(dir=target.parent, prefix=".lengths-") as folder:
        work = ClipWork(source, found, 0, found.facts.frames - 1, operations, end, kind, ends)
        left = render(work, Path(folder), target, tell)
    told("")
    answer: Answer = {"file": str(target), "frames": found.facts.frames, "kind": kind.label, "to": end.key}
    more = {"doubts": list(found.facts.doubts), "left out": left}
    return {**answer, **{key: said for key, said in more.items() if said}}


def _treated(
    look: Path, source: Path, found: clips.Found, wanted: Wanted
) -> tuple[Sequence[Operation], Encoding, Finish | None]:
    key = wanted.encoding or found.facts.encoding
    if not is_recipe(look):
        inside = tuple(read_table(present(look)).operations())
        return [Eased(inside, (), "normal", wanted.strength)], encoding_of(key or "bt709_display"), None
    if not key:
        raise FileError(source.name, "says nothing of its colours. Say how it is encoded with --encoding")
    own = recipe.read(present(look))
    program = Treatment(own.look, key, strength=wanted.strength).compile(own.tables)
    operations = tuple(bake_for_clip(program, found.facts.full_range, found.facts.depth).operations())
    if not wanted.finish or not own.look.finish.active():
        return operations, program.end, None

    return operations, program.end, finishing(own.look, source.name)
