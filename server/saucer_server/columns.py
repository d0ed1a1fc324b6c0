"""Columns of JSON whose values have a declared type."""

from types import UnionType
from typing import TYPE_CHECKING, Any, TypeVar, overload

from django.db import models
from django.db.models.fields.json import KeyTransform
from pydantic import TypeAdapter, ValidationError

#: What is written into a column, and what is read from it; here they are always the same type.
Written = TypeVar("Written")
Read = TypeVar("Read")
T = TypeVar("T")

if TYPE_CHECKING:
    _Json = models.JSONField
else:

    class _Json(models.JSONField):
        """Django's column, which takes type parameters in its stubs alone."""

        def __class_getitem__(cls, _: object) -> type:
            return cls


class UnreadableRow(Exception):
    """A row of the database holds a value that its column does not know."""


class JsonColumn(_Json[Written, Read]):
    """A JSON column that holds values of one type: a pydantic model, or a list, dictionary or union of them.

    A value is checked when it is written and when it is read. A model whose shape has changed keeps reading
    rows of its older shapes: it has a field ``version``, and a ``model_validator(mode="before")`` that turns
    an older version into the present one. The database sees a plain JSON column, so that a change of the
    model needs no migration.
    """

    @overload
    def __init__(self: "JsonColumn[T, T]", kind: type[T], **options: Any) -> None: ...

    # Of a union: the class says the type beside the column's name.
    @overload
    def __init__(self, kind: UnionType, **options: Any) -> None: ...

    def __init__(self, kind: Any, **options: Any) -> None:
        self.adapter: TypeAdapter[Any] = TypeAdapter(kind)
        super().__init__(**options)

    def deconstruct(self) -> Any:
        """What migrations write down: a plain JSON column."""
        name, _, args, options = super().deconstruct()
        if "default" in options:
            options["default"] = type(self._plain(options["default"]()))
        return name, "django.db.models.JSONField", args, options

    def clone(self) -> Any:
        """The column as migrations know it."""
        _, _, args, options = self.deconstruct()
        return models.JSONField(*args, **options)

    def _plain(self, value: Any) -> Any:
        return self.adapter.dump_python(value, mode="json", by_alias=True, warnings="error")

    def from_db_value(self, value: Any, expression: Any, connection: Any) -> Any:
        """The value of a row; raises ``UnreadableRow``."""
        plain = super().from_db_value(value, expression, connection)
        # Only a part of the value was asked for: it has a type of its own.
        if plain is None or isinstance(expression, KeyTransform):
            return plain
        try:
            return self.adapter.validate_python(plain)
        except ValidationError as error:
            raise UnreadableRow(f"{self.model._meta.label}.{self.name}: {error}") from error

    def get_db_prep_value(self, value: Any, connection: Any, prepared: bool = False) -> Any:
        """The value as the database takes it."""
        plain = value if value is None or hasattr(value, "as_sql") else self._plain(value)
        return super().get_db_prep_value(plain, connection, prepared)

    def value_to_string(self, obj: models.Model) -> Any:
        """The value as files of rows hold it: plain JSON, although Django calls it a string."""
        value = self.value_from_object(obj)
        return value if value is None else self._plain(value)

    def to_python(self, value: Any) -> Any:
        """The value of such a file."""
        return value if value is None else self.adapter.validate_python(value)
