"""Bakes over HTTP: what a look can be written as, what a table costs in precision, and the files."""

from datetime import datetime
from itertools import chain
from typing import Annotated, Literal

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.utils.http import content_disposition_header
from ninja import Query, Router, Schema, Status
from pydantic import Field
from saucer_core.baking.deviation import Deviation
from saucer_core.formats.offers import FileOffer
from saucer_core.look import Look as LookValue
from saucer_core.tables.lut import GRID_LIMIT

from ..fields import Text, attached, binary, safe_name
from ..frames import rules as frames
from ..frames.rules import Frame
from ..looks import rules as looks
from ..lookup import Id
from ..openapi import BINARY, JPEG, ZIP, gives
from ..people import activity
from ..people.rules import person_of
from . import finished, rules, tables
from .names import USUAL

router = Router(tags=["bakes"])
#: As many frames as a table is measured on at once.
MOST_FRAMES = 16
Grid = Annotated[int, Field(ge=3, le=GRID_LIMIT)]
Part = Annotated[str, Field(max_length=20)]


class OrderIn(Schema):
    """Which files to make, and how."""

    kinds: list[Annotated[str, Field(max_length=20)]] = Field(max_length=20)
    grid: Grid = 33
    method: tables.Method = "sampled"
    code_range: Literal["full", "narrow"] = "full"
    title: Text = Field("", max_length=200)
    rights: Text = Field("", max_length=300)
    note: Text = Field("", max_length=2000)
    parts: list[Part] = Field(list(USUAL), max_length=10)

    def order(self) -> rules.Order:
        """For the rules."""
        return rules.Order(**{**self.model_dump(), "kinds": tuple(self.kinds), "parts": tuple(self.parts)})


class Asked(Schema):
    """A revision, or the draft as saved for none; and the frames to look at."""

    revision: Id | None = None
    frames: list[Id] = Field([], max_length=MOST_FRAMES)
    grid: Grid = 33


class ProofIn(Asked):
    """What is asked about a table."""

    method: tables.Method = "sampled"


class OfferOut(Schema):
    """A kind of file for this look: what prevents it (``why``, empty where nothing does), and what its file
    would be called."""

    offer: FileOffer
    name: str


class BakeOut(Schema):
    """A file that was made."""

    id: int
    revision_id: int
    revision_number: int
    format: str
    label: str
    grid: int
    method: str
    code_range: str
    title: str
    rights: str
    note: str
    deviation: Deviation | None
    name: str
    bytes: int
    checksum: str
    fetched: int
    made_by: str
    made_at: datetime

    @staticmethod
    def resolve_revision_number(bake: rules.Bake) -> int:
        """The revision's number."""
        return bake.revision.number

    @staticmethod
    def resolve_label(bake: rules.Bake) -> str:
        """What its kind is called."""
        return rules.FILE_KINDS[bake.format].label

    @staticmethod
    def resolve_made_by(bake: rules.Bake) -> str:
        """The person's name."""
        return str(bake.made_by)


def _recipe(look_id: int, revision: int | None) -> LookValue:
    found = looks.find(look_id)
    if revision is None:
        return LookValue.model_validate(found.draft)
    return looks.recipe_of(looks.find_revision(revision))


def _frames(request: HttpRequest, ids: list[int]) -> list[Frame]:
    return [frames.seen_by(person_of(request), frame_id) for frame_id in ids]


@router.post("/looks/{int:look_id}/offers", response=list[OfferOut])
def offers(
    request: HttpRequest, look_id: int, payload: OrderIn, revision: int | None = None
) -> list[OfferOut]:
    """What a revision, or else the draft as saved, can be written as, and what the files would be called."""
    look = looks.find(look_id)
    recipe = _recipe(look_id, revision)
    newest = looks.latest(look)
    number = (
        looks.find_revision(revision).number if revision is not None else (newest.number if newest else 0) + 1
    )
    names = rules.file_names(recipe, look.name, number, person_of(request), payload.order())
    return [OfferOut(offer=o, name=names[o.key]) for o in rules.offered(recipe)]


@router.post("/looks/{int:look_id}/proof", response=tables.Proof)
def proof(request: HttpRequest, look_id: int, payload: ProofIn) -> tables.Proof:
    """How far a table of that size and method would be from the look, over the whole cube and on frames."""
    return tables.proof(
        _recipe(look_id, payload.revision), _frames(request, payload.frames), payload.grid, payload.method
    )


@router.post("/looks/{int:look_id}/blame", response=tables.Blamed)
def blame(request: HttpRequest, look_id: int, payload: Asked) -> tables.Blamed:
    """Which steps the error of a sampled table comes from, and what easing the first would bring."""
    return tables.blamed(_recipe(look_id, payload.revision), _frames(request, payload.frames), payload.grid)


@router.get("/looks/{int:look_id}/proof/{int:frame_id}", openapi_extra=gives(JPEG))
def proof_picture(
    request: HttpRequest,
    look_id: int,
    frame_id: int,
    revision: int | None = None,
    grid: Annotated[int, Query(ge=3, le=GRID_LIMIT)] = 33,
    method: tables.Method | None = None,
    full: Annotated[float, Query(gt=0, le=100)] = 2.0,
    v: str = "",
) -> HttpResponse:
    """A frame under the look, JPEG; with a method how far its table is from the look there, white from ΔE
    ``full`` on."""
    recipe, frame = _recipe(look_id, revision), frames.seen_by(person_of(request), frame_id)
    data = (
        tables.drawn(recipe, frame)
        if method is None
        else tables.drawn_error(recipe, frame, grid, method, full)
    )
    return binary(data, "image/jpeg")


@router.post("/revisions/{int:revision_id}/bakes", response={201: list[BakeOut]})
def bake(request: HttpRequest, revision_id: int, payload: OrderIn) -> Status[list[rules.Bake]]:
    """Makes files of a revision, all or none."""
    return Status(201, rules.make(looks.find_revision(revision_id), person_of(request), payload.order()))


@router.get("/looks/{int:look_id}/bakes", response=list[BakeOut])
def bakes(request: HttpRequest, look_id: int) -> QuerySet[rules.Bake]:
    """What was baked from a look's revisions."""
    return rules.of_look(looks.find(look_id).pk)


@router.get("/finished-kinds", response=list[finished.PictureKind])
def finished_kinds(request: HttpRequest) -> list[finished.PictureKind]:
    """The kinds of file that a finished picture can be had as."""
    return list(finished.PICTURE_KINDS.values())


@router.get("/looks/{int:look_id}/finished/{int:frame_id}", openapi_extra=gives(BINARY))
def finished_picture(
    request: HttpRequest,
    look_id: int,
    frame_id: int,
    revision: int | None = None,
    kind: Annotated[str, Query(max_length=20)] = "png16",
    finish: bool = True,
) -> HttpResponse:
    """A frame at full size under a revision, or else the draft as saved, with or without its finish: a file,
    as an attachment."""
    look = looks.find(look_id)
    name, data = finished.make(
        _recipe(look_id, revision), look.name, frames.seen_by(person_of(request), frame_id), kind, finish
    )
    return attached(name, data)


@router.get("/looks/{int:look_id}/finished", openapi_extra=gives(ZIP))
def finished_package(
    request: HttpRequest,
    look_id: int,
    frame: Annotated[list[Id], Query(min_length=1, max_length=MOST_FRAMES)],
    revision: int | None = None,
    kind: Annotated[str, Query(max_length=20)] = "png16",
    finish: bool = True,
) -> StreamingHttpResponse:
    """Several frames at full size under a look as one ZIP, which is made while it is sent."""
    look = looks.find(look_id)
    chosen = _frames(request, list(dict.fromkeys(frame)))
    pieces = finished.package(_recipe(look_id, revision), look.name, chosen, kind, finish)
    # The first picture is made before the answer begins, so that what prevents it can still be said.
    first = next(pieces)
    answer = StreamingHttpResponse(chain([first], pieces), content_type="application/zip")
    answer["Content-Disposition"] = (
        content_disposition_header(True, f"{safe_name(look.name)}, finished.zip") or "attachment"
    )
    answer["Cache-Control"] = "private, no-store"
    return answer


@router.get("/bakes/{int:bake_id}/file", openapi_extra=gives(BINARY))
def bake_file(request: HttpRequest, bake_id: int) -> HttpResponse:
    """The baked file, as an attachment."""
    found, data = rules.fetch(bake_id)
    activity.fetched(request, found.name, to=f"/catalogue/look/{found.revision.look_id}")
    return attached(found.name, data)
