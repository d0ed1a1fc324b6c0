"""Who may do what."""

from django.db.models import QuerySet

from ..errors import RuleError, forbidden
from .models import Person, Role

__all__ = ["Person", "Role", "everybody", "may_design", "may_lead", "must_design", "must_lead", "person_of"]


def person_of(request: object) -> Person:
    """The person who asks; authentication has happened before."""
    user = getattr(request, "user", None)
    if not isinstance(user, Person):
        raise RuleError(401, "Sign in to go on.")
    return user


def everybody() -> QuerySet[Person]:
    """All who can sign in, by name."""
    return Person.objects.filter(is_active=True).order_by("full_name", "pk")


def may_design(person: Person) -> bool:
    """Whether the person builds looks."""
    return person.role in (Role.DESIGNER, Role.LEAD)


def may_lead(person: Person) -> bool:
    """Whether the person reviews looks and runs projects."""
    return person.role == Role.LEAD


def must_design(person: Person) -> None:
    """Raises 403 for those who do not build looks."""
    if not may_design(person):
        raise forbidden("Looks are changed by look designers. You can try this look, assign it, and take its files.")


def must_lead(person: Person) -> None:
    """Raises 403 for everybody but leads."""
    if not may_lead(person):
        raise forbidden("This is for leads. Ask one of them.")
