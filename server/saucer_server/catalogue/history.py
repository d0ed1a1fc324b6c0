"""What changed between states of a look, and taking parts of one over into its draft."""

import hashlib
from dataclasses import dataclass

from django.db import transaction
from saucer_core.changes import Change, changes
from saucer_core.encodings import encoding
from saucer_core.errors import CoreError
from saucer_core.look import Look as LookValue
from saucer_core.look import canonical
from saucer_core.merge import Part, parts, taken
from saucer_core.readings.likeness import apart
from saucer_core.readings.masks import difference_picture
from saucer_core.screen import SCREEN

from ..bench.pictures import rendered
from ..caches import CHANGES
from ..errors import RuleError
from ..frames.rules import Frame
from ..framing import jpeg
from ..looks.rules import Look, Revision, find_revision, lock_one, recipe_of, save_draft
from ..people.rules import Person
from .entries import measured

#: ΔE2000 that is drawn white in a picture of what changed.
FULL = 8.0


@dataclass(frozen=True)
class Difference:
    """What changed from one state to another: in words, and over the core's fixed colours in ΔE2000; none
    where it cannot be computed."""

    changes: list[Change]
    mean: float | None
    largest: float | None


def between(before: LookValue, after: LookValue) -> Difference:
    """What changed from one look to another."""
    try:
        mean, largest = apart(measured(before).colours, measured(after).colours)
    except CoreError:
        return Difference(changes(before, after), None, None)
    return Difference(changes(before, after), mean, largest)


def _by_content(old: Revision, new: Revision) -> tuple[str, ...]:
    return tuple(hashlib.sha256(canonical(revision.recipe)).hexdigest() for revision in (old, new))


@CHANGES.remembers_by(_by_content)
def _since(old: Revision, new: Revision) -> Difference:
    return between(recipe_of(old), recipe_of(new))


def history(look: Look) -> list[tuple[Revision, Difference | None]]:
    """The revisions, the newest first, each with what changed since the one before it; none for the first."""
    rows = list(look.revisions.select_related("made_by", "moved_by", "look").order_by("-number"))
    # A look of which nothing was kept yet has no history.
    earlier: list[Revision | None] = [*rows[1:], None][: len(rows)]
    return [(row, _since(old, row) if old else None) for row, old in zip(rows, earlier, strict=True)]


def against(revision: Revision, other: Revision, frame: Frame, width: int) -> bytes:
    """How far a frame under a revision is from the same under another one: grey, white from ΔE ``FULL`` on.
    JPEG."""
    here, there = (rendered(recipe_of(r), frame, width, screen=True) for r in (revision, other))
    return jpeg(difference_picture(here, there, encoding(SCREEN), FULL))


def common_beginning(mine: Look, theirs: Revision) -> LookValue | None:
    """What the draft of a look and a revision both began as, if that is known.

    For a revision of the same look it is the revision itself, as the draft was made on from it. For a
    variation, and for the look it came from, it is what the variation began as.
    """
    if theirs.look_id == mine.pk:
        return recipe_of(theirs)
    for child, parent in ((mine, theirs.look), (theirs.look, mine)):
        if child.parent_id == parent.pk and child.base is not None:
            return LookValue.model_validate(child.base)
    if (
        mine.parent_id is not None
        and mine.parent_id == theirs.look.parent_id
        and mine.base == theirs.look.base
        and mine.base
    ):
        return LookValue.model_validate(mine.base)
    return None


@dataclass(frozen=True)
class Comparison:
    """A draft and what may be taken over into it. version: the draft's, to be said when parts are taken."""

    parts: list[Part]
    version: int
    known: bool


def compared(mine: Look, theirs: Revision) -> Comparison:
    """In which parts a look's draft and a revision of any look differ."""
    base = common_beginning(mine, theirs)
    return Comparison(
        parts(base, LookValue.model_validate(mine.draft), recipe_of(theirs)),
        mine.draft_version,
        base is not None,
    )


def with_parts(mine: Look, revision_id: int, keys: list[str]) -> LookValue:
    """The look's draft with these parts of a revision; nothing is kept. Raises ``LookError``."""
    return taken(LookValue.model_validate(mine.draft), recipe_of(find_revision(revision_id)), set(keys))


def take_over(mine: Look, person: Person, revision_id: int, keys: list[str], version: int) -> Look:
    """Saves the draft with these parts of a revision; 409 where somebody saved it since."""
    with transaction.atomic():
        row = lock_one(mine.pk)
        if row.draft_version != version:
            raise RuleError(
                409,
                f"{row.draft_by} saved this draft in the meantime. Compare again; nothing was taken over.",
            )
        return save_draft(row.pk, person, with_parts(row, revision_id, keys), version)
