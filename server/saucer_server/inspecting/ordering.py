"""Asking for a table to be taken apart."""

from django.db import transaction

from ..jobs import rules as jobs
from ..jobs.rules import State
from ..people.rules import Person, must
from . import tasks
from .models import Unbaking
from .subjects import Subject
from .unbaking import PARTS


def order(subject: Subject, person: Person) -> Unbaking:
    """Asks for a subject to be taken apart; work that is under way or done for the same look is given
    instead."""
    must(person, "look.make")
    digest = subject.recipe.digest()
    there = Unbaking.objects.filter(
        digest=digest, asked_by=person, job__state__in=(State.WAITING, State.RUNNING, State.DONE)
    )
    if (row := there.select_related("job").first()) is not None:
        return row
    with transaction.atomic():
        job = jobs.order("unbaking", f"Take {subject.name} apart", person, PARTS)
        row = Unbaking.objects.create(
            kind=subject.kind, subject=subject.id, digest=digest, name=subject.name, job=job, asked_by=person
        )
        jobs.enqueue(job, tasks.take_apart, unbaking_id=row.pk)
    return row
