"""Looks like another one, or like it but warmer or softer; twins. The database finds those that are near, the
core puts them in order."""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from django.db.models import F, FloatField, Func, Value
from saucer_core.arrays import F32
from saucer_core.look import Look as LookValue
from saucer_core.readings.likeness import TWIN_LARGEST, TWIN_MEAN, all_apart, gist, nearest
from saucer_core.readings.scales import BY_KEY

from ..errors import RuleError
from ..looks.rules import Revision, every_revision
from .cube import CubeField
from .entries import measured, measured_as_kept, unpacked
from .models import Entry, Likeness

#: How many that lie nearest by their gists are compared as an eye sees them.
COMPARED = 96


@dataclass(frozen=True)
class Near:
    """A look of the catalogue, and how far it is: mean and largest ΔE2000."""

    look: int
    name: str
    mean: float
    largest: float

    @property
    def twin(self) -> bool:
        """Whether an eye cannot tell the two apart."""
        return self.mean <= TWIN_MEAN and self.largest <= TWIN_LARGEST


@dataclass(frozen=True)
class Known:
    """Looks of the catalogue with what they do: ids and names, and float32 ``(m, n, 3)`` in the same
    order."""

    ids: list[int]
    names: list[str]
    colours: F32

    def nearest(self, one: F32, count: int = 1) -> list[tuple[int, str, float]]:
        """Id, name and mean ΔE2000 of the nearest looks."""
        return [(self.ids[k], self.names[k], far) for k, far in nearest(one, self.colours, count)]


@dataclass(frozen=True)
class But:
    """In what the looks that are sought differ from the one they are like: traits by key, to which side; 1 is
    more of it."""

    sides: dict[str, int] = field(default_factory=dict)

    @classmethod
    def read(cls, words: Sequence[str]) -> "But":
        """From words as an address has them: ``warmth:more``. Raises 422."""
        sides = {}
        for word in words:
            key, _, side = word.partition(":")
            if key not in BY_KEY or side not in ("more", "less"):
                raise RuleError(
                    422, f"“{word}” is not a trait with a side. Write, say, warmth:more or contrast:less."
                )
            sides[key] = 1 if side == "more" else -1
        return cls(sides)


def of_look(recipe: LookValue) -> F32:
    """What a look does, kept by its digest. Raises ``LookError``."""
    return measured(recipe).colours


def near(revision: Revision, count: int, but: But = But()) -> list[Near]:
    """The other looks nearest to one, the nearest first. but: they differ from it by what an eye notices.
    Raises ``LookError``."""
    one = measured_as_kept(revision)
    rows = Entry.objects.filter(gist__isnull=False).exclude(pk=revision.look_id)
    for key, side in but.sides.items():
        limit = float(getattr(one.traits, key)) + side * BY_KEY[key].notice
        rows = rows.filter(**{f"{key}__{'gte' if side > 0 else 'lte'}": limit})
    away = Func(
        F("gist"),
        Value(gist(one.colours), CubeField()),
        template="(%(expressions)s)",
        arg_joiner=" <-> ",
        output_field=FloatField(),
    )
    found = list(rows.order_by(away).values_list("pk", "name", "revision_id")[: max(COMPARED, count)])
    # Their digests are asked for afterwards: joined to it, every revision there is would be read before the
    # order is known.
    digests = dict(
        every_revision().filter(pk__in=[r for *_, r in found]).order_by().values_list("pk", "digest")
    )
    there = _with_colours(
        [(pk, name, digests[revision]) for pk, name, revision in found if revision in digests]
    )
    off = all_apart(one.colours, there.colours) if there.ids else []
    compared = [Near(pk, name, *far) for pk, name, far in zip(there.ids, there.names, off, strict=True)]
    return sorted(compared, key=lambda n: (n.mean, n.look))[:count]


def known() -> Known:
    """All looks of the catalogue by their newest revision. Those that cannot be computed, or are kept to a
    few people, are left out."""
    rows = (
        Entry.objects.filter(gist__isnull=False, look__circle=None)
        .order_by("name", "pk")
        .values_list("pk", "name", "revision__digest")
    )
    return _with_colours(list(rows))


def _with_colours(rows: list[tuple[int, str, str]]) -> Known:
    """The same looks, given by id, name and digest, with what they do; those of which that is not known are
    left out."""
    kept = dict(Likeness.objects.filter(digest__in={d for *_, d in rows}).values_list("digest", "colours"))
    there = [(pk, name, unpacked(bytes(kept[digest]))) for pk, name, digest in rows if digest in kept]
    colours = np.stack([c for *_, c in there]) if there else np.zeros((0, 1, 3), np.float32)
    return Known([pk for pk, *_ in there], [name for _, name, _ in there], colours)
