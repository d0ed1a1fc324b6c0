"""The long work of packs."""

from procrastinate.contrib.django import app

from ..jobs.rules import Cancelled, Queue
from . import keeping, reading


@app.task(queue=Queue.SOON)
def read_pack(pack_id: int) -> None:
    """Reads a pack."""
    try:
        reading.read(pack_id)
    except Cancelled:
        return


@app.task(queue=Queue.SOON)
def keep_pack(pack_id: int) -> None:
    """Keeps what is chosen of a pack."""
    try:
        keeping.keep(pack_id)
    except Cancelled:
        return
