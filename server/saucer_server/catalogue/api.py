"""The catalogue over HTTP."""

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Annotated

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja import Query, Router, Schema, Status
from pydantic import Field
from saucer_core.readings.scales import SCALES, Scale

from ..errors import missing
from ..fields import Text
from ..frames import rules as frames
from ..looks import rules as looks
from ..looks.revisions_api import RevisionOut
from ..lookup import Id
from ..people.rules import must, person_of
from . import atlas, filters, merging, rules
from .facets import Facets, facets
from .likeness import But, near
from .rules import Card, Entry, KeptSearch
from .search import Search, Several, Short

router = Router(tags=["catalogue"])

Tags = Annotated[list[Annotated[Text, Field(max_length=40)]], Field(max_length=30)]
#: The most looks that one answer holds.
PAGE = 200


class Page(Schema):
    """Which of the looks that were found."""

    offset: int = Field(0, ge=0, le=10_000_000)
    limit: int = Field(60, ge=1, le=PAGE)


class CardOut(Schema):
    """A look in the catalogue, shown by its newest revision. uses: shots it is on; tones: what it makes of a
    blue and of a clay."""

    id: int
    name: str
    note: str
    maker: str
    tags: list[str]
    words: list[str]
    tones: list[str]
    rights: str
    brought_in: bool
    favourite: bool
    uses: int
    traits: dict[str, float]
    revision: RevisionOut


class CatalogueOut(Schema):
    """A page of what was found, how many were found, and how many looks there are."""

    cards: list[CardOut]
    found: int
    total: int


@dataclass(frozen=True)
class Found:
    """A page of what was found."""

    cards: list[Card]
    found: int
    total: int


class Counted(Schema):
    """A value of a filter, and how many looks it would leave."""

    name: str
    count: int


class CountedProject(Counted):
    """A project, and how many looks it uses."""

    id: int


class CollectionOut(Counted):
    """A collection, how many of the looks stand in it, and whether a search keeps it."""

    kept: bool


class FiltersOut(Schema):
    """The values of each filter. bars: how the traits of all looks, and of those found, are spread over their
    scales.

    taken_for: words that no look holds, with the words of looks that they were taken for.
    """

    found: int
    total: int
    taken_for: dict[str, list[str]]
    tags: list[Counted]
    lights: list[Counted]
    statuses: list[Counted]
    rights: list[Counted]
    makers: list[Counted]
    expects: list[Counted]
    origins: list[Counted]
    projects: list[CountedProject]
    collections: list[CollectionOut]
    bars: dict[str, list[int]]
    all_bars: dict[str, list[int]]


class ScaleOut(Schema):
    """How a trait is drawn and named. Values times ``factor`` are shown with the unit."""

    key: str
    label: str
    low: float
    high: float
    neutral: float
    notice: float
    less: str
    more: str
    unit: str
    factor: float
    digits: int


class LikeAsked(Schema):
    """How many looks; ``but``: in what they differ from this one, ``warmth:more``."""

    count: int = Field(12, ge=1, le=60)
    but: Several = ()


class LikeOut(Schema):
    """A look that is near another one: mean and largest ΔE2000; twins cannot be told apart by eye."""

    card: CardOut
    mean: float
    largest: float
    twin: bool


@dataclass(frozen=True)
class Like:
    """A look that is near another one."""

    card: Card
    mean: float
    largest: float
    twin: bool


class PlacesOut(Schema):
    """Where looks stand on the map: see the fields in one order; ``found``: the ids that fit the filters,
    none where all do."""

    ids: list[int]
    across: list[int]
    up: list[int]
    values: list[tuple[float, float]]
    blue: list[str]
    clay: list[str]
    edges: list[str]
    found: list[int] | None
    steps: int = atlas.STEPS


class TagsIn(Schema):
    """The tags of a look."""

    tags: Tags


class LikesIn(Schema):
    """Whether a look is a favourite."""

    likes: bool


class KeptSearchIn(Schema):
    """Filters as the query of an address, and a name for them."""

    name: Short = Field(min_length=1)
    search: Text = Field(max_length=1000)


class KeptSearchOut(Schema):
    """Filters that were kept."""

    id: int
    name: str
    search: str


def cards(request: HttpRequest, entries: list[Entry]) -> list[Card]:
    """Entries as cards for the person who asks."""
    return rules.cards(entries, person_of(request))


def _asked(search: Search) -> Search:
    """What is asked; raises 404 for a frame that is not there."""
    if search.fits is not None:
        frames.find(search.fits)
    return search


@router.get("", response=CatalogueOut)
def catalogue(request: HttpRequest, search: Query[Search], page: Query[Page]) -> Found:
    """Searches the catalogue."""
    by, person = _asked(search), person_of(request)
    total = Entry.objects.count()
    ids, found = filters.page(by, person, page.offset, page.limit, total)
    return Found(cards(request, rules.shown(ids)), found, total)


@router.get("/filters", response=FiltersOut)
def filter_values(request: HttpRequest, search: Query[Search]) -> Facets:
    """The values of each filter, counted within what is found."""
    return facets(_asked(search), person_of(request))


@router.get("/scales", response=list[ScaleOut])
def scales(request: HttpRequest) -> Sequence[Scale]:
    """How traits are drawn and named."""
    return SCALES


@router.get("/map", response=PlacesOut)
def places(
    request: HttpRequest, search: Query[Search], across: str = "warmth", up: str = "contrast"
) -> HttpResponse:
    """Where every look stands by two traits, and which fit the filters."""
    by, person = _asked(search), person_of(request)
    there = atlas.places(Entry.objects.all(), across, up)
    fit = filters.found(by, person).order_by("pk")
    chosen = list(fit.values_list("pk", flat=True))
    found = None if len(chosen) == Entry.objects.count() else chosen
    # Tens of thousands of numbers that were just made need no second look.
    return JsonResponse({**asdict(there), "found": found, "steps": atlas.STEPS})


@router.get("/searches", response=list[KeptSearchOut])
def searches(request: HttpRequest) -> QuerySet[KeptSearch]:
    """The searches that one kept."""
    return rules.searches(person_of(request))


@router.post("/searches", response={201: KeptSearchOut})
def keep_search(request: HttpRequest, payload: KeptSearchIn) -> Status[KeptSearch]:
    """Keeps filters under a name; one of the same name is replaced."""
    return Status(201, rules.keep_search(person_of(request), payload.name.strip(), payload.search))


@router.delete("/searches/{int:search_id}", response={204: None})
def drop_search(request: HttpRequest, search_id: int) -> Status[None]:
    """Forgets kept filters."""
    rules.drop_search(person_of(request), search_id)
    return Status(204, None)


@router.get("/cards", response=list[CardOut])
def some_cards(request: HttpRequest, look: Annotated[list[Id], Query(max_length=PAGE)]) -> list[Card]:
    """The cards of some looks, in the order they are asked for; those without a revision are left out."""
    return cards(request, rules.shown(look))


@router.get("/{int:look_id}/like", response=list[LikeOut])
def like(request: HttpRequest, look_id: int, asked: Query[LikeAsked]) -> list[Like]:
    """Looks nearest to this one by what they do."""
    found = near(_newest(look_id), asked.count, But.read(asked.but))
    by_id = {card.id: card for card in cards(request, rules.shown([n.look for n in found]))}
    return [Like(by_id[n.look], n.mean, n.largest, n.twin) for n in found if n.look in by_id]


def _newest(look_id: int) -> looks.Revision:
    revision = looks.newest_of(look_id)
    if revision is None:
        raise missing("revision of this look")
    return revision


class TwinIn(Schema):
    """The look that becomes a part of another one, or is one no more."""

    twin: Id


@router.post("/{int:look_id}/merge", response={204: None})
def merge(request: HttpRequest, look_id: int, payload: TwinIn) -> Status[None]:
    """Makes a twin a part of this look."""
    merging.merge(looks.find(look_id), payload.twin, person_of(request))
    return Status(204, None)


@router.post("/{int:look_id}/part", response={204: None})
def part(request: HttpRequest, look_id: int, payload: TwinIn) -> Status[None]:
    """Makes a merged twin a look of its own again."""
    merging.part(looks.find(look_id), payload.twin, person_of(request))
    return Status(204, None)


@router.put("/{int:look_id}/favourite", response={204: None})
def favour(request: HttpRequest, look_id: int, payload: LikesIn) -> Status[None]:
    """Makes a look a favourite of one's own, or not any more."""
    rules.favour(looks.find(look_id), person_of(request), payload.likes)
    return Status(204, None)


@router.post("/{int:look_id}/visit", response={204: None})
def visit(request: HttpRequest, look_id: int) -> Status[None]:
    """Notes that one looks at a look."""
    rules.visited(looks.find(look_id), person_of(request))
    return Status(204, None)


@router.get("/{int:look_id}/tags", response=list[str])
def tags(request: HttpRequest, look_id: int) -> list[str]:
    """The tags of a look."""
    return [t.name for t in looks.find(look_id).tags.all()]


@router.put("/{int:look_id}/tags", response=list[str])
def set_tags(request: HttpRequest, look_id: int, payload: TagsIn) -> list[str]:
    """Gives a look exactly these tags."""
    must(person_of(request), "catalogue.order")
    rules.set_tags(looks.find(look_id), payload.tags)
    return tags(request, look_id)
