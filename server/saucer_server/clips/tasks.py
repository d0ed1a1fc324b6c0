"""The long work of clips."""

from procrastinate.contrib.django import app

from ..jobs.rules import Cancelled, Queue
from . import rules


@app.task(queue=Queue.SOON)
def look(clip_id: int) -> None:
    """Looks a clip through."""
    try:
        rules.look_through(clip_id)
    except Cancelled:
        return
