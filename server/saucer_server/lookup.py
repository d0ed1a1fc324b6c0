"""Finding one object by the number in an address or a body."""

from typing import Annotated, TypeVar

from django.db.models import Model, QuerySet
from pydantic import Field

from .errors import missing

#: A number that the database can hold as a key.
LARGEST = 2**63 - 1
Id = Annotated[int, Field(ge=1, le=LARGEST)]

M = TypeVar("M", bound=Model)


def by_id(among: QuerySet[M], key: int, what: str) -> M:
    """The object with that key; raises 404, saying what is missing."""
    found = among.filter(pk=key).order_by("pk").first() if 0 < key <= LARGEST else None
    if found is None:
        raise missing(what)
    return found
