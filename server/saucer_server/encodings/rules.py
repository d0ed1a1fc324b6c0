"""Camera encodings of the team: who may add and withdraw them, and how the core finds them."""

from dataclasses import dataclass
from threading import Lock

from cachetools import TTLCache, cached
from django.db import IntegrityError, transaction
from django.db.models import QuerySet
from saucer_core.encodings import ENCODINGS, CameraEncoding, Encoding, camera_encoding

from ..errors import RuleError
from ..fields import take
from ..lookup import by_id
from ..people.rules import Person, is_own, must
from .models import TeamEncoding
from .payloads import EncodingPatch

__all__ = ["Choice", "TeamEncoding", "add", "adopt", "camera", "change", "choices", "every", "find", "supply"]

#: An encoding renamed in another process keeps its old name here for at most so many seconds.
REMEMBERED_FOR = 5.0
_known: TTLCache[str, CameraEncoding | None] = TTLCache(512, REMEMBERED_FOR)
_lock = Lock()


def camera(row: TeamEncoding) -> CameraEncoding:
    """Its name and numbers."""
    return CameraEncoding.model_validate({**row.definition, "name": row.name})


@cached(_known, key=str, lock=_lock)
def supply(key: str) -> CameraEncoding | None:
    """The team's encoding of that key, ``None`` where there is none."""
    row = TeamEncoding.objects.filter(key=key).first() if "\0" not in key else None
    return camera(row) if row else None


def _forget(key: str) -> None:
    with _lock:
        _known.pop(key, None)


@dataclass(frozen=True)
class Choice:
    """An encoding among all: whether the team typed it in, and whether it can be chosen for something new."""

    encoding: Encoding
    own: bool
    offered: bool


def choices() -> list[Choice]:
    """All encodings: the open standards, then the team's by name."""
    given = [Choice(e, own=False, offered=True) for e in ENCODINGS.values()]
    return given + [Choice(camera_encoding(camera(row)), own=True, offered=row.offered) for row in every()]


def every() -> QuerySet[TeamEncoding]:
    """The team's encodings by name."""
    return TeamEncoding.objects.select_related("added_by")


def find(encoding_id: int) -> TeamEncoding:
    """The encoding; raises 404."""
    return by_id(every(), encoding_id, "encoding")


def _name(said: str) -> str:
    """A name as it is kept; raises where it is empty or taken by an open standard."""
    name = said.strip()
    if not name:
        raise RuleError(422, "Give the encoding a name.")
    if any(name.lower() == e.label.lower() for e in ENCODINGS.values()):
        raise RuleError(409, f"“{name}” is an encoding that Saucer brings. Give this one another name.")
    return name


def _name_taken(name: str) -> RuleError:
    return RuleError(409, f"There is an encoding called “{name}” already. Give this one another name.")


def add(numbers: CameraEncoding, person: Person) -> TeamEncoding:
    """Keeps an encoding. The same numbers are not kept twice."""
    must(person, "bring_in")
    name = _name(numbers.name)
    key = numbers.key()
    there = TeamEncoding.objects.filter(key=key).first()
    if there is not None:
        again = "" if there.offered else " It was withdrawn; offer it again there."
        raise RuleError(409, f"These numbers are here already, as “{there.name}”.{again}", id=there.pk)
    try:
        with transaction.atomic():
            row = TeamEncoding.objects.create(
                key=key,
                name=name,
                definition=numbers.model_dump(mode="json", exclude={"name"}),
                added_by=person,
            )
    except IntegrityError:
        raise _name_taken(name) from None
    _forget(key)
    return row


def adopt(numbers: CameraEncoding, person: Person) -> TeamEncoding | None:
    """Keeps an encoding that a file brought, under a free name; ``None`` where its numbers are here
    already."""
    if TeamEncoding.objects.filter(key=numbers.key()).exists():
        return None
    taken = {row.name.lower() for row in every()} | {e.label.lower() for e in ENCODINGS.values()}
    name, count = numbers.name.strip() or "camera", 1
    while (named := name if count == 1 else f"{name[:52]} ({count})").lower() in taken:
        count += 1
    return add(numbers.model_copy(update={"name": named}), person)


def change(encoding_id: int, person: Person, patch: EncodingPatch) -> TeamEncoding:
    """Renames an encoding, withdraws it, or offers it again; only who added it, or a lead, may."""
    named = _name(patch.name) if patch.name is not None else None
    try:
        with transaction.atomic():
            row = by_id(
                TeamEncoding.objects.select_for_update(of=("self",)).select_related("added_by"),
                encoding_id,
                "encoding",
            )
            must(
                person,
                "started.end",
                is_own(person, row.added_by_id),
                "Only who added this encoding, or a lead, can change it.",
            )
            row.save(update_fields=take(row, patch.model_copy(update={"name": named}), "name", "offered"))
    except IntegrityError:
        raise _name_taken(named or "") from None
    _forget(row.key)
    return row
