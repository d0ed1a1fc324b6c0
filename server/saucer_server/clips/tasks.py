"""The long work of clips."""

from ..jobs.rules import Queue, task
from . import moments, proxying, rules


@task(Queue.SOON)
def look(clip_id: int) -> None:
    """Looks a clip through, puts it among the frames where that is wanted, asks for its proxy, and tells
    those who wait for it."""
    rules.look_through(clip_id)
    moments.stand_if_wanted(clip_id)
    proxying.wanted(clip_id)
    for tell in rules.LOOKED_THROUGH:
        tell(clip_id)


@task(Queue.LONG)
def make_proxy(clip_id: int) -> None:
    """Makes the proxy of a clip."""
    proxying.make(clip_id)


@task(Queue.LONG)
def help_with_proxy(clip_id: int) -> None:
    """Helps with one that another worker leads."""
    proxying.help_with(clip_id)
