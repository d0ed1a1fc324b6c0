"""What the catalogue shows, and how it is searched."""

from django.db.models import Count, Prefetch, Q, QuerySet

from ..errors import RuleError
from ..looks.rules import Look, Revision
from ..people.rules import Person, must_design
from .models import Collection, Likeness, Tag

__all__ = [
    "Collection", "Likeness", "Tag", "collect", "collections_in_use", "published", "search", "set_tags", "tags_in_use",
]  # fmt: skip

TAG_LIMIT = 12


def published() -> QuerySet[Look]:
    """The looks that have a revision, newest revision first in each."""
    newest = Revision.objects.select_related("made_by", "look").order_by("-number")
    with_one = Look.objects.annotate(kept=Count("revisions")).filter(kept__gt=0).order_by("name", "pk")
    return with_one.select_related("maker").prefetch_related("tags", Prefetch("revisions", newest))


def search(text: str, tags: list[str], status: str, collection: str = "") -> QuerySet[Look]:
    """The looks in which every word occurs in name, note, tag or maker, that carry every tag, and that stand in a collection."""
    looks = published()
    for word in text.split():
        found = Q(name__icontains=word) | Q(note__icontains=word) | Q(maker__full_name__icontains=word)
        looks = looks.filter(found | Q(pk__in=Tag.looks.through.objects.filter(tag__name__icontains=word).values("look_id")))
    for tag in tags:
        looks = looks.filter(pk__in=Tag.looks.through.objects.filter(tag__name=tag).values("look_id"))
    if collection:
        looks = looks.filter(pk__in=Collection.looks.through.objects.filter(collection__name=collection).values("look_id"))
    if status:
        looks = looks.filter(revisions__status=status).distinct()
    return looks


def tags_in_use() -> list[tuple[str, int]]:
    """Names of tags with the number of catalogued looks they stand on, most used first."""
    kept = Count("looks", filter=Q(looks__revisions__isnull=False), distinct=True)
    return list(Tag.objects.annotate(count=kept).filter(count__gt=0).order_by("-count", "name").values_list("name", "count"))


def set_tags(look: Look, names: list[str]) -> None:
    """Gives a look exactly these tags."""
    wanted = sorted({" ".join(n.lower().split()) for n in names} - {""})
    if len(wanted) > TAG_LIMIT:
        raise RuleError(422, f"A look carries at most {TAG_LIMIT} tags.")
    look.tags.set([Tag.objects.get_or_create(name=n)[0] for n in wanted])
    Tag.objects.filter(looks__isnull=True).delete()


def collections_in_use() -> list[tuple[str, int]]:
    """Names of collections with the number of catalogued looks in them."""
    kept = Count("looks", filter=Q(looks__revisions__isnull=False), distinct=True)
    return list(Collection.objects.annotate(count=kept).order_by("name").values_list("name", "count"))


def collect(look: Look, name: str, person: Person) -> None:
    """Puts a look into the collection of that name, which is made where there is none."""
    must_design(person)
    named = " ".join(name.split())[:80]
    if named:
        Collection.objects.get_or_create(name=named, defaults={"made_by": person})[0].looks.add(look)
