"""Taking a table apart: asked for, done by a worker, and what came of it opened on the bench."""

import json

import numpy as np
from django.db import transaction
from saucer_core.baking.bake import bake
from saucer_core.baking.unbake import Stage, unbake
from saucer_core.changes import in_words
from saucer_core.encodings import encoding
from saucer_core.encodings.registry import known
from saucer_core.formats.recipe import table_in, table_out
from saucer_core.look import Look as LookValue
from saucer_core.look import wearing
from saucer_core.readings.masks import difference_picture
from saucer_core.screen import SCREEN
from saucer_core.steps import Tables
from saucer_core.tables.lut import Table
from saucer_core.treatment import Treatment

from .. import storage
from ..bench import pictures
from ..caches import TABLES
from ..errors import RuleError
from ..frames.rules import Frame
from ..framing import jpeg
from ..jobs.rules import running
from ..looks import rules as looks
from ..lookup import by_id
from ..luts import rules as luts
from ..people.rules import Person, is_own, must
from .found import Unbaked, UnbakedStage, UnbakedStep
from .models import Unbaking
from .subjects import Subject, SubjectKind, find

__all__ = ["Unbaking", "difference", "find_unbaking", "keep", "keep_whole", "look_of", "make", "still"]

#: Points a side of the table that a look of steps is taken apart from.
GRID = 33
#: Parts that a job's progress is counted in.
PARTS = 100
#: ΔE that is drawn as white where the steps differ from the table.
FULL = 2.0


def find_unbaking(key: int, person: Person) -> Unbaking:
    """The work; raises 404, 403."""
    row = by_id(Unbaking.objects.select_related("job"), key, "table that was taken apart")
    must(
        person,
        "started.end",
        is_own(person, row.asked_by_id),
        "Only who asked for this, or a lead, can see it.",
    )
    return row


def _table(subject: Subject) -> Table:
    if subject.table is not None and subject.recipe == wearing_itself(subject):
        return subject.table
    return bake(Treatment(subject.recipe).compile(subject.tables), GRID, title=subject.name)


def wearing_itself(subject: Subject) -> LookValue | None:
    """The look that is the subject's table alone."""
    if subject.table is None:
        return None
    (step,) = subject.recipe.steps
    return wearing(
        subject.table.digest(),
        getattr(step, "name", ""),
        subject.recipe.input,
        subject.recipe.output,
        step.id,
    )


def make(unbaking_id: int) -> None:
    """Takes the table apart. Run by a worker; may run again after a worker died."""
    row = Unbaking.objects.select_related("asked_by").get(pk=unbaking_id)
    with running(row.job_id, lambda: None) as progress:
        kind: SubjectKind = row.kind  # type: ignore[assignment]
        subject = find(kind, row.subject, row.asked_by)
        with known(subject.encodings):
            table, look = _table(subject), subject.recipe

            def tell(share: float, doing: str) -> None:
                progress.at(round(share * PARTS), doing)

            result = unbake(table, look.input, look.output, title=subject.name, tell=tell)
        rest = table_out(result.rest)
        row.rest = storage.put(
            f"unbaked/{row.pk}-{result.rest.digest()[:16]}.json", json.dumps(rest).encode()
        )
        row.found = Unbaked(
            input=result.input,
            output=result.output,
            rest_behind=result.rest_behind,
            looks={"steps": result.look(rest=False), "with rest": result.look(rest=True)},
            steps=[
                UnbakedStep(kind=getattr(s, "kind", ""), title=s.title, words=in_words(s), share=share)
                for s, share in zip(result.steps, result.shares, strict=True)
            ],
            stages=[_stage(s) for s in result.stages],
            with_rest=_stage(result.with_rest),
        )
        row.save(update_fields=["rest", "found"])


def _stage(stage: Stage) -> UnbakedStage:
    return UnbakedStage(steps=len(stage.kinds), cube=stage.cube, ordinary=stage.ordinary)


@TABLES.remembers
def _rest(file: str) -> Table:
    return table_in(json.loads(storage.get(file)), "the rest")


def _found(row: Unbaking) -> Unbaked:
    if row.found is None:
        raise RuleError(409, "It is not taken apart yet.")
    return row.found


def look_of(row: Unbaking, rest: bool) -> tuple[LookValue, Tables]:
    """What came of it, with its rest or without. Raises 409 where it is not done."""
    look = _found(row).looks["with rest" if rest else "steps"]
    table = _rest(row.rest)
    digest = table.digest()
    return look, lambda asked: table if asked == digest else luts.table(asked)


def still(row: Unbaking, rest: bool, frame: Frame, width: int) -> bytes:
    """A frame under what came of it, JPEG."""
    look, tables = look_of(row, rest)
    return pictures.still(look, look.digest(), frame, width, tables=tables)


def difference(row: Unbaking, person: Person, rest: bool, frame: Frame, width: int) -> bytes:
    """How far a frame under what came of it is from the same under the table, JPEG: white from ``FULL``
    on."""
    look, tables = look_of(row, rest)
    kind: SubjectKind = row.kind  # type: ignore[assignment]
    subject = find(kind, row.subject, person)
    with known(subject.encodings):
        there = pictures.rendered(subject.recipe, frame, width, screen=True, tables=subject.tables)
    here = pictures.rendered(look, frame, width, screen=True, tables=tables)
    return jpeg(difference_picture(np.clip(here, 0, 1), np.clip(there, 0, 1), encoding(SCREEN), FULL))


def keep_whole(subject: Subject, person: Person) -> looks.Look:
    """Makes a look that wears a borrowed LUT as it is. Raises 409 for anything else: that is a look already,
    or waits in its pack."""
    if subject.kind != "lut":
        raise RuleError(409, "Only a LUT becomes a look of one table. What waits in a pack is kept with it.")
    return looks.create(
        person, subject.name[:120], subject.recipe, origin=subject.origin, rights=subject.rights
    )


def keep(row: Unbaking, person: Person, name: str, rest: bool) -> looks.Look:
    """Makes a look of it that opens on the bench like any."""
    look, _ = look_of(row, rest)
    kind: SubjectKind = row.kind  # type: ignore[assignment]
    subject = find(kind, row.subject, person)
    origin = f"{subject.name}, taken apart"[:300]
    with transaction.atomic():
        if rest:
            found = _found(row)
            at = found.output if found.rest_behind else found.input
            luts.adopt(
                _rest(row.rest),
                person,
                expects=at,
                gives=at,
                rights=subject.rights or "ask first",
                origin=origin,
            )
        made = looks.create(
            person,
            (name.strip() or subject.name)[:120],
            look,
            f"Editable steps for {subject.name}.",
            origin=origin,
            rights=subject.rights,
        )
        Unbaking.objects.filter(pk=row.pk).update(look=made)
    return made
