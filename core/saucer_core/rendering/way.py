"""What is done to the colours of a shot: its trim and looks, or its LUT."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

from ..arrays import F32
from ..baking.bake import bake_for_clip
from ..encodings import Encoding, encoding, meeting
from ..errors import FileError
from ..finish import finishing
from ..formats import recipe
from ..formats.clips import ClipFacts
from ..formats.delivery import ListedOut, ListedShot
from ..formats.registry import read_table
from ..look import Look
from ..operations import Operation, apply
from ..program import Program
from ..stack import Layer, stacked
from ..tables.lut import Table
from ..treatment import Treatment
from ..version import PIXELS
from .package import Package


@dataclass(frozen=True)
class Way:
    """What is done to a shot's colours. source: the encoding that the shot is read as; end: the one that it
    goes out in. made_of: all that the pixels depend on, but for the footage, with checksums.

    program: of its trim and looks; where the delivery has no recipes, ``lut`` does the same as a table.
    finish: done to whole pictures afterwards, given the frame's number, or nothing for a still.
    """

    source: Encoding
    end: Encoding
    made_of: list[str]
    program: Program | None = None
    lut: tuple[Operation, ...] = ()
    finish: Callable[[F32, int | None], F32] | None = None

    def of_clip(self, facts: ClipFacts) -> Sequence[Operation]:
        """The operations for the frames of a clip."""
        if self.program is None:
            return self.lut
        return bake_for_clip(self.program, facts.full_range, facts.depth).operations()

    def of_picture(self, held: Encoding) -> Callable[[F32], F32]:
        """What takes and gives colours of pictures in the encoding ``held``, float32 ``(rows, width, 3)``."""
        first = tuple(meeting(held, self.source)) if held != self.source else ()
        done = self._done

        def recolour(rgb: F32) -> F32:
            return done(apply(first, rgb) if first else rgb)

        return recolour

    @cached_property
    def _done(self) -> Callable[[F32], F32]:
        return self.program if self.program is not None else lambda rgb: apply(self.lut, rgb)


def out_of(shot: ListedShot, wanted: str) -> ListedOut:
    """The encoding that a shot goes out in: the one that is wanted, else its first. Raises ``FileError``."""
    if shot.source is not None and not shot.looks:
        raise FileError(shot.label, "no look is on it")
    if not shot.outs:
        raise FileError(shot.label, "its delivery is of an older Saucer, which does not say its looks")
    found = next((out for out in shot.outs if wanted in ("", out.encoding)), None)
    if found is None:
        raise FileError(
            shot.label, f"goes out in {', '.join(out.encoding for out in shot.outs)}, not {wanted}"
        )
    return found


def way_of(package: Package, shot: ListedShot, out: ListedOut, with_finish: bool) -> Way:
    """What is done to a shot's colours. Raises ``FileError`` where the delivery holds neither its recipes nor
    its LUT."""
    if all(one.recipe for one in shot.looks):
        # Recipes bring encodings of the team.
        look, tables = _look(package, shot)
        source, end = encoding(shot.encoding), encoding(out.encoding)
        finished = with_finish and bool(look.finish.active())
        white = package.contents.white
        program = Treatment(
            look, source.key, shot.trim, goes_out="" if finished else end.key, sdr_white=white
        ).compile(tables.get)
        ends = finishing(look, shot.digest or shot.label, end.key, white) if finished else None
        recipes = [f"{package.files.listed[one.recipe].sha256} {one.strength}" for one in shot.looks]
        made_of = [*recipes, *_said(package, shot, end), str(finished)]
        return Way(source, end, made_of, program, finish=ends)
    if not out.lut:
        raise FileError(
            shot.label, "the delivery holds neither the recipes of its looks nor its LUT. Order one with them"
        )
    source, end = encoding(shot.encoding), encoding(out.encoding)
    operations = tuple(read_table(package.files.place_of(out.lut)).operations())
    return Way(
        source, end, [package.files.listed[out.lut].sha256, *_said(package, shot, end)], lut=operations
    )


def _look(package: Package, shot: ListedShot) -> tuple[Look, dict[str, Table]]:
    layers: list[Layer] = []
    tables: dict[str, Table] = {}
    for one in shot.looks:
        found = recipe.read(package.files.place_of(one.recipe))
        tables |= found.luts
        layers.append(Layer(found.look, one.strength, one.look, one.revision))
    return stacked(layers), tables


def _said(package: Package, shot: ListedShot, end: Encoding) -> list[str]:
    """What the pixels of a shot depend on beside its looks."""
    return [shot.trim.model_dump_json(), shot.encoding, end.key, str(package.contents.white), str(PIXELS)]
