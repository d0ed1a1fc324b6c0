"""A contact sheet as one file: a page that holds its pictures, a PDF, a PNG."""

import base64
import io
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from django.template.loader import render_to_string
from django.utils import timezone
from fpdf import FPDF
from PIL import Image, ImageDraw

from ..bench import pictures
from ..frames.rules import still as plain
from ..looks.rules import recipe_of
from ..people.rules import Person
from . import rules
from .lettering import lettered, short, write
from .rules import Column, Row, Sheet, Sums

#: Width of a picture on a sheet that is exported; about as wide as an eye compares at a glance.
WIDTH = 320
ORIGINAL = "Original"


@dataclass(frozen=True)
class Line:
    """A row of an exported sheet: name, what is said of it, sums of votes in words, and a JPEG a frame (none
    where it is gone)."""

    name: str
    words: str
    votes: str
    notes: list[str]
    pictures: Sequence[bytes | None]


def picture(sheet: Sheet, row: Row | None, column: Column, width: int) -> bytes | None:
    """A cell as JPEG: the frame as it is for no row; none where look or frame is gone."""
    if column.frame is None or (row is not None and row.revision is None):
        return None
    if row is None or row.revision is None:
        return plain(column.frame, width, True)
    return pictures.still(
        recipe_of(row.revision), row.revision.digest, column.frame, width, strength=sheet.strength
    )


def _votes(sums: Sums) -> str:
    said = {"for": sums.yes, "with changes": sums.changes, "against": sums.no}
    return ", ".join(f"{n} {verdict}" for verdict, n in said.items() if n)


def lines(sheet: Sheet, person: Person) -> Iterator[Line]:
    """The rows, the original first; when the vote is over the best first."""
    seen = rules.seen(sheet, person)
    columns = list(sheet.columns.select_related("frame"))
    yield Line(ORIGINAL, "trimmed", "", [], [picture(sheet, None, c, WIDTH) for c in columns])
    rows = seen.rows
    if sheet.closed_at is not None:
        rows = sorted(rows, key=lambda r: (not r[0].judged_by, -seen.sums.get(r[0].pk, Sums()).worth()))
    for row, name in rows:
        words = (
            ""
            if rules.hidden(sheet) or row.revision is None
            else ", ".join(pictures.words_of(recipe_of(row.revision))[:3])
        )
        notes = [f"{m.person}: {m.note}" for m in seen.notes if m.row_id == row.pk]
        yield Line(
            name,
            words,
            _votes(seen.sums.get(row.pk, Sums())),
            notes,
            [picture(sheet, row, c, WIDTH) for c in columns],
        )


def _about(sheet: Sheet) -> str:
    votes = (
        f", closed by {sheet.closed_by}" if sheet.closed_at else ", votes still open" if sheet.blind else ""
    )
    return f"{sheet.made_by}, {timezone.localtime(sheet.made_at):%d %B %Y}, at {sheet.strength:.0%}{votes}"


def page(name: str, about: str, columns: list[str], rows: Iterable[Line]) -> bytes:
    """One page that needs nothing else: its pictures are inside."""
    made = [
        {**line.__dict__, "pictures": [base64.b64encode(p).decode() if p else "" for p in line.pictures]}
        for line in rows
    ]
    return render_to_string(
        "sheets/sheet.html", {"name": name, "about": about, "columns": columns, "lines": made}
    ).encode()


def html(sheet: Sheet, person: Person) -> bytes:
    """The sheet as one page."""
    return page(sheet.name, _about(sheet), [c.name for c in sheet.columns.all()], lines(sheet, person))


#: Pixels of the PNG: width of the column of names.
_SIDE = 250
#: Height of the head.
_HEAD = 92
#: Between two pictures.
_GAP = 8
#: Height of a picture.
_HIGH = 180
#: Pixels of its large letters.
_LARGE = 22
#: Pixels of its small letters.
_SMALL = 14


def _fitted(data: bytes) -> Image.Image:
    """A picture inside its cell, whole."""
    with Image.open(io.BytesIO(data)) as found:
        found.load()
        scale = min(WIDTH / found.width, _HIGH / found.height)
        return found.resize((max(1, round(found.width * scale)), max(1, round(found.height * scale))))


def png(sheet: Sheet, person: Person) -> bytes:
    """The whole sheet as one picture, in the encoding of the screen."""
    columns, rows = [c.name for c in sheet.columns.all()], list(lines(sheet, person))
    whole = Image.new(
        "RGB", (_SIDE + len(columns) * (WIDTH + _GAP), _HEAD + len(rows) * (_HIGH + _GAP)), "#161616"
    )
    draw = ImageDraw.Draw(whole)
    write(draw, (14, 12), sheet.name, "#f0f0f0", _LARGE, whole.width - 28)
    write(draw, (14, 42), _about(sheet), "#b9b9b9", _SMALL, whole.width - 28)
    for k, name in enumerate(columns):
        write(draw, (_SIDE + k * (WIDTH + _GAP), 68), name, "#b9b9b9", _SMALL, WIDTH)
    for j, line in enumerate(rows):
        top = _HEAD + j * (_HIGH + _GAP)
        for n, (text, colour) in enumerate(
            [(line.name, "#f0f0f0"), (line.words, "#b9b9b9"), (line.votes, "#a9d6c2")]
        ):
            write(draw, (14, top + 10 + 22 * n), text, colour, _SMALL, _SIDE - 24)
        for k, data in enumerate(line.pictures):
            if data is not None:
                whole.paste(_fitted(data), (_SIDE + k * (WIDTH + _GAP), top))
    out = io.BytesIO()
    whole.save(out, "PNG")
    return out.getvalue()


#: Millimetres of the PDF: the margin.
_EDGE = 12
#: Width of the column of names.
_NAMES = 42
#: Between two pictures.
_BETWEEN = 2


def pdf(sheet: Sheet, person: Person) -> bytes:
    """Pages of A4 across, with names that can be searched."""
    columns, rows = [c.name for c in sheet.columns.all()], list(lines(sheet, person))
    out = FPDF("landscape", "mm", "A4")
    out.set_auto_page_break(False)
    # Words begin where the pictures do.
    out.c_margin = 0
    texts = [t for line in rows for t in (line.name, line.words, line.votes, *line.notes)]
    lettered(out, "sheet", [sheet.name, _about(sheet), *columns, *texts])
    out.set_title(sheet.name)
    wide = min(60.0, (out.w - 2 * _EDGE - _NAMES) / len(columns) - _BETWEEN)
    high = wide * 9 / 16

    def begin() -> float:
        out.add_page()
        out.set_font("sheet", size=13)
        out.set_xy(_EDGE, _EDGE)
        out.cell(out.w - 2 * _EDGE, 5, _clipped(out, sheet.name, out.w - 2 * _EDGE - 2))
        out.set_font("sheet", size=7)
        out.set_xy(_EDGE, _EDGE + 6)
        out.cell(out.w - 2 * _EDGE, 4, _clipped(out, _about(sheet), out.w - 2 * _EDGE - 2))
        for k, name in enumerate(columns):
            out.set_xy(_EDGE + _NAMES + k * (wide + _BETWEEN), _EDGE + 11.5)
            out.cell(wide, 4, _clipped(out, name, wide))
        return _EDGE + 16.0

    top = begin()
    for line in rows:
        if top + high > out.h - _EDGE:
            top = begin()
        for n, text in enumerate([line.name, line.words, line.votes, *line.notes[:2]]):
            out.set_xy(_EDGE, top + 3.6 * n)
            out.cell(_NAMES - 2, 3.6, _clipped(out, text, _NAMES - 3))
        for k, data in enumerate(line.pictures):
            if data is not None:
                out.image(
                    io.BytesIO(data),
                    _EDGE + _NAMES + k * (wide + _BETWEEN),
                    top,
                    wide,
                    high,
                    keep_aspect_ratio=True,
                )
        top += high + _BETWEEN
    return bytes(out.output())


def _clipped(page: FPDF, text: str, width: float) -> str:
    return short(text, lambda tried: page.get_string_width(tried) <= width)
