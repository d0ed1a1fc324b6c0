"""The list of projects: a strip of each one's shots, what waits in it, when it was last delivered."""

from dataclasses import dataclass
from datetime import datetime

from .models import Change, Layer, Project, Shot
from .rollout import newer_on
from .rules import every, shots_of

#: Shots that the list shows of a project.
STRIP = 8


@dataclass(frozen=True)
class Line:
    """A project in the list: its first shots, how many there are, its looks, what waits, its last delivery, and what was done last."""

    project: Project
    shown: list[Shot]
    shots: int
    looks: int
    waiting: str
    delivered: tuple[int, datetime] | None
    last: Change | None


def _waiting(project: Project) -> str:
    said = []
    newer = newer_on(project)
    if newer:
        said.append(f"newer revisions for {newer} {'shot' if newer == 1 else 'shots'}")
    bare = project.shots.filter(layers=None).count()
    if bare:
        said.append(f"{bare} without a look")
    return ", ".join(said)


def lines() -> list[Line]:
    """All projects, by name."""
    found = []
    for project in every().prefetch_related("members"):
        on = Layer.objects.filter(shot__project=project).values("revision__look").distinct().count()
        ready = project.deliveries.filter(ready=True).values_list("number", "made_at").first()
        last = project.changes.select_related("made_by").first()
        shown = list(shots_of(project)[:STRIP])
        found.append(Line(project, shown, project.shots.count(), on, _waiting(project), ready, last))
    return found
