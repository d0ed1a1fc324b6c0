"""What the looks of the catalogue do to the core's fixed colours, kept by their digests, so that thousands are compared at once."""

from dataclasses import dataclass

import numpy as np
from saucer_core.arrays import F32
from saucer_core.errors import LookError
from saucer_core.look import Look as Recipe
from saucer_core.readings.likeness import behaviour, nearest

from ..looks.rules import newest, recipe_of
from ..luts.rules import table
from .models import Likeness
from .rules import published


@dataclass(frozen=True)
class Known:
    """Looks of the catalogue with what they do: ids and names, and float32 ``(m, n, 3)`` in the same order."""

    ids: list[int]
    names: list[str]
    colours: F32

    def nearest(self, one: F32, count: int = 1) -> list[tuple[int, str, float]]:
        """Id, name and mean ΔE2000 of the nearest looks."""
        return [(self.ids[k], self.names[k], far) for k, far in nearest(one, self.colours, count)]


def of_look(recipe: Recipe) -> F32:
    """What a look does, kept by its digest. Raises ``LookError``."""
    row = Likeness.objects.filter(digest=(digest := recipe.digest())).first()
    if row is not None:
        return _unpacked(bytes(row.colours))
    found = behaviour(recipe, tables=table)
    Likeness.objects.get_or_create(digest=digest, defaults={"colours": found.astype("<f4").tobytes()})
    return found


def _unpacked(data: bytes) -> F32:
    return np.frombuffer(data, "<f4").reshape(-1, 3).astype(np.float32)


def known() -> Known:
    """All looks of the catalogue by their newest revision; those that cannot be computed are left out."""
    rows = [(look, revision) for look in published() if (revision := newest(look)) is not None]
    kept = dict(Likeness.objects.filter(digest__in={r.digest for _, r in rows}).values_list("digest", "colours"))
    ids, names, colours = [], [], []
    for look, revision in rows:
        try:
            found = _unpacked(bytes(kept[revision.digest])) if revision.digest in kept else of_look(recipe_of(revision))
        except LookError:
            continue
        ids.append(look.pk)
        names.append(look.name)
        colours.append(found)
    return Known(ids, names, np.stack(colours) if colours else np.zeros((0, 1, 3), np.float32))
