"""Presence: who has a draft open. One person holds it; the others watch, make a variation, or take it
over."""

from dataclasses import dataclass
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from ..people.rules import Person, is_own, may
from .models import Look, Presence

#: Somebody whose page has not said for this long that it is still open counts as gone.
GONE = timedelta(seconds=25)


@dataclass(frozen=True)
class DraftPresence:
    """Whether the draft is mine to change, whose it is otherwise, and who looks on."""

    mine: bool
    holder: str
    others: list[str]


def announce(look: Look, person: Person, *, take: bool = False) -> DraftPresence:
    """Notes that the person is there, and gives them the draft where nobody holds it or they take it."""
    now = timezone.now()
    with transaction.atomic():
        # One at a time, so that two who come together do not both hold it.
        Look.objects.select_for_update().get(pk=look.pk)
        Presence.objects.filter(look=look, seen_at__lt=now - GONE).delete()
        own, _ = Presence.objects.update_or_create(look=look, person=person, defaults={"seen_at": now})
        holder = Presence.objects.filter(look=look, holds=True).select_related("person").first()
        if may(person, "look.change", look.shared or is_own(person, look.maker_id)) and (
            holder is None or (take and holder.person_id != person.pk)
        ):
            Presence.objects.filter(look=look, holds=True).update(holds=False)
            Presence.objects.filter(pk=own.pk).update(holds=True)
            holder = own
        others = [
            str(s.person)
            for s in Presence.objects.filter(look=look).exclude(person=person).select_related("person")
        ]
    mine = holder is not None and holder.person_id == person.pk
    return DraftPresence(mine, str(holder.person) if holder is not None else "", others)


def leave(look: Look, person: Person) -> None:
    """The person has left; the next one who says so may hold the draft."""
    Presence.objects.filter(look=look, person=person).delete()
