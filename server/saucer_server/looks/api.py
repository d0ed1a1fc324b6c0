"""Looks and their drafts over HTTP."""

from datetime import datetime

from django.http import HttpRequest
from ninja import PatchDict, Router, Schema, Status
from pydantic import Field
from saucer_core.changes import Change, changes
from saucer_core.look import Look as Recipe

from ..fields import Text, said
from ..people.rules import Person, may_design, person_of
from . import rules, sitting
from .revisions_api import RevisionOut, revision_out
from .rules import Look, SetAside

router = Router(tags=["looks"])


class LookIn(Schema):
    """A new look."""

    name: Text = Field(min_length=1, max_length=120)
    note: Text = Field("", max_length=4000)
    draft: Recipe = Recipe()


class LookAbout(Schema):
    """What is said about a look."""

    name: Text = Field(min_length=1, max_length=120)
    note: Text = Field(max_length=4000)


class AsideOut(Schema):
    """A draft that came too late."""

    id: int
    based_on: int
    kept_by: str
    kept_at: datetime
    draft: Recipe


class ParentOut(Schema):
    """The look that another one is a variation of."""

    id: int
    name: str


class LookLine(Schema):
    """A look on its way to the bench: who changed its draft last, and its newest revision, if it has one."""

    id: int
    name: str
    draft_version: int
    draft_at: datetime
    draft_by: str
    mine: bool
    revision: int | None
    status: str
    parent: ParentOut | None


class LookOut(Schema):
    """A look with its draft."""

    id: int
    name: str
    note: str
    maker: str
    draft: Recipe
    draft_version: int
    draft_by: str
    draft_at: datetime
    revisions: list[RevisionOut]
    set_aside: list[AsideOut]
    parent: ParentOut | None
    variations: list[ParentOut]
    may_edit: bool
    trouble: str


class VariationIn(Schema):
    """A name for a variation, and what it begins with: the parent's draft as saved where nothing is given."""

    name: Text = Field(min_length=1, max_length=120)
    draft: Recipe | None = None


class TwoLooks(Schema):
    """Two looks to hold beside each other."""

    before: Recipe
    after: Recipe


class SittingIn(Schema):
    """Whether the person takes the draft over."""

    take: bool = False


class DraftIn(Schema):
    """A draft and the version it was made from."""

    version: int
    draft: Recipe


class DraftOut(Schema):
    """The version that was saved."""

    version: int
    saved_at: datetime


def _aside_out(a: SetAside) -> AsideOut:
    return AsideOut(id=a.pk, based_on=a.based_on, kept_by=str(a.kept_by), kept_at=a.kept_at, draft=Recipe.model_validate(a.draft))


def _kin(look: Look) -> ParentOut:
    return ParentOut(id=look.pk, name=look.name)


def _look_out(look: Look, request: HttpRequest) -> LookOut:
    draft = Recipe.model_validate(look.draft)
    person = person_of(request)
    return LookOut(
        id=look.pk, name=look.name, note=look.note, maker=str(look.maker), draft=draft, draft_version=look.draft_version,
        draft_by=str(look.draft_by), draft_at=look.draft_at,
        revisions=[revision_out(r) for r in look.revisions.select_related("made_by", "look")],
        set_aside=[_aside_out(a) for a in look.set_aside.filter(kept_by=person).select_related("kept_by")],
        parent=_kin(look.parent) if look.parent else None, variations=[_kin(v) for v in look.variations.all()],
        may_edit=may_design(person), trouble=rules.sound(draft),
    )  # fmt: skip


def _line(look: Look, person: Person) -> LookLine:
    newest = next(iter(look.revisions.all()), None)
    return LookLine(
        id=look.pk, name=look.name, draft_version=look.draft_version, draft_at=look.draft_at, draft_by=str(look.draft_by),
        mine=look.draft_by_id == person.pk, revision=newest.number if newest else None, status=newest.status if newest else "",
        parent=_kin(look.parent) if look.parent else None,
    )  # fmt: skip


@router.get("/looks", response=list[LookLine])
def worked_on(request: HttpRequest) -> list[LookLine]:
    """Looks by when they were last worked on, one's own first."""
    person = person_of(request)
    return [_line(look, person) for look in rules.worked_on(person)]


@router.post("/looks", response={201: LookOut})
def create(request: HttpRequest, payload: LookIn) -> Status[LookOut]:
    """Starts a look."""
    return Status(201, _look_out(rules.create(person_of(request), payload.name, payload.draft, payload.note), request))


@router.get("/looks/{int:look_id}", response=LookOut)
def look(request: HttpRequest, look_id: int) -> LookOut:
    """A look with its draft, its revisions, and what was set aside for the person who asks."""
    return _look_out(rules.find(look_id), request)


@router.patch("/looks/{int:look_id}", response=LookOut)
def change(request: HttpRequest, look_id: int, payload: PatchDict[LookAbout]) -> LookOut:
    """Renames a look or changes its note."""
    return _look_out(rules.change(look_id, person_of(request), said(payload)), request)


@router.put("/looks/{int:look_id}/draft", response=DraftOut)
def save_draft(request: HttpRequest, look_id: int, payload: DraftIn) -> DraftOut:
    """Saves a draft; 409 where somebody saved since, with both versions kept."""
    saved = rules.save_draft(look_id, person_of(request), payload.draft, payload.version)
    return DraftOut(version=saved.draft_version, saved_at=saved.draft_at)


@router.post("/looks/{int:look_id}/variations", response={201: LookOut})
def vary(request: HttpRequest, look_id: int, payload: VariationIn) -> Status[LookOut]:
    """Starts a look that names this one as its parent."""
    parent = rules.find(look_id)
    draft = payload.draft or Recipe.model_validate(parent.draft)
    return Status(201, _look_out(rules.create(person_of(request), payload.name, draft, parent=parent), request))


@router.post("/changes", response=list[Change])
def what_changed(request: HttpRequest, payload: TwoLooks) -> list[Change]:
    """What differs between two looks, in words."""
    return changes(payload.before, payload.after)


@router.post("/whole", response=Recipe)
def whole(request: HttpRequest, payload: Recipe) -> Recipe:
    """The look with every parameter filled in; refused where it is none. Nothing is kept."""
    return payload


@router.put("/looks/{int:look_id}/sitting", response=sitting.Seats)
def sit(request: HttpRequest, look_id: int, payload: SittingIn) -> sitting.Seats:
    """Says that the person is at the draft, every few seconds; answers who else is. Taking over makes it theirs to change."""
    return sitting.sit(rules.find(look_id), person_of(request), take=payload.take)


@router.post("/looks/{int:look_id}/leave", response={204: None})
def leave(request: HttpRequest, look_id: int) -> Status[None]:
    """Says that the person has left the draft."""
    sitting.leave(rules.find(look_id), person_of(request))
    return Status(204, None)


@router.delete("/looks/{int:look_id}/set-aside/{int:aside_id}", response={204: None})
def drop_aside(request: HttpRequest, look_id: int, aside_id: int) -> Status[None]:
    """Lets go of a draft that was set aside, once it is settled."""
    rules.drop_aside(look_id, aside_id, person_of(request))
    return Status(204, None)
