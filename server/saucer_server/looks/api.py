"""Looks over HTTP."""

from dataclasses import asdict
from datetime import datetime
from functools import cache
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import AfterValidator, Field
from saucer_core.changes import changes
from saucer_core.encodings import ENCODINGS, EncodingKey
from saucer_core.look import Look as Recipe
from saucer_core.lut.deviation import recommended
from saucer_core.steps import KINDS

from .. import storage
from ..frames.api import FOR_A_DAY, Width
from ..frames.rules import find as find_frame
from ..people.rules import may_design, must_design, person_of
from . import baking, pictures, rules, sitting
from .models import BorrowedLut, Look, Revision, SetAside

router = Router(tags=["looks"])


def _plain(text: str) -> str:
    if "\0" in text:
        raise ValueError("text without NUL characters, please")
    return text


Text = Annotated[str, AfterValidator(_plain)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
ShareAsked = Annotated[float, Query(ge=0, le=1, allow_inf_nan=False)]


class EncodingOut(Schema):
    """An encoding people can choose."""

    key: EncodingKey
    label: str
    response: str
    referred: str


class KindOut(Schema):
    """A kind of step: what it is for, and its parameters as JSON Schema with label, unit and step sizes."""

    kind: str
    title: str
    purpose: str
    summary: str
    defaults: dict[str, Any]
    parameters: dict[str, Any]


class LookIn(Schema):
    """A new look."""

    name: Text = Field(min_length=1, max_length=120)
    note: Text = Field("", max_length=4000)
    draft: Recipe = Recipe()


class LookChange(Schema):
    """What is said about a look."""

    name: Text | None = Field(None, min_length=1, max_length=120)
    note: Text | None = Field(None, max_length=4000)


class RevisionOut(Schema):
    """A revision without its steps."""

    id: int
    look_id: int
    look_name: str
    number: int
    digest: str
    note: str
    status: str
    input: EncodingKey
    output: EncodingKey
    made_by: str
    made_at: datetime


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
    """A look in a list."""

    id: int
    name: str
    maker: str
    draft_at: datetime
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


class ChangeOut(Schema):
    """One difference between two looks."""

    what: str
    step: str
    text: str


class TwoLooks(Schema):
    """Two looks to hold beside each other."""

    before: Recipe
    after: Recipe


class SittingIn(Schema):
    """Whether the person takes the draft over."""

    take: bool = False


class SittingOut(Schema):
    """Who is at a draft: whether it is mine to change, whose it is otherwise, and who else looks on."""

    mine: bool
    holder: str
    others: list[str]


class DraftIn(Schema):
    """A draft and the version it was made from."""

    version: int
    draft: Recipe


class DraftOut(Schema):
    """The version that was saved."""

    version: int
    saved_at: datetime


class KeepIn(Schema):
    """A note for a new revision."""

    note: Text = Field("", max_length=4000)


class StatusIn(Schema):
    """Where a revision is to go."""

    status: str


class BakeIn(Schema):
    """What to bake."""

    format: str = "cube"
    grid: int = Field(33, ge=2, le=129)
    title: Text = Field("", max_length=200)
    rights: Text = Field("", max_length=300)
    note: Text = Field("", max_length=2000)


class DeviationOut(Schema):
    """How far a table is from its look, in ten-bit code values and as a colour difference."""

    largest: float
    mean: float
    share_under_one: float
    metric: str
    delta_mean: float
    delta_95: float
    delta_99: float
    delta_largest: float
    worst_in: tuple[float, float, float]
    worst_look: tuple[float, float, float]
    worst_table: tuple[float, float, float]


class GridOut(Schema):
    """A grid size and what it would cost in precision."""

    grid: int
    deviation: DeviationOut
    recommended: bool


class BakeOut(Schema):
    """A bake that was made."""

    id: int
    revision_id: int
    format: str
    grid: int
    title: str
    rights: str
    deviation: DeviationOut
    bytes: int
    file_name: str
    made_by: str
    made_at: datetime


class LutAbout(Schema):
    """What is said of a LUT that comes in."""

    name: Text = Field("", max_length=200)
    expects: EncodingKey
    gives: EncodingKey
    rights: Text = Field(min_length=1, max_length=300)
    origin: Text = Field(min_length=1, max_length=300)


class LutOut(Schema):
    """A LUT of the catalogue."""

    id: int
    digest: str
    name: str
    file_name: str
    size: int
    expects: EncodingKey
    gives: EncodingKey
    rights: str
    origin: str
    added_by: str


def revision_out(r: Revision) -> RevisionOut:
    """A revision as the interface shows it."""
    return RevisionOut(
        id=r.pk, look_id=r.look_id, look_name=r.look.name, number=r.number, digest=r.digest, note=r.note, status=r.status,
        input=r.recipe["input"], output=r.recipe["output"], made_by=str(r.made_by), made_at=r.made_at,
    )  # fmt: skip


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


def _bake_out(b: rules.Bake) -> BakeOut:
    return BakeOut(
        id=b.pk, revision_id=b.revision_id, format=b.format, grid=b.grid, title=b.title, rights=b.rights, bytes=b.bytes,
        deviation=DeviationOut(**b.deviation), file_name=baking.file_name(b), made_by=str(b.made_by), made_at=b.made_at,
    )  # fmt: skip


def _lut_out(lut: BorrowedLut) -> LutOut:
    fields = {f: getattr(lut, f) for f in LutOut.model_fields}
    return LutOut(**{**fields, "added_by": str(lut.added_by)})


def binary(data: bytes, kind: str, cache: str = FOR_A_DAY) -> HttpResponse:
    """An answer of bytes, kept by the browser as ``cache`` says."""
    answer = HttpResponse(data, content_type=kind)
    answer["Cache-Control"] = cache
    return answer


@router.get("/encodings", response=list[EncodingOut])
def encodings(request: HttpRequest) -> list[EncodingOut]:
    """The encodings Saucer knows."""
    return [EncodingOut(key=e.key, label=e.label, response=e.response, referred=e.referred) for e in ENCODINGS.values()]


@cache
def _kinds() -> list[KindOut]:
    return [
        KindOut(
            kind=k.model_fields["kind"].default, title=k.title, purpose=k.purpose, summary=k.summary,
            defaults=k(id="new", **k.begins).model_dump(mode="json", exclude={"id"}), parameters=k.declared(),
        )
        for k in KINDS
    ]  # fmt: skip


@router.get("/steps", response=list[KindOut])
def steps(request: HttpRequest) -> list[KindOut]:
    """The kinds of step, for the menu and the editors."""
    return _kinds()


@router.get("/looks", response=list[LookLine])
def unkept(request: HttpRequest) -> list[LookLine]:
    """Looks that have no revision yet, the newest first: the catalogue does not show them."""
    drafts = Look.objects.filter(revisions__isnull=True).select_related("maker", "parent").order_by("-draft_at")[:60]
    return [
        LookLine(id=x.pk, name=x.name, maker=str(x.maker), draft_at=x.draft_at, parent=_kin(x.parent) if x.parent else None) for x in drafts
    ]


@router.post("/looks", response={201: LookOut})
def create(request: HttpRequest, payload: LookIn) -> Status[LookOut]:
    """Starts a look."""
    return Status(201, _look_out(rules.create(person_of(request), payload.name, payload.draft, payload.note), request))


@router.get("/looks/{int:look_id}", response=LookOut)
def look(request: HttpRequest, look_id: int) -> LookOut:
    """A look with its draft, its revisions, and what was set aside for the person who asks."""
    return _look_out(rules.find(look_id), request)


@router.patch("/looks/{int:look_id}", response=LookOut)
def change(request: HttpRequest, look_id: int, payload: LookChange) -> LookOut:
    """Renames a look or changes its note."""
    must_design(person_of(request))
    found = rules.find(look_id)
    fields = payload.model_dump(exclude_none=True)
    for field, value in fields.items():
        setattr(found, field, value)
    found.save(update_fields=list(fields))
    return _look_out(found, request)


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


@router.post("/changes", response=list[ChangeOut])
def what_changed(request: HttpRequest, payload: TwoLooks) -> list[dict[str, str]]:
    """What differs between two looks, in words."""
    return [asdict(c) for c in changes(payload.before, payload.after)]


@router.post("/whole", response=Recipe)
def whole(request: HttpRequest, payload: Recipe) -> Recipe:
    """The look with every parameter filled in; refused where it is none. Nothing is kept."""
    return payload


@router.put("/looks/{int:look_id}/sitting", response=SittingOut)
def sit(request: HttpRequest, look_id: int, payload: SittingIn) -> SittingOut:
    """Says that the person is at the draft, every few seconds; answers who else is. Taking over makes it theirs to change."""
    return SittingOut(**asdict(sitting.sit(rules.find(look_id), person_of(request), take=payload.take)))


@router.post("/looks/{int:look_id}/leave", response={204: None})
def leave(request: HttpRequest, look_id: int) -> Status[None]:
    """Says that the person has left the draft."""
    sitting.leave(rules.find(look_id), person_of(request))
    return Status(204, None)


@router.delete("/looks/{int:look_id}/set-aside/{int:aside_id}", response={204: None})
def drop_aside(request: HttpRequest, look_id: int, aside_id: int) -> Status[None]:
    """Lets go of a draft that was set aside, once it is settled."""
    if max(look_id, aside_id) < 2**63:
        SetAside.objects.filter(pk=aside_id, look_id=look_id, kept_by=person_of(request)).delete()
    return Status(204, None)


@router.post("/looks/{int:look_id}/revisions", response={201: RevisionOut})
def keep(request: HttpRequest, look_id: int, payload: KeepIn) -> Status[RevisionOut]:
    """Keeps the draft as a revision."""
    return Status(201, revision_out(rules.keep_revision(rules.find(look_id), person_of(request), payload.note)))


@router.get("/revisions/{int:revision_id}", response=RevisionOut)
def revision(request: HttpRequest, revision_id: int) -> RevisionOut:
    """A revision without its steps."""
    return revision_out(rules.find_revision(revision_id))


@router.get("/revisions/{int:revision_id}/recipe", response=Recipe)
def revision_recipe(request: HttpRequest, revision_id: int) -> Recipe:
    """The steps of a revision."""
    return rules.recipe_of(rules.find_revision(revision_id))


@router.put("/revisions/{int:revision_id}/status", response=RevisionOut)
def status(request: HttpRequest, revision_id: int, payload: StatusIn) -> RevisionOut:
    """Moves a revision on: in review, approved, retired."""
    rules.set_status(rules.find_revision(revision_id), person_of(request), payload.status)
    return revision_out(rules.find_revision(revision_id))


@router.get("/unlooked")
def unlooked(request: HttpRequest, input: EncodingKey) -> HttpResponse:
    """The table that shows a picture of that encoding without a look."""
    return binary(pictures.unlooked(input), "application/octet-stream")


@router.get("/revisions/{int:revision_id}/still")
def still(request: HttpRequest, revision_id: int, frame: int, width: Width = 480, strength: ShareAsked = 1.0, v: str = "") -> HttpResponse:
    """A frame under a revision, JPEG for the screen."""
    found = rules.find_revision(revision_id)
    data = pictures.still(rules.recipe_of(found), found.digest, find_frame(frame), width, strength=strength)
    return binary(data, "image/jpeg")


@router.get("/revisions/{int:revision_id}/saucer")
def revision_saucer(request: HttpRequest, revision_id: int, size: Annotated[int, Query(ge=16, le=512)] = 160) -> HttpResponse:
    """The saucer of a revision, PNG."""
    return binary(pictures.saucer(rules.recipe_of(rules.find_revision(revision_id)), size), "image/png")


@router.get("/saucer/neutral", auth=None)
def neutral_saucer(request: HttpRequest, size: Annotated[int, Query(ge=16, le=512)] = 160) -> HttpResponse:
    """The saucer of no look at all: hues and greys as they are."""
    return binary(pictures.saucer(None, size), "image/png")


@router.post("/saucer")
def draft_saucer(request: HttpRequest, payload: Recipe) -> HttpResponse:
    """The saucer of a draft, PNG."""
    return binary(pictures.saucer(payload, 96), "image/png", "no-store")


@router.post("/looks/{int:look_id}/grids", response=list[GridOut])
def grids(request: HttpRequest, look_id: int, revision: int | None = None) -> list[GridOut]:
    """The deviation of each usual grid size, for a revision or else the draft as saved."""
    found = rules.find(look_id)
    recipe = rules.recipe_of(rules.find_revision(revision)) if revision is not None else Recipe.model_validate(found.draft)
    measured = baking.compare(recipe)
    best = recommended(measured)
    return [GridOut(grid=g, deviation=DeviationOut(**d.as_dict()), recommended=g == best) for g, d in measured.items()]


@router.post("/revisions/{int:revision_id}/bakes", response={201: BakeOut})
def bake(request: HttpRequest, revision_id: int, payload: BakeIn) -> Status[BakeOut]:
    """Bakes a revision."""
    made = baking.make(
        rules.find_revision(revision_id), person_of(request), format_key=payload.format, grid=payload.grid,
        title=payload.title, rights=payload.rights, note=payload.note,
    )  # fmt: skip
    return Status(201, _bake_out(made))


@router.get("/looks/{int:look_id}/bakes", response=list[BakeOut])
def bakes(request: HttpRequest, look_id: int) -> list[BakeOut]:
    """What was baked from a look's revisions."""
    found = rules.find(look_id)
    return [_bake_out(b) for b in rules.Bake.objects.filter(revision__look=found).select_related("revision__look", "made_by")]


@router.get("/bakes/{int:bake_id}/file")
def bake_file(request: HttpRequest, bake_id: int) -> HttpResponse:
    """The baked file."""
    found = rules.find_bake(bake_id)
    answer = binary(storage.get(found.file), "application/octet-stream")
    answer["Content-Disposition"] = f'attachment; filename="{baking.file_name(found)}"'
    return answer


@router.get("/luts", response=list[LutOut])
def luts(request: HttpRequest) -> list[LutOut]:
    """The LUTs that steps can borrow."""
    return [_lut_out(x) for x in BorrowedLut.objects.select_related("added_by")]


@router.post("/luts", response={201: LutOut})
def add_lut(request: HttpRequest, about: Form[LutAbout], file: File[UploadedFile]) -> Status[LutOut]:
    """Takes a LUT file in."""
    return Status(201, _lut_out(rules.add_lut(file, person_of(request), **about.model_dump())))


@router.delete("/luts/{int:lut_id}", response={204: None})
def remove_lut(request: HttpRequest, lut_id: int) -> Status[None]:
    """Takes a LUT out of the catalogue."""
    rules.remove_lut(rules.find_lut(lut_id), person_of(request))
    return Status(204, None)
