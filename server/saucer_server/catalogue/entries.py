"""Entries: one row a look, made anew whenever the look, its tags or its newest revision changes."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np
from django.contrib.postgres.search import SearchVector
from django.db import transaction
from django.db.models import Prefetch
from saucer_core.arrays import F32
from saucer_core.errors import CoreError
from saucer_core.look import Look as LookValue
from saucer_core.readings.likeness import behaviour, gist
from saucer_core.readings.scales import SCALES
from saucer_core.readings.tones import tones
from saucer_core.readings.traits import Traits, traits

from ..looks.rules import Look, Revision, every, every_revision, lock, newest, recipe_of
from ..luts.rules import table
from . import vocabulary
from .models import Entry, Likeness

#: Looks whose entries are made in one go.
AT_ONCE = 500
#: One configuration for names in any script: words as they are, without endings taken off.
WORDS = "simple"


@dataclass(frozen=True)
class Measured:
    """What the core says of a look."""

    colours: F32
    traits: Traits
    words: list[str]
    tones: list[str]


def unpacked(data: bytes) -> F32:
    """A kept behaviour, float32 ``(n, 3)``."""
    return np.frombuffer(data, "<f4").reshape(-1, 3).astype(np.float32)


def _measured(recipe: LookValue) -> Measured:
    found = traits(recipe, tables=table)
    return Measured(behaviour(recipe, tables=table), found, found.words(), list(tones(recipe, tables=table)))


def _of_row(row: Likeness) -> Measured:
    return Measured(unpacked(bytes(row.colours)), row.traits, row.words, row.tones)


def measured(recipe: LookValue) -> Measured:
    """What a look does, kept by its digest. Raises ``LookError``."""
    row = Likeness.objects.filter(digest=(digest := recipe.digest())).first()
    if row is not None:
        return _of_row(row)
    found = _measured(recipe)
    Likeness.objects.bulk_create([_row(digest, found)], ignore_conflicts=True)
    return found


def measured_as_kept(revision: Revision) -> Measured:
    """What a revision does, by the digest that it was kept under: its recipe is read only where that is not
    known yet."""
    row = Likeness.objects.filter(digest=revision.digest).first()
    return _of_row(row) if row is not None else measured(recipe_of(revision))


def _row(digest: str, found: Measured) -> Likeness:
    return Likeness(
        digest=digest,
        colours=found.colours.astype("<f4").tobytes(),
        traits=found.traits,
        words=found.words,
        tones=found.tones,
    )


def _all_measured(revisions: list[Revision]) -> dict[str, Measured]:
    """What the looks do by digest; those that cannot be computed are left out."""
    digests = {r.digest for r in revisions}
    found = {row.digest: _of_row(row) for row in Likeness.objects.filter(digest__in=digests)}
    fresh = {}
    for revision in revisions:
        if revision.digest in found or revision.digest in fresh:
            continue
        try:
            fresh[revision.digest] = _measured(recipe_of(revision))
        except CoreError:
            continue
    Likeness.objects.bulk_create([_row(digest, one) for digest, one in fresh.items()], ignore_conflicts=True)
    return found | fresh


def follow(sender: object, ids: list[int], **_: Any) -> None:
    """Makes the entries of looks that changed anew."""
    refresh(ids)


def refresh(ids: Iterable[int]) -> None:
    """Makes the entries of these looks anew; a look without a revision has none."""
    wanted = sorted(set(ids))
    for start in range(0, len(wanted), AT_ONCE):
        with transaction.atomic():
            together = wanted[start : start + AT_ONCE]
            _refresh(together)
            # Robust: what was to be kept is kept by then, and a word that could not be learnt is put right by
            # night.
            transaction.on_commit(partial(vocabulary.learn, together), robust=True)


def _refresh(ids: list[int]) -> None:
    # The locks keep two changes of one look from writing its entry in the wrong order.
    lock(*ids)
    latest = every_revision().order_by("look_id", "-number").distinct("look_id")
    looks = every().filter(pk__in=ids, merged_into=None).defer("draft").select_related("maker")
    Entry.objects.filter(pk__in=ids, look__merged_into__isnull=False).delete()
    rows = [
        (look, revision)
        for look in looks.prefetch_related("tags", "merged", Prefetch("revisions", latest))
        if (revision := newest(look)) is not None
    ]
    known = _all_measured([r for _, r in rows])
    entries = [_entry(look, revision, known.get(revision.digest)) for look, revision in rows]
    Entry.objects.bulk_create(
        entries,
        update_conflicts=True,
        unique_fields=["look"],
        update_fields=[f.name for f in Entry._meta.fields if f.name not in ("look", "document")],
    )
    document = SearchVector("name", weight="A", config=WORDS) + SearchVector("text", weight="C", config=WORDS)
    Entry.objects.filter(pk__in=ids).update(document=document)


def catch_up() -> None:
    """Makes the entries that are missing, as after an upgrade."""
    without = every().filter(revisions__isnull=False, entry__isnull=True, merged_into=None).distinct()
    refresh(without.values_list("pk", flat=True))


def _entry(look: Look, revision: Revision, found: Measured | None) -> Entry:
    tags = [tag.name for tag in look.tags.all()]
    words = found.words if found else []
    also = " ".join(twin.name for twin in look.merged.all())
    text = " ".join([look.name, also, look.note, " ".join(tags), str(look.maker), " ".join(words)]).lower()
    return Entry(
        look=look,
        revision=revision,
        name=look.name,
        status=revision.status,
        input=revision.input,
        maker=look.maker,
        rights=look.rights,
        brought_in=bool(look.origin),
        changed_at=revision.made_at,
        tags=tags,
        words=words,
        tones=found.tones if found else [],
        gist=gist(found.colours) if found else None,
        text=text,
        **{s.key: float(getattr(found.traits, s.key)) if found else None for s in SCALES},
    )
