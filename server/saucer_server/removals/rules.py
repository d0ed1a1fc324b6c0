"""Putting rows into the bin, taking them out again, and emptying it."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db import router, transaction
from django.db.models import Model, ProtectedError
from django.db.models.deletion import Collector
from django.utils import timezone

from ..errors import RuleError, missing
from ..lookup import by_id
from ..people.rules import Person, is_own, may, must
from .kinds import KINDS, Kind
from .models import Removable

__all__ = ["KEPT", "Removed", "empty", "erase", "hold", "listed", "put", "put_back", "still"]

#: How long a removed row stays in the bin.
KEPT = timedelta(days=30)
#: Rows of a kind that the bin lists, the latest removed first.
LISTED = 200
_NOT_YOURS = "Only whose this is, who removed it, or a lead, can do that."


@dataclass(frozen=True)
class Removed:
    """A row in the bin, with the day on which it goes for good."""

    kind: Kind
    row: Any
    until: datetime


def put(
    kind: Kind,
    row: Removable,
    person: Person,
    in_use: Callable[[list[Model]], str],
    check: Callable[[], None] = lambda: None,
) -> None:
    """Puts a row into the bin. Raises 409 with the words of ``in_use`` where other rows need it, 404 where
    somebody was faster.

    check: called while the row is held, to refuse by ``RuleError`` what the database does not know of.
    """
    with transaction.atomic():
        # Held, so that nobody puts it to use while it goes.
        held = by_id(kind.rows.get_queryset().select_for_update(of=("self",)), row.pk, kind.word)
        users = _needed_by(held)
        if users:
            raise RuleError(409, in_use(users))
        check()
        held.removed_at, held.removed_by = timezone.now(), person
        held.save(update_fields=["removed_at", "removed_by"])


def hold(kind: Kind, keys: Iterable[int]) -> None:
    """Keeps rows from going to the bin until the transaction ends, in which something begins to use them.
    Raises 404 where one is there."""
    wanted = set(keys)
    held = (
        kind.rows.get_queryset()
        .select_for_update(no_key=True, of=("self",))
        .filter(pk__in=wanted)
        .order_by("pk")
    )
    if len(held) < len(wanted):
        raise missing(kind.word)


def _needed_by(row: Model) -> list[Model]:
    """The rows that the database would not let go without this one."""
    try:
        Collector(using=router.db_for_write(type(row), instance=row), origin=row).collect([row])
    except ProtectedError as error:
        return list(error.protected_objects)
    return []


def _is_ones_own(kind: Kind, row: Any, person: Person) -> bool:
    return is_own(person, getattr(row, f"{kind.owner}_id")) or is_own(person, row.removed_by_id)


def listed(person: Person) -> list[Removed]:
    """What is in the bin and is the person's to put back, the latest removed first."""
    found = []
    for kind in KINDS.values():
        rows = kind.rows.removed().select_related("removed_by", kind.owner).order_by("-removed_at")
        if not may(person, "started.end"):
            rows = rows.filter(removed_by=person) | rows.filter(**{kind.owner: person})
        found += [Removed(kind, row, row.removed_at + KEPT) for row in rows[:LISTED]]
    return sorted(found, key=lambda one: one.row.removed_at, reverse=True)


def _held(key: str, row_id: int, person: Person) -> tuple[Kind, Any]:
    """The row, locked; raises 404 and 403."""
    kind = KINDS.get(key)
    if kind is None:
        raise missing("thing in the bin")
    row = by_id(kind.rows.removed().select_for_update(of=("self",)), row_id, f"{kind.word} in the bin")
    must(person, "started.end", _is_ones_own(kind, row, person), _NOT_YOURS)
    return kind, row


def put_back(key: str, row_id: int, person: Person) -> None:
    """Takes a row out of the bin: it is there again as it was."""
    with transaction.atomic():
        kind, row = _held(key, row_id, person)
        kind.returning(row)
        _return(row)


def _return(row: Any) -> None:
    row.removed_at = row.removed_by = None
    row.save(update_fields=["removed_at", "removed_by"])


def erase(key: str, row_id: int, person: Person) -> None:
    """Lets a row in the bin go for good, before its time."""
    with transaction.atomic():
        kind, row = _held(key, row_id, person)
        went = _let_go(kind, row)
    if not went:
        raise RuleError(409, f"This {kind.word} was put to use again, so it is back where it was.")


def _let_go(kind: Kind, row: Any) -> bool:
    """Deletes a row. One that was put to use in the meantime is taken out of the bin instead; False then."""
    key = row.pk
    if _needed_by(row):
        _return(row)
        return False
    row.delete()
    transaction.on_commit(lambda: kind.gone([key]))
    return True


def still(key: str, row_id: int, person: Person) -> bytes:
    """A small JPEG of a row in the bin; raises 404 where its kind has none."""
    with transaction.atomic():
        kind, row = _held(key, row_id, person)
    if kind.still is None:
        raise missing("picture")
    return kind.still(row)


def empty(now: datetime | None = None) -> int:
    """Lets go of what has been in the bin for its time; says how many rows went."""
    before, went = (now or timezone.now()) - KEPT, 0
    for kind in KINDS.values():
        for row_id in list(kind.rows.removed().filter(removed_at__lt=before).values_list("pk", flat=True)):
            with transaction.atomic():
                row = (
                    kind.rows.removed()
                    .select_for_update(of=("self",))
                    .filter(pk=row_id, removed_at__lt=before)
                    .first()
                )
                went += row is not None and _let_go(kind, row)
    return went
