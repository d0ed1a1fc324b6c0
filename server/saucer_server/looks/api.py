"""Looks and their drafts over HTTP."""

from datetime import datetime

from django.db.models import QuerySet
from django.http import HttpRequest
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field
from saucer_core.changes import Change, changes
from saucer_core.look import Look as LookValue

from ..fields import Context, Text
from ..people.rules import is_own, may, person_of
from . import presence, rules
from .payloads import LookPatch, MeantOver, MeantPatch
from .revisions_api import RevisionOut
from .rules import Look, Revision, SetAside

router = Router(tags=["looks"])


class LookIn(Schema):
    """A new look."""

    name: Text = Field(min_length=1, max_length=120)
    note: Text = Field("", max_length=4000)
    draft: LookValue = LookValue()


class BroughtIn(Schema):
    """What a file became, and in words what came along."""

    id: int
    name: str
    said: list[str]


class AsideOut(Schema):
    """A draft that came too late."""

    id: int
    based_on: int
    kept_by: str
    kept_at: datetime
    draft: LookValue

    @staticmethod
    def resolve_kept_by(aside: SetAside) -> str:
        """The person's name."""
        return str(aside.kept_by)


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

    @staticmethod
    def resolve_draft_by(look: Look) -> str:
        """The person's name."""
        return str(look.draft_by)

    @staticmethod
    def resolve_mine(look: Look, context: Context) -> bool:
        """Whether the person who asks changed it last."""
        return look.draft_by_id == person_of(context["request"]).pk

    @staticmethod
    def resolve_revision(look: Look) -> int | None:
        """The number of the newest revision."""
        newest = rules.newest(look)
        return newest.number if newest else None

    @staticmethod
    def resolve_status(look: Look) -> str:
        """Where the newest revision stands."""
        newest = rules.newest(look)
        return newest.status if newest else ""


class LookOut(Schema):
    """A look with its draft."""

    id: int
    name: str
    note: str
    maker: str
    draft: LookValue
    draft_version: int
    draft_by: str
    draft_at: datetime
    revisions: list[RevisionOut]
    set_aside: list[AsideOut]
    parent: ParentOut | None
    variations: list[ParentOut]
    successor: ParentOut | None
    merged_into: ParentOut | None
    merged: list[ParentOut]
    origin: str
    rights: str
    may_edit: bool
    shared: bool
    may_share: bool
    trouble: str
    kept: bool
    meant: list[MeantOver]

    @staticmethod
    def resolve_kept(look: Look) -> bool:
        """Whether it is kept to a project's members."""
        return look.circle_id is not None

    @staticmethod
    def resolve_parent(look: Look) -> Look | None:
        """What it began as, where one may see that."""
        return rules.told(look.parent)

    @staticmethod
    def resolve_successor(look: Look) -> Look | None:
        """What to use instead, where one may see that."""
        return rules.told(look.successor)

    @staticmethod
    def resolve_merged_into(look: Look) -> Look | None:
        """What it is a part of, where one may see that."""
        return rules.told(look.merged_into)

    @staticmethod
    def resolve_maker(look: Look) -> str:
        """The person's name."""
        return str(look.maker)

    @staticmethod
    def resolve_draft_by(look: Look) -> str:
        """The person's name."""
        return str(look.draft_by)

    @staticmethod
    def resolve_revisions(look: Look) -> QuerySet[Revision]:
        """The newest first."""
        return look.revisions.select_related("made_by", "moved_by", "look")

    @staticmethod
    def resolve_set_aside(look: Look, context: Context) -> QuerySet[SetAside]:
        """Those of the person who asks."""
        return look.set_aside.filter(kept_by=person_of(context["request"])).select_related("kept_by")

    @staticmethod
    def resolve_variations(look: Look) -> QuerySet[Look]:
        """Looks that began as this one."""
        return look.variations.all()

    @staticmethod
    def resolve_merged(look: Look) -> QuerySet[Look]:
        """Twins that are parts of this look."""
        return look.merged.all()

    @staticmethod
    def resolve_may_edit(look: Look, context: Context) -> bool:
        """Whether the person who asks may change it."""
        person = person_of(context["request"])
        return may(person, "look.change", rules.is_ones_own(person, look))

    @staticmethod
    def resolve_may_share(look: Look, context: Context) -> bool:
        """Whether the person who asks says who else changes it."""
        person = person_of(context["request"])
        return may(person, "look.make") and may(person, "started.end", is_own(person, look.maker_id))

    @staticmethod
    def resolve_trouble(look: Look) -> str:
        """Why the draft cannot be computed as it is."""
        return rules.sound(LookValue.model_validate(look.draft))


class VariationIn(Schema):
    """A name for a variation, and what it begins with: the parent's draft as saved where nothing is given."""

    name: Text = Field(min_length=1, max_length=120)
    draft: LookValue | None = None


class TwoLooks(Schema):
    """Two looks to hold beside each other."""

    before: LookValue
    after: LookValue


class PresenceIn(Schema):
    """Whether the person takes the draft over."""

    take: bool = False


class DraftIn(Schema):
    """A draft and the version it was made from. tab: which of a person's open pages sends it."""

    version: int = Field(ge=0, lt=2**31)
    draft: LookValue
    tab: Text = Field("", max_length=40)


class DraftOut(Schema):
    """The version that was saved."""

    version: int
    saved_at: datetime


@router.get("/looks", response=list[LookLine])
def worked_on(request: HttpRequest) -> QuerySet[Look]:
    """Looks by when they were last worked on, one's own first."""
    return rules.worked_on(person_of(request))


@router.post("/looks", response={201: LookOut})
def create(request: HttpRequest, payload: LookIn) -> Status[Look]:
    """Starts a look."""
    return Status(201, rules.create(person_of(request), payload.name, payload.draft, payload.note))


@router.post("/looks/recipe", response={201: BroughtIn})
def bring_in(request: HttpRequest, file: File[UploadedFile]) -> Status[BroughtIn]:
    """Starts a look from a recipe file."""
    made, said_of_it = rules.bring_in(file, person_of(request))
    return Status(201, BroughtIn(id=made.pk, name=made.name, said=said_of_it))


@router.get("/looks/{int:look_id}", response=LookOut)
def look(request: HttpRequest, look_id: int) -> Look:
    """A look with its draft, its revisions, and what was set aside for the person who asks."""
    return rules.find(look_id)


@router.patch("/looks/{int:look_id}", response=LookOut)
def change(request: HttpRequest, look_id: int, payload: LookPatch) -> Look:
    """Renames a look or changes its note."""
    return rules.change(look_id, person_of(request), payload)


@router.put("/looks/{int:look_id}/draft", response=DraftOut)
def save_draft(request: HttpRequest, look_id: int, payload: DraftIn) -> DraftOut:
    """Saves a draft; 409 where somebody saved since, with both versions kept."""
    saved = rules.save_draft(look_id, person_of(request), payload.draft, payload.version, payload.tab)
    return DraftOut(version=saved.draft_version, saved_at=saved.draft_at)


@router.post("/looks/{int:look_id}/variations", response={201: LookOut})
def vary(request: HttpRequest, look_id: int, payload: VariationIn) -> Status[Look]:
    """Starts a look that names this one as its parent."""
    parent = rules.find(look_id)
    draft = payload.draft or LookValue.model_validate(parent.draft)
    return Status(201, rules.create(person_of(request), payload.name, draft, parent=parent))


@router.post("/changes", response=list[Change])
def what_changed(request: HttpRequest, payload: TwoLooks) -> list[Change]:
    """What differs between two looks, in words."""
    return changes(payload.before, payload.after)


@router.post("/whole", response=LookValue)
def whole(request: HttpRequest, payload: LookValue) -> LookValue:
    """The look with every parameter filled in; refused where it is none. Nothing is kept."""
    return payload


@router.put("/looks/{int:look_id}/meant", response=list[MeantOver])
def mean(request: HttpRequest, look_id: int, payload: MeantPatch) -> list[MeantOver]:
    """Says that what the look does to a clip over time is meant, or is not any more; gives all that is."""
    return rules.mean(look_id, person_of(request), payload).meant


@router.put("/looks/{int:look_id}/presence", response=presence.DraftPresence)
def announce(request: HttpRequest, look_id: int, payload: PresenceIn) -> presence.DraftPresence:
    """Says that the person is at the draft, every few seconds; answers who else is. Taking over makes it
    theirs to change."""
    return presence.announce(rules.find(look_id), person_of(request), take=payload.take)


@router.post("/looks/{int:look_id}/leave", response={204: None})
def leave(request: HttpRequest, look_id: int) -> Status[None]:
    """Says that the person has left the draft."""
    presence.leave(rules.find(look_id), person_of(request))
    return Status(204, None)


@router.delete("/looks/{int:look_id}/set-aside/{int:aside_id}", response={204: None})
def drop_aside(request: HttpRequest, look_id: int, aside_id: int) -> Status[None]:
    """Lets go of a draft that was set aside, once it is settled."""
    rules.drop_aside(rules.find(look_id), aside_id, person_of(request))
    return Status(204, None)
