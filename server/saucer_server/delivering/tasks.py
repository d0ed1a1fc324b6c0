"""The long work of deliveries."""

from procrastinate.contrib.django import app

from ..jobs.rules import Cancelled
from . import making


@app.task
def deliver(delivery_id: int) -> None:
    """Makes a delivery."""
    try:
        making.make(delivery_id)
    except Cancelled:
        return


@app.task
def help_deliver(delivery_id: int) -> None:
    """Helps with one that another worker leads."""
    try:
        making.help_with(delivery_id)
    except Cancelled:
        return


@app.task
def shelve(delivery_id: int) -> None:
    """Puts a finished delivery on the drop folder."""
    making.again(delivery_id)
