"""Carriers and pairs over HTTP: taken away, brought back, kept as a look."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field
from saucer_core.encodings import EncodingKey

from ..fields import Text, attached
from ..frames import rules as frames
from ..lookup import Id
from ..openapi import BINARY, gives
from ..people.rules import must, person_of
from . import pairs, rules

router = Router(tags=["carrying"])


class ReadIn(Schema):
    """What a carrier that came back went through: the encodings it was given and gives, and a frame to show
    its look on."""

    expects: EncodingKey
    gives: EncodingKey
    frame: Id | None = None


class KeepCarriedIn(Schema):
    """What is said of a carrier that becomes a look."""

    take: rules.Take
    name: Text = Field("", max_length=120)
    expects: EncodingKey
    gives: EncodingKey
    rights: Text = Field(min_length=1, max_length=300)
    origin: Text = Field(min_length=1, max_length=200)


class KeepPairIn(Schema):
    """What is said of a pair that becomes a look."""

    name: Text = Field("", max_length=120)
    expects: EncodingKey
    gives: EncodingKey
    rights: Text = Field(min_length=1, max_length=300)
    origin: Text = Field(min_length=1, max_length=200)


class KeptOut(Schema):
    """The look that was made."""

    id: int
    name: str


@router.get("/kinds", response=list[rules.CarrierKind])
def kinds(request: HttpRequest) -> list[rules.CarrierKind]:
    """The layouts of carriers, with their sizes."""
    return rules.CARRIER_KINDS


@router.get("/file", openapi_extra=gives(BINARY))
def carrier_file(
    request: HttpRequest,
    layout: Annotated[str, Query(max_length=10)],
    size: Annotated[int, Query(ge=2, le=129)],
    encoding: EncodingKey,
    file: Annotated[str, Query(max_length=10)] = "png16",
    frame: int | None = None,
) -> HttpResponse:
    """A carrier, with a frame beside it if wanted, as an attachment."""
    shown = frames.seen_by(person_of(request), frame) if frame is not None else None
    return attached(*rules.make(layout, size, file, encoding, shown))


@router.post("/read", response=rules.Brought)
def read(request: HttpRequest, about: Form[ReadIn], file: File[UploadedFile]) -> rules.Brought:
    """What a carrier that came back holds, measured. Nothing is kept."""
    must(person_of(request), "look.make")
    shown = frames.seen_by(person_of(request), about.frame) if about.frame is not None else None
    return rules.bring_back(file, shown, about.expects, about.gives)


@router.post("/keep", response={201: KeptOut})
def keep(request: HttpRequest, about: Form[KeepCarriedIn], file: File[UploadedFile]) -> Status[rules.Look]:
    """Makes a look of a carrier that came back."""
    return Status(201, rules.keep(file, person_of(request), **about.model_dump()))


@router.post("/pair", response=pairs.Compared)
def read_pair(
    request: HttpRequest, about: Form[ReadIn], before: File[UploadedFile], after: File[UploadedFile]
) -> pairs.Compared:
    """What a picture and the same one treated hold, measured. Nothing is kept."""
    must(person_of(request), "look.make")
    shown = frames.seen_by(person_of(request), about.frame) if about.frame is not None else None
    return pairs.compare(before, after, shown, about.expects, about.gives)


@router.post("/pair/keep", response={201: KeptOut})
def keep_pair(
    request: HttpRequest, about: Form[KeepPairIn], before: File[UploadedFile], after: File[UploadedFile]
) -> Status[rules.Look]:
    """Makes a look of a pair."""
    return Status(201, pairs.keep(before, after, person_of(request), **about.model_dump()))
