"""Large bodies under way: who may send one is known before a byte of it is stored, and all of them together
fit the disk.

A reservation stands from before a body arrives until its request is answered. One whose sender vanished runs
out by itself.
"""

import shutil
from datetime import timedelta

from django.db import connection, transaction
from django.db.models import Count, Sum
from django.utils import timezone

from ..errors import RuleError
from ..storage import arriving
from . import quotas
from .models import Person, Upload

__all__ = ["BYTES", "KEPT_FREE", "LARGEST", "ONE_PERSON", "Upload", "admit", "ended"]

MIB = 2**20
#: Largest body in bytes: a clip (``saucer_core.formats.clips.SIZE_LIMIT``) and what stands around it.
LARGEST = 4200 * MIB
#: Bytes of all bodies under way.
BYTES = 64 * 1024 * MIB
#: Bodies that one person sends at once.
ONE_PERSON = 8
#: Bytes of the disk that bodies leave free.
KEPT_FREE = 512 * MIB
#: A body lies in the front, then in the web process, then among the files: so many times its size is needed
#: for a moment.
COPIES = 3
#: Bytes a second below which a sender counts as gone.
SLOWEST = 128 * 1024
#: Seconds that everybody has.
GRACE = 120
_LOCK = 0x5A0CE2


def admit(request_id: str, person: Person, size: int) -> None:
    """Reserves room for a body of ``size`` bytes. Raises 413, 429 and 507 with what to do."""
    if size > LARGEST:
        raise RuleError(413, f"That is more than one upload may hold ({LARGEST // MIB:,} MiB).")
    now = timezone.now()
    folder = arriving()
    with transaction.atomic():
        with connection.cursor() as cursor:
            # Two that are counted at one moment would both find the last place.
            cursor.execute("SELECT pg_advisory_xact_lock(%s)", [_LOCK])
        Upload.objects.filter(until__lt=now).delete()
        if Upload.objects.filter(request=request_id, person=person, bytes=size).exists():
            # The front asked before it stored the body.
            return
        others = Upload.objects.exclude(request=request_id)
        if others.filter(person=person).count() >= ONE_PERSON:
            raise RuleError(
                429,
                f"You are sending {ONE_PERSON} files already. Wait until one has arrived, then send this "
                "one again.",
            )
        quotas.must_fit(
            person, size + (others.filter(person=person).aggregate(bytes=Sum("bytes"))["bytes"] or 0)
        )
        under_way = others.aggregate(bytes=Sum("bytes"), many=Count("pk"))["bytes"] or 0
        if under_way + size > BYTES:
            raise RuleError(
                429, "Too many large files are arriving at this moment. Send this one again in a few minutes."
            )
        if COPIES * (under_way + size) + KEPT_FREE > shutil.disk_usage(folder).free:
            raise RuleError(
                507,
                "The disk has no room for this file: nothing was kept. Ask whoever runs Saucer to make room.",
            )
        until = now + timedelta(seconds=GRACE + size / SLOWEST)
        Upload.objects.create(request=request_id, person=person, bytes=size, until=until)


def ended(request_id: str) -> None:
    """Gives the room of an answered request back."""
    Upload.objects.filter(request=request_id).delete()
