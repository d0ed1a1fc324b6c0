"""The map: where every look stands by two of its traits. A place depends on the look alone, so none moves
when looks are added."""

from dataclasses import dataclass

from django.db.models import QuerySet
from saucer_core.readings.scales import BY_KEY

from ..errors import RuleError
from .models import Entry

#: Places are whole numbers up to this, which is finer than any screen at any zoom.
STEPS = 20_000


@dataclass(frozen=True)
class Places:
    """Looks in one order: ids, places across and up (0 to ``STEPS``) with the traits themselves, and two
    tones, ``rrggbb``.

    edges: what is written at the left, the right, the lower and the upper one.
    """

    ids: list[int]
    across: list[int]
    up: list[int]
    values: list[tuple[float, float]]
    blue: list[str]
    clay: list[str]
    edges: list[str]


def places(rows: QuerySet[Entry], across: str, up: str) -> Places:
    """Where the entries stand; those that cannot be computed have no place. Raises 422."""
    if across not in BY_KEY or up not in BY_KEY:
        raise RuleError(422, "A map is laid out by two traits.")
    if across == up:
        raise RuleError(422, "Across and up are two different traits.")
    x, y = BY_KEY[across], BY_KEY[up]
    found = list(rows.filter(gist__isnull=False).order_by("pk").values_list("pk", across, up, "tones"))
    return Places(
        [pk for pk, *_ in found],
        [round(STEPS * x.place(value)) for _, value, *_ in found],
        [round(STEPS * y.place(value)) for _, _, value, _ in found],
        [(round(value, 3), round(other, 3)) for _, value, other, _ in found],
        [tones[0][1:] for *_, tones in found],
        [tones[1][1:] for *_, tones in found],
        [x.less, x.more, y.less, y.more],
    )
