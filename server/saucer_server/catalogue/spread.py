"""How looks are spread: bars over the scale of each trait, and how many there are of each status, maker and
the like.

What is counted of every look is held in columns (``columns``); a search then gives places in them, and
counting is a matter of adding up. One query says whether the columns are still those of the database: nothing
has to be told that an entry changed.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from threading import Lock

import numpy as np
from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import QuerySet
from numpy.typing import NDArray
from saucer_core.readings.scales import SCALES

from ..people.circles import hidden
from .models import Entry

BARS = 24
#: Columns with one value a look that are counted.
COUNTED = ("status", "rights", "maker_id", "input", "brought_in")
Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class Columns:
    """All entries by their keys, which rise. values: of each column its texts, and which of them stands in
    each row.

    tags: the texts, then row and text of each tag of each look. bars: of each trait the bar that a row stands
    in, −1 where it has none.
    """

    version: tuple[int, int]
    keys: NDArray[np.int64]
    values: dict[str, tuple[list[str], NDArray[np.int32]]]
    tags: tuple[list[str], NDArray[np.int32], NDArray[np.int32]]
    bars: dict[str, NDArray[np.int8]]


#: A row that changed has another ``xmin`` and lies elsewhere (PostgreSQL, 5.6): their number and sum tell
#: states of the table apart.
_VERSION = "SELECT count(*), coalesce(sum(xmin::text::bigint + hashtid(ctid)), 0) FROM catalogue_entry"
_lock = Lock()
_kept: Columns | None = None


def columns() -> Columns:
    """The columns as the database has them now; read anew where an entry came, went or changed."""
    global _kept
    with connection.cursor() as cursor:
        cursor.execute(_VERSION)
        number, states = cursor.fetchone()
    version = int(number), int(states)
    kept = _kept
    if kept is None or kept.version != version:
        kept = _read(version)
        with _lock:
            _kept = kept
    return kept


def _coded(texts: list[str]) -> tuple[list[str], NDArray[np.int32]]:
    """Different texts in their order, and which of them each one is."""
    known = sorted(set(texts))
    place = {text: k for k, text in enumerate(known)}
    return known, np.fromiter((place[text] for text in texts), np.int32, len(texts))


def _read(version: tuple[int, int]) -> Columns:
    traits = [scale.key for scale in SCALES]
    asked = ", ".join(["look_id", *(f"{column}::text" for column in COUNTED), "tags", *traits])
    with connection.cursor() as cursor:
        cursor.execute(f"SELECT {asked} FROM catalogue_entry ORDER BY look_id")
        rows = cursor.fetchall()
    by_column = list(zip(*rows, strict=True)) if rows else [()] * (2 + len(COUNTED) + len(traits))
    tags = [(k, tag) for k, named in enumerate(by_column[1 + len(COUNTED)]) for tag in named]
    names, codes = _coded([tag for _, tag in tags])
    return Columns(
        version,
        np.array(by_column[0], np.int64),
        {column: _coded([str(v) for v in by_column[1 + k]]) for k, column in enumerate(COUNTED)},
        (names, np.array([k for k, _ in tags], np.int32), codes),
        {
            scale.key: _bar(by_column[2 + len(COUNTED) + k], scale.low, scale.high)
            for k, scale in enumerate(SCALES)
        },
    )


def _bar(values: Iterable[float | None], low: float, high: float) -> NDArray[np.int8]:
    """The bar of each value, of ``BARS`` equal ones from low to high; what lies beyond counts at the ends,
    what there is not as −1."""
    given = np.array([np.nan if v is None else v for v in values], np.float64)
    place = np.clip(np.floor((given - low) / (high - low) * BARS), 0, BARS - 1)
    return np.where(np.isnan(given), -1, place).astype(np.int8)


def mask(rows: QuerySet[Entry], within: Columns) -> Mask:
    """Which of the columns' rows are among some entries."""
    fits = np.zeros(len(within.keys), np.bool_)
    try:
        asked, given = rows.order_by().values("pk").query.sql_with_params()
    except EmptyResultSet:
        return fits
    with connection.cursor() as cursor:
        cursor.execute(asked, given)
        keys = np.fromiter((key for (key,) in cursor.fetchall()), np.int64)
    place = np.searchsorted(within.keys, keys)
    there = place < len(within.keys)
    place, keys = place[there], keys[there]
    # One that came after the columns were read is counted the next time.
    fits[place[within.keys[place] == keys]] = True
    return fits


def everything(within: Columns) -> Mask:
    """The columns' rows that whoever asks may see."""
    return mask(Entry.objects.all(), within) if hidden() else np.ones(len(within.keys), np.bool_)


def counts(within: Columns, fits: Mask, wanted: Iterable[str]) -> dict[str, list[tuple[str, int]]]:
    """For every column how many looks there are of each of its values, as text; most of one first. A list
    counts for each of its values."""
    found: dict[str, list[tuple[str, int]]] = {}
    for column in wanted:
        if column == "tags":
            texts, places, codes = within.tags
            codes = codes[fits[places]]
        else:
            texts, codes = within.values[column]
            codes = codes[fits]
        many = np.bincount(codes, minlength=len(texts))
        found[column] = sorted(
            ((texts[k], int(n)) for k, n in enumerate(many) if n), key=lambda one: (-one[1], one[0])
        )
    return found


def bars(within: Columns, fits: Mask) -> dict[str, list[int]]:
    """For every trait how many looks stand in each of ``BARS`` equal parts of its scale; what lies beyond
    counts at the ends."""
    places = {key: own[fits] for key, own in within.bars.items()}
    return {key: np.bincount(own[own >= 0], minlength=BARS).tolist() for key, own in places.items()}
