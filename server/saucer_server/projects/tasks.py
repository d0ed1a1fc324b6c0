"""The long work of projects."""

from procrastinate.contrib.django import app

from ..jobs.rules import Cancelled
from . import delivery


@app.task
def deliver(delivery_id: int) -> None:
    """Makes a delivery."""
    try:
        delivery.make(delivery_id)
    except Cancelled:
        return
