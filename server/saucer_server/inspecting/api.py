"""The inspector over HTTP: what a table or look does, and taking it apart."""

from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema, Status
from pydantic import Field
from saucer_core.encodings.registry import known

from ..bench import pictures
from ..fields import Text, Width, binary
from ..frames import rules as frames
from ..jobs.api import JobOut
from ..looks.rules import Look
from ..openapi import JPEG, PNG, gives
from ..people.rules import person_of
from . import rules, subjects, unbaking
from .found import UnbakedStage, UnbakedStep
from .ordering import order
from .subjects import SubjectKind

router = Router(tags=["inspecting"])

By = Literal["red", "green", "blue", "lightness"]


class UnbakedOut(Schema):
    """What came of taking a table apart."""

    steps: list[UnbakedStep]
    stages: list[UnbakedStage]
    with_rest: UnbakedStage
    rest_behind: bool


class UnbakingOut(Schema):
    """A table that is being taken apart."""

    id: int
    name: str
    job: JobOut
    found: UnbakedOut | None


class KeepUnbaked(Schema):
    """Under which name it becomes a look, and whether the rest goes with it."""

    name: Text = Field("", max_length=120)
    rest: bool = True


class MadeOut(Schema):
    """The look that was made."""

    id: int
    name: str


def _subject(request: HttpRequest, kind: SubjectKind, key: int) -> subjects.Subject:
    return subjects.find(kind, key, person_of(request))


@router.get("/inspect/{kind}/{int:key}", response=rules.Inspection)
def inspected(request: HttpRequest, kind: SubjectKind, key: int) -> rules.Inspection:
    """What a table or look does."""
    subject = _subject(request, kind, key)
    with known(subject.encodings):
        return rules.inspected(subject)


@router.get("/inspect/{kind}/{int:key}/cloud", response=rules.CloudLists)
def cloud(
    request: HttpRequest, kind: SubjectKind, key: int, other: SubjectKind | None = None, other_key: int = 0
) -> rules.CloudLists:
    """Where it takes the colours of the screen, or where it takes what another makes of them."""
    subject = _subject(request, kind, key)
    against = _subject(request, other, other_key) if other is not None else None
    with known((*subject.encodings, *(against.encodings if against else ()))):
        return rules.cloud_of(subject, against)


@router.get("/inspect/{kind}/{int:key}/slices", response=rules.Slices)
def slices(request: HttpRequest, kind: SubjectKind, key: int, by: By = "blue") -> rules.Slices:
    """Cuts through the cube."""
    subject = _subject(request, kind, key)
    with known(subject.encodings):
        return rules.slices_of(subject, by)


@router.get("/inspect/{kind}/{int:key}/saucer", openapi_extra=gives(PNG))
def saucer(
    request: HttpRequest,
    kind: SubjectKind,
    key: int,
    size: Annotated[int, Query(ge=16, le=512)] = 112,
    v: str = "",
) -> HttpResponse:
    """Its saucer, PNG."""
    subject = _subject(request, kind, key)
    with known(subject.encodings):
        return binary(pictures.saucer(subject.recipe, size, subject.tables), "image/png", "private, no-store")


@router.get("/inspect/{kind}/{int:key}/still", openapi_extra=gives(JPEG))
def still(request: HttpRequest, kind: SubjectKind, key: int, frame: int, width: Width = 480) -> HttpResponse:
    """A frame under it, JPEG."""
    subject = _subject(request, kind, key)
    with known(subject.encodings):
        return binary(
            rules.still(subject, frames.seen_by(person_of(request), frame), width),
            "image/jpeg",
            "private, no-store",
        )


@router.get("/inspect/{kind}/{int:key}/difference", openapi_extra=gives(JPEG))
def difference(
    request: HttpRequest,
    kind: SubjectKind,
    key: int,
    frame: int,
    width: Width = 480,
    other: SubjectKind | None = None,
    other_key: int = 0,
) -> HttpResponse:
    """How far a frame under it is from the frame alone, or under another: JPEG, white from ΔE 20 on."""
    subject = _subject(request, kind, key)
    against = _subject(request, other, other_key) if other is not None else None
    with known((*subject.encodings, *(against.encodings if against else ()))):
        seen = frames.seen_by(person_of(request), frame)
        return binary(rules.difference(subject, against, seen, width), "image/jpeg", "private, no-store")


@router.post("/inspect/{kind}/{int:key}/unbake", response={201: UnbakingOut})
def unbake(request: HttpRequest, kind: SubjectKind, key: int) -> Status[unbaking.Unbaking]:
    """Asks for it to be taken apart into editable steps."""
    subject = _subject(request, kind, key)
    with known(subject.encodings):
        return Status(201, order(subject, person_of(request)))


@router.post("/inspect/{kind}/{int:key}/keep", response={201: MadeOut})
def keep_whole(request: HttpRequest, kind: SubjectKind, key: int) -> Status[Look]:
    """Makes a look of a LUT as it is."""
    return Status(201, unbaking.keep_whole(_subject(request, kind, key), person_of(request)))


@router.get("/unbakings/{int:key}", response=UnbakingOut)
def unbaking_out(request: HttpRequest, key: int) -> unbaking.Unbaking:
    """How far it is, and what came of it."""
    return unbaking.find_unbaking(key, person_of(request))


@router.get("/unbakings/{int:key}/still", openapi_extra=gives(JPEG))
def unbaked_still(
    request: HttpRequest, key: int, frame: int, rest: bool = False, width: Width = 320
) -> HttpResponse:
    """A frame under the steps that were found, JPEG."""
    row = unbaking.find_unbaking(key, person_of(request))
    return binary(unbaking.still(row, rest, frames.seen_by(person_of(request), frame), width), "image/jpeg")


@router.get("/unbakings/{int:key}/difference", openapi_extra=gives(JPEG))
def unbaked_difference(
    request: HttpRequest, key: int, frame: int, rest: bool = False, width: Width = 320
) -> HttpResponse:
    """How far a frame under the steps is from the same under the table, JPEG: white from ΔE 2 on."""
    person = person_of(request)
    row = unbaking.find_unbaking(key, person)
    return binary(
        unbaking.difference(row, person, rest, frames.seen_by(person_of(request), frame), width), "image/jpeg"
    )


@router.post("/unbakings/{int:key}/keep", response={201: MadeOut})
def keep(request: HttpRequest, key: int, payload: KeepUnbaked) -> Status[Look]:
    """Makes a look of the steps that were found."""
    person = person_of(request)
    return Status(201, unbaking.keep(unbaking.find_unbaking(key, person), person, payload.name, payload.rest))
