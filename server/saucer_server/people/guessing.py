"""Slows down whoever guesses passwords, by name and by address, before any password is hashed."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from threading import BoundedSemaphore, Lock

from django.db import transaction
from django.utils import timezone

from ..errors import RuleError
from .models import Guess

#: Wrong passwords that are answered at once, for a name and from an address: an office shares one.
FREE = {"name": 5, "from": 30}
#: Then the pause doubles with each, up to this many seconds; a quiet hour forgets them all.
LONGEST, FORGOTTEN = 300, timedelta(hours=1)


#: Checking a password takes a core for a moment, so a process checks one at a time and lets few wait for it.
_CHECKING, _PLACES = Lock(), BoundedSemaphore(3)


@contextmanager
def one_at_a_time() -> Iterator[None]:
    """Lets passwords be checked one after the other; raises 429 at once where others wait already, so that no thread is held up."""
    if not _PLACES.acquire(blocking=False):
        raise RuleError(429, "Many are signing in at this moment. Try again in a few seconds.", seconds=3)
    try:
        with _CHECKING:
            yield
    finally:
        _PLACES.release()


def _keys(name: str, address: str) -> dict[str, str]:
    return {"name": f"name {name.strip().lower()[:150]}", "from": f"from {address[:60]}"}


def must_wait(name: str, address: str) -> None:
    """Raises 429 while a pause lasts."""
    now = timezone.now()
    row = Guess.objects.filter(what__in=_keys(name, address).values(), until__gt=now).order_by("-until").first()
    if row is not None and row.until is not None:
        seconds = max(int((row.until - now).total_seconds()) + 1, 1)
        raise RuleError(
            429, f"Too many wrong passwords. Try again in {seconds} {'second' if seconds == 1 else 'seconds'}.", seconds=seconds
        )


def wrong(name: str, address: str) -> None:
    """Notes a wrong password."""
    now = timezone.now()
    for kind, what in _keys(name, address).items():
        with transaction.atomic():
            Guess.objects.get_or_create(what=what, defaults={"last": now})
            row = Guess.objects.select_for_update().get(what=what)
            row.wrong = 1 if now - row.last > FORGOTTEN else row.wrong + 1
            over = row.wrong - FREE[kind]
            row.last, row.until = now, now + timedelta(seconds=min(2**over, LONGEST)) if over >= 0 else None
            row.save(update_fields=["wrong", "last", "until"])
    Guess.objects.filter(last__lt=now - FORGOTTEN).delete()


def right(name: str) -> None:
    """Forgets the wrong passwords of somebody who is in."""
    Guess.objects.filter(what=_keys(name, "")["name"]).delete()
