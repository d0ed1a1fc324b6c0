"""Who holds what, over HTTP."""

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema

from . import may, quotas, rules
from .rules import person_of

router = Router(tags=["people"])


class HoldingPartOut(Schema):
    """How many of one kind, and bytes of their files."""

    what: str
    count: int
    bytes: int


class HoldingOut(Schema):
    """What one person or project holds, the largest part first."""

    id: int
    name: str
    bytes: int
    parts: list[HoldingPartOut]


class HoldingsOut(Schema):
    """Who holds what, the most first: oneself alone but for leads. limits: GB that one may hold; nothing
    where there is none."""

    people: list[HoldingOut]
    projects: list[HoldingOut]
    person_limit: float | None
    project_limit: float | None


@router.get("/people/holdings", response=HoldingsOut)
def holdings(request: HttpRequest) -> HoldingsOut:
    """Who holds how many bytes of files and how much work under way."""
    person = person_of(request)
    leads = may.may(person, "people.change")
    return HoldingsOut(
        people=[HoldingOut.from_orm(one) for one in quotas.people(rules.everybody() if leads else [person])],
        projects=[HoldingOut.from_orm(one) for one in quotas.projects()],
        person_limit=settings.PERSON_GB or None,
        project_limit=settings.PROJECT_GB or None,
    )
