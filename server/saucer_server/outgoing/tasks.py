"""The long work of packs that go out."""

from ..jobs.rules import Queue, task
from . import packing


@task(Queue.LONG)
def pack_out(outgoing_id: int) -> None:
    """Makes a pack."""
    packing.make(outgoing_id)
