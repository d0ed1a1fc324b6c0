"""The catalogue over HTTP."""

from typing import Annotated, Any

from django.db import transaction
from django.http import HttpRequest
from ninja import Query, Router, Schema
from pydantic import Field

from ..fields import Text
from ..looks import rules as looks
from ..looks.revisions_api import RevisionOut
from ..people.rules import must_design, person_of
from . import rules

router = Router(tags=["catalogue"])

Tags = Annotated[list[Annotated[Text, Field(max_length=40)]], Field(max_length=30)]


class Search(Schema):
    """What to look for: words, tags that must all be there, a status, a collection."""

    q: Text = Field("", max_length=200)
    tag: Tags = []
    status: Text = Field("", max_length=20)
    collection: Text = Field("", max_length=80)


class CardOut(Schema):
    """A look in the catalogue, shown by its newest revision."""

    id: int
    name: str
    note: str
    maker: str
    tags: list[str]
    revision: RevisionOut
    revisions: int

    @staticmethod
    def resolve_maker(look: looks.Look) -> str:
        """The person's name."""
        return str(look.maker)

    @staticmethod
    def resolve_tags(look: looks.Look) -> list[str]:
        """Their names."""
        return [tag.name for tag in look.tags.all()]

    @staticmethod
    def resolve_revision(look: looks.Look) -> looks.Revision | None:
        """The newest; every look of the catalogue has one."""
        return looks.newest(look)

    @staticmethod
    def resolve_revisions(look: looks.Look) -> int:
        """How many there are."""
        return len(look.revisions.all())


class TagOut(Schema):
    """A tag and how many looks carry it."""

    name: str
    count: int


class CollectionOut(Schema):
    """A collection and how many looks stand in it."""

    name: str
    count: int


class CatalogueOut(Schema):
    """What was found, and what there is to narrow it by."""

    cards: list[CardOut]
    total: int
    tags: list[TagOut]
    collections: list[CollectionOut]


class TagsIn(Schema):
    """The tags of a look."""

    tags: Tags


@router.get("", response=CatalogueOut)
def catalogue(request: HttpRequest, search: Query[Search]) -> dict[str, Any]:
    """Searches the catalogue."""
    found = rules.search(search.q, search.tag, search.status, search.collection)
    tags = [TagOut(name=name, count=count) for name, count in rules.tags_in_use()]
    collections = [CollectionOut(name=name, count=count) for name, count in rules.collections_in_use()]
    return {"cards": list(found[:500]), "total": rules.published().count(), "tags": tags, "collections": collections}


@router.get("/{int:look_id}/tags", response=list[str])
def tags(request: HttpRequest, look_id: int) -> list[str]:
    """The tags of a look."""
    return [t.name for t in looks.find(look_id).tags.all()]


@router.put("/{int:look_id}/tags", response=list[str])
def set_tags(request: HttpRequest, look_id: int, payload: TagsIn) -> list[str]:
    """Gives a look exactly these tags."""
    must_design(person_of(request))
    with transaction.atomic():
        rules.set_tags(looks.find(look_id), payload.tags)
    return tags(request, look_id)
