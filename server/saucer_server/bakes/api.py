"""Bakes over HTTP, and what a size of table costs in precision."""

from datetime import datetime

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field
from saucer_core.baking.deviation import Deviation, recommended
from saucer_core.look import Look as Recipe

from .. import storage
from ..fields import Text, binary
from ..looks import rules as looks
from ..people.rules import person_of
from . import rules

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

    @staticmethod
    def resolve_file_name(bake: rules.Bake) -> str:
        """What the file is called when somebody takes it away."""
        return rules.file_name(bake)

    @staticmethod
    def resolve_made_by(bake: rules.Bake) -> str:
        """The person's name."""
        return str(bake.made_by)


@router.post("/looks/{int:look_id}/grids", response=list[GridOut])
def grids(request: HttpRequest, look_id: int, revision: int | None = None) -> list[GridOut]:
    """The deviation of each usual grid size, for a revision or else the draft as saved."""
    found = looks.find(look_id)
    recipe = looks.recipe_of(looks.find_revision(revision)) if revision is not None else Recipe.model_validate(found.draft)
    measured = rules.compare(recipe)
    best = recommended(measured)
    return [GridOut(grid=g, deviation=d, recommended=g == best) for g, d in measured.items()]


@router.post("/revisions/{int:revision_id}/bakes", response={201: BakeOut})
def bake(request: HttpRequest, revision_id: int, payload: BakeIn) -> Status[rules.Bake]:
    """Bakes a revision."""
    made = rules.make(
        looks.find_revision(revision_id), person_of(request), format_key=payload.format, grid=payload.grid,
        title=payload.title, rights=payload.rights, note=payload.note,
    )  # fmt: skip
    return Status(201, made)


@router.get("/looks/{int:look_id}/bakes", response=list[BakeOut])
def bakes(request: HttpRequest, look_id: int) -> QuerySet[rules.Bake]:
    """What was baked from a look's revisions."""
    return rules.of_look(looks.find(look_id).pk)


@router.get("/bakes/{int:bake_id}/file")
def bake_file(request: HttpRequest, bake_id: int) -> HttpResponse:
    """The baked file."""
    found = rules.find(bake_id)
    answer = binary(storage.get(found.file), "application/octet-stream")
    answer["Content-Disposition"] = f'attachment; filename="{rules.file_name(found)}"'
    return answer
