"""Bakes over HTTP, and what a size of table costs in precision."""

from datetime import datetime

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field
from saucer_core.baking.deviation import Deviation, recommended
from saucer_core.look import Look as Recipe

from .. import storage
from ..fields import Text, binary
from ..people.rules import person_of
from . import baking, rules

router = Router(tags=["bakes"])


class BakeIn(Schema):
    """What to bake."""

    format: str = Field("", description="the key of a format; empty: the one that every program reads")
    grid: int = Field(33, ge=2, le=129)
    title: Text = Field("", max_length=200)
    rights: Text = Field("", max_length=300)
    note: Text = Field("", max_length=2000)


class GridOut(Schema):
    """A grid size and what it would cost in precision."""

    grid: int
    deviation: Deviation
    recommended: bool


class BakeOut(Schema):
    """A bake that was made."""

    id: int
    revision_id: int
    format: str
    grid: int
    title: str
    rights: str
    deviation: Deviation
    bytes: int
    file_name: str
    made_by: str
    made_at: datetime


def _bake_out(b: rules.Bake) -> BakeOut:
    return BakeOut(
        id=b.pk, revision_id=b.revision_id, format=b.format, grid=b.grid, title=b.title, rights=b.rights, bytes=b.bytes,
        deviation=Deviation(**b.deviation), file_name=baking.file_name(b), made_by=str(b.made_by), made_at=b.made_at,
    )  # fmt: skip


@router.post("/looks/{int:look_id}/grids", response=list[GridOut])
def grids(request: HttpRequest, look_id: int, revision: int | None = None) -> list[GridOut]:
    """The deviation of each usual grid size, for a revision or else the draft as saved."""
    found = rules.find(look_id)
    recipe = rules.recipe_of(rules.find_revision(revision)) if revision is not None else Recipe.model_validate(found.draft)
    measured = baking.compare(recipe)
    best = recommended(measured)
    return [GridOut(grid=g, deviation=d, recommended=g == best) for g, d in measured.items()]


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
