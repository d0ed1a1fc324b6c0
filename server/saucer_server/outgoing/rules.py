"""Packs that go out: what may leave, and who sends it."""

from django.db import transaction
from django.db.models import QuerySet

from ..catalogue import collecting
from ..catalogue.filters import found
from ..catalogue.search import Search
from ..errors import RuleError
from ..jobs import rules as jobs
from ..looks import rules as looks
from ..lookup import by_id
from ..people import circles
from ..people.activity import Happening, note
from ..people.quotas import Holding, register
from ..people.rules import Person, may, must
from .models import Outgoing
from .payloads import LOOKS, Order

__all__ = ["Outgoing", "every", "find", "members", "order"]

#: Rights with which a look leaves the studio only if a lead says so.
HELD = ("ask first", "inside the project")
register(Holding("pack sent out", "packs sent out", Outgoing.objects.all, "made_by", "bytes"))


def every() -> QuerySet[Outgoing]:
    """All packs that went out, the newest first."""
    return Outgoing.objects.select_related("job", "made_by")


def find(outgoing_id: int) -> Outgoing:
    """The pack; raises 404."""
    return by_id(every(), outgoing_id, "pack")


def members(collections: list[str], single: list[int], person: Person) -> list[tuple[str, looks.Look]]:
    """The looks that are meant, each once, with the collection in whose folder it goes; empty for none."""
    chosen: dict[int, str] = {}
    for name in collections:
        row = collecting.find(name)
        if row.search:
            ids = list(
                found(Search(collection=name), person).order_by("name", "pk").values_list("pk", flat=True)
            )
        else:
            ids = list(row.placed.values_list("look_id", flat=True))
        for pk in ids:
            chosen.setdefault(pk, name)
    for pk in single:
        chosen.setdefault(looks.find(pk).pk, "")
    rows = {look.pk: look for look in looks.every().filter(pk__in=chosen).select_related("maker")}
    there = [(folder, rows[pk]) for pk, folder in chosen.items() if pk in rows]
    return [
        (folder, look)
        for folder, look in there
        if (newest := looks.latest(look)) and newest.status != looks.Status.RETIRED
    ]


def order(person: Person, said: Order) -> Outgoing:
    """Asks for a pack; a worker makes it."""
    from .tasks import pack_out

    must(person, "catalogue.order")
    there = members(said.collections, said.looks, person)
    if not there:
        raise RuleError(
            409, "Nothing is chosen that could go out: no look that has a revision and is not retired."
        )
    if len(there) > LOOKS:
        raise RuleError(
            422, f"{len(there):,} looks are more than one pack holds ({LOOKS:,}). Choose fewer collections."
        )
    held = [look.name for _, look in there if look.rights in HELD]
    if held and not (said.anyway and may(person, "held.pass_on")):
        names = ", ".join(held[:3]) + (f" and {len(held) - 3} more" if len(held) > 3 else "")
        raise RuleError(
            409,
            f"{names}: who may pass it on must be asked first. A lead can let it go out all the same.",
            held=held,
        )
    with transaction.atomic():
        job = jobs.order("pack out", f"Pack {said.name}", person, len(there))
        row = Outgoing.objects.create(
            name=said.name.strip(),
            collections=said.collections,
            looks=said.looks,
            kinds=said.kinds,
            grid=said.grid,
            frames=said.frames,
            job=job,
            made_by=person,
            circle=circles.of_all([look for _, look in there], "a pack"),
        )
        looks_out = f"{len(there):,} {'look' if len(there) == 1 else 'looks'}"
        # The activity is read by everybody.
        name = row.name if row.circle is None else "of looks that are kept to a project"
        note(Happening.DELIVERY, person, "sends out the pack", name, more=looks_out, to="/catalogue/pack-out")
        jobs.enqueue(job, pack_out, outgoing_id=row.pk)
    return row
