"""How looks are spread: bars over the scale of each trait, and how many there are of each status, maker and the like."""

from collections.abc import Iterable
from typing import Any

from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import QuerySet
from saucer_core.readings.scales import SCALES

from .models import Entry

BARS = 24


def counts(rows: QuerySet[Entry], columns: Iterable[str]) -> dict[str, list[tuple[str, int]]]:
    """For every column how many looks there are of each of its values, as text; most of one first. A list counts for each of its values."""
    found: dict[str, list[tuple[str, int]]] = {column: [] for column in columns}
    fit = _fit(rows, found)
    if fit is None or not found:
        return found
    each = " UNION ALL ".join(
        f"SELECT '{column}', v, count(*) AS n FROM (SELECT {'unnest(tags)' if column == 'tags' else f'{column}::text'} AS v FROM fit) AS a"
        " GROUP BY v"
        for column in found
    )
    with connection.cursor() as cursor:
        cursor.execute(f"{fit[0]} {each} ORDER BY n DESC, v", fit[1])
        for column, value, n in cursor.fetchall():
            found[column].append((value, n))
    return found


def _fit(rows: QuerySet[Entry], columns: Iterable[str]) -> tuple[str, tuple[Any, ...]] | None:
    """The beginning of a statement that calls the looks ``fit``, and its parameters; nothing where none can be there."""
    try:
        asked, given = rows.order_by().values(*columns).query.sql_with_params()
    except EmptyResultSet:
        return None
    return f"WITH fit AS MATERIALIZED ({asked})", given


def bars(rows: QuerySet[Entry]) -> dict[str, list[int]]:
    """For every trait how many looks stand in each of ``BARS`` equal parts of its scale; what lies beyond counts at the ends."""
    found = {s.key: [0] * BARS for s in SCALES}
    fit = _fit(rows, found)
    if fit is None:
        return found
    # One count after another: together in one pass they take three times as long.
    each = " UNION ALL ".join(
        f"SELECT %s, width_bucket({s.key}, %s, %s, %s), count(*) FROM fit WHERE {s.key} IS NOT NULL GROUP BY 2" for s in SCALES
    )
    words = [v for s in SCALES for v in (s.key, s.low, s.high, BARS)]
    with connection.cursor() as cursor:
        cursor.execute(f"{fit[0]} {each}", [*fit[1], *words])
        for key, place, count in cursor.fetchall():
            found[key][min(max(place - 1, 0), BARS - 1)] += count
    return found
