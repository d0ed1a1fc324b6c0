"""Following long work."""

from datetime import datetime

from django.http import HttpRequest
from ninja import Router, Schema

from ..errors import missing
from ..lookup import by_id
from ..people.rules import person_of
from .rules import Job, ahead, cancel, following

router = Router(tags=["jobs"])


class JobOut(Schema):
    """How far a job is. ahead: how many pieces of work come before it, while it waits."""

    id: int
    kind: str
    title: str
    state: str
    done: int
    total: int
    doing: str
    reason: str
    asked_at: datetime
    ahead: int = 0

    @staticmethod
    def resolve_ahead(job: Job) -> int:
        """Counted when it is told."""
        return ahead(job)


@router.get("", response=list[JobOut])
def jobs(request: HttpRequest) -> list[Job]:
    """The person's latest jobs."""
    return list(following(person_of(request))[:20])


@router.get("/{int:job_id}", response=JobOut)
def job(request: HttpRequest, job_id: int) -> Job:
    """One of a person's own jobs."""
    return by_id(following(person_of(request)), job_id, "job")


@router.post("/{int:job_id}/cancel", response=JobOut)
def stop(request: HttpRequest, job_id: int) -> Job:
    """Asks a job to stop."""
    job = Job.objects.filter(pk=job_id).first() if job_id < 2**63 else None
    if job is None:
        raise missing("job")
    cancel(job, person_of(request))
    job.refresh_from_db()
    return job
