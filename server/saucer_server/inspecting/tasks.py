"""The long work of the inspector."""

from procrastinate.contrib.django import app

from ..jobs.rules import Cancelled, Queue
from . import unbaking


@app.task(queue=Queue.SOON)
def take_apart(unbaking_id: int) -> None:
    """Takes a table apart."""
    try:
        unbaking.make(unbaking_id)
    except Cancelled:
        return
