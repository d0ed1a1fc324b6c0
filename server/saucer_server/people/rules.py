"""Who somebody is, and what a lead changes of people."""

from collections.abc import Collection

from django.db import transaction
from django.db.models import QuerySet

from ..errors import RuleError
from ..lookup import by_id
from . import tokens
from .activity import Happening, note
from .may import may, must
from .models import Person, Role
from .sessions import end_all

__all__ = [
    "Person",
    "Role",
    "change",
    "everybody",
    "find",
    "is_own",
    "may",
    "may_design",
    "may_lead",
    "must",
    "person_of",
    "take",
]


def person_of(request: object) -> Person:
    """The person who asks; authentication has happened before."""
    user = getattr(request, "user", None)
    if not isinstance(user, Person):
        raise RuleError(401, "Sign in to go on.")
    return user


def everybody() -> QuerySet[Person]:
    """All who can sign in, by name."""
    return Person.objects.filter(is_active=True).order_by("full_name", "pk")


def among(ids: Collection[int]) -> QuerySet[Person]:
    """Those people who are there, whoever of them can still sign in."""
    return Person.objects.filter(pk__in=ids)


def find(person_id: int) -> Person:
    """The person; raises 404."""
    return by_id(Person.objects.all(), person_id, "person")


def may_design(person: Person) -> bool:
    """Whether the person builds looks."""
    return may(person, "look.make")


def may_lead(person: Person) -> bool:
    """Whether the person reviews looks and runs projects."""
    return may(person, "review.decide")


def is_own(person: Person, owner_id: int | None) -> bool:
    """Whether something that belongs to ``owner_id`` is the person's."""
    return owner_id == person.pk


def change(
    person_id: int, by: Person, role: str | None, active: bool | None, email: str | None = None
) -> Person:
    """Gives a person another role or address, or lets them in no more, or again. Whoever is let in no more is
    signed out everywhere, and their tokens end.

    Raises 409 where somebody else has that address, and where nobody would be left who may do this.
    """
    must(by, "people.change")
    return take(person_id, role, active, email, by)


def take(
    person_id: int, role: str | None, active: bool | None, email: str | None = None, by: Person | None = None
) -> Person:
    """``change`` by whoever needs no leave, as the studio's directory; what a person did is written down."""
    with transaction.atomic():
        # One change of people at a time: two leads who end each other's role would leave none.
        leads = list(Person.objects.select_for_update().filter(role=Role.LEAD, is_active=True).order_by("pk"))
        person = by_id(Person.objects.select_for_update(), person_id, "person")
        stays = (role or person.role) == Role.LEAD and (person.is_active if active is None else active)
        if leads == [person] and not stays:
            raise RuleError(409, f"{person} is the only lead. Make somebody else a lead first.")
        if email and Person.objects.filter(email__iexact=email.strip()).exclude(pk=person.pk).exists():
            raise RuleError(409, f"Somebody else has the address {email.strip()} already.")
        before = (person.get_role_display(), person.email, person.is_active)
        person.role = Role(role) if role else person.role
        person.is_active = person.is_active if active is None else active
        person.email = person.email if email is None else email.strip()
        person.save(update_fields=["role", "is_active", "email"])
        if not person.is_active:
            end_all(person)
            tokens.end_all(person)
        if by is not None:
            _write_down(by, person, *before)
    return person


def _write_down(by: Person, after: Person, role: str, email: str, active: bool) -> None:
    """What a lead changed. role, email, active: as they were."""
    if after.get_role_display() != role:
        note(
            Happening.PEOPLE,
            by,
            "gave another role to",
            str(after),
            more=f"{after.get_role_display().lower()}, was {role.lower()}",
        )
    if after.email != email:
        note(Happening.PEOPLE, by, "said the address of", str(after))
    if after.is_active != active:
        note(Happening.PEOPLE, by, "lets in again" if after.is_active else "lets in no more", str(after))
