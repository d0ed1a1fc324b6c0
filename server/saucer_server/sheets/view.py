"""A contact sheet as one person sees it."""

from dataclasses import dataclass

from ..bench import pictures
from ..frames.values import ShownPart
from ..looks.rules import recipe_of
from ..people.rules import Person, is_own, may
from . import rules
from .rules import Mark, Row, Sheet, Sums


@dataclass(frozen=True)
class SeenRow:
    """A look on the sheet. look, revision, words and traits are not told while names are turned over; gone:
    the look is no more."""

    id: int
    name: str
    judged_by: bool
    gone: bool
    look: int | None
    revision: int | None
    words: list[str]
    traits: dict[str, float]
    sums: Sums


@dataclass(frozen=True)
class SeenColumn:
    """A frame on the sheet; none where it is gone."""

    id: int
    name: str
    frame: int | None
    part: ShownPart


@dataclass(frozen=True)
class SeenCell(Sums):
    """Sums of one cell."""

    row: int = 0
    column: int = 0


@dataclass(frozen=True)
class SeenMark:
    """What somebody said of a cell, or of a row where there is no column."""

    row: int
    column: int | None
    verdict: str
    note: str
    by: str


@dataclass(frozen=True)
class Voter:
    """How many cells somebody has voted on."""

    name: str
    votes: int


@dataclass(frozen=True)
class SheetView:
    """A sheet as a person sees it. own: their marks; notes: everybody's that may be seen. to_vote: cells that
    are voted on."""

    id: int
    name: str
    strength: float
    blind: bool
    hidden: bool
    closed_by: str | None
    made_by: str
    may_close: bool
    rows: list[SeenRow]
    columns: list[SeenColumn]
    cells: list[SeenCell]
    own: list[SeenMark]
    notes: list[SeenMark]
    people: list[Voter]
    to_vote: int


def _row(row: Row, name: str, hidden: bool, sums: Sums) -> SeenRow:
    told = row.revision is not None and (not hidden or row.judged_by)
    revision = row.revision if told else None
    look = recipe_of(revision) if revision else None
    return SeenRow(
        id=row.pk,
        name=name,
        judged_by=row.judged_by,
        gone=row.revision is None,
        look=revision.look_id if revision else None,
        revision=revision.pk if revision else None,
        words=pictures.words_of(look) if look else [],
        traits=pictures.traits_of(look) if look else {},
        sums=sums,
    )


def _mark(mark: Mark) -> SeenMark:
    return SeenMark(mark.row_id, mark.column_id, mark.verdict, mark.note, str(mark.person))


def view(sheet: Sheet, person: Person) -> SheetView:
    """A sheet as a person sees it."""
    seen, hidden = rules.seen(sheet, person), rules.hidden(sheet)
    return SheetView(
        id=sheet.pk,
        name=sheet.name,
        strength=sheet.strength,
        blind=sheet.blind,
        hidden=hidden,
        closed_by=str(sheet.closed_by) if sheet.closed_by else None,
        made_by=str(sheet.made_by),
        may_close=may(person, "started.end", is_own(person, sheet.made_by_id)),
        rows=[_row(row, name, hidden, seen.sums.get(row.pk, Sums())) for row, name in seen.rows],
        columns=[
            SeenColumn(
                column.pk, column.name, column.frame_id, column.frame.part if column.frame else ShownPart()
            )
            for column in sheet.columns.select_related("frame")
        ],
        cells=[SeenCell(s.yes, s.changes, s.no, row, column) for (row, column), s in seen.cells.items()],
        own=[_mark(mark) for mark in seen.own],
        notes=[_mark(mark) for mark in seen.notes],
        people=[Voter(name, votes) for name, votes in seen.people],
        to_vote=seen.to_vote,
    )
