"""The long work of deliveries."""

from ..jobs.rules import Queue, task
from . import making


@task(Queue.LONG)
def deliver(delivery_id: int) -> None:
    """Makes a delivery."""
    making.make(delivery_id)


@task(Queue.LONG)
def help_deliver(delivery_id: int) -> None:
    """Helps with one that another worker leads."""
    making.help_with(delivery_id)


@task(Queue.LONG)
def shelve(delivery_id: int) -> None:
    """Puts a finished delivery on the drop folder."""
    making.again(delivery_id)
