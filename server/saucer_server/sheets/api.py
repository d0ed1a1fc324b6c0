"""Contact sheets over HTTP."""

from datetime import datetime
from typing import Any, Literal

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import PatchDict, Router, Schema, Status
from pydantic import Field

from ..bench import pictures
from ..errors import missing
from ..fields import Share, Text, Width, attached, binary, safe_name, said
from ..looks.rules import recipe_of
from ..lookup import Id
from ..people.rules import is_own, may, person_of
from . import pages, rules
from .rules import Sheet

router = Router(tags=["sheets"])

Said = Literal["", "for", "with changes", "against"]


class SheetIn(Schema):
    """A new sheet: looks by their newest revision, and frames. judged_by: looks that stay named and are not
    voted on."""

    name: Text = Field(min_length=1, max_length=120)
    looks: list[Id] = Field(min_length=1, max_length=rules.LOOKS)
    frames: list[Id] = Field(min_length=1, max_length=rules.FRAMES)
    judged_by: list[Id] = Field([], max_length=rules.LOOKS)
    strength: Share = 1.0
    blind: bool = False


class SheetAbout(Schema):
    """What is said of a sheet."""

    name: Text = Field(min_length=1, max_length=120)
    strength: Share
    blind: bool


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


class MarkIn(Schema):
    """What one says of a cell; a note alone of a row without a column."""

    row: Id
    column: Id | None = None
    verdict: Said = ""
    note: Text = Field("", max_length=500)


def _sums(found: dict[str, int] | None) -> dict[str, int]:
    found = found or {}
    return {
        "yes": found.get("for", 0),
        "changes": found.get("with changes", 0),
        "no": found.get("against", 0),
    }


def _row(row: rules.Row, name: str, hidden: bool, sums: dict[str, int] | None) -> dict[str, Any]:
    told = row.revision is not None and (not hidden or row.judged_by)
    revision = row.revision if told else None
    return {
        "id": row.pk,
        "name": name,
        "judged_by": row.judged_by,
        "gone": row.revision is None,
        "look": revision.look_id if revision else None,
        "revision": revision.pk if revision else None,
        "words": pictures.words_of(recipe_of(revision)) if revision else [],
        "traits": pictures.traits_of(recipe_of(revision)) if revision else {},
        "sums": _sums(sums),
    }


def _whole(request: HttpRequest, sheet: Sheet) -> dict[str, Any]:
    person = person_of(request)
    seen = rules.seen(sheet, person)
    return {
        "id": sheet.pk,
        "name": sheet.name,
        "strength": sheet.strength,
        "blind": sheet.blind,
        "hidden": rules.hidden(sheet),
        "closed_by": str(sheet.closed_by) if sheet.closed_by else None,
        "made_by": str(sheet.made_by),
        "may_close": may(person, "started.end", is_own(person, sheet.made_by_id)),
        "rows": [_row(row, name, rules.hidden(sheet), seen.sums.get(row.pk)) for row, name in seen.rows],
        "columns": [{"id": c.pk, "name": c.name, "frame": c.frame_id} for c in seen.columns],
        "cells": [{"row": r, "column": c, **_sums(sums)} for (r, c), sums in seen.cells.items()],
        "own": [
            {"row": m.row_id, "column": m.column_id, "verdict": m.verdict, "note": m.note} for m in seen.own
        ],
        "notes": [
            {
                "row": m.row_id,
                "column": m.column_id,
                "verdict": m.verdict,
                "note": m.note,
                "by": str(m.person),
            }
            for m in seen.notes
        ],
        "people": [{"name": name, "votes": votes} for name, votes in seen.people],
        "to_vote": seen.to_vote,
    }


@router.get("", response=list[SheetLine])
def sheets(request: HttpRequest) -> QuerySet[Sheet]:
    """All sheets, the newest first."""
    return rules.every()[:200]


@router.post("", response={201: SheetOut})
def create(request: HttpRequest, payload: SheetIn) -> Status[dict[str, Any]]:
    """Makes a sheet."""
    made = rules.create(person_of(request), rules.Plan(**payload.dict()))
    return Status(201, _whole(request, rules.find(made.pk)))


@router.get("/{int:sheet_id}", response=SheetOut)
def sheet(request: HttpRequest, sheet_id: int) -> dict[str, Any]:
    """A sheet."""
    return _whole(request, rules.find(sheet_id))


@router.patch("/{int:sheet_id}", response=SheetOut)
def change(request: HttpRequest, sheet_id: int, payload: PatchDict[SheetAbout]) -> dict[str, Any]:
    """Renames a sheet, shows it at another strength, turns its names over."""
    return _whole(request, rules.change(rules.find(sheet_id), person_of(request), said(payload)))


@router.delete("/{int:sheet_id}", response={204: None})
def drop(request: HttpRequest, sheet_id: int) -> Status[None]:
    """Takes a sheet away."""
    rules.drop(rules.find(sheet_id), person_of(request))
    return Status(204, None)


@router.put("/{int:sheet_id}/marks", response=SheetOut)
def mark(request: HttpRequest, sheet_id: int, payload: MarkIn) -> dict[str, Any]:
    """Marks a cell, or writes a note on a row; nothing said takes one's mark away."""
    found = rules.find(sheet_id)
    rules.mark(found, person_of(request), payload.row, payload.column, payload.verdict, payload.note)
    return _whole(request, found)


@router.post("/{int:sheet_id}/close", response=SheetOut)
def close(request: HttpRequest, sheet_id: int) -> dict[str, Any]:
    """Ends the vote and shows the names."""
    return _whole(request, rules.close(rules.find(sheet_id), person_of(request)))


@router.get("/{int:sheet_id}/still")
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


@router.get("/{int:sheet_id}/file")
def file(request: HttpRequest, sheet_id: int, kind: Literal["html", "pdf", "png"]) -> HttpResponse:
    """The sheet as one file."""
    found = rules.find(sheet_id)
    data = {"html": pages.html, "pdf": pages.pdf, "png": pages.png}[kind](found, person_of(request))
    return attached(f"{safe_name(found.name)}.{kind}", data)
