"""Looks after the queue."""

from procrastinate.contrib.django import app

from .rules import Queue, recover

#: Without a sign of life for so long a worker counts as dead.
SILENCE = 45.0


@app.periodic(cron="* * * * *")
@app.task(queue=Queue.SOON, queueing_lock="look_after_jobs", pass_context=False)
async def look_after_jobs(timestamp: int) -> None:
    """Gives the jobs of dead workers to living ones, and writes down those that cannot be saved."""
    from asgiref.sync import sync_to_async

    for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=SILENCE):
        await app.job_manager.retry_job(job)
    await sync_to_async(recover)()
