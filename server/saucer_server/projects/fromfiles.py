"""Many stills that become shots of a project: looked through and shown before anything is kept."""

from django.db import transaction

from ..errors import missing
from ..intake import rules as intakes
from ..people.rules import Person
from .models import Project, Shot
from .rules import NewShot, add_shots, must_work


def begin(project: Project, person: Person) -> intakes.Intake:
    """A new intake for a project, whose files are read by its rules. Raises 403."""
    must_work(person, project)
    return intakes.begin(person, project.pk, project.reading)


def keep(project: Project, person: Person, intake_id: int) -> list[Shot]:
    """Makes shots of what is chosen of an intake for the project, and lets go of the rest: all of it, or
    nothing. Their pictures are shown in the project alone. Raises 403, 404, 409 and 422."""
    must_work(person, project)
    intake = intakes.find(intake_id, person)
    if intake.project_id != project.pk:
        raise missing("intake")
    with transaction.atomic():
        made = intakes.keep_for_shots(intake)
        return add_shots(project, person, [NewShot(frame) for frame in made])
