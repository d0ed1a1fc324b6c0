"""The list of projects: a strip of each one's shots, what waits in it, when it was last delivered."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.db.models import Count, Prefetch, Q

from .models import Change, Project, Shot
from .rollout import newer_on
from .rules import every, with_looks

#: Shots that the list shows of a project.
STRIP = 8


@dataclass(frozen=True)
class LastDelivery:
    """The last finished delivery of a project."""

    number: int
    made_at: datetime


@dataclass(frozen=True)
class Line:
    """A project in the list: how many shots, looks and members it has, its first shots, what waits in it, its
    last delivery, and what was done last."""

    id: int
    name: str
    note: str
    shots: int
    looks: int
    members: int
    private: bool
    strip: list[Shot]
    waiting: str
    delivery: LastDelivery | None
    last: Change | None


def _waiting(project: Project, bare: int) -> str:
    said = []
    newer = newer_on(project)
    if newer:
        said.append(f"newer revisions for {newer} {'shot' if newer == 1 else 'shots'}")
    if bare:
        said.append(f"{bare} without a look")
    return ", ".join(said)


def lines() -> list[Line]:
    """All projects, by name."""
    newest = Change.objects.select_related("made_by").order_by("-pk")
    rows = (
        every()
        .prefetch_related(
            Prefetch("shots", with_looks(Shot.objects.all())[:STRIP], to_attr="first_shots"),
            Prefetch("changes", newest[:1], to_attr="newest_change"),
        )
        .annotate(
            count=Count("shots", filter=Q(shots__aside=False), distinct=True),
            bare=Count("shots", filter=Q(shots__layers=None, shots__aside=False), distinct=True),
            on=Count("shots__layers__revision__look", distinct=True),
            people=Count("members", distinct=True),
        )
    )
    return [_line(project) for project in rows]


def _line(row: Any) -> Line:
    delivered = LastDelivery(row.delivered, row.delivered_at) if row.delivered else None
    return Line(
        id=row.pk,
        name=row.name,
        note=row.note,
        shots=row.count,
        looks=row.on,
        members=row.people,
        private=row.circle_id is not None,
        strip=row.first_shots,
        waiting=_waiting(row, row.bare),
        delivery=delivered,
        last=next(iter(row.newest_change), None),
    )
