"""Slows down whoever guesses passwords, by name and by address, before any password is hashed."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from threading import BoundedSemaphore, Lock

from django.db import transaction
from django.utils import timezone

from ..errors import RuleError
from .models import FailedSignIn

#: Wrong passwords that are answered at once: for a name from one address, for a name from all, and from an
#: address: an office shares one.
FREE = {"both": 5, "name": 50, "from": 30}
#: Seconds that the pause grows to, doubling with each further wrong password.
LONGEST = {"both": 300, "name": 60, "from": 300}
#: A quiet time after which they are forgotten.
FORGOTTEN = timedelta(hours=1)


#: Checking a password takes a core for a moment, so a process checks one at a time.
_CHECKING = Lock()
#: How many may wait for it.
_PLACES = BoundedSemaphore(3)


@contextmanager
def one_at_a_time() -> Iterator[None]:
    """Lets passwords be checked one after the other; raises 429 at once where others wait already, so that no
    thread is held up."""
    if not _PLACES.acquire(blocking=False):
        raise RuleError(429, "Many are signing in at this moment. Try again in a few seconds.", seconds=3)
    try:
        with _CHECKING:
            yield
    finally:
        _PLACES.release()


def _keys(name: str, address: str) -> dict[str, str]:
    name, address = name.strip().lower()[:100], address[:60]
    return {"both": f"name {name} from {address}", "name": f"name {name}", "from": f"from {address}"}


def _pause(kind: str, row: FailedSignIn, now: datetime) -> int:
    """Seconds until somebody is asked again. An end that no pause reaches was written before the clock was
    set back."""
    if row.until is None or row.until - now > timedelta(seconds=LONGEST[kind] + 1):
        return 0
    return max(int((row.until - now).total_seconds()) + 1, 0)


def must_wait(name: str, address: str, *, known: bool = True) -> None:
    """Raises 429 while a pause lasts. known: whether somebody signs in by that name.

    What others did from the same address holds nobody up who has not typed a wrong password there: they may
    try.
    """
    now, keys = timezone.now(), _keys(name, address)
    rows = {row.what: row for row in FailedSignIn.objects.filter(what__in=keys.values())}
    pauses = {kind: _pause(kind, rows[what], now) for kind, what in keys.items() if what in rows}
    if known and keys["both"] not in rows:
        pauses.pop("from", None)
    seconds = max(pauses.values(), default=0)
    if seconds:
        raise RuleError(
            429,
            f"Too many wrong passwords. Try again in {seconds} {'second' if seconds == 1 else 'seconds'}.",
            seconds=seconds,
        )


def wrong(name: str, address: str) -> None:
    """Notes a wrong password."""
    now = timezone.now()
    for kind, what in _keys(name, address).items():
        with transaction.atomic():
            FailedSignIn.objects.get_or_create(what=what, defaults={"last": now})
            row = FailedSignIn.objects.select_for_update().get(what=what)
            row.wrong = 1 if now - row.last > FORGOTTEN else row.wrong + 1
            over = row.wrong - FREE[kind]
            row.last, row.until = (
                now,
                now + timedelta(seconds=min(2 ** min(over, 20), LONGEST[kind])) if over >= 0 else None,
            )
            row.save(update_fields=["wrong", "last", "until"])
    FailedSignIn.objects.filter(last__lt=now - FORGOTTEN).delete()


def right(name: str, address: str) -> None:
    """Forgets the wrong passwords of somebody who is in."""
    keys = _keys(name, address)
    FailedSignIn.objects.filter(what__in=(keys["both"], keys["name"])).delete()
