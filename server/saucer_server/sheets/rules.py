"""Contact sheets: who makes, marks and closes them, and what is seen of a blind one."""

import random
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass

from django.db import transaction
from django.db.models import Count, QuerySet
from django.utils import timezone

from ..errors import RuleError, missing
from ..fields import take
from ..frames import rules as frames
from ..looks import rules as looks
from ..lookup import by_id
from ..people import circles
from ..people.rules import Person, is_own, must
from ..removals import rules as removals
from ..removals.kinds import Kind, register
from .models import Column, Mark, Row, Sheet, Verdict
from .payloads import MarkIn, SheetPatch, SheetPlan

__all__ = [
    "Column",
    "Mark",
    "Row",
    "Seen",
    "Sheet",
    "Sums",
    "Verdict",
    "change",
    "close",
    "create",
    "drop",
    "every",
    "find",
    "mark",
    "row_of",
    "seen",
]

BIN = register(Kind("sheet", "contact sheet", Sheet.objects, "made_by"))


def find(sheet_id: int) -> Sheet:
    """The sheet; raises 404."""
    return by_id(Sheet.objects.select_related("made_by", "closed_by"), sheet_id, "contact sheet")


def every() -> QuerySet[Sheet]:
    """All sheets, the newest first, with how many people marked on each."""
    return Sheet.objects.select_related("made_by").annotate(
        people=Count("rows__marks__person", distinct=True)
    )


def create(person: Person, plan: SheetPlan) -> Sheet:
    """A new sheet."""
    chosen = list(dict.fromkeys(plan.looks))
    with transaction.atomic():
        removals.hold(frames.BIN, plan.frames)
        sheet = Sheet.objects.create(
            name=plan.name.strip() or "Untitled sheet",
            strength=plan.strength,
            blind=plan.blind,
            made_by=person,
            seed=random.randrange(2**31),
        )
        sheet.circle = circles.of_all(
            [*map(looks.find, chosen), *(frames.seen_by(person, pk) for pk in plan.frames)], "a sheet"
        )
        sheet.save(update_fields=["circle"])
        # Made in any order, so that the number of a row, which its pictures are asked for by, tells nothing
        # of what it is.
        for place, pk in random.sample(list(enumerate(chosen)), len(chosen)):
            look = looks.find(pk)
            revision = looks.latest(look)
            if revision is None:
                raise missing(f"revision of {look.name}")
            name = f"{look.name} r{revision.number}"
            Row.objects.create(
                sheet=sheet, place=place, revision=revision, name=name, judged_by=pk in plan.judged_by
            )
        for place, pk in enumerate(dict.fromkeys(plan.frames)):
            frame = frames.seen_by(person, pk)
            Column.objects.create(sheet=sheet, place=place, frame=frame, name=frame.name)
    return sheet


def _own(sheet: Sheet, person: Person) -> None:
    must(
        person,
        "started.end",
        is_own(person, sheet.made_by_id),
        f"This is done by {sheet.made_by}, who made the sheet, or by a lead.",
    )


def _locked(sheet: Sheet) -> Sheet:
    row = Sheet.objects.select_for_update().filter(pk=sheet.pk).first()
    if row is None:
        raise missing("contact sheet")
    return row


def change(sheet: Sheet, person: Person, patch: SheetPatch) -> Sheet:
    """Renames a sheet, shows it at another strength, or turns the names over; the last only before anybody
    has voted."""
    _own(sheet, person)
    with transaction.atomic():
        row = _locked(sheet)
        if row.closed_at is not None:
            raise RuleError(409, "The vote is closed: the sheet stays as it was voted on.")
        shown = row.blind, row.strength
        said = take(row, patch, "name", "strength", "blind")
        if (row.blind, row.strength) != shown and Mark.objects.filter(row__sheet=row).exclude(
            verdict=""
        ).exists():
            raise RuleError(409, "Somebody has voted already. Make a new sheet to show it otherwise.")
        row.save(update_fields=said)
    return find(sheet.pk)


def close(sheet: Sheet, person: Person) -> Sheet:
    """Ends the vote and shows the names."""
    _own(sheet, person)
    with transaction.atomic():
        row = _locked(sheet)
        if row.closed_at is None:
            row.closed_at, row.closed_by = timezone.now(), person
            row.save(update_fields=["closed_at", "closed_by"])
    return find(sheet.pk)


def drop(sheet: Sheet, person: Person) -> None:
    """Puts a sheet into the bin with all marks."""
    _own(sheet, person)
    removals.put(BIN, sheet, person, lambda users: "This sheet is in use.")


def mark(sheet: Sheet, person: Person, said: MarkIn) -> Mark | None:
    """What a person says of a cell, or in a note of a whole row; nothing said takes the mark away."""
    with transaction.atomic():
        if _locked(sheet).closed_at is not None:
            raise RuleError(409, "The vote was closed in the meantime. This mark was not counted.")
        row = by_id(sheet.rows.all(), said.row, "row of this sheet")
        column = by_id(sheet.columns.all(), said.column, "frame of this sheet") if said.column else None
        if row.judged_by and said.verdict:
            raise RuleError(422, f"{row.name} is there to judge by, not to be voted on.")
        if column is None and said.verdict:
            raise RuleError(422, "A vote is for a look on a frame.")
        if not said.verdict and not said.note.strip():
            Mark.objects.filter(row=row, column=column, person=person).delete()
            return None
        kept = {"verdict": said.verdict, "note": said.note.strip()}
        return Mark.objects.update_or_create(row=row, column=column, person=person, defaults=kept)[0]


def hidden(sheet: Sheet) -> bool:
    """Whether the names are turned over."""
    return sheet.blind and sheet.closed_at is None


def rows_shown(sheet: Sheet) -> list[tuple[Row, str]]:
    """The rows in their order with the names they go by: a letter each while a blind vote runs, those to
    judge by first."""
    rows = list(sheet.rows.select_related("revision__look"))
    if not sheet.blind:
        return [(row, row.name) for row in rows]
    known, blind = [r for r in rows if r.judged_by], [r for r in rows if not r.judged_by]
    # Shuffled, not random each time: everybody speaks of the same letter.
    random.Random(sheet.seed).shuffle(blind)
    letters = [f"Look {letter(k)}" for k in range(len(blind))]
    if hidden(sheet):
        return [(r, r.name) for r in known] + list(zip(blind, letters, strict=True))
    return [(r, r.name) for r in known] + [
        (r, f"{r.name} ({was})") for r, was in zip(blind, letters, strict=True)
    ]


def letter(place: int) -> str:
    """A, B, … Z, AA, AB …"""
    found = ""
    place += 1
    while place:
        place, rest = divmod(place - 1, 26)
        found = chr(65 + rest) + found
    return found


def row_of(sheet: Sheet, row_id: int) -> Row:
    """A row; raises 404."""
    return by_id(sheet.rows.select_related("revision__look"), row_id, "row of this sheet")


@dataclass(frozen=True)
class Sums:
    """How many marks say what: for a look, for it with changes, against it."""

    yes: int = 0
    changes: int = 0
    no: int = 0

    def worth(self) -> float:
        """By what rows are put in order when a vote is over: the mean of its votes, 0 to 1, one with changes
        as half; −1 without any."""
        total = self.yes + self.changes + self.no
        return (self.yes + self.changes / 2) / total if total else -1.0


@dataclass(frozen=True)
class Seen:
    """What a person may see of a sheet: rows with names, sums of marks by row, by cell and the person's own,
    and how far everybody is."""

    rows: list[tuple[Row, str]]
    columns: list[Column]
    sums: dict[int, Sums]
    cells: dict[tuple[int, int], Sums]
    own: list[Mark]
    notes: list[Mark]
    people: list[tuple[str, int]]
    to_vote: int


def _counted(marks: Iterable[Mark]) -> Sums:
    said = Counter(one.verdict for one in marks)
    return Sums(said[Verdict.FOR], said[Verdict.CHANGES], said[Verdict.AGAINST])


def seen(sheet: Sheet, person: Person) -> Seen:
    """All of a sheet for a person. While names are turned over, other people's marks are only counted when
    one's own are made."""
    rows, columns = rows_shown(sheet), list(sheet.columns.all())
    marks = list(Mark.objects.filter(row__sheet=sheet).select_related("person"))
    own = [m for m in marks if m.person_id == person.pk]
    to_vote = sum(not r.judged_by for r, _ in rows) * len(columns)
    done = sum(bool(m.verdict) for m in own) >= to_vote
    counted = marks if done or not hidden(sheet) else own
    by_row: dict[int, list[Mark]] = {}
    by_cell: dict[tuple[int, int], list[Mark]] = {}
    for one in counted:
        by_row.setdefault(one.row_id, []).append(one)
        if one.column_id is not None:
            by_cell.setdefault((one.row_id, one.column_id), []).append(one)
    people: dict[str, int] = {}
    for one in marks:
        name = str(one.person) if one.person.is_active else f"{one.person} (left)"
        people[name] = people.get(name, 0) + bool(one.verdict)
    return Seen(
        rows,
        columns,
        {k: _counted(v) for k, v in by_row.items()},
        {k: _counted(v) for k, v in by_cell.items()},
        own,
        [m for m in counted if m.note],
        sorted(people.items(), key=lambda p: -p[1]),
        to_vote,
    )
