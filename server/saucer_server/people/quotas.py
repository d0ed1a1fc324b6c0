"""Quotas: who holds how many bytes of files and how much work under way, and the most that one person or
project may hold.

Files that are alike are kept once; each row that names one counts for its person all the same.
"""

from collections import defaultdict
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from django.conf import settings
from django.db.models import Count, QuerySet, Sum
from django.db.models.functions import Coalesce

from ..errors import RuleError
from .models import Person

__all__ = ["HOLDINGS", "Held", "Holding", "Part", "held", "must_fit", "people", "projects", "register"]

GB = 10**9


@dataclass(frozen=True)
class Part:
    """What somebody holds of one kind: in words for so many, how many, and bytes of their files."""

    what: str
    count: int
    bytes: int


@dataclass(frozen=True)
class Holding:
    """A kind of rows that take room. one, many: in words; rows: all of them; owner, size: their fields, empty
    size for no files."""

    one: str
    many: str
    rows: Callable[[], "QuerySet[Any]"]
    owner: str
    size: str = ""

    def parts(self, *of: int) -> Iterable[tuple[int, Part]]:
        """What each person holds of it, by their key; of these people alone where some are named."""
        rows = self.rows().filter(**{f"{self.owner}__in": of}) if of else self.rows()
        counted = {"count": Count("pk"), **({"bytes": Coalesce(Sum(self.size), 0)} if self.size else {})}
        for row in rows.order_by().values(self.owner).annotate(**counted):
            count = row["count"]
            yield (
                row[self.owner],
                Part(self.one if count == 1 else self.many, count, int(row.get("bytes", 0))),
            )


@dataclass(frozen=True)
class Held:
    """What one person or project holds, the largest part first. id: of the person or project."""

    id: int
    name: str
    parts: list[Part]

    @property
    def bytes(self) -> int:
        """Of all their files."""
        return sum(part.bytes for part in self.parts)


HOLDINGS: list[Holding] = []
#: What gives what each project that who asks may see holds; the room of projects adds it.
PROJECTS: list[Callable[[], list[Held]]] = []


def register(holding: Holding) -> Holding:
    """Has rows of a kind counted; gives the kind back."""
    HOLDINGS.append(holding)
    return holding


def held(person: Person) -> int:
    """Bytes of all files of a person."""
    return sum(part.bytes for kind in HOLDINGS if kind.size for _, part in kind.parts(person.pk))


def people(among: Iterable[Person]) -> list[Held]:
    """What people hold, who holds the most first."""
    named = {person.pk: str(person) for person in among}
    parts: dict[int, list[Part]] = defaultdict(list)
    for kind in HOLDINGS if named else ():
        for key, part in kind.parts(*named):
            parts[key].append(part)
    return largest_first(
        Held(key, name, sorted(parts[key], key=lambda part: -part.bytes)) for key, name in named.items()
    )


def projects() -> list[Held]:
    """What the projects hold that who asks may see, the one that holds the most first."""
    return largest_first(one for told in PROJECTS for one in told())


def largest_first(held_by: Iterable[Held]) -> list[Held]:
    """Who or what holds the most, first."""
    return sorted(held_by, key=lambda one: (-one.bytes, one.name))


def words(bytes: int) -> str:
    """A number of bytes as people are told of it."""
    return f"{bytes / GB:,.1f} GB"


def must_fit(person: Person, size: int) -> None:
    """Raises 507 where a person would hold more than they may with ``size`` bytes more."""
    if not settings.PERSON_GB:
        return
    now = held(person)
    if now + size > settings.PERSON_GB * GB:
        said = (
            f"You hold {words(now)} of the {settings.PERSON_GB:,g} GB that one person may. Nothing was kept."
        )
        raise RuleError(
            507,
            f"{said} Remove clips and frames that nobody needs, also from the bin, or ask whoever "
            "runs Saucer.",
        )
