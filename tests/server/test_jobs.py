"""The queue: people take turns, what one waits at is never behind what runs long, and nobody fills it."""

from collections import namedtuple

import pytest
from django.db import InterfaceError, OperationalError, connection, transaction
from procrastinate.contrib.django import app
from procrastinate.contrib.django.django_connector import DjangoConnector
from procrastinate.contrib.django.models import ProcrastinateJob
from saucer_server.errors import RuleError
from saucer_server.jobs import rules
from saucer_server.jobs.models import Job, State
from saucer_server.people.rules import Person

from launch.serving import worker_words


def enqueued(name, task, many=1, helpers=0):
    person = Person.objects.get(username=name)
    made = []
    for k in range(many):
        job = rules.order("delivery", f"{name} {k}", person)
        rules.enqueue(
            job,
            app.tasks[task],
            (app.tasks[DELIVER], helpers),
            **{"delivery_id" if "deliver" in task else "pack_id": 0},
        )
        made.append(job)
    return made


def in_turn(queue=None):
    """Titles of what workers would take, in their order."""
    rows = ProcrastinateJob.objects.filter(status="todo").order_by("-priority", "pk")
    names = {job.queue_id: job.title for job in Job.objects.all()}
    return [names.get(row.pk, "help") for row in rows if queue in (None, row.queue_name)]


DELIVER, READ = "saucer_server.delivering.tasks.deliver", "saucer_server.packs.tasks.read_pack"


def test_people_take_turns(designer, other, lead):
    enqueued("ines", DELIVER, 4)
    enqueued("tomas", DELIVER, 2)
    enqueued("odile", DELIVER)
    assert in_turn() == ["ines 0", "tomas 0", "odile 0", "ines 1", "tomas 1", "ines 2", "ines 3"]


@pytest.mark.django_db(transaction=True)
def test_work_that_workers_ask_for_is_there_with_its_rows_and_not_before(designer):
    """Workers of procrastinate 3 have a connection to the queue beside Django's."""
    before = ProcrastinateJob.objects.count()
    with app.replace_connector(DjangoConnector().get_worker_connector()), app.open():
        with transaction.atomic():
            enqueued("ines", DELIVER, helpers=2)
            transaction.set_rollback(True)
        assert ProcrastinateJob.objects.count() == before
        enqueued("ines", DELIVER, helpers=2)
    assert ProcrastinateJob.objects.count() == before + 3


def test_helpers_come_after_everybodys_first(designer, other):
    enqueued("ines", DELIVER, helpers=3)
    enqueued("tomas", DELIVER)
    assert in_turn() == ["ines 0", "tomas 0", "help", "help", "help"]


def test_what_is_done_no_longer_counts_against_somebody(designer, other):
    done, *_ = enqueued("ines", DELIVER, 2)
    Job.objects.filter(pk=done.pk).update(state=State.DONE)
    ProcrastinateJob.objects.filter(pk=done.queue_id).delete()
    enqueued("tomas", DELIVER)
    enqueued("ines", DELIVER)
    assert in_turn() == ["tomas 0", "ines 1", "ines 0"]


def test_a_worker_is_kept_for_what_somebody_waits_at(designer, other):
    """120 deliveries of one person hold no pack of another back."""
    enqueued("ines", DELIVER, 20)
    [pack] = enqueued("tomas", READ)
    queues = [
        words[words.index("--queues") + 1] if "--queues" in words else None
        for words in worker_words(2).values()
    ]
    assert sorted(queues, key=str) == [None, "soon"]
    assert in_turn("soon") == ["tomas 0"]
    assert rules.ahead(pack) == 0


def test_ones_place_in_the_line_is_told(designer, other):
    enqueued("ines", DELIVER, 3)
    mine = enqueued("tomas", DELIVER, 2)
    assert [j["ahead"] for j in other.get("/jobs").json()] == [3, 1]
    Job.objects.filter(pk=mine[0].pk).update(state=State.RUNNING)
    assert other.get(f"/jobs/{mine[0].pk}").json()["ahead"] == 0


def test_nobody_fills_the_queue(designer, other):
    person = Person.objects.get(username="ines")
    Job.objects.bulk_create(Job(kind="x", title="x", asked_by=person) for _ in range(rules.WAITING))
    with pytest.raises(RuleError, match="waiting or running") as refused:
        rules.order("x", "x", person)
    assert refused.value.status == 429
    enqueued("tomas", DELIVER)


@pytest.mark.django_db(transaction=True)
def test_work_goes_on_after_the_database_went(designer):
    """The database ends the connection in the middle, twice: nothing is said to have failed, and the next try
    carries it out."""
    job = rules.order("x", "x", Person.objects.get(username="ines"), 1)
    kills, undone = [2], []

    @rules.task(rules.Queue.SOON)
    def work(job_id):
        with rules.running(job_id, lambda: undone.append(job_id)) as progress:
            if kills[0]:
                kills[0] -= 1
                with connection.cursor() as cursor:
                    cursor.execute("select pg_terminate_backend(pg_backend_pid())")
            progress.at(1, "the end")

    for _ in range(2):
        with pytest.raises((OperationalError, InterfaceError)) as gone:
            work(job_id=job.pk)
        assert work.retry_strategy.get_retry_decision(exception=gone.value, job=Taken(attempts=1)) is not None
        job.refresh_from_db()
        assert job.state == State.RUNNING
    work(job_id=job.pk)
    job.refresh_from_db()
    assert (job.state, job.done, undone) == (State.DONE, 1, [])
    assert work.retry_strategy.get_retry_decision(exception=ValueError(), job=Taken(attempts=1)) is None


Taken = namedtuple("Taken", "attempts")
