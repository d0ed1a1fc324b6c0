"""Packs over HTTP: put together, read, judged, kept."""

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field, model_validator
from saucer_core.encodings import EncodingKey
from saucer_core.encodings.registry import known as with_encodings

from ..bench import pictures
from ..fields import FilesIn, Text, Width, binary
from ..frames import rules as frames
from ..jobs.api import JobOut
from ..lookup import Id
from ..openapi import JPEG, PNG, gives
from ..people.rules import person_of
from . import deciding, rules
from .payloads import Collections, PackPatch
from .reading import drawn
from .values import ItemGuess, Twin

router = Router(tags=["packs"])

#: Files that one request may bring.
BATCH = 50
Ids = Annotated[list[Id], Field(min_length=1, max_length=10_000)]
Name = Annotated[Text, Field(max_length=80)]


class PackIn(Schema):
    """A pack that begins."""

    name: Text = Field("", max_length=200)


class ReadPackIn(Schema):
    """The frame that looks are drawn on ahead."""

    frame: Id | None = None


class ItemsSaid(Schema):
    """What is said of looks of a pack. A name is one look's."""

    ids: Ids
    chosen: bool | None = None
    expects: EncodingKey | None = None
    gives: EncodingKey | None = None
    name: Text | None = Field(None, min_length=1, max_length=120)

    @model_validator(mode="after")
    def _one_name(self) -> "ItemsSaid":
        if self.name is not None and len(self.ids) > 1:
            raise ValueError("a name is one look's")
        return self


class PackItemOut(Schema):
    """A look that a pack brings, or a file of it that cannot be read."""

    id: int
    folder: str
    file_name: str
    kind: str
    form: str
    name: str
    expects: str
    gives: str
    guess: ItemGuess | None
    far: float
    findings: list[str]
    serious: bool
    words: list[str]
    reason: str
    twin: Twin | None
    chosen: bool
    kept: bool
    look_id: int | None


class PackLine(Schema):
    """A pack that waits for a decision."""

    id: int
    name: str
    stage: str
    brought_at: datetime
    count: int


class PackOut(Schema):
    """A pack with all that it brings."""

    id: int
    name: str
    stage: str
    brought_by: str
    origin: str
    rights: str
    licence: str
    licence_file: str
    tags: list[str]
    collections: Collections
    review: bool
    files: int
    bytes: int
    job: JobOut | None
    items: list[PackItemOut]

    @staticmethod
    def resolve_brought_by(pack: rules.Pack) -> str:
        """The person's name."""
        return str(pack.brought_by)

    @staticmethod
    def resolve_files(pack: rules.Pack) -> int:
        """How many were sent."""
        return pack.files.count()

    @staticmethod
    def resolve_bytes(pack: rules.Pack) -> int:
        """How many they have together."""
        return sum(pack.files.values_list("size", flat=True))

    @staticmethod
    def resolve_items(pack: rules.Pack) -> list[rules.PackItem]:
        """By folder."""
        return list(rules.items_of(pack))


@router.get("", response=list[PackLine])
def waiting(request: HttpRequest) -> list[rules.Pack]:
    """The person's packs that wait for a decision."""
    return list(rules.waiting(person_of(request)))


@router.post("", response={201: PackOut})
def begin(request: HttpRequest, payload: PackIn) -> Status[rules.Pack]:
    """Begins a pack."""
    return Status(201, rules.begin(person_of(request), payload.name))


@router.get("/{int:pack_id}", response=PackOut)
def pack(request: HttpRequest, pack_id: int) -> rules.Pack:
    """A pack with all that it brings."""
    return rules.find(pack_id, person_of(request))


@router.post("/{int:pack_id}/files", response={204: None})
def add_files(
    request: HttpRequest, pack_id: int, about: Form[FilesIn], files: File[list[UploadedFile]]
) -> Status[None]:
    """Puts files into a pack."""
    found = rules.find(pack_id, person_of(request))
    paths = about.places(len(files), BATCH)
    for place, upload in enumerate(files):
        rules.add_file(found, paths[place], upload)
    return Status(204, None)


@router.post("/{int:pack_id}/read", response=PackOut)
def read(request: HttpRequest, pack_id: int, payload: ReadPackIn) -> rules.Pack:
    """Has the files of a pack read. Nothing is kept."""
    person = person_of(request)
    frame = frames.seen_by(person_of(request), payload.frame) if payload.frame is not None else None
    return deciding.order(rules.find(pack_id, person), person, rules.Stage.READING, frame)


@router.patch("/{int:pack_id}", response=PackOut)
def say(request: HttpRequest, pack_id: int, payload: PackPatch) -> rules.Pack:
    """Says something of the whole pack."""
    return rules.say(rules.find(pack_id, person_of(request)), payload)


@router.patch("/{int:pack_id}/items", response=list[PackItemOut])
def change_items(request: HttpRequest, pack_id: int, payload: ItemsSaid) -> list[rules.PackItem]:
    """Chooses looks of a pack, leaves them out, or corrects what is said of them. Gives those that were
    changed."""
    fields = payload.model_dump(exclude={"ids"})
    return deciding.change_items(
        rules.find(pack_id, person_of(request)), payload.ids, deciding.Said(**fields)
    )


@router.post("/{int:pack_id}/keep", response=PackOut)
def keep(request: HttpRequest, pack_id: int) -> rules.Pack:
    """Has what is chosen of a pack kept."""
    person = person_of(request)
    return deciding.order(rules.find(pack_id, person), person, rules.Stage.KEEPING)


@router.delete("/{int:pack_id}", response={204: None})
def drop(request: HttpRequest, pack_id: int) -> Status[None]:
    """Lets go of a pack."""
    person = person_of(request)
    rules.drop(rules.find(pack_id, person), person)
    return Status(204, None)


@router.get("/items/{int:item_id}/still", openapi_extra=gives(JPEG))
def still(request: HttpRequest, item_id: int, frame: int, width: Width = 320, v: str = "") -> HttpResponse:
    """A frame under a look of a pack, JPEG. ``v``: its encodings, so that a kept answer is never stale."""
    look, tables, cameras = drawn(rules.find_item(item_id, person_of(request)))
    with with_encodings(cameras):
        return binary(
            pictures.still(
                look, look.digest(), frames.seen_by(person_of(request), frame), width, tables=tables
            ),
            "image/jpeg",
        )


@router.get("/items/{int:item_id}/saucer", openapi_extra=gives(PNG))
def saucer(request: HttpRequest, item_id: int, size: Width = 112, v: str = "") -> HttpResponse:
    """The saucer of a look of a pack, PNG."""
    look, tables, cameras = drawn(rules.find_item(item_id, person_of(request)))
    with with_encodings(cameras):
        return binary(pictures.saucer(look, min(size, 512), tables), "image/png")
