"""The long work of projects."""

from ..jobs.rules import Queue, task
from . import fromclip


@task(Queue.SOON)
def cut(
    job_id: int, project_id: int, clip_id: int, person_id: int, firsts: list[int], scene_id: int | None
) -> None:
    """Makes shots of a clip."""
    fromclip.make(job_id, project_id, clip_id, person_id, firsts, scene_id)
