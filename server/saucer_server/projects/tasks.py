"""The long work of projects."""

from procrastinate.contrib.django import app

from ..jobs.rules import Cancelled, Queue
from . import fromclip


@app.task(queue=Queue.SOON)
def cut(job_id: int, project_id: int, clip_id: int, person_id: int, firsts: list[int], scene_id: int | None) -> None:
    """Makes shots of a clip."""
    try:
        fromclip.make(job_id, project_id, clip_id, person_id, firsts, scene_id)
    except Cancelled:
        return
