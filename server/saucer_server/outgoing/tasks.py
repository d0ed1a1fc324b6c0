"""The long work of packs that go out."""

from procrastinate.contrib.django import app

from ..jobs.rules import Cancelled, Queue
from . import packing


@app.task(queue=Queue.LONG)
def pack_out(outgoing_id: int) -> None:
    """Makes a pack."""
    try:
        packing.make(outgoing_id)
    except Cancelled:
        return
