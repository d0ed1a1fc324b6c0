"""Intakes over HTTP: files are sent, looked through, and kept as frames."""

from datetime import datetime
from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field
from saucer_core.encodings import EncodingKey
from saucer_core.readings.guess import SURE

from ..fields import FilesIn, Width, binary
from ..frames.api import FrameOut
from ..frames.rules import Frame
from ..frames.values import SETS, RawSaid, SetName, ShownPart
from ..jobs.api import JobOut
from ..lookup import Id
from ..openapi import JPEG, gives
from ..people.rules import person_of
from . import drawing, greying, rules
from .rules import Intake, IntakeFile
from .values import Guessed, Said, SameFile

router = Router(tags=["intakes"])

#: Files that one request may bring.
BATCH = 20
Ids = Annotated[list[Id], Field(min_length=1, max_length=rules.FILES)]


class IntakeFor(Schema):
    """A project whose shots the files of an intake become."""

    id: int
    name: str


class IntakeLine(Schema):
    """An intake that is open. project: whose shots its files become; none where they become frames."""

    id: int
    begun_at: datetime
    count: int
    project: IntakeFor | None


class IntakeFileOut(Schema):
    """A file of an intake. Without what it was found to be until it was read.

    encoding: what it is taken to be in; unsure: nobody has said so, and a person should look. picture: the
    version of its picture, empty where there is none. parts, layer: of an EXR file that holds several, and
    which of them is read, from 0.
    """

    id: int
    folder: str
    name: str
    bytes: int
    stage: rules.Stage
    reason: str
    chosen: bool
    twin: SameFile | None
    said_name: str
    light: str
    encoding: EncodingKey | None
    unsure: bool
    guess: Guessed | None
    kind: str
    depth: str
    width: int
    height: int
    notes: list[str]
    parts: list[str]
    layer: int
    unread: list[str]
    doubt: str
    part: ShownPart
    part_by: Literal["skin", "detail", "hand", ""]
    raw: RawSaid | None
    picture: str


class IntakeOut(Schema):
    """An intake with its files. project: whose shots they become; none where they become frames."""

    id: int
    begun_at: datetime
    project: IntakeFor | None
    sets: list[str]
    job: JobOut | None
    files: list[IntakeFileOut]


class IntakeFilesSaid(Said):
    """What is said of files; what is left out stays as it is."""

    ids: Ids
    chosen: bool | None = None


class IntakeSaid(Schema):
    """What is said of all files: the sets that they are put into."""

    sets: list[SetName] = Field(max_length=SETS)


def _file(file: IntakeFile) -> IntakeFileOut:
    known, said = file.known, file.said
    key = drawing.encoding_of(file)
    return IntakeFileOut(
        id=file.pk,
        folder=file.folder,
        name=file.name,
        bytes=file.bytes,
        stage=rules.Stage(file.stage),
        reason=file.reason,
        chosen=file.chosen,
        twin=file.twin,
        said_name=said.name or "",
        light=said.light or "",
        encoding=key or None,
        unsure=said.encoding is None and file.guess is not None and file.guess.sure < SURE,
        guess=file.guess,
        kind=known.kind if known else "",
        depth=known.depth if known else "",
        width=known.width if known else 0,
        height=known.height if known else 0,
        notes=known.notes if known else [],
        parts=known.parts if known else [],
        layer=said.layer or 0,
        unread=known.unread if known else [],
        doubt=known.doubt if known else "",
        part=said.part or (known.part if known else ShownPart()),
        part_by="hand" if said.part else known.part_by if known else "",
        raw=known.raw if known else None,
        picture=f"{known.digest[:12]}-{key}" if known and file.stage == rules.Stage.READ else "",
    )


def _whole(intake: Intake) -> IntakeOut:
    return IntakeOut(
        id=intake.pk,
        begun_at=intake.begun_at,
        project=IntakeFor.from_orm(intake.project) if intake.project else None,
        sets=intake.sets,
        job=JobOut.from_orm(intake.job) if intake.job else None,
        files=[_file(file) for file in rules.files_of(intake)],
    )


@router.get("", response=list[IntakeLine])
def intakes(request: HttpRequest) -> list[Intake]:
    """One's own intakes that are open, the newest first."""
    return list(rules.every(person_of(request)))


@router.post("", response={201: IntakeOut})
def begin(request: HttpRequest) -> Status[IntakeOut]:
    """Begins an intake."""
    return Status(201, _whole(rules.begin(person_of(request))))


@router.get("/{int:intake_id}", response=IntakeOut)
def intake(request: HttpRequest, intake_id: int) -> IntakeOut:
    """An intake with its files."""
    return _whole(rules.find(intake_id, person_of(request)))


@router.post("/{int:intake_id}/files", response={204: None})
def add_files(
    request: HttpRequest, intake_id: int, about: Form[FilesIn], files: File[list[UploadedFile]]
) -> Status[None]:
    """Puts files into an intake, and has them read."""
    found = rules.find(intake_id, person_of(request))
    paths = about.places(len(files), BATCH)
    try:
        for place, upload in enumerate(files):
            rules.add_file(found, paths[place], upload)
    finally:
        rules.order(found)
    return Status(204, None)


@router.post("/{int:intake_id}/read", response=IntakeOut)
def read(request: HttpRequest, intake_id: int) -> IntakeOut:
    """Goes on reading, where it was stopped."""
    person = person_of(request)
    rules.order(rules.find(intake_id, person))
    return _whole(rules.find(intake_id, person))


@router.patch("/{int:intake_id}", response=IntakeOut)
def say_of_all(request: HttpRequest, intake_id: int, payload: IntakeSaid) -> IntakeOut:
    """Says something of all files."""
    return _whole(rules.say_of_all(rules.find(intake_id, person_of(request)), payload.sets))


@router.patch("/{int:intake_id}/files", response=list[IntakeFileOut])
def say(request: HttpRequest, intake_id: int, payload: IntakeFilesSaid) -> list[IntakeFileOut]:
    """Says something of files, chooses them or leaves them out. Gives those that were changed."""
    found = rules.find(intake_id, person_of(request))
    said = Said.model_validate(payload.model_dump(exclude={"ids", "chosen"}))
    return [_file(file) for file in rules.say(found, payload.ids, said, payload.chosen)]


@router.post("/{int:intake_id}/files/{int:file_id}/grey", response=IntakeFileOut)
def grey(request: HttpRequest, intake_id: int, file_id: int, payload: ShownPart) -> IntakeFileOut:
    """Develops a camera raw so that a place in it is grey."""
    found = rules.find(intake_id, person_of(request))
    return _file(greying.balance_by(found, rules.find_file(found, file_id), payload))


@router.post("/{int:intake_id}/keep", response=list[FrameOut])
def keep(request: HttpRequest, intake_id: int) -> list[Frame]:
    """Makes frames of all files that are chosen; the others are let go."""
    return rules.keep(rules.find(intake_id, person_of(request)))


@router.delete("/{int:intake_id}", response={204: None})
def drop(request: HttpRequest, intake_id: int) -> Status[None]:
    """Lets go of an intake."""
    rules.drop(rules.find(intake_id, person_of(request)))
    return Status(204, None)


@router.get("/{int:intake_id}/files/{int:file_id}/picture", openapi_extra=gives(JPEG))
def picture(
    request: HttpRequest, intake_id: int, file_id: int, width: Width = 480, v: str = ""
) -> HttpResponse:
    """The picture of a file, JPEG for the screen. ``v``: its version: a kept answer is never stale."""
    file = rules.find_file(rules.find(intake_id, person_of(request)), file_id)
    return binary(drawing.picture(file, width), "image/jpeg")
