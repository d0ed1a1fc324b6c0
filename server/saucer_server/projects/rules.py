"""Projects: shots, assignments, trims."""

from typing import Any

from django.db import transaction
from django.db.models import Max, Q, QuerySet
from saucer_core.trim import Trim

from ..bench.pictures import still as revision_still
from ..errors import RuleError, missing
from ..frames import rules as frames
from ..looks import rules as looks
from ..lookup import LARGEST, by_id
from ..people.rules import Person, must_lead
from .models import Delivery, Project, Shot

__all__ = [
    "Delivery",
    "Project",
    "Shot",
    "add_shots",
    "assign",
    "change_shot",
    "create",
    "every",
    "find",
    "find_shot",
    "shots_of",
    "still",
    "trim_of",
    "uses_of",
]


def find(project_id: int) -> Project:
    """The project; raises 404."""
    return by_id(Project.objects.all(), project_id, "project")


def find_shot(project: Project, shot_id: int) -> Shot:
    """A shot of the project; raises 404."""
    return by_id(project.shots.select_related("frame", "revision__look"), shot_id, "shot")


def every() -> list[tuple[Project, list[Shot], int]]:
    """All projects, each with its shots and the number of looks on them."""
    found = []
    for project in Project.objects.prefetch_related("shots"):
        shots = list(project.shots.all())
        found.append((project, shots, len({s.revision_id for s in shots if s.revision_id})))
    return found


def shots_of(project: Project) -> QuerySet[Shot]:
    """The shots of a project in order, with what is on them."""
    return project.shots.select_related("frame__added_by", "revision__look", "revision__made_by")


def change_shot(project: Project, shot_id: int, said: dict[str, Any]) -> Shot:
    """Renames or trims a shot, or eases its look."""
    with transaction.atomic():
        by_id(project.shots.select_for_update(), shot_id, "shot")
        shot = find_shot(project, shot_id)
        for field, value in said.items():
            setattr(shot, field, value)
        shot.save(update_fields=list(said))
    return shot


def still(shot: Shot, width: int) -> bytes:
    """A shot as it will be delivered, JPEG for the screen; 404 where no look is on it."""
    if shot.revision is None:
        raise missing("assignment")
    look = looks.recipe_of(shot.revision)
    return revision_still(look, shot.revision.digest, shot.frame, width, strength=shot.strength, trim=trim_of(shot))


def create(person: Person, name: str, note: str) -> Project:
    """A new project."""
    must_lead(person)
    return Project.objects.create(name=name.strip(), note=note, made_by=person)


def trim_of(shot: Shot) -> Trim:
    """The shot's trim."""
    return Trim.model_validate(shot.trim)


def uses_of(look: looks.Look) -> list[tuple[Project, int, int]]:
    """Projects that use a look: each with the number of a revision and on how many of its shots that is."""
    whole = Q(revision__look=look) | Q(revision__look__merged_into=look)
    rows = Shot.objects.filter(whole).order_by("project__name", "project_id", "-revision__number")
    found: dict[tuple[int, int], tuple[Project, int, int]] = {}
    for shot in rows.select_related("project", "revision").defer("revision__recipe"):
        assert shot.revision is not None
        key = (shot.project_id, shot.revision.number)
        project, number, count = found.get(key, (shot.project, shot.revision.number, 0))
        found[key] = (project, number, count + 1)
    return list(found.values())


def add_shots(project: Project, frame_ids: list[int]) -> list[Shot]:
    """Adds frames as shots at the end, each with the frame's own trim to start from."""
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        top = project.shots.aggregate(top=Max("number"))["top"] or 0
        chosen = [frames.find(i) for i in frame_ids]
        return [Shot.objects.create(project=project, number=top + k, name=f.name, frame=f, trim=f.trim) for k, f in enumerate(chosen, 1)]


def assign(project: Project, shot_ids: list[int], revision_id: int | None, strength: float) -> None:
    """Puts a revision on shots of the project, or takes it off for ``None``. All of them or none."""
    revision = looks.find_revision(revision_id) if revision_id is not None else None
    if revision is not None and revision.status == looks.Status.RETIRED:
        raise RuleError(409, f"{revision} is retired. Choose another revision.")
    with transaction.atomic():
        wanted = set(shot_ids)
        shots = project.shots.filter(pk__in=[i for i in wanted if 0 < i <= LARGEST])
        if shots.count() != len(wanted):
            raise RuleError(404, "Some of these shots are not in the project any more. Reload and choose again.")
        shots.update(revision=revision, strength=strength)
