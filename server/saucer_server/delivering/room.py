"""The room that projects take: their deliveries, and the frames and clips of their shots."""

from collections import defaultdict
from itertools import groupby

from django.conf import settings

from ..errors import RuleError
from ..jobs.rules import State
from ..people.quotas import GB, PROJECTS, Held, Holding, Part, register, words
from ..projects import rules as projects
from ..projects.rules import Project
from .models import Delivery

__all__ = ["must_fit"]

#: Deliveries of one project that may be waiting or under way.
UNDER_WAY = 20
register(Holding("delivery", "deliveries", lambda: Delivery.objects.filter(gone=False), "made_by", "bytes"))


def held_by(among: list[Project]) -> list[Held]:
    """What projects hold. A frame or clip of several shots counts once."""
    parts: dict[int, list[Part]] = defaultdict(list)
    keys = [project.pk for project in among]
    deliveries = (
        Delivery.objects.filter(project__in=keys, gone=False)
        .order_by("project")
        .values_list("project", "bytes")
    )
    for key, rows in groupby(deliveries, key=lambda row: row[0]):
        sizes = [size for _, size in rows]
        parts[key].append(Part("delivery" if len(sizes) == 1 else "deliveries", len(sizes), sum(sizes)))
    for field in ("frame", "clip"):
        used = (
            projects.every_shot()
            .filter(project__in=keys, **{f"{field}__isnull": False})
            .order_by("project")
            .distinct()
        )
        for key, found in groupby(
            used.values_list("project", field, f"{field}__bytes"), key=lambda row: row[0]
        ):
            sizes = [size for _, _, size in found]
            parts[key].append(Part(field if len(sizes) == 1 else f"{field}s", len(sizes), sum(sizes)))
    return [Held(p.pk, p.name, sorted(parts[p.pk], key=lambda part: -part.bytes)) for p in among]


PROJECTS.append(lambda: held_by(list(projects.every())))


def must_fit(project: Project) -> None:
    """Raises 429 where a project has too many deliveries under way, 507 where it holds more than it may."""
    if (
        Delivery.objects.filter(project=project, job__state__in=[State.WAITING, State.RUNNING]).count()
        >= UNDER_WAY
    ):
        raise RuleError(
            429,
            f"{UNDER_WAY} deliveries of this project are waiting or under way. Wait until some are done, or "
            "stop some.",
        )
    held = held_by([project])[0].bytes if settings.PROJECT_GB else 0
    if held > settings.PROJECT_GB * GB:
        said = f"{project.name} holds {words(held)} of the {settings.PROJECT_GB:,g} GB that one project may"
        raise RuleError(507, f"{said}. Take out clips that it does not need, or ask whoever runs Saucer.")
