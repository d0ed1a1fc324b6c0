"""Empties the database between tests that commit: only tables that hold rows, and without making anew what
every installation has."""

from functools import cache

from django.db import connection
from django.test import TransactionTestCase

#: What migrations fill and no test changes.
STAYS = {"django_content_type", "auth_permission", "django_migrations"}


@cache
def _tables() -> tuple[str, ...]:
    names = connection.introspection.django_table_names(only_existing=True, include_views=False)
    return tuple(name for name in names if name not in STAYS)


def _empty(_: TransactionTestCase) -> None:
    asked = " union all ".join(f"(select '{name}' from {name} limit 1)" for name in _tables())
    with connection.cursor() as cursor:
        cursor.execute(asked)
        filled = [name for (name,) in cursor.fetchall()]
        if not filled:
            return
        # Every table is emptied, so nothing is left that could refer to a row that is gone; and rows that
        # nobody may change are rows of a test, too.
        cursor.execute("set session_replication_role = replica")
        for name in filled:
            cursor.execute(f"delete from {name}")
        cursor.execute("set session_replication_role = default")


def quickly() -> None:
    """Makes Django empty the database so from now on."""
    TransactionTestCase._fixture_teardown = _empty  # type: ignore[attr-defined]
