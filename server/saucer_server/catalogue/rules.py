"""What the catalogue shows of looks, and what people say of them: tags, favourites, what they looked at
last."""

from dataclasses import dataclass

from django.db import transaction
from django.db.models import Count, Prefetch, QuerySet
from django.utils import timezone
from saucer_core.readings.scales import SCALES

from ..errors import RuleError
from ..looks.rules import Look, Revision, every, every_revision, lock_one
from ..lookup import by_id
from ..people.rules import Person
from . import collecting, uses
from .entries import refresh
from .models import Entry, Favourite, KeptSearch, Likeness, Tag, Visit

__all__ = [
    "TAG_LIMIT",
    "Entry",
    "KeptSearch",
    "Likeness",
    "Tag",
    "collect",
    "drop_search",
    "favour",
    "keep_search",
    "lights",
    "published",
    "searches",
    "seen_by",
    "set_tags",
    "shown",
    "visited",
]

#: Times that a tag is made anew which others take away meanwhile.
TRIES = 20
TAG_LIMIT = 12
#: Narrowings that a person may keep.
SEARCHES = 60

collect = collecting.collect


def published() -> QuerySet[Look]:
    """The looks that have a revision, newest revision first in each."""
    newest = every_revision().select_related("made_by", "moved_by", "look").order_by("-number")
    with_one = every().annotate(kept=Count("revisions")).filter(kept__gt=0).order_by("name", "pk")
    return with_one.select_related("maker").prefetch_related("tags", Prefetch("revisions", newest))


_PEOPLE = ("maker", "revision__made_by", "revision__moved_by")
_CARD_JOINS = ("look", "revision", *_PEOPLE)
#: The columns that a card says something of, and no others: steps, drafts and word lists are many times as
#: large.
_CARD = (
    "name",
    "tags",
    "words",
    "tones",
    "rights",
    "brought_in",
    *(s.key for s in SCALES),
    "look__name",
    "look__note",
    *(f"{person}__{name}" for person in _PEOPLE for name in ("username", "full_name")),
    *(
        f"revision__{name}"
        for name in (
            "look_id",
            "number",
            "digest",
            "note",
            "status",
            "input",
            "output",
            "made_at",
            "moved_at",
        )
    ),
)


def shown(ids: list[int]) -> list[Entry]:
    """Entries with all that a card says, in the order of the ids; those that are not (any more) in the
    catalogue are left out."""
    found = {e.pk: e for e in Entry.objects.filter(pk__in=ids).select_related(*_CARD_JOINS).only(*_CARD)}
    for entry in found.values():
        entry.revision.look = entry.look
    return [found[pk] for pk in ids if pk in found]


@dataclass(frozen=True)
class Card:
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
    revision: Revision


def cards(entries: list[Entry], person: Person) -> list[Card]:
    """Entries as cards for a person."""
    ids = [e.pk for e in entries]
    used, liked = uses.by_look(ids), seen_by(person, ids)
    return [
        Card(
            id=e.pk,
            name=e.name,
            note=e.look.note,
            maker=str(e.maker),
            tags=e.tags,
            words=e.words,
            tones=e.tones,
            rights=e.rights,
            brought_in=e.brought_in,
            favourite=e.pk in liked,
            uses=used.get(e.pk, 0),
            traits={s.key: value for s in SCALES if (value := getattr(e, s.key)) is not None},
            revision=e.revision,
        )
        for e in entries
    ]


def seen_by(person: Person, ids: list[int]) -> set[int]:
    """Which of the looks are favourites of the person."""
    return set(Favourite.objects.filter(person=person, look_id__in=ids).values_list("look_id", flat=True))


def favour(look: Look, person: Person, likes: bool) -> None:
    """Makes a look a favourite of the person, or lets it be one no more."""
    if likes:
        Favourite.objects.get_or_create(look=look, person=person)
    else:
        Favourite.objects.filter(look=look, person=person).delete()


def visited(look: Look, person: Person) -> None:
    """Notes that the person looks at a look now."""
    Visit.objects.update_or_create(look=look, person=person, defaults={"at": timezone.now()})


def set_tags(look: Look, names: list[str]) -> None:
    """Gives a look exactly these tags."""
    wanted = sorted({" ".join(n.lower().split()) for n in names} - {""})
    if len(wanted) > TAG_LIMIT:
        raise RuleError(422, f"A look carries at most {TAG_LIMIT} tags.")
    with transaction.atomic():
        lock_one(look.pk)
        look.tags.set(_held(wanted))
        alone = list(
            Tag.objects.select_for_update(skip_locked=True, of=("self",))
            .filter(looks__isnull=True)
            .values_list("pk", flat=True)
        )
        # Asked again now that they are held: a look may have been given one since the first question was
        # begun.
        Tag.objects.filter(pk__in=alone, looks__isnull=True).delete()
        refresh([look.pk])


def _held(names: list[str]) -> list[Tag]:
    """The tags of those names, made where there are none, and held: nobody takes one away meanwhile as one
    that no look carries."""
    for _ in range(TRIES):
        Tag.objects.bulk_create([Tag(name=n) for n in names], ignore_conflicts=True)
        rows = list(Tag.objects.select_for_update().filter(name__in=names).order_by("name"))
        # One that was taken away while it was waited for is made anew.
        if len(rows) == len(names):
            return rows
    raise RuleError(409, "Others are changing these tags at this moment. Try again.")


def lights(of_frames: list[str]) -> list[str]:
    """Words for light: those that frames were taken in, which stand on looks too."""
    return sorted({light.lower() for light in of_frames if light})


def searches(person: Person) -> QuerySet[KeptSearch]:
    """The narrowings that the person kept."""
    return KeptSearch.objects.filter(person=person)


def keep_search(person: Person, name: str, search: str) -> KeptSearch:
    """Keeps filters under a name; one of the same name is replaced."""
    if searches(person).exclude(name=name).count() >= SEARCHES:
        raise RuleError(409, f"{SEARCHES} searches are kept already. Let one of them go first.")
    return KeptSearch.objects.update_or_create(person=person, name=name, defaults={"search": search})[0]


def drop_search(person: Person, key: int) -> None:
    """Forgets kept filters of one's own; raises 404."""
    by_id(searches(person), key, "search").delete()
