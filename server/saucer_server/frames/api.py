"""Frames over HTTP."""

from datetime import datetime

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field
from saucer_core.encodings import EncodingKey
from saucer_core.steps.slope_offset_power import SopRow
from saucer_core.trim import Trim

from ..fields import Parameter, Width, binary, picture
from ..openapi import BINARY, JPEG, gives
from ..people.rules import person_of
from . import rules, whites
from .models import Frame
from .payloads import FramePatch, FramesGone, FramesPatch
from .values import RawSaid, ShownPart, WhiteSaid

router = Router(tags=["frames"])


class FrameOut(Schema):
    """A frame, and the version of its pictures. clip: the clip that it stands for, and which of its frames it
    shows at rest. part: the part that small cards show. raw: of a camera raw."""

    id: int
    name: str
    light: str
    encoding: EncodingKey
    encoding_by: str
    file_name: str
    kind: str
    depth: str
    width: int
    height: int
    trim: Trim
    doubt: str
    unread: list[str]
    notes: list[str]
    part: ShownPart
    sets: list[str]
    raw: RawSaid | None
    chart: bool
    passing: bool
    clip: int | None
    number: int
    version: str
    added_by: str
    added_at: datetime

    @staticmethod
    def resolve_version(frame: rules.Frame) -> str:
        """A mark that changes with the frame's pictures."""
        return rules.version_of(frame)

    @staticmethod
    def resolve_clip(frame: rules.Frame) -> int | None:
        """None where the clip is known to be in the bin: what is left is a still."""
        known = Frame.clip.is_cached(frame)
        return None if known and frame.clip is not None and frame.clip.removed_at else frame.clip_id

    @staticmethod
    def resolve_added_by(frame: rules.Frame) -> str:
        """The person's name."""
        return str(frame.added_by)


class FrameStays(Schema):
    """A frame that was not removed, and why."""

    id: int
    why: str


class FrameAbout(Schema):
    """What is said of a new frame. encoding: nothing for what the file declares, or else what is usual for
    its kind."""

    name: str = Field("", max_length=120)
    light: str = Field("", max_length=40)
    encoding: EncodingKey | None = None
    passing: bool = False


class RowDeclared(Schema):
    """The numbers of one channel of a trim's ASC CDL."""

    slope: Parameter
    offset: Parameter
    power: Parameter


class TrimDeclared(Schema):
    """The numbers of a trim, as the core declares them."""

    exposure: Parameter
    temperature: Parameter
    tint: Parameter
    contrast: Parameter
    saturation: Parameter
    row: RowDeclared


@router.get("", response=list[FrameOut])
def frames(request: HttpRequest) -> QuerySet[rules.Frame]:
    """All frames, and those that one dropped in for now."""
    return rules.every(person_of(request))


@router.post("", response={201: FrameOut})
def add(request: HttpRequest, about: Form[FrameAbout], file: File[UploadedFile]) -> Status[rules.Frame]:
    """Takes a picture in."""
    frame = rules.take_upload(
        file,
        name=about.name.replace("\0", ""),
        light=about.light.replace("\0", ""),
        encoding_key=about.encoding or "",
        person=person_of(request),
        passing=about.passing,
    )
    return Status(201, frame)


@router.get("/trim", response=TrimDeclared)
def trim(request: HttpRequest) -> TrimDeclared:
    """The numbers of a trim, as the core declares them."""
    row = SopRow.model_json_schema()["properties"]
    return TrimDeclared.model_validate({**Trim.model_json_schema()["properties"], "row": row})


@router.patch("", response=list[FrameOut])
def put_into_sets(request: HttpRequest, payload: FramesPatch) -> list[rules.Frame]:
    """Puts many frames into a set, or takes them out of one."""
    return rules.put_into_sets(payload, person_of(request))


@router.post("/removed", response=list[FrameStays])
def remove_many(request: HttpRequest, payload: FramesGone) -> list[FrameStays]:
    """Removes many frames that nothing uses. Gives those that are still there, and why."""
    kept = rules.remove_many(payload.ids, person_of(request))
    return [FrameStays(id=key, why=why) for key, why in kept.items()]


@router.post("/{int:frame_id}/file", response=FrameOut)
def replace_file(request: HttpRequest, frame_id: int, file: File[UploadedFile]) -> rules.Frame:
    """Gives a frame a better file; what is said of it stays."""
    return rules.replace_file(frame_id, file, person_of(request))


@router.post("/{int:frame_id}/white", response=FrameOut)
def develop_again(request: HttpRequest, frame_id: int, payload: WhiteSaid) -> rules.Frame:
    """Develops a camera raw with another white balance; what is said of the frame stays."""
    return whites.develop_again(frame_id, person_of(request), payload)


@router.post("/{int:frame_id}/grey", response=FrameOut)
def develop_by_grey(request: HttpRequest, frame_id: int, payload: ShownPart) -> rules.Frame:
    """Develops a camera raw so that a place in it is grey; what is said of the frame stays."""
    return whites.develop_by_grey(frame_id, person_of(request), payload)


@router.patch("/{int:frame_id}", response=FrameOut)
def change(request: HttpRequest, frame_id: int, payload: FramePatch) -> rules.Frame:
    """Renames a frame, says its light, trims it, moves the part that is shown, or says its sets."""
    return rules.change(frame_id, person_of(request), payload)


@router.delete("/{int:frame_id}", response={204: None})
def remove(request: HttpRequest, frame_id: int) -> Status[None]:
    """Removes a frame that no project uses."""
    rules.remove(rules.seen_by(person_of(request), frame_id), person_of(request))
    return Status(204, None)


@router.get("/{int:frame_id}/still", openapi_extra=gives(JPEG))
def still(
    request: HttpRequest, frame_id: int, width: Width = 640, trimmed: bool = True, v: str = ""
) -> HttpResponse:
    """The frame without a look, JPEG. ``v``: the frame's version, so that a kept answer is never stale."""
    frame = rules.seen_by(person_of(request), frame_id)
    return picture(
        rules.still(frame, width, trimmed),
        "image/jpeg",
        v,
        rules.version_of(frame),
        own=frame.passing or bool(frame.circle_id),
    )


@router.get("/{int:frame_id}/places", openapi_extra=gives(BINARY))
def places(
    request: HttpRequest,
    frame_id: int,
    input: EncodingKey,
    width: Width = 1280,
    trimmed: bool = True,
    v: str = "",
) -> HttpResponse:
    """The frame as places in the table of a look with that input, half-float, for the viewer."""
    return binary(
        rules.table_picture(rules.seen_by(person_of(request), frame_id), input, width, trimmed),
        "application/octet-stream",
    )
