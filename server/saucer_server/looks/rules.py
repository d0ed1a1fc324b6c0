"""Drafts and revisions: how they are kept and who may change them."""

from typing import Any

from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.db.models import Case, Max, Prefetch, QuerySet, TextField, When
from django.db.models.functions import Cast
from django.dispatch import Signal, receiver
from django.utils import timezone
from saucer_core.errors import LookError, MissingTable
from saucer_core.formats.recipe import RecipeFile
from saucer_core.look import Look as LookValue
from saucer_core.look import check
from saucer_core.stack import Layer, stacked

from ..errors import RuleError
from ..fields import take
from ..lookup import LARGEST, by_id
from ..luts import recipes
from ..luts.rules import hold, holding, table
from ..people import activity, circles
from ..people.activity import Happening
from ..people.rules import Person, is_own, may, must
from .models import Look, Revision, SetAside, Status
from .payloads import LookPatch, MeantOver, MeantPatch

__all__ = [
    "Look",
    "LookValue",
    "Revision",
    "SetAside",
    "Status",
    "bring_in",
    "change",
    "changed",
    "create",
    "drop_aside",
    "every",
    "every_revision",
    "find",
    "find_revision",
    "is_ones_own",
    "keep_revision",
    "latest",
    "lock",
    "lock_one",
    "locked",
    "mean",
    "must_change",
    "newest",
    "newest_of",
    "page_of",
    "recipe_of",
    "restore",
    "revisions_on",
    "save_draft",
    "set_status",
    "sound",
    "stack_of",
    "worked_on",
]  # fmt: skip


#: Sent with the ids of looks after anything changed that the catalogue shows of them: name, note, a revision,
#: its status.
changed = Signal()
#: How many looks the way to the bench shows; the catalogue has all.
LOOKS_SHOWN = 60


def find(look_id: int) -> Look:
    """The look; raises 404."""
    return by_id(Look.objects.all(), look_id, "look")


def version_of(revision: Revision) -> str:
    """A mark of what a revision does, for the addresses of its pictures."""
    return revision.digest[:8]


def every() -> QuerySet[Look]:
    """All looks, those that became a part of another one included."""
    return Look.objects.all()


def revisions_on() -> QuerySet[Revision]:
    """Revisions with their looks and people, for what has them on it: who may see that may see them."""
    return Revision._base_manager.select_related("look", "made_by", "moved_by")


def every_revision() -> QuerySet[Revision]:
    """All revisions of all looks."""
    return Revision.objects.all()


def lock(*ids: int) -> dict[int, Look]:
    """Holds the rows of those looks until the transaction ends, in the order of their keys; by key."""
    return {row.pk: row for row in Look.objects.select_for_update().filter(pk__in=ids).order_by("pk")}


def lock_one(look_id: int) -> Look:
    """The row of that look, held until the transaction ends. Raises 404."""
    return by_id(Look.objects.select_for_update(), look_id, "look")


def find_revision(revision_id: int) -> Revision:
    """The revision; raises 404."""
    return by_id(Revision.objects.all(), revision_id, "revision")


def recipe_of(revision: Revision) -> LookValue:
    """What the revision computes."""
    return LookValue.model_validate(revision.recipe)


def stack_of(revisions: list[int]) -> LookValue:
    """Those revisions over one another as one look, the first one first.

    Raises 404 for one that is not there, and 422 where they are more than one look holds.
    """
    layers = [
        Layer(recipe_of(row), name=row.look.name, revision=row.pk) for row in map(find_revision, revisions)
    ]
    try:
        return stacked(layers)
    except ValueError:
        raise RuleError(422, "These looks together are more than one look holds. Take one off.") from None


def latest(look: Look) -> Revision | None:
    """The newest revision, if there is one."""
    return look.revisions.order_by("-number").first()


def newest_of(look_id: int) -> Revision | None:
    """The newest revision of a look, if there is one; raises 404 where there is no such look."""
    revision = (
        Revision.objects.filter(look_id=look_id).order_by("-number").first() if look_id <= LARGEST else None
    )
    return revision or latest(find(look_id))


def newest(look: Look) -> Revision | None:
    """The newest of revisions that were fetched with the look, the newest first."""
    return next(iter(look.revisions.all()), None)


def worked_on(person: Person) -> QuerySet[Look]:
    """Looks by when their draft was last changed: those that the person changed last come first, then
    everybody else's."""
    theirs = Case(When(draft_by=person, then=0), default=1)
    looks = Look.objects.defer("draft", "note").select_related("draft_by", "parent")
    revisions = Revision.objects.defer("recipe", "note").order_by("-number")
    return looks.prefetch_related(Prefetch("revisions", revisions)).order_by(theirs, "-draft_at")[
        :LOOKS_SHOWN
    ]


def is_ones_own(person: Person, look: Look) -> bool:
    """Whether a look is a person's to change: they made it, or who made it shares it with all designers."""
    return look.shared or is_own(person, look.maker_id)


def must_change(person: Person, look: Look) -> None:
    """Raises 403 for those who may not change a look."""
    must(person, "look.change", is_ones_own(person, look))


#: Places of clips that one look can mean.
MEANT = 500


def mean(look_id: int, person: Person, said: MeantPatch) -> Look:
    """Says of a look that what it does to a clip over time is meant, or is not any more. Raises 403, 404, and
    409 for too many."""
    with transaction.atomic():
        look = by_id(Look.objects.select_for_update(of=("self",)), look_id, "look")
        must_change(person, look)
        one = MeantOver(frame=said.frame, kind=said.kind)
        rest = [other for other in look.meant if other != one]
        if said.meant and len(rest) >= MEANT:
            raise RuleError(409, f"This look means {MEANT} things over time already. Take some back first.")
        look.meant = [*rest, one] if said.meant else rest
        look.save(update_fields=["meant"])
    return look


def change(look_id: int, person: Person, patch: LookPatch) -> Look:
    """Renames a look, changes its note, or says whether other designers may change it."""
    with transaction.atomic():
        look = by_id(Look.objects.select_for_update(), look_id, "look")
        must_change(person, look)
        if patch.shared is not None and not may(person, "started.end", is_own(person, look.maker_id)):
            raise RuleError(
                403, f"Only {look.maker}, who made this look, or a lead, says who else changes it."
            )
        look.save(update_fields=take(look, patch, "name", "note", "shared"))
        changed.send(Look, ids=[look.pk])
    return look


def drop_aside(look: Look, aside_id: int, person: Person) -> None:
    """Lets go of the person's own draft that was set aside."""
    if aside_id <= LARGEST:
        SetAside.objects.filter(pk=aside_id, look=look, kept_by=person).delete()


def create(
    person: Person,
    name: str,
    draft: LookValue,
    note: str = "",
    parent: Look | None = None,
    *,
    origin: str = "",
    rights: str = "",
) -> Look:
    """A new look with a first draft; a variation where it has a parent. origin, rights: of what was brought
    in."""
    must(person, "look.make")
    named, data = name.strip() or "Untitled look", draft.model_dump(mode="json")
    return Look.objects.create(
        name=named,
        note=note,
        maker=person,
        draft=data,
        draft_by=person,
        parent=parent,
        base=data if parent else None,
        origin=origin,
        rights=rights,
        circle=parent.circle if parent else None,
    )


def bring_in(upload: "UploadedFile[Any]", person: Person) -> tuple[Look, list[str]]:
    """A new look from a recipe file, with all it borrows; and in words what came along. Raises ``FileError``;
    nothing is kept then."""

    def keep(found: RecipeFile) -> Look:
        if found.preset:
            raise RuleError(
                422, "This file holds a preset. Bring it in on the bench, among the presets of a step."
            )
        return create(person, found.name[:120], found.look, found.note[:4000])

    return recipes.bring_in(upload, person, keep)


def save_draft(look_id: int, person: Person, draft: LookValue, based_on: int, tab: str = "") -> Look:
    """Saves the draft over version ``based_on``.

    Where somebody saved since, the late draft is set aside and a 409 says what happened; both versions are
    kept. tab: the page that sends it, which replaces what it set aside itself and nothing else.
    """
    data = draft.model_dump(mode="json")
    with transaction.atomic():
        look = by_id(Look.objects.select_for_update(), look_id, "look")
        must_change(person, look)
        hold(step.table for step in draft.lut_steps())
        if look.draft_version == based_on:
            look.draft, look.draft_by, look.draft_version = data, person, based_on + 1
            look.save(update_fields=["draft", "draft_by", "draft_version", "draft_at"])
            return look
        if look.draft == data:
            return look
        mine = SetAside.objects.filter(look=look, kept_by=person)
        # The look's row is locked, so that two of one person's pages come here one after the other.
        aside = mine.filter(draft=data).first() or (
            mine.filter(tab=tab, based_on=based_on).first() if tab else None
        )
        aside = aside or SetAside(look=look, kept_by=person, based_on=based_on, tab=tab)
        aside.draft = data
        aside.save()
    raise RuleError(
        409,
        f"{look.draft_by} saved this draft while you were working on it. Your version is set aside, nothing "
        "is lost: "
        "choose which one goes on.",
        version=look.draft_version,
        by=str(look.draft_by),
        draft=look.draft,
        set_aside=aside.pk,
    )


def keep_revision(look: Look, person: Person, note: str, *, told: bool = True) -> Revision:
    """Makes the draft as it stands an immutable revision. Raises ``LookError`` where it cannot be computed.

    told: whether the activity says so; what comes in by the pack is told once for all.
    """
    with transaction.atomic():
        look = Look.objects.select_for_update().get(pk=look.pk)
        must_change(person, look)
        draft = LookValue.model_validate(look.draft)
        check(draft)
        there = hold(step.table for step in draft.lut_steps())
        for step in draft.lut_steps():
            # This process may remember a table that is gone.
            if step.table not in there or table(step.table) is None:
                raise MissingTable(step.id, step.name)
        number = (look.revisions.aggregate(top=Max("number"))["top"] or 0) + 1
        kept = Revision.objects.create(
            look=look, number=number, recipe=look.draft, digest=draft.digest(), note=note, made_by=person
        )
        changed.send(Look, ids=[look.pk])
        if told:
            activity.note(
                Happening.LOOK, person, "kept", str(kept), more=note, to=page_of(kept), revision=kept.pk
            )
    return kept


def told(look: Look | None) -> Look | None:
    """A look that another one names, where whoever asks may see it."""
    return None if look is None or look.circle_id in circles.hidden() else look


def page_of(revision: Revision) -> str:
    """Where a revision is shown."""
    return f"/catalogue/look/{revision.look_id}?r={revision.number}"


def restore(look: Look, person: Person, recipe: LookValue, note: str, status: str) -> Revision:
    """A revision that was kept elsewhere, kept here again. What was decided on there holds here only for
    those who may decide."""
    save_draft(look.pk, person, recipe, Look.objects.get(pk=look.pk).draft_version)
    revision = keep_revision(look, person, note, told=False)
    decides = may(person, "review.decide")
    if status in (Status.APPROVED, Status.RETIRED) and decides:
        set_status(revision, person, Status.APPROVED)
    if status == Status.RETIRED and decides:
        set_status(revision, person, Status.RETIRED)
    return revision


def locked(revision_id: int) -> Revision:
    """A revision that nobody else changes until the transaction ends: its look first, as everybody takes both
    in this order."""
    Look.objects.select_for_update(of=("self",)).get(revisions=revision_id)
    return Revision.objects.select_for_update().get(pk=revision_id)


_MOVES = {
    Status.DRAFT: {Status.IN_REVIEW, Status.APPROVED},
    Status.IN_REVIEW: {Status.APPROVED, Status.DRAFT},
    Status.APPROVED: {Status.RETIRED},
    Status.RETIRED: {Status.APPROVED},
}


def set_status(revision: Revision, person: Person, status: str) -> None:
    """Moves a revision on: designers ask for review and take it back, leads decide."""
    if status in (Status.APPROVED, Status.RETIRED):
        must(person, "review.decide")
    else:
        must(person, "review.ask", lambda: is_ones_own(person, revision.look))
    with transaction.atomic():
        row = locked(revision.pk)
        if status not in _MOVES[Status(row.status)]:
            raise RuleError(409, f"A revision that is {row.status} cannot become {status}.")
        row.status, row.moved_by, row.moved_at = status, person, timezone.now()
        row.save(update_fields=["status", "moved_by", "moved_at"])
        changed.send(Look, ids=[row.look_id])
        if status in (Status.APPROVED, Status.RETIRED):
            said = "approved" if status == Status.APPROVED else "retired"
            activity.note(Happening.REVIEW, person, said, str(row), to=page_of(row), revision=row.pk)


def sound(look: LookValue) -> str:
    """Why the look cannot be computed as it stands; empty where it can."""
    try:
        check(look)
        for step in look.lut_steps():
            if table(step.table) is None:
                raise MissingTable(step.id, step.name)
    except LookError as error:
        return str(error)
    return ""


@receiver(holding)
def _holding(digest: str, **_: object) -> list[str]:
    """Drafts and revisions that name a table, those inside groups and borrowed looks included; those that
    nobody here may see, too."""
    drafts = (
        Look._base_manager.annotate(said=Cast("draft", TextField()))
        .filter(said__contains=digest)
        .order_by("name")
    )
    rows = Revision._base_manager.annotate(said=Cast("recipe", TextField())).filter(said__contains=digest)
    revisions = rows.select_related("look").order_by("-pk")
    found = [(look, f"the draft of “{look.name}”") for look in drafts] + [
        (r.look, f"“{r.look.name}” r{r.number}") for r in revisions
    ]
    return list(
        dict.fromkeys(words if told(look) else "a look that is kept to a project" for look, words in found)
    )
