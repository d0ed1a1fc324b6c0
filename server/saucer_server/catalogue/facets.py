"""The values of each filter of the catalogue, with how many looks each would leave."""

from dataclasses import dataclass

from django.db.models import Count

from ..frames.rules import every as every_frame
from ..people.rules import Person, among
from .filters import found, in_collection, taken_for
from .models import Collection, Placed, Use
from .rules import lights as names_of_lights
from .search import Search
from .spread import Columns, Mask, bars, columns, counts, everything, mask

#: The column that each kind of filter asks.
_COLUMNS = {
    "tag": "tags",
    "status": "status",
    "rights": "rights",
    "maker": "maker_id",
    "expects": "input",
    "origin": "brought_in",
}
#: Projects that are offered: those that use the most of what is found.
PROJECTS = 40


@dataclass(frozen=True)
class Value:
    """A value of a filter, and how many looks it would leave."""

    name: str
    count: int


@dataclass(frozen=True)
class ProjectValue(Value):
    """A project, by its number too."""

    id: int


@dataclass(frozen=True)
class CollectionValue(Value):
    """A collection; kept: by a search."""

    kept: bool


@dataclass(frozen=True)
class Facets:
    """The values of each filter, counted within what is found.

    found, total: how many looks are found, and how many there are. taken_for: words that no look holds, with
    the words of looks that they were taken for. lights: tags that are lights of frames. bars, all_bars: how
    the traits of those found, and of all looks, are spread over their scales.
    """

    found: int
    total: int
    taken_for: dict[str, list[str]]
    tags: list[Value]
    lights: list[Value]
    statuses: list[Value]
    rights: list[Value]
    makers: list[Value]
    expects: list[Value]
    origins: list[Value]
    projects: list[ProjectValue]
    collections: list[CollectionValue]
    bars: dict[str, list[int]]
    all_bars: dict[str, list[int]]


def _counted(by: Search, person: Person, within: Columns, fits: Mask) -> dict[str, list[tuple[str, int]]]:
    """By column, its values with how many looks each would leave; each kind of filter is counted as if it did
    not narrow itself. Tags narrow further: a look must carry all that are chosen."""
    # Kinds that do not narrow are counted within the same looks, all at once.
    shared = [kind for kind in _COLUMNS if kind == "tag" or by.without(kind) == by]
    counted = counts(within, fits, [_COLUMNS[kind] for kind in shared])
    for kind, column in _COLUMNS.items():
        if kind not in shared:
            counted |= counts(within, mask(found(by.without(kind), person), within), [column])
    return counted


def facets(by: Search, person: Person) -> Facets:
    """The values of each filter."""
    within = columns()
    everyone = everything(within)
    fits = mask(found(by, person), within) if by.is_set() else everyone
    counted = _counted(by, person, within, fits)
    ids = [int(pk) for pk, _ in counted["maker_id"]]
    makers = {str(maker.pk): maker.full_name for maker in among(ids).only("full_name")}
    brought = {"true": "brought in", "false": "here"}
    lights = names_of_lights([frame.light for frame in every_frame()])
    tags = [Value(name, n) for name, n in counted["tags"]]
    how_many, total, spread = int(fits.sum()), int(everyone.sum()), bars(within, fits)
    return Facets(
        found=how_many,
        total=total,
        taken_for=taken_for(by.q),
        tags=[tag for tag in tags if tag.name not in lights],
        lights=[tag for tag in tags if tag.name in lights],
        statuses=[Value(status, n) for status, n in counted["status"]],
        rights=[Value(said or "not said", n) for said, n in counted["rights"]],
        makers=[Value(makers[pk], n) for pk, n in counted["maker_id"]],
        expects=[Value(key, n) for key, n in counted["input"]],
        origins=[Value(brought[said], n) for said, n in counted["brought_in"]],
        projects=_projects(by, person),
        collections=_collections(by, person),
        bars=spread,
        all_bars=spread if how_many == total else bars(within, everyone),
    )


def _projects(by: Search, person: Person) -> list[ProjectValue]:
    fit = found(by.without("project"), person).order_by()
    rows = Use.objects.filter(look_id__in=fit.values("pk")).values_list("project", "name")
    counted = rows.annotate(n=Count("look")).order_by("-n", "name")[:PROJECTS]
    return [ProjectValue(name, n, project) for project, name, n in counted]


def _collections(by: Search, person: Person) -> list[CollectionValue]:
    fit = found(by.without("collection"), person).order_by()
    placed = Placed.objects.filter(look_id__in=fit.values("pk")).order_by()
    by_hand = dict(placed.values_list("collection__name").annotate(n=Count("pk")))
    values = []
    for one in Collection.objects.order_by("name"):
        kept = bool(one.search)
        inside = fit.filter(in_collection(one.name, person)).count() if kept else by_hand.get(one.name, 0)
        values.append(CollectionValue(one.name, inside, kept))
    return values
