"""A look compiled: a list of rows, whose slices are its parts, and whose operations take each tile through
everything in one pass."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

from .arrays import F32, colours
from .encodings import Encoding, conversion, encoding, meeting
from .errors import LookError
from .look import Group, Look, LookStep
from .operations import Operation, apply, fuse
from .prefixes import PrefixCache
from .steps import LutStep, Step, Surroundings, Tables
from .steps.blend import Blend, Eased
from .steps.traced import Trace, line, ramp

Bridge = Callable[[Encoding, Encoding], list[Operation]]


@dataclass(frozen=True, eq=False)
class Row:
    """One line of a program: a step, a group with rows of its own, or a bridge from one encoding to another.

    step: its id; empty for what is no step. own: gives its operations at full strength, and is asked only
    when they are needed: a missing table hinders nothing above it. plain: how what came in is brought to the
    encoding after it, for easing.
    """

    step: str
    before: Encoding
    after: Encoding
    own: Callable[[], list[Operation]] = list
    inside: tuple["Row", ...] = ()
    on: bool = True
    strength: float = 1.0
    blend: Blend = "normal"
    plain: Bridge = conversion

    def operations(self) -> list[Operation]:
        """What it does: ``mix(x, blend(x, f(x)), strength)`` in the encoding after it."""
        if not self.on:
            return []
        if self.strength == 0.0:
            return self.plain(self.before, self.after)
        full = [*self.own(), *(one for row in self.inside for one in row.operations())]
        if self.strength == 1.0 and self.blend == "normal":
            return full
        return [
            Eased(
                tuple(fuse(full)), tuple(fuse(self.plain(self.before, self.after))), self.blend, self.strength
            )
        ]


def row_of(step: Step, at: Encoding, tables: Tables) -> Row:
    """The row of a step that is given the encoding ``at``."""
    after = step.output(at) if step.on else at
    inside = rows_of(step.steps, at, tables) if isinstance(step, Group) else ()
    own = _nothing if isinstance(step, Group) else lambda: _own(step, at, tables)
    return Row(step.id, at, after, own, inside, step.on and not step.neutral(), step.strength, step.blend)


def rows_of(steps: Sequence[Step], at: Encoding, tables: Tables) -> tuple[Row, ...]:
    """The rows of steps, first to last."""
    found: list[Row] = []
    for step in steps:
        found.append(row_of(step, at, tables))
        at = found[-1].after
    return tuple(found)


def rows_of_look(look: Look, tables: Tables) -> tuple[Row, ...]:
    """The rows of a look, within one that eases them all where the look has a strength of its own."""
    source, target = encoding(look.input), encoding(look.output)
    rows = rows_of(look.steps, source, tables)
    return (
        rows
        if look.strength == 1.0
        else (Row("", source, target, inside=rows, strength=look.strength, plain=meeting),)
    )


def _nothing() -> list[Operation]:
    return []


def _own(step: Step, at: Encoding, tables: Tables) -> list[Operation]:
    if isinstance(step, LutStep):
        return step.operations(Surroundings(at, tables))
    if not isinstance(step, LookStep):
        return list(_remembered(type(step), step.model_dump_json(exclude=_SAYS_NOTHING), at))
    if step.look is None:
        return []
    source, target = encoding(step.look.input), encoding(step.look.output)
    inside = [one for row in rows_of_look(step.look, tables) for one in row.operations()]
    return [*meeting(at, source), *inside, *meeting(target, at)]


#: What of a step does not change what it does at full strength.
_SAYS_NOTHING = {"id", "label", "on", "strength", "blend"}


@lru_cache(maxsize=512)
def _remembered(kind: type[Step], numbers: str, at: Encoding) -> tuple[Operation, ...]:
    """What a step without a borrowed table does: while one number of a look moves, the other steps are not
    made anew.

    An entry holds a few curves of at most 1,025 points, some 20 KiB.
    """
    return tuple(kind.model_validate_json(numbers).operations(Surroundings(at)))


def operations_of(step: Step, at: Surroundings) -> list[Operation]:
    """One step with its switch, blend and strength."""
    return row_of(step, at.encoding, at.tables).operations()


def trace(step: Step, at: Surroundings) -> Trace:
    """What a step's editor draws: named lists of numbers, ready to be plotted."""
    if isinstance(step, LookStep) and step.look is not None:
        out = apply(_own(step, at.encoding, at.tables), ramp())
        return {
            "x": line(ramp()[:, 0]),
            "red": line(out[:, 0]),
            "green": line(out[:, 1]),
            "blue": line(out[:, 2]),
        }
    return step.trace(at)


@dataclass(frozen=True, eq=False)
class Program:
    """What is done to colours in the encoding ``source``: lead (trim, and the meeting of picture and look),
    rows (the look), tail (the way to the screen). Slices are programs too.
    """

    source: Encoding
    lead: tuple[Row, ...] = ()
    rows: tuple[Row, ...] = ()
    tail: tuple[Row, ...] = ()

    @cached_property
    def operations(self) -> tuple[Operation, ...]:
        """All of it, fused. Raises ``MissingTable`` where a borrowed table cannot be had."""
        return tuple(fuse(one for row in (*self.lead, *self.rows, *self.tail) for one in row.operations()))

    @property
    def end(self) -> Encoding:
        """The encoding of what it gives."""
        last = (*self.lead, *self.rows, *self.tail)
        return last[-1].after if last else self.source

    def __call__(self, rgb: F32, cache: PrefixCache | None = None, picture: str = "") -> F32:
        """Colours ``(..., 3)``, float32, through all of it. With a cache ``picture`` must name them."""
        rgb = colours(rgb)
        # The calling thread compiles and fetches borrowed tables, so that the threads of the pool need not.
        operations = self.operations
        return apply(operations, rgb) if cache is None else cache.through(operations, rgb, picture)

    def every_row(self) -> Iterator[Row]:
        """The rows of the look's steps, those inside groups included, in order."""

        def walk(rows: tuple[Row, ...]) -> Iterator[Row]:
            for row in rows:
                if row.step:
                    yield row
                yield from walk(row.inside)

        return walk(self.rows)

    def steps(self) -> tuple[Row, ...]:
        """The rows of the look's top-level steps."""
        whole = self.rows[0] if len(self.rows) == 1 and not self.rows[0].step else None
        return self.rows if whole is None else whole.inside

    def row(self, step: str) -> Row:
        """The row of a step, in a group too. Raises ``LookError`` where it is not there."""
        for row in self.every_row():
            if row.step == step:
                return row
        raise LookError(f"The look has no step “{step}”.")

    def upto(self, step: str) -> "Program":
        """The part that ends with a step, eased as the groups around it are. Raises ``LookError`` where the
        step is not there."""
        rows, met = _upto(self.rows, step)
        return replace(self, rows=_met(rows, met, step), tail=())

    def before(self, step: str) -> "Program":
        """The part that gives what comes to a step; inside a group that is what its own earlier steps gave.
        Raises ``LookError``."""
        rows, met = _before(self.rows, step)
        return replace(self, rows=_met(rows, met, step), tail=())

    def only(self, step: str) -> "Program":
        """One step alone: of the others what changes the encoding stays as the plain conversion. Raises
        ``LookError``."""
        return replace(self, rows=_met(_only(self.rows, step), _holds(self.rows, step), step))

    def then(self, target: Encoding) -> "Program":
        """Followed by the plain conversion to another encoding."""
        end = self.end
        return self if end == target else replace(self, tail=(*self.tail, bridge(end, target, conversion)))


def bridge(before: Encoding, after: Encoding, how: Bridge) -> Row:
    """A row that is no step: from one encoding to another."""
    return Row("", before, after, lambda: how(before, after))


def _met(rows: Sequence[Row], met: bool, step: str) -> tuple[Row, ...]:
    if not met:
        raise LookError(f"The look has no step “{step}”.")
    return tuple(rows)


def _holds(rows: Sequence[Row], step: str) -> bool:
    return any(row.step == step or _holds(row.inside, step) for row in rows)


def _upto(rows: Sequence[Row], step: str) -> tuple[list[Row], bool]:
    kept: list[Row] = []
    for row in rows:
        if row.step == step:
            return [*kept, row], True
        inner, met = _upto(row.inside, step)
        if met:
            return [
                *kept,
                replace(row, inside=tuple(inner), after=inner[-1].after if row.on else row.before),
            ], True
        kept.append(row)
    return kept, False


def _before(rows: Sequence[Row], step: str) -> tuple[list[Row], bool]:
    kept: list[Row] = []
    for row in rows:
        if row.step == step:
            return kept, True
        inner, met = _before(row.inside, step)
        if met:
            return [*kept, *(inner if row.on else ())], True
        kept.append(row)
    return kept, False


def _only(rows: Sequence[Row], step: str) -> list[Row]:
    kept: list[Row] = []
    for row in rows:
        if row.step == step:
            kept.append(row)
        elif _holds(row.inside, step):
            kept.append(replace(row, inside=tuple(_only(row.inside, step))))
        elif row.before != row.after:
            kept.append(replace(row, strength=0.0))
    return kept
