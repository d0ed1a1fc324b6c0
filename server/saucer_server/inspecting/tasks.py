"""The long work of the inspector."""

from procrastinate.contrib.django import app

from ..jobs.rules import Cancelled
from . import unbaking


@app.task
def take_apart(unbaking_id: int) -> None:
    """Takes a table apart."""
    try:
        unbaking.make(unbaking_id)
    except Cancelled:
        return
