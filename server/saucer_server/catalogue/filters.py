"""Filters the catalogue: by words, and by what each look is, does and is used for. All of it combines."""

import re
from dataclasses import dataclass, replace
from datetime import date
from functools import reduce
from operator import or_
from typing import Any
from urllib.parse import parse_qs

from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.search import SearchQuery, SearchRank
from django.db.models import BigIntegerField, Count, F, Func, IntegerField, Q, QuerySet, Value
from saucer_core.encodings import ENCODINGS, encoding
from saucer_core.readings.scales import BY_KEY

from ..errors import RuleError
from ..frames.rules import Frame, every_row
from ..looks.rules import every_revision
from ..lookup import LARGEST
from ..people import circles
from ..people.rules import Person, among
from .entries import WORDS
from .models import Collection, Entry, Favourite, Placed, Visit
from .spread import Columns, Mask, counts, mask
from .vocabulary import meant

#: Words of a search that count.
WORDS_HEEDED = 12
#: Letters from which on a word may be misspelt.
MISSPELT = 5
#: Collections kept by a search that a search may lead through, one behind the other.
DEPTH = 4
ORDERS = ("fit", "name", "newest", "used", "recent", "by hand", *BY_KEY)


@dataclass(frozen=True)
class Filters:
    """What is looked for. Several values of one kind: any of them; but a look carries all of the tags.
    ranges: traits between two values.

    origin: ``here`` or ``brought in``. project: the number of one that uses it. since: kept on that day or
    later. expects: keys of encodings; fits: a frame whose colours it is made for. mine: ``favourites`` or
    ``recent``.
    """

    q: str = ""
    tags: tuple[str, ...] = ()
    statuses: tuple[str, ...] = ()
    collection: str = ""
    makers: tuple[str, ...] = ()
    rights: tuple[str, ...] = ()
    origin: str = ""
    project: int | None = None
    since: date | None = None
    expects: tuple[str, ...] = ()
    fits: Frame | None = None
    mine: str = ""
    ranges: tuple[tuple[str, float, float], ...] = ()
    order: str = "name"
    backwards: bool = False

    def are_set(self) -> bool:
        """Whether fewer than all looks may be found."""
        return replace(self, order="name", backwards=False) != Filters()

    def without(self, kind: str) -> "Filters":
        """The same without one filter."""
        freed: Any = {kind: getattr(Filters(), kind)}
        return replace(self, **freed)


def ranges_of(words: list[str]) -> tuple[tuple[str, float, float], ...]:
    """Ranges of traits as an address has them: ``warmth:-10:40``; an end left out is open. Raises 422."""
    found = []
    for word in words:
        key, *ends = word.split(":")
        try:
            low, high = ends
            pair = float(low or "-inf"), float(high or "inf")
        except ValueError:
            pair = (1.0, 0.0)
        if key not in BY_KEY or not pair[0] <= pair[1]:
            raise RuleError(422, f"“{word}” is not a range of a trait. Write, say, warmth:-10:40.")
        found.append((key, *pair))
    return tuple(found)


def fitting(frame: Frame) -> list[str]:
    """Keys of the encodings that say of their numbers what the frame's does: light in a scene, or on a
    display."""
    referred = encoding(frame.encoding).referred
    return [e.key for e in ENCODINGS.values() if e.referred == referred] + [frame.encoding]


def _sought(word: str) -> tuple[Q, list[str]]:
    """Entries in which a word occurs, as the beginning of one or inside one; where there is none, those with
    words that are nearly it.

    With the words that it was taken for then; none where it occurs as it is.
    """
    exact = Q(text__contains=word)
    lexeme = re.sub(r"[^\w]+", "", word)
    if lexeme:
        exact |= Q(document=SearchQuery(f"'{lexeme}':*", search_type="raw", config=WORDS))
    if len(lexeme) < MISSPELT or Entry.objects.filter(exact).exists():
        return exact, []
    known = meant(lexeme)
    nearly = [SearchQuery(one, config=WORDS) for one in known]
    return Q(document=reduce(or_, nearly)) if nearly else Q(pk__in=[]), known


def taken_for(text: str) -> dict[str, list[str]]:
    """The words of a search that no look holds, each with those of looks that it was taken for, the nearest
    first."""
    return {word: known for word in words_of(text) if (known := _sought(word)[1])}


def words_of(text: str) -> list[str]:
    """The words of a search that are heeded."""
    return text.lower().split()[:WORDS_HEEDED]


def _in_collection(name: str, person: Person, seen: frozenset[str]) -> Q:
    collection = Collection.objects.filter(name=name).first()
    if collection is None or name in seen or len(seen) > DEPTH:
        return Q(pk__in=[])
    if collection.search:
        return Q(pk__in=found(read_search(collection.search), person, seen | {name}).values("pk"))
    return Q(pk__in=Placed.objects.filter(collection=collection).values("look_id"))


def found(by: Filters, person: Person, seen: frozenset[str] = frozenset()) -> QuerySet[Entry]:
    """The entries that fit, in no order. seen: collections kept by a search that are being looked into
    already."""
    rows = Entry.objects.all()
    for word in words_of(by.q):
        rows = rows.filter(_sought(word)[0])
    if by.tags:
        rows = rows.filter(tags__contains=list(by.tags))
    if by.statuses:
        rows = rows.filter(status__in=by.statuses)
    if by.collection:
        rows = rows.filter(_in_collection(by.collection, person, seen))
    if by.makers:
        rows = rows.filter(maker__full_name__in=by.makers)
    if by.rights:
        rows = rows.filter(rights__in=["" if r == "not said" else r for r in by.rights])
    if by.origin:
        rows = rows.filter(brought_in=by.origin == "brought in")
    if by.project is not None:
        project = by.project if by.project <= LARGEST else -1
        using = every_revision().filter(
            circles.shown_among("layers__shot__project__circle"), layers__shot__project_id=project
        )
        rows = rows.filter(pk__in=using.values("look_id"))
    if by.since is not None:
        rows = rows.filter(changed_at__date__gte=by.since)
    if by.expects:
        rows = rows.filter(input__in=by.expects)
    if by.fits is not None:
        rows = rows.filter(input__in=fitting(by.fits))
    if by.mine == "favourites":
        rows = rows.filter(pk__in=Favourite.objects.filter(person=person).values("look_id"))
    if by.mine == "recent":
        rows = rows.filter(pk__in=Visit.objects.filter(person=person).values("look_id"))
    for key, low, high in by.ranges:
        rows = rows.filter(**{f"{key}__gte": low, f"{key}__lte": high})
    return rows


def ordered(rows: QuerySet[Entry], by: Filters, person: Person) -> QuerySet[Entry]:
    """The entries in the order that was asked for; by name where it cannot be had."""
    lexemes = [w for word in words_of(by.q) if (w := re.sub(r"[^\w]+", "", word))]
    # Signs alone fit nothing better than another: they are by name.
    if by.order == "fit" and lexemes:
        query = SearchQuery(" | ".join(f"'{w}':*" for w in lexemes), search_type="raw", config=WORDS)
        return rows.annotate(rank=SearchRank("document", query)).order_by("-rank", "name", "pk")
    if by.order == "used":
        used = (
            every_revision()
            .filter(layers__isnull=False)
            .order_by()
            .values_list("look_id")
            .annotate(n=Count("layers"))
        )
        return _as_listed(rows, [pk for pk, _ in used.order_by("-n")[:RECENT]])
    if by.order == "newest":
        return rows.order_by("changed_at" if by.backwards else "-changed_at", "pk")
    if by.order == "recent":
        seen = Visit.objects.filter(person=person).order_by("-at").values_list("look_id", flat=True)[:RECENT]
        return _as_listed(rows, list(seen))
    if by.order == "by hand" and by.collection:
        placed = Placed.objects.filter(
            collection__in=Collection.objects.filter(name=by.collection)
        ).values_list("look_id", flat=True)
        return _as_listed(rows, list(placed))
    if by.order in BY_KEY:
        key = F(by.order)
        return rows.order_by(
            key.asc(nulls_last=True) if by.backwards else key.desc(nulls_last=True), "name", "pk"
        )
    return rows.order_by("-name" if by.backwards else "name", "pk")


def page(by: Filters, person: Person, offset: int, limit: int, total: int) -> tuple[list[int], int]:
    """Ids of a page of what is found, and how many are found in all. total: how many looks there are."""
    rows = found(by, person)
    ids = list(ordered(rows, by, person).values_list("pk", flat=True)[offset : offset + limit])
    if not by.are_set():
        return ids, total
    # A page that is not full is the last one: nothing needs to be counted.
    return ids, offset + len(ids) if 0 < len(ids) < limit else rows.count()


#: How many looks are told apart by when one looked at them, or by how often they are used.
RECENT = 2000


def _as_listed(rows: QuerySet[Entry], ids: list[int]) -> QuerySet[Entry]:
    """In the order of a list, those that are not in it after it by name."""
    listed = Value(ids, ArrayField(BigIntegerField()))
    place = Func(listed, F("pk"), function="array_position", output_field=IntegerField())
    return rows.annotate(place=place).order_by(F("place").asc(nulls_last=True), "name", "pk")


def _one_of(values: list[str], among: tuple[str, ...]) -> str:
    return next((v for v in values if v in among), "")


def _number(text: str) -> int | None:
    """A number that the database can hold as a key; ``None`` for everything else, such as a small 2 above the
    line."""
    plain = text.isascii() and text.isdecimal() and len(text) <= len(str(LARGEST))
    return int(text) if plain and int(text) <= LARGEST else None


def check_search(address: str, name: str) -> None:
    """Raises 422 where a search says what makes no sense, or leads back to the collection ``name``, or
    through too many others."""
    said = parse_qs(address.removeprefix("?"))
    ranges_of(said.get("range", []))
    for key in ("fits", "project"):
        for value in said.get(key, []):
            if _number(value) is None:
                raise RuleError(422, f"“{key}={value[:40]}” is no number.")
    for value in said.get("since", []):
        try:
            date.fromisoformat(value)
        except ValueError:
            raise RuleError(422, f"“since={value[:40]}” is no date. Write, say, since=2026-03-31.") from None
    for value in said.get("order", []):
        if value not in ORDERS:
            raise RuleError(422, f"“order={value[:40]}” is none of {', '.join(ORDERS)}.")
    seen, searched = [name], address
    while inside := read_search(searched).collection:
        if inside in seen:
            raise RuleError(
                422, f"“{inside}” is kept by a search that leads back here. Search for something else."
            )
        seen.append(inside)
        if len(seen) > DEPTH:
            raise RuleError(
                422,
                f"This search leads through more than {DEPTH} collections kept by searches. Say here what "
                "is searched for.",
            )
        searched = next(iter(Collection.objects.filter(name=inside).values_list("search", flat=True)), "")


def read_search(address: str) -> Filters:
    """Filters from the query of an address. What makes no sense (any more) is left out, so that an old search
    still opens."""
    said = parse_qs(address.removeprefix("?"))

    def many(key: str) -> tuple[str, ...]:
        return tuple(said.get(key, ()))

    def first(key: str) -> str:
        return next(iter(said.get(key, ())), "")

    ranges: list[tuple[str, float, float]] = []
    for word in said.get("range", ()):
        try:
            ranges += ranges_of([word])
        except RuleError:
            continue
    try:
        since = date.fromisoformat(first("since"))
    except ValueError:
        since = None
    frame, project = _number(first("fits")), _number(first("project"))
    fits = every_row().filter(pk=frame).first() if frame is not None else None
    return Filters(
        q=first("q"),
        tags=many("tag"),
        statuses=many("status"),
        collection=first("collection"),
        makers=many("maker"),
        rights=many("rights"),
        origin=_one_of(list(many("origin")), ("here", "brought in")),
        project=project,
        since=since,
        expects=many("expects"),
        fits=fits,
        mine=_one_of(list(many("mine")), ("favourites", "recent")),
        ranges=tuple(ranges),
        order=_one_of(list(many("order")), ORDERS) or "name",
        backwards=first("backwards") == "true",
    )


def facets(by: Filters, person: Person, lights: list[str], within: Columns, fits: Mask) -> dict[str, Any]:
    """The values of each filter, with how many looks each would leave; each kind is counted as if it did not
    narrow itself.

    fits: the rows of ``within`` that are found.
    """
    # Kinds that do not narrow are counted within the same looks, all at once.
    shared = [kind for kind in _COLUMNS if kind == "tags" or by.without(kind) == by]
    counted = counts(within, fits, [_COLUMNS[kind] for kind in shared])
    for kind, column in _COLUMNS.items():
        if kind not in shared:
            counted |= counts(within, mask(found(by.without(kind), person), within), [column])
    makers = {
        str(m.pk): m.full_name for m in among([int(pk) for pk, _ in counted["maker_id"]]).only("full_name")
    }
    # Tags narrow further: a look must carry all that are chosen.
    tags = counted["tags"]
    return {
        "tags": [(name, n) for name, n in tags if name not in lights],
        "lights": [(name, n) for name, n in tags if name in lights],
        "statuses": counted["status"],
        "rights": [(value or "not said", n) for value, n in counted["rights"]],
        "makers": [(makers[pk], n) for pk, n in counted["maker_id"]],
        "expects": counted["input"],
        "origins": [
            ("brought in" if brought == "true" else "here", n) for brought, n in counted["brought_in"]
        ],
        "projects": _projects(by, person),
        "collections": _collections(by, person),
    }


#: The column that each filter asks.
_COLUMNS = {
    "tags": "tags",
    "statuses": "status",
    "rights": "rights",
    "makers": "maker_id",
    "expects": "input",
    "origin": "brought_in",
}


def _projects(by: Filters, person: Person) -> list[tuple[int, str, int]]:
    fit = found(by.without("project"), person).order_by()
    rows = (
        every_revision()
        .filter(
            circles.shown_among("layers__shot__project__circle"),
            layers__isnull=False,
            look_id__in=fit.values("pk"),
        )
        .order_by()
    )
    named = rows.values_list("layers__shot__project", "layers__shot__project__name").annotate(
        n=Count("look_id", distinct=True)
    )
    return list(named.order_by("-n", "layers__shot__project__name")[:40])


def _collections(by: Filters, person: Person) -> list[tuple[str, int, bool]]:
    """Names, numbers of looks, and whether a search keeps it."""
    fit = found(by.without("collection"), person).order_by()
    by_hand = dict(
        Placed.objects.filter(look_id__in=fit.values("pk"))
        .order_by()
        .values_list("collection__name")
        .annotate(n=Count("pk"))
    )
    return [
        (
            c.name,
            fit.filter(_in_collection(c.name, person, frozenset())).count()
            if c.search
            else by_hand.get(c.name, 0),
            bool(c.search),
        )
        for c in Collection.objects.order_by("name")
    ]
