"""Points of many dimensions in the database, which gives those that lie nearest to another one."""

from typing import TYPE_CHECKING, Any

from django.db import models

if TYPE_CHECKING:
    Field = models.Field[Any, Any]
else:
    Field = models.Field


class CubeField(Field):
    """A point of many dimensions, of PostgreSQL's ``cube`` module; given as floats, read as its text."""

    def db_type(self, connection: Any) -> str:
        """The column's type."""
        return "cube"

    def get_prep_value(self, value: Any) -> str | None:
        """The point as the module writes it."""
        return (
            None
            if value is None
            else value
            if isinstance(value, str)
            else "(" + ",".join(f"{float(v):.5g}" for v in value) + ")"
        )
