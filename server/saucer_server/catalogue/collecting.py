"""Collections: looks put together by hand, in an order, or found by a kept search."""

from django.db import transaction
from django.db.models import Max

from ..errors import RuleError, missing
from ..fields import take
from ..looks.rules import Look
from ..people.rules import Person, must
from ..removals import rules as removals
from ..removals.kinds import Kind, register
from .filters import check_search
from .models import Collection, Placed
from .payloads import CollectionPatch

__all__ = [
    "Collection",
    "Placed",
    "add",
    "change",
    "collect",
    "create",
    "drop",
    "find",
    "of_look",
    "reorder",
    "take_out",
]


def find(name: str) -> Collection:
    """The collection of that name; raises 404."""
    found = Collection.objects.filter(name=name).first()
    if found is None:
        raise missing("collection")
    return found


def _is_free(row: Collection) -> None:
    """Raises 409 where another collection has taken the name of one in the bin."""
    if Collection.objects.filter(name=row.name).exists():
        raise RuleError(
            409, f"There is another collection “{row.name}” by now. Rename that one, then put this one back."
        )


BIN = register(Kind("collection", "collection", Collection.objects, "made_by", returning=_is_free))


def _named(name: str) -> str:
    named = " ".join(name.split())[:80]
    if not named:
        raise RuleError(422, "Give the collection a name.")
    return named


def create(person: Person, name: str, search: str = "", note: str = "") -> Collection:
    """A new collection: empty, or kept by a search."""
    must(person, "catalogue.order")
    check_search(search, _named(name))
    made, new = Collection.objects.get_or_create(
        name=_named(name), defaults={"made_by": person, "search": search, "note": note}
    )
    if not new:
        raise RuleError(409, f"There is a collection “{made.name}” already. Choose another name.")
    return made


def _locked(name: str) -> Collection:
    return Collection.objects.select_for_update().get(pk=find(name).pk)


def change(person: Person, name: str, patch: CollectionPatch) -> Collection:
    """Renames a collection, or changes its note or what keeps it."""
    must(person, "catalogue.order")
    with transaction.atomic():
        row = _locked(name)
        take(row, patch, "name", "search", "note")
        row.name = _named(row.name)
        if Collection.objects.filter(name=row.name).exclude(pk=row.pk).exists():
            raise RuleError(409, f"There is a collection “{row.name}” already. Choose another name.")
        if patch.search is not None:
            check_search(patch.search, row.name)
        row.version += 1
        row.save()
    return row


def drop(person: Person, name: str) -> None:
    """Puts a collection into the bin; its looks stay."""
    must(person, "catalogue.order")
    removals.put(BIN, find(name), person, lambda users: f"“{name}” is in use.")


def _by_hand(row: Collection) -> None:
    if row.search:
        raise RuleError(
            409,
            f"“{row.name}” is kept by a search. Change what it searches for, or make a collection by hand.",
        )


def add(person: Person, name: str, looks: list[Look]) -> Collection:
    """Puts looks at the end of a collection, which is made where there is none; those in it already keep
    their place."""
    must(person, "catalogue.order")
    with transaction.atomic():
        made, _ = Collection.objects.get_or_create(name=_named(name), defaults={"made_by": person})
        row = _locked(made.name)
        _by_hand(row)
        top = row.placed.aggregate(top=Max("place"))["top"] or 0
        rows = [Placed(collection=row, look=look, place=top + k) for k, look in enumerate(looks, 1)]
        Placed.objects.bulk_create(rows, ignore_conflicts=True)
        row.version += 1
        row.save(update_fields=["version"])
    return row


def collect(look: Look, name: str, person: Person) -> None:
    """Puts a look into the collection of that name; nothing happens for an empty name."""
    if name.strip():
        add(person, name, [look])


def take_out(person: Person, name: str, look: Look) -> Collection:
    """Takes a look out of a collection."""
    must(person, "catalogue.order")
    with transaction.atomic():
        row = _locked(name)
        _by_hand(row)
        row.placed.filter(look=look).delete()
        row.version += 1
        row.save(update_fields=["version"])
    return row


def reorder(person: Person, name: str, ids: list[int], version: int) -> Collection:
    """Puts the looks of a collection in an order; 409 where somebody changed it since, 422 where other looks
    are named."""
    must(person, "catalogue.order")
    with transaction.atomic():
        row = _locked(name)
        _by_hand(row)
        if row.version != version:
            raise RuleError(
                409,
                "Somebody changed this collection while you were at it. It is shown as it is now: order "
                "it again.",
            )
        placed = {p.look_id: p for p in row.placed.all()}
        if set(ids) != set(placed) or len(ids) != len(placed):
            raise RuleError(422, "An order names every look of the collection once.")
        for place, pk in enumerate(ids, 1):
            placed[pk].place = place
        Placed.objects.bulk_update(placed.values(), ["place"])
        row.version += 1
        row.save(update_fields=["version"])
    return row


def of_look(look: Look) -> list[str]:
    """Names of the collections that a look was put into."""
    return list(look.collections.order_by("name").values_list("name", flat=True))
