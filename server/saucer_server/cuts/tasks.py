"""The long work of cuts."""

from ..jobs.rules import Queue, task
from . import taking, waiting


@task(Queue.SOON)
def take_cut(cut_id: int, person_id: int) -> None:
    """Takes a cut."""
    taking.take(cut_id, person_id)


@task(Queue.SOON)
def fill_event(job_id: int, cut_id: int, place: int, clip_id: int, person_id: int) -> None:
    """Makes the shot of an event that waited."""
    waiting.fill_by_hand(job_id, cut_id, place, clip_id, person_id)
