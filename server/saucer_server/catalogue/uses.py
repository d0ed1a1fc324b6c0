"""Which looks are on shots of which projects. The projects write it down here, in the transaction that
changes it, so that the catalogue can ask without knowing them."""

from collections import Counter
from collections.abc import Mapping

from django.db.models import Sum

from ..looks.rules import every
from ..people.circles import Circle
from .models import Use

__all__ = ["by_look", "keep", "most_used"]


def keep(project: int, name: str, circle: Circle | None, shots: Mapping[int, int]) -> None:
    """Writes down what a project uses. shots: by look, on how many shots it is."""
    rows = Use._base_manager.filter(project=project)
    rows.exclude(look_id__in=list(shots)).delete()
    Use._base_manager.bulk_create(
        [
            Use(look_id=look, project=project, name=name, circle=circle, shots=count)
            for look, count in shots.items()
        ],
        update_conflicts=True,
        unique_fields=["look", "project"],
        update_fields=["name", "circle", "shots"],
    )


def by_look(ids: list[int]) -> dict[int, int]:
    """On how many shots each look is, twins that were merged into it included, by its id; those that are on
    none are left out."""
    twins = dict(every().filter(merged_into_id__in=ids).values_list("pk", "merged_into_id"))
    found: Counter[int] = Counter()
    for look, shots in Use.objects.filter(look_id__in=[*ids, *twins]).values_list("look_id", "shots"):
        found[twins.get(look, look)] += shots
    return found


def most_used(count: int) -> list[int]:
    """Ids of the looks that are on the most shots."""
    rows = Use.objects.values_list("look_id").annotate(n=Sum("shots")).order_by("-n", "look_id")
    return [look for look, _ in rows[:count]]
