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
class Line:
    """A project in the list: its first shots, how many there are, its looks, what waits, its last delivery,
    and what was done last."""

    project: Project
    shown: list[Shot]
    shots: int
    looks: int
    waiting: str
    delivered: tuple[int, datetime] | None
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
    # Deliveries stand in a room above this one.
    delivered: Any = Project._meta.get_field("deliveries").related_model
    deliveries = delivered.objects
    rows = (
        every()
        .prefetch_related(
            "members",
            Prefetch("shots", with_looks(Shot.objects.all())[:STRIP], to_attr="first_shots"),
            Prefetch(
                "deliveries", deliveries.filter(ready=True).order_by("-number")[:1], to_attr="newest_delivery"
            ),
            Prefetch(
                "changes",
                Change.objects.select_related("made_by").order_by("-pk")[:1],
                to_attr="newest_change",
            ),
        )
        .annotate(
            count=Count("shots", distinct=True),
            bare=Count("shots", filter=Q(shots__layers=None), distinct=True),
            on=Count("shots__layers__revision__look", distinct=True),
        )
    )
    return [_line(project) for project in rows]


def _line(row: Any) -> Line:
    ready = next(((d.number, d.made_at) for d in row.newest_delivery), None)
    return Line(
        row,
        row.first_shots,
        row.count,
        row.on,
        _waiting(row, row.bare),
        ready,
        next(iter(row.newest_change), None),
    )
