"""Keeping what was chosen of a pack: each look whole, one after the other. Done by a worker."""

from django.db import transaction
from saucer_core.encodings.registry import known as with_encodings
from saucer_core.formats.incoming import Incoming
from saucer_core.formats.recipe import Record

from .. import storage
from ..catalogue import rules as catalogue
from ..errors import RuleError
from ..jobs.rules import Job, running
from ..looks import rules as looks
from ..luts import recipes
from ..luts import rules as luts
from ..people.activity import Happening, note
from ..people.rules import Person
from ..presets import rules as presets
from ..presets.payloads import NewPreset
from .models import Pack, PackItem, Stage
from .reading import incoming_of
from .rules import forget_files


def keep(pack_id: int) -> None:
    """Keeps what is chosen. Where it is stopped the looks made so far stay, whole, and the rest still waits
    for a decision."""
    pack = Pack.objects.select_related("job").get(pk=pack_id)
    job = pack.job
    assert job is not None

    def undo() -> None:
        Pack.objects.filter(pk=pack.pk, stage=Stage.KEEPING).update(stage=Stage.READY)

    with running(job.pk, undo) as progress:
        chosen = list(pack.items.filter(chosen=True, kept=False, reason="").defer("colours"))
        progress.total(len(chosen))
        for done, item in enumerate(chosen):
            progress.at(done, item.name)
            _keep(pack, item, job)
        Pack.objects.filter(pk=pack.pk).update(stage=Stage.KEPT)
        kept = pack.items.filter(kept=True).count()
        note(
            Happening.BROUGHT_IN,
            job.asked_by,
            "brought in",
            pack.name,
            more=f"{kept:,} {'look' if kept == 1 else 'looks'}",
            to=f"/catalogue/bring-in/{pack.pk}",
        )
    forget_files(pack)


def _keep(pack: Pack, item: PackItem, job: Job) -> None:
    one = incoming_of(item)
    person = job.asked_by
    with with_encodings(one.encodings), transaction.atomic():
        row = PackItem.objects.select_for_update().get(pk=item.pk)
        if row.kept:
            return
        if one.kind == "preset":
            _preset(pack, one, row.file_name, person)
        else:
            row.look = _look(pack, row, one, person)
        row.kept = True
        row.save(update_fields=["look", "kept"])


def _tables(pack: Pack, one: Incoming, item: PackItem, person: Person) -> None:
    """Keeps what the look borrows, each table with what was said of the pack."""
    table = one.table
    if table is None:
        recipes.keep_borrowed(one.look, one.luts, one.encodings, item.file_name, person, pack.rights)
        return
    about = {"expects": item.expects, "gives": item.gives, "rights": pack.rights, "origin": _origin(pack)}
    if one.kind == "carrier":
        luts.adopt(table, person, **about)
    else:
        luts.take(table, storage.get(item.file), item.file_name, person, name=one.name, **about)


def _origin(pack: Pack) -> str:
    return f"{pack.origin}, in {pack.name}"[:300]


def _note(pack: Pack, one: Incoming) -> str:
    """What the file says of the look, and the licence of the pack: it must stand where the look is used."""
    licence = f"Licence: {pack.licence.strip()}" if pack.licence.strip() else ""
    return "\n\n".join(part for part in (one.note, licence) if part)[:4000]


def _whole(pack: Pack, item: PackItem, one: Incoming, record: Record, person: Person) -> looks.Look:
    """A look that left another Saucer with all that belongs to it: its revisions, rights, tags and
    collections."""
    for kept in record.revisions:
        recipes.keep_borrowed(
            kept.look, one.luts, one.encodings, item.file_name, person, record.rights or pack.rights
        )
    first = record.revisions[0].look if record.revisions else one.look
    origin = "; ".join(part for part in (record.origin, f"{_origin(pack)}, by {record.maker}") if part)[:300]
    look = looks.create(person, one.name, first, one.note, origin=origin, rights=record.rights or pack.rights)
    for kept in record.revisions:
        was = f"was r{kept.number} by {kept.made_by}, {kept.made_at[:10]}, {kept.status}"
        looks.restore(look, person, kept.look, f"{kept.note}\n({was})".strip()[:4000], kept.status)
    if not record.revisions:
        looks.keep_revision(look, person, f"Brought in from {pack.name}"[:1000], told=False)
    catalogue.set_tags(look, list(dict.fromkeys([*record.tags, *pack.tags]))[: catalogue.TAG_LIMIT])
    for name in dict.fromkeys([*record.collections, pack.collections.get(item.folder, "")]):
        catalogue.collect(look, name, person)
    return look


def _look(pack: Pack, item: PackItem, one: Incoming, person: Person) -> looks.Look:
    if one.record is not None:
        return _whole(pack, item, one, one.record, person)
    _tables(pack, one, item, person)
    look = looks.create(
        person, one.name, one.look, _note(pack, one), origin=_origin(pack), rights=pack.rights
    )
    where = f"{item.folder}/{item.file_name}" if item.folder else item.file_name
    revision = looks.keep_revision(look, person, f"Brought in from {pack.name}, {where}"[:1000], told=False)
    if pack.review:
        looks.set_status(revision, person, "in review")
    catalogue.set_tags(look, list(pack.tags))
    catalogue.collect(look, pack.collections.get(item.folder, ""), person)
    return look


def _preset(pack: Pack, one: Incoming, file_name: str, person: Person) -> None:
    recipes.keep_borrowed(one.look, one.luts, one.encodings, file_name, person, pack.rights)
    (step,) = one.look.steps
    content = step.model_dump(mode="json", exclude={"id"})
    new = NewPreset(name=one.name[:80], note=one.note[:300], content=content, shared=True)
    try:
        presets.add(person, new)
    except RuleError as error:
        raise RuleError(error.status, f"{file_name}: {error.message}") from None
