"""Frames over HTTP."""

from datetime import datetime
from typing import Any

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field
from saucer_core.encodings import EncodingKey
from saucer_core.trim import Trim

from ..fields import Width, binary
from ..people.rules import person_of
from ..projects.rules import projects_with
from . import rules
from .models import Frame

router = Router(tags=["frames"])


class FrameOut(Schema):
    """A frame, and the version of its pictures."""

    id: int
    name: str
    light: str
    encoding: EncodingKey
    file_name: str
    kind: str
    depth: str
    width: int
    height: int
    trim: Trim
    chart: bool
    version: str
    added_by: str
    added_at: datetime


class FrameAbout(Schema):
    """What is said of a new frame."""

    name: str = Field("", max_length=120)
    light: str = Field("", max_length=40)
    encoding: EncodingKey


class FrameChange(Schema):
    """What can be changed on a frame."""

    name: str | None = Field(None, min_length=1, max_length=120, pattern=r"^[^\x00]*$")
    light: str | None = Field(None, max_length=40, pattern=r"^[^\x00]*$")
    trim: Trim | None = None


def out(frame: Frame) -> FrameOut:
    """A frame as the interface shows it."""
    fields = {f: getattr(frame, f) for f in FrameOut.model_fields if hasattr(frame, f)}
    version = rules.address(frame)[:12]
    return FrameOut(**{**fields, "trim": rules.trim_of(frame), "version": version, "added_by": str(frame.added_by)})


@router.get("", response=list[FrameOut])
def frames(request: HttpRequest) -> list[FrameOut]:
    """All frames."""
    return [out(f) for f in Frame.objects.select_related("added_by")]


@router.post("", response={201: FrameOut})
def add(request: HttpRequest, about: Form[FrameAbout], file: File[UploadedFile]) -> Status[FrameOut]:
    """Takes a picture in."""
    frame = rules.take_upload(
        file,
        name=about.name.replace("\0", ""),
        light=about.light.replace("\0", ""),
        encoding_key=about.encoding,
        person=person_of(request),
    )
    return Status(201, out(frame))


@router.get("/trim", response=dict[str, dict[str, Any]])
def trim(request: HttpRequest) -> dict[str, Any]:
    """The numbers of a trim, as the core declares them."""
    properties: dict[str, Any] = Trim.model_json_schema()["properties"]
    return properties


@router.patch("/{int:frame_id}", response=FrameOut)
def change(request: HttpRequest, frame_id: int, payload: FrameChange) -> FrameOut:
    """Renames a frame, says its light, or trims it."""
    with transaction.atomic():
        frame = rules.find(frame_id)
        for field, value in payload.model_dump(exclude_none=True).items():
            setattr(frame, field, value)
        frame.save()
    return out(frame)


@router.delete("/{int:frame_id}", response={204: None})
def remove(request: HttpRequest, frame_id: int) -> Status[None]:
    """Removes a frame that no project uses."""
    frame = rules.find(frame_id)
    rules.remove(frame, person_of(request), projects_with(frame.pk))
    return Status(204, None)


@router.get("/{int:frame_id}/still")
def still(request: HttpRequest, frame_id: int, width: Width = 640, trimmed: bool = True, v: str = "") -> HttpResponse:
    """The frame without a look, JPEG. ``v``: the frame's version, so that a kept answer is never stale."""
    return binary(rules.still(rules.find(frame_id), width, trimmed), "image/jpeg")


@router.get("/{int:frame_id}/places")
def places(request: HttpRequest, frame_id: int, input: EncodingKey, width: Width = 1280, trimmed: bool = True, v: str = "") -> HttpResponse:
    """The frame as places in the table of a look with that input, half-float, for the viewer."""
    return binary(rules.table_picture(rules.find(frame_id), input, width, trimmed), "application/octet-stream")
