"""Whether Saucer stands: for whoever watches over it."""

from datetime import timedelta

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import DatabaseError, connection
from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from procrastinate.contrib.django.models import ProcrastinateWorker

from ..storage import away
from .tasks import SILENCE

router = Router(tags=["health"], auth=None)


class AliveOut(Schema):
    """This process answers."""

    alive: bool = True


class ReadyOut(Schema):
    """Whether each part that work needs is there."""

    database: bool
    storage: bool
    worker: bool


@router.get("/health", response=AliveOut)
def health(request: HttpRequest) -> AliveOut:
    """This process answers; nothing else is asked."""
    return AliveOut()


@router.get("/ready", response={200: ReadyOut, 503: ReadyOut})
def ready(request: HttpRequest) -> Status[ReadyOut]:
    """Whether database, storage and a worker are there; 503 where one is not."""
    found = ReadyOut(database=_database(), storage=_storage(), worker=_worker())
    return Status(200 if found.database and found.storage and found.worker else 503, found)


def _database() -> bool:
    try:
        with connection.cursor() as cursor:
            cursor.execute("select 1")
    except DatabaseError:
        return False
    return True


def _storage() -> bool:
    """Whether a file can be kept: a full disk shows here."""
    try:
        name = default_storage.save("standing/mark", ContentFile(b"."))
        default_storage.delete(name)
    except away():
        return False
    return True


def _worker() -> bool:
    try:
        since = timezone.now() - timedelta(seconds=SILENCE)
        return bool(ProcrastinateWorker.objects.filter(last_heartbeat__gt=since).exists())
    except DatabaseError:
        return False
