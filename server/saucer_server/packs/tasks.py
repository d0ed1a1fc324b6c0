"""The long work of packs."""

from ..jobs.rules import Queue, task
from . import keeping, reading


@task(Queue.SOON)
def read_pack(pack_id: int) -> None:
    """Reads a pack."""
    reading.read(pack_id)


@task(Queue.SOON)
def keep_pack(pack_id: int) -> None:
    """Keeps what is chosen of a pack."""
    keeping.keep(pack_id)
