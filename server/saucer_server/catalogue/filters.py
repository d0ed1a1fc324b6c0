"""Finds looks of the catalogue: by words, and by what each look is, does and is used for."""

import re
from functools import reduce
from operator import or_

from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.search import SearchQuery, SearchRank
from django.db.models import BigIntegerField, F, Func, IntegerField, Q, QuerySet, Value
from saucer_core.encodings import ENCODINGS, encoding
from saucer_core.readings.scales import BY_KEY

from ..errors import RuleError
from ..frames.rules import Frame, every_row
from ..people.rules import Person
from .entries import WORDS
from .models import Collection, Entry, Favourite, Placed, Use, Visit
from .search import Search
from .uses import most_used
from .vocabulary import meant

#: Words of a search that count.
WORDS_HEEDED = 12
#: Letters from which on a word may be misspelt.
MISSPELT = 5
#: Collections kept by a search that a search may lead through, one behind the other.
DEPTH = 4
#: How many looks are told apart by when one looked at them, or by how often they are used.
RECENT = 2000


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


def in_collection(name: str, person: Person, seen: frozenset[str] = frozenset()) -> Q:
    """Entries of the looks in a collection. seen: collections kept by a search that are being looked into
    already."""
    collection = Collection.objects.filter(name=name).first()
    if collection is None or name in seen or len(seen) > DEPTH:
        return Q(pk__in=[])
    if collection.search:
        inside = found(Search.of_address(collection.search), person, seen | {name})
        return Q(pk__in=inside.values("pk"))
    return Q(pk__in=Placed.objects.filter(collection=collection).values("look_id"))


def _fits(frame_id: int) -> Q:
    frame = every_row().filter(pk=frame_id).first()
    return Q(input__in=fitting(frame)) if frame is not None else Q()


def found(by: Search, person: Person, seen: frozenset[str] = frozenset()) -> QuerySet[Entry]:
    """The entries that fit, in no order. seen: collections kept by a search that are being looked into
    already."""
    rows = Entry.objects.all()
    for word in words_of(by.q):
        rows = rows.filter(_sought(word)[0])
    if by.tag:
        rows = rows.filter(tags__contains=list(by.tag))
    if by.status:
        rows = rows.filter(status__in=by.status)
    if by.collection:
        rows = rows.filter(in_collection(by.collection, person, seen))
    if by.maker:
        rows = rows.filter(maker__full_name__in=by.maker)
    if by.rights:
        rows = rows.filter(rights__in=["" if said == "not said" else said for said in by.rights])
    if by.origin:
        rows = rows.filter(brought_in=by.origin == "brought in")
    if by.project is not None:
        rows = rows.filter(pk__in=Use.objects.filter(project=by.project).values("look_id"))
    if by.since is not None:
        rows = rows.filter(changed_at__date__gte=by.since)
    if by.expects:
        rows = rows.filter(input__in=by.expects)
    if by.fits is not None:
        rows = rows.filter(_fits(by.fits))
    if by.mine == "favourites":
        rows = rows.filter(pk__in=Favourite.objects.filter(person=person).values("look_id"))
    if by.mine == "recent":
        rows = rows.filter(pk__in=Visit.objects.filter(person=person).values("look_id"))
    for key, low, high in by.ranges:
        rows = rows.filter(**{f"{key}__gte": low, f"{key}__lte": high})
    return rows


def ordered(rows: QuerySet[Entry], by: Search, person: Person) -> QuerySet[Entry]:
    """The entries in the order that was asked for; by name where it cannot be had."""
    lexemes = [w for word in words_of(by.q) if (w := re.sub(r"[^\w]+", "", word))]
    # Signs alone fit nothing better than another: they are by name.
    if by.order == "fit" and lexemes:
        query = SearchQuery(" | ".join(f"'{w}':*" for w in lexemes), search_type="raw", config=WORDS)
        return rows.annotate(rank=SearchRank("document", query)).order_by("-rank", "name", "pk")
    if by.order == "used":
        return _as_listed(rows, most_used(RECENT))
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


def page(by: Search, person: Person, offset: int, limit: int, total: int) -> tuple[list[int], int]:
    """Ids of a page of what is found, and how many are found in all. total: how many looks there are."""
    rows = found(by, person)
    ids = list(ordered(rows, by, person).values_list("pk", flat=True)[offset : offset + limit])
    if not by.is_set():
        return ids, total
    # A page that is not full is the last one: nothing needs to be counted.
    return ids, offset + len(ids) if 0 < len(ids) < limit else rows.count()


def _as_listed(rows: QuerySet[Entry], ids: list[int]) -> QuerySet[Entry]:
    """In the order of a list, those that are not in it after it by name."""
    listed = Value(ids, ArrayField(BigIntegerField()))
    place = Func(listed, F("pk"), function="array_position", output_field=IntegerField())
    return rows.annotate(place=place).order_by(F("place").asc(nulls_last=True), "name", "pk")


def check_search(address: str, name: str) -> None:
    """Raises 422 where a search says what makes no sense, or leads back to the collection ``name``, or
    through too many others."""
    seen, search = [name], Search.strictly(address)
    while inside := search.collection:
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
        kept = Collection.objects.filter(name=inside).values_list("search", flat=True).first()
        search = Search.of_address(kept or "")
