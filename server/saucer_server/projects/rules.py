"""Projects: shots, assignments, trims."""

from django.db import transaction
from django.db.models import Max
from saucer_core.trim import Trim

from ..errors import RuleError, missing
from ..frames import rules as frames
from ..looks import rules as looks
from ..people.rules import Person, must_lead
from .models import Delivery, Project, Shot

__all__ = ["Delivery", "Project", "Shot", "add_shots", "assign", "create", "find", "projects_with", "trim_of"]


def find(project_id: int) -> Project:
    """The project; raises 404."""
    found = Project.objects.filter(pk=project_id).first() if 0 < project_id < 2**63 else None
    if found is None:
        raise missing("project")
    return found


def find_shot(project: Project, shot_id: int) -> Shot:
    """A shot of the project; raises 404."""
    shots = project.shots.select_related("frame", "revision__look")
    found = shots.filter(pk=shot_id).first() if 0 < shot_id < 2**63 else None
    if found is None:
        raise missing("shot")
    return found


def create(person: Person, name: str, note: str) -> Project:
    """A new project."""
    must_lead(person)
    return Project.objects.create(name=name.strip(), note=note, made_by=person)


def trim_of(shot: Shot) -> Trim:
    """The shot's trim."""
    return Trim.model_validate(shot.trim)


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
        shots = project.shots.filter(pk__in=[i for i in wanted if 0 < i < 2**63])
        if shots.count() != len(wanted):
            raise RuleError(404, "Some of these shots are not in the project any more. Reload and choose again.")
        shots.update(revision=revision, strength=strength)


def projects_with(frame_id: int) -> list[str]:
    """Names of the projects in which a frame is a shot."""
    return sorted(set(Shot.objects.filter(frame_id=frame_id).values_list("project__name", flat=True)))
