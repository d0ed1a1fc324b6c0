"""The long work of intakes."""

from ..jobs.rules import Queue, task
from . import reading


@task(Queue.LONG)
def read_intake(intake_id: int) -> None:
    """Reads the files of an intake."""
    reading.lead(intake_id)


@task(Queue.LONG)
def help_with_intake(intake_id: int) -> None:
    """Helps to read the files of an intake."""
    reading.help_with(intake_id)
