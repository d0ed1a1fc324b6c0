"""The long work of the inspector."""

from ..jobs.rules import Queue, task
from . import unbaking


@task(Queue.SOON)
def take_apart(unbaking_id: int) -> None:
    """Takes a table apart."""
    unbaking.make(unbaking_id)
