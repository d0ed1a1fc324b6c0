"""The long work of deliveries."""

from procrastinate.contrib.django import app

from ..jobs.rules import Cancelled, Queue
from . import making


@app.task(queue=Queue.LONG)
def deliver(delivery_id: int) -> None:
    """Makes a delivery."""
    try:
        making.make(delivery_id)
    except Cancelled:
        return


@app.task(queue=Queue.LONG)
def help_deliver(delivery_id: int) -> None:
    """Helps with one that another worker leads."""
    try:
        making.help_with(delivery_id)
    except Cancelled:
        return


@app.task(queue=Queue.LONG)
def shelve(delivery_id: int) -> None:
    """Puts a finished delivery on the drop folder."""
    making.again(delivery_id)
