"""Twins: two looks that an eye cannot tell apart become one in the catalogue. Nothing of either is lost, and
they can be parted again."""

from django.db import transaction
from saucer_core.readings.likeness import twins

from ..errors import RuleError
from ..looks.rules import Look, find, latest, lock, recipe_of
from ..people.activity import Happening, note
from ..people.rules import Person, must
from .entries import measured, refresh
from .models import Favourite, Placed
from .rules import TAG_LIMIT


def _behaves_the_same(one: Look, other: Look) -> bool:
    revisions = latest(one), latest(other)
    if None in revisions:
        return False
    first, second = (measured(recipe_of(r)).colours for r in revisions if r is not None)
    return twins(first, second)


def merge(look: Look, twin_id: int, person: Person) -> Look:
    """Makes a twin a part of a look: its revisions and shots stay as they are and count for the look, tags
    and collections go over.

    Raises ``LookError`` where one of them cannot be computed.
    """
    must(person, "review.decide")
    if look.pk == twin_id:
        raise RuleError(422, "A look is not merged into itself.")
    with transaction.atomic():
        lock(look.pk, twin_id)
        row, twin = find(look.pk), find(twin_id)
        if row.merged_into_id or twin.merged_into_id:
            raise RuleError(409, "One of the two is a part of another look by now. Reload and choose again.")
        if not _behaves_the_same(row, twin):
            raise RuleError(
                409,
                f"{row.name} and {twin.name} are no twins (any more): side by side an eye sees a difference.",
            )
        twin.merged.update(merged_into=row)
        twin.merged_into = row
        twin.save(update_fields=["merged_into"])
        row.tags.add(
            *[t for t in twin.tags.all() if not row.tags.filter(pk=t.pk).exists()][
                : TAG_LIMIT - row.tags.count()
            ]
        )
        for placed in Placed.objects.filter(look=twin):
            Placed.objects.get_or_create(
                collection_id=placed.collection_id, look=row, defaults={"place": placed.place}
            )
        for favourite in Favourite.objects.filter(look=twin):
            Favourite.objects.get_or_create(look=row, person_id=favourite.person_id)
        refresh([row.pk, twin.pk])
        note(
            Happening.LOOK,
            person,
            "made one look of",
            f"{row.name} and {twin.name}",
            to=f"/catalogue/look/{row.pk}",
        )
    return row


def part(look: Look, twin_id: int, person: Person) -> Look:
    """Makes a merged twin a look of its own again."""
    must(person, "review.decide")
    with transaction.atomic():
        if not look.merged.filter(pk=twin_id).update(merged_into=None):
            raise RuleError(409, "This look is not a part of it (any more).")
        refresh([look.pk, twin_id])
    return look
