"""Collections over HTTP."""

from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from ..fields import Text
from ..looks import rules as looks
from ..lookup import Id
from ..people.rules import person_of
from . import collecting
from .collecting import Collection
from .payloads import CollectionPatch, Name

router = Router(tags=["collections"])


class CollectionIn(Schema):
    """A new collection; ``search``: the words of an address that keep it, empty where it is put together by
    hand."""

    name: Name
    search: Text = Field("", max_length=1000)
    note: Text = Field("", max_length=300)


class LooksIn(Schema):
    """Looks to put in."""

    looks: list[Id] = Field(min_length=1, max_length=2000)


class SequenceIn(Schema):
    """All looks of a collection in their order, and the version that they were read at."""

    looks: list[Id] = Field(max_length=20_000)
    version: int


class CollectionFull(Schema):
    """A collection with the looks that were put in by hand, in their order."""

    name: str
    note: str
    search: str
    version: int
    looks: list[int]

    @staticmethod
    def resolve_looks(collection: Collection) -> list[int]:
        """Their ids."""
        return list(collection.placed.values_list("look_id", flat=True))


@router.post("", response={201: CollectionFull})
def create(request: HttpRequest, payload: CollectionIn) -> Status[Collection]:
    """Makes a collection."""
    return Status(201, collecting.create(person_of(request), payload.name, payload.search, payload.note))


@router.get("/{name}", response=CollectionFull)
def collection(request: HttpRequest, name: str) -> Collection:
    """A collection."""
    return collecting.find(name)


@router.patch("/{name}", response=CollectionFull)
def change(request: HttpRequest, name: str, payload: CollectionPatch) -> Collection:
    """Renames a collection, or changes its note or what keeps it."""
    return collecting.change(person_of(request), name, payload)


@router.delete("/{name}", response={204: None})
def drop(request: HttpRequest, name: str) -> Status[None]:
    """Takes a collection apart; its looks stay."""
    collecting.drop(person_of(request), name)
    return Status(204, None)


@router.post("/{name}/looks", response=CollectionFull)
def add(request: HttpRequest, name: Name, payload: LooksIn) -> Collection:
    """Puts looks at the end; the collection is made where there is none."""
    return collecting.add(person_of(request), name, [looks.find(pk) for pk in payload.looks])


@router.put("/{name}/looks", response=CollectionFull)
def reorder(request: HttpRequest, name: str, payload: SequenceIn) -> Collection:
    """Puts the looks in another order."""
    return collecting.reorder(person_of(request), name, payload.looks, payload.version)


@router.delete("/{name}/looks/{int:look_id}", response=CollectionFull)
def take_out(request: HttpRequest, name: str, look_id: int) -> Collection:
    """Takes a look out."""
    return collecting.take_out(person_of(request), name, looks.find(look_id))
