"""Contact sheets over HTTP."""

from datetime import datetime
from typing import Literal

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status

from ..errors import missing
from ..fields import Width, attached, binary, safe_name
from ..frames.values import ShownPart
from ..looks import rules as looks
from ..looks.rules import LookValue
from ..openapi import BINARY, JPEG, gives
from ..people.rules import person_of
from . import pages, rules
from .payloads import MarkIn, SheetPatch, SheetPlan
from .rules import Sheet
from .view import SheetView, view

router = Router(tags=["sheets"])


class SheetLine(Schema):
    """A sheet in the list, and how many people marked on it."""

    id: int
    name: str
    blind: bool
    made_by: str
    made_at: datetime
    closed_at: datetime | None
    people: int

    @staticmethod
    def resolve_made_by(sheet: Sheet) -> str:
        """The person's name."""
        return str(sheet.made_by)


class Sums(Schema):
    """How many marks say what."""

    yes: int
    changes: int
    no: int


class RowOut(Schema):
    """A look on the sheet. look and traits are not told while names are turned over; gone: the look is no
    more."""

    id: int
    name: str
    judged_by: bool
    gone: bool
    look: int | None
    revision: int | None
    words: list[str]
    traits: dict[str, float]
    sums: Sums


class ColumnOut(Schema):
    """A frame on the sheet; none where it is gone."""

    id: int
    name: str
    frame: int | None
    part: ShownPart


class CellSums(Sums):
    """Sums of one cell."""

    row: int
    column: int


class MarkOut(Schema):
    """One's own mark."""

    row: int
    column: int | None
    verdict: str
    note: str


class SheetNote(MarkOut):
    """A note of anybody's."""

    by: str


class Voter(Schema):
    """How many cells somebody has voted on."""

    name: str
    votes: int


class SheetOut(Schema):
    """A sheet as the person who asks sees it."""

    id: int
    name: str
    strength: float
    blind: bool
    hidden: bool
    closed_by: str | None
    made_by: str
    may_close: bool
    rows: list[RowOut]
    columns: list[ColumnOut]
    cells: list[CellSums]
    own: list[MarkOut]
    notes: list[SheetNote]
    people: list[Voter]
    to_vote: int


@router.get("", response=list[SheetLine])
def sheets(request: HttpRequest) -> QuerySet[Sheet]:
    """All sheets, the newest first."""
    return rules.every()[:200]


@router.post("", response={201: SheetOut})
def create(request: HttpRequest, payload: SheetPlan) -> Status[SheetView]:
    """Makes a sheet."""
    made = rules.create(person_of(request), payload)
    return Status(201, view(rules.find(made.pk), person_of(request)))


@router.get("/{int:sheet_id}", response=SheetOut)
def sheet(request: HttpRequest, sheet_id: int) -> SheetView:
    """A sheet."""
    return view(rules.find(sheet_id), person_of(request))


@router.patch("/{int:sheet_id}", response=SheetOut)
def change(request: HttpRequest, sheet_id: int, payload: SheetPatch) -> SheetView:
    """Renames a sheet, shows it at another strength, turns its names over."""
    return view(rules.change(rules.find(sheet_id), person_of(request), payload), person_of(request))


@router.delete("/{int:sheet_id}", response={204: None})
def drop(request: HttpRequest, sheet_id: int) -> Status[None]:
    """Takes a sheet away."""
    rules.drop(rules.find(sheet_id), person_of(request))
    return Status(204, None)


@router.put("/{int:sheet_id}/marks", response=SheetOut)
def mark(request: HttpRequest, sheet_id: int, payload: MarkIn) -> SheetView:
    """Marks a cell, or writes a note on a row; nothing said takes one's mark away."""
    found, person = rules.find(sheet_id), person_of(request)
    rules.mark(found, person, payload)
    return view(found, person)


@router.post("/{int:sheet_id}/close", response=SheetOut)
def close(request: HttpRequest, sheet_id: int) -> SheetView:
    """Ends the vote and shows the names."""
    return view(rules.close(rules.find(sheet_id), person_of(request)), person_of(request))


@router.get("/{int:sheet_id}/still", openapi_extra=gives(JPEG))
def still(
    request: HttpRequest, sheet_id: int, column: int, row: int | None = None, width: Width = 320, v: str = ""
) -> HttpResponse:
    """A cell, JPEG: by its row and column, so that the address of a picture does not tell a hidden name. No
    row: the frame as it is."""
    found = rules.find(sheet_id)
    there = found.columns.select_related("frame").filter(pk=column).first() if column > 0 else None
    if there is None:
        raise missing("frame of this sheet")
    data = pages.picture(found, rules.row_of(found, row) if row is not None else None, there, width)
    if data is None:
        raise missing("picture: its look or its frame is gone")
    return binary(data, "image/jpeg")


@router.get("/{int:sheet_id}/rows/{int:row_id}/look", response=LookValue)
def row_look(request: HttpRequest, sheet_id: int, row_id: int) -> LookValue:
    """The look of a row at the strength of the sheet, without its name, so that a clip plays under it."""
    found = rules.find(sheet_id)
    row = rules.row_of(found, row_id)
    if row.revision is None:
        raise missing("look of this row")
    look = looks.recipe_of(row.revision)
    return look.model_copy(update={"strength": look.strength * found.strength})


@router.get("/{int:sheet_id}/file", openapi_extra=gives(BINARY))
def file(request: HttpRequest, sheet_id: int, kind: Literal["html", "pdf", "png"]) -> HttpResponse:
    """The sheet as one file."""
    found = rules.find(sheet_id)
    data = {"html": pages.html, "pdf": pages.pdf, "png": pages.png}[kind](found, person_of(request))
    return attached(f"{safe_name(found.name)}.{kind}", data)
