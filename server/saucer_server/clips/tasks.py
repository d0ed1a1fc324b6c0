"""The long work of clips."""

from ..jobs.rules import Queue, task
from . import rules


@task(Queue.SOON)
def look(clip_id: int) -> None:
    """Looks a clip through."""
    rules.look_through(clip_id)
