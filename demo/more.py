"""Adds many made-up looks to a Saucer with the demo data, to see a catalogue of years:
``python -m demo.more 10000``.

Makes as many as are missing to that number, so that a second run adds none.
"""

import sys
from datetime import timedelta

import django

django.setup()

from django.db import transaction  # noqa: E402
from django.utils import timezone  # noqa: E402
from saucer_server.catalogue import collecting, entries  # noqa: E402
from saucer_server.catalogue import rules as catalogue  # noqa: E402
from saucer_server.looks import rules as looks  # noqa: E402
from saucer_server.people.rules import Person  # noqa: E402

from .looks import DemoLook  # noqa: E402
from .many import many  # noqa: E402

AT_ONCE = 500
RIGHTS = ("inside the studio", "to anyone", "inside the studio", "ask first", "inside the project")
COLLECTIONS = ("Kiln series", "Slip campaign", "Prints and papers", "Night work", "Yard light")


def add(count: int) -> int:
    """Adds looks until there are so many; returns how many were added."""
    missing = max(count - looks.Look.objects.count(), 0)
    people = {p.username: p for p in Person.objects.all()}
    made = iter(many(missing))
    for start in range(0, missing, AT_ONCE):
        with transaction.atomic():
            _some([next(made) for _ in range(min(AT_ONCE, missing - start))], start, people)
        print(f"{min(start + AT_ONCE, missing)} of {missing} looks", flush=True)
    return missing


def _some(designs: list[DemoLook], start: int, people: dict[str, Person]) -> None:
    recipes = [d.look() for d in designs]
    drafts = [r.model_dump(mode="json") for r in recipes]
    rows = looks.Look.objects.bulk_create(
        looks.Look(
            name=d.name,
            note=d.note,
            maker=people[d.maker],
            draft=draft,
            draft_by=people[d.maker],
            rights=RIGHTS[(start + k) % len(RIGHTS)],
            origin="an earlier year" if (start + k) % 4 == 0 else "",
        )
        for k, (d, draft) in enumerate(zip(designs, drafts, strict=True))
    )
    revisions = looks.Revision.objects.bulk_create(
        looks.Revision(
            look=row, number=1, recipe=draft, digest=r.digest(), note="", status=d.status, made_by=row.maker
        )
        for row, r, draft, d in zip(rows, recipes, drafts, designs, strict=True)
    )
    now = timezone.now()
    for k, revision in enumerate(revisions):
        revision.made_at = now - timedelta(days=(start + k) % 900, minutes=k)
    looks.Revision.objects.bulk_update(revisions, ["made_at"])
    names = sorted({t for d in designs for t in d.tags})
    catalogue.Tag.objects.bulk_create([catalogue.Tag(name=n) for n in names], ignore_conflicts=True)
    tags = {t.name: t for t in catalogue.Tag.objects.filter(name__in=names)}
    through = catalogue.Tag.looks.through
    through.objects.bulk_create(
        through(look_id=row.pk, tag_id=tags[t].pk)
        for row, d in zip(rows, designs, strict=True)
        for t in d.tags
    )
    for k, name in enumerate(COLLECTIONS):
        collecting.add(people["ines"], name, rows[k :: 2 * len(COLLECTIONS)])
    entries.refresh(row.pk for row in rows)


if __name__ == "__main__":
    print(f"{add(int(sys.argv[1]))} looks added.")
