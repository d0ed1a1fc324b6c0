"""Circles: what is kept to a few people is there for them and for leads alone.

A row that has a circle is found by nobody else. Each model that can have one has ``Seen`` as its manager, so
that every query made while a request is answered leaves out what its sender may not see, whoever wrote the
query. Workers and commands see everything.
"""

from collections.abc import Callable, Iterable
from contextvars import ContextVar
from threading import Lock
from typing import Any, TypeVar

from cachetools import TTLCache
from django.db import models
from django.db.models import Q, QuerySet
from django.http import HttpRequest, HttpResponse

from ..errors import RuleError
from .models import Circle, Person, Role

__all__ = [
    "Asking",
    "Circle",
    "Seen",
    "forget",
    "hidden",
    "let_go",
    "made_for",
    "of_all",
    "pages_of",
    "set_people",
    "shown",
    "shown_among",
]

#: Seconds for which a process remembers what a person may not see: longer than a gesture, shorter than
#: anybody waits to be let in.
REMEMBERED = 2.0
#: People of whom it is remembered.
PEOPLE = 1024
_request: ContextVar[HttpRequest | None] = ContextVar("asking", default=None)
_known: TTLCache[int, tuple[int, ...]] = TTLCache(PEOPLE, REMEMBERED)
_lock = Lock()
M = TypeVar("M", bound=models.Model)


class Asking:
    """Middleware: has queries know who asks, for as long as a request is answered."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answers."""
        mark = _request.set(request)
        try:
            return self._answer(request)
        finally:
            _request.reset(mark)


def _asker() -> Person | None:
    """Who asks; nobody for a stranger."""
    request = _request.get()
    shown = getattr(request, "auth", None)
    person = shown if isinstance(shown, Person) else getattr(request, "user", None)
    return person if isinstance(person, Person) else None


def hidden() -> tuple[int, ...]:
    """Keys of the circles that whoever asks is not in; none for leads, and where nobody asks."""
    if _request.get() is None:
        return ()
    person = _asker()
    if person is not None and person.role == Role.LEAD:
        return ()
    key = person.pk if person is not None else 0
    with _lock:
        found = _known.get(key)
    if found is None:
        found = tuple(Circle.objects.exclude(people=key).values_list("pk", flat=True))
        with _lock:
            _known[key] = found
    return found


def shown(path: str) -> Q:
    """What whoever asks may see. path: from the row to its circle, as ``look__circle``."""
    out = hidden()
    return ~Q(**{f"{path}__in": out}) if out else Q()


def shown_among(path: str) -> Q:
    """``shown`` for a path that leads to several rows, each of which counts by itself, as
    ``layers__shot__project__circle``."""
    out = hidden()
    if not out:
        return Q()
    return Q(**{f"{path}__isnull": True}) | Q(
        **{f"{path}__in": Circle.objects.exclude(pk__in=out).values("pk")}
    )


class Seen(models.Manager[M]):
    """The manager of a model whose rows may be kept to a circle. path: from the row to its circle."""

    def __init__(self, path: str = "circle") -> None:
        super().__init__()
        self._path = path

    def get_queryset(self) -> QuerySet[M]:
        """The rows that whoever asks may see."""
        return super().get_queryset().filter(shown(self._path))

    def deconstruct(self) -> Any:
        """As Django writes it down."""
        return False, None, f"{type(self).__module__}.Seen", (self._path,), {}


def of_all(rows: Iterable[Any], what: str) -> Circle | None:
    """To whom something is kept that is made of rows which may be kept themselves. Raises 409 where they are
    kept to different people."""
    found = {row.circle_id: row.circle for row in rows if row.circle_id is not None}
    if len(found) > 1:
        raise RuleError(
            409,
            f"These are kept to different projects: {what} would show them to others. Choose those of one.",
        )
    return next(iter(found.values()), None)


def pages_of(model: type[models.Model], base: str) -> Callable[[], list[str]]:
    """What gives the pages of a model's rows that whoever asks may not see. base: their address before the
    key."""

    def pages() -> list[str]:
        out = hidden()
        return (
            [f"{base}{pk}" for pk in model._base_manager.filter(circle__in=out).values_list("pk", flat=True)]
            if out
            else []
        )

    return pages


def forget() -> None:
    """Asks the database again for what each person may not see."""
    with _lock:
        _known.clear()


def made_for(people: Iterable[Person]) -> Circle:
    """A new circle."""
    circle = Circle.objects.create()
    circle.people.set(people)
    forget()
    return circle


def set_people(circle: Circle, people: Iterable[Person]) -> None:
    """Says who is in a circle."""
    circle.people.set(people)
    forget()


def let_go(circle: Circle) -> None:
    """Ends a circle: what was kept to it is there for everybody."""
    circle.delete()
    forget()
