"""Locks of the database that live as long as the connection of who holds them: what a dead worker had under
way is free again at once."""

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection


@contextmanager
def taken(group: int, key: int) -> Iterator[bool]:
    """Whether one has got the lock; nobody else gets it meanwhile. group: a number for each kind of thing
    that is locked."""
    with connection.cursor() as cursor:
        cursor.execute("select pg_try_advisory_lock(%s, %s)", [group, key % 2**31])
        (got,) = cursor.fetchone()
    try:
        yield got
    finally:
        if got:
            with connection.cursor() as cursor:
                cursor.execute("select pg_advisory_unlock(%s, %s)", [group, key % 2**31])
