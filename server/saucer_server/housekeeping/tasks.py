"""The house is kept every night."""

import logging

from procrastinate.contrib.django import app

from ..catalogue import vocabulary
from ..jobs.rules import Queue
from ..removals import rules as removals
from . import sweep

log = logging.getLogger("saucer.housekeeping")


@app.periodic(cron="17 3 * * *")
@app.task(queue=Queue.LONG, queueing_lock="keep_house", pass_context=False)
def keep_house(timestamp: int) -> None:
    """Makes room, writes down how much, and puts right what is kept beside the looks for searching."""
    for what, swept in sweep.everything().items():
        log.info("%s: %s files, %s bytes went", what, swept.files, swept.bytes)
    vocabulary.put_right()
    log.info("%s things went from the bin for good", removals.empty())
