"""Clips over HTTP."""

from datetime import datetime
from typing import Annotated

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field
from saucer_core.encodings import EncodingKey

from ..fields import Text, Width, binary
from ..jobs.api import JobOut
from ..openapi import JPEG, gives
from ..people.rules import person_of
from . import rules
from .rules import Clip

router = Router(tags=["clips"])

FrameNumber = Annotated[int, Field(ge=0, le=1_000_000)]


class FactsOut(Schema):
    """What a clip is. doubts: what is not as it should be, in words."""

    width: int
    height: int
    rate: str
    frames: int
    seconds: float
    codec: str
    pixels: str
    depth: int
    timecode: str
    sound: str
    doubts: list[str]


class ClipOut(Schema):
    """A clip; without facts and cuts until it was looked through."""

    id: int
    name: str
    file_name: str
    bytes: int
    encoding: str
    facts: FactsOut | None
    cuts: list[int]
    job: JobOut
    added_by: str
    added_at: datetime

    @staticmethod
    def resolve_added_by(clip: Clip) -> str:
        """The person's name."""
        return str(clip.added_by)


class ClipSaid(Schema):
    """What is said of a clip: cuts are the first frames of its shots."""

    name: Text | None = Field(None, max_length=120)
    encoding: EncodingKey | None = None
    cuts: list[FrameNumber] | None = Field(None, max_length=2000)


@router.get("", response=list[ClipOut])
def clips(request: HttpRequest) -> QuerySet[Clip]:
    """All clips, the newest first."""
    return rules.every()[:200]


@router.get("/{int:clip_id}", response=ClipOut)
def clip(request: HttpRequest, clip_id: int) -> Clip:
    """A clip."""
    return rules.find(clip_id)


@router.patch("/{int:clip_id}", response=ClipOut)
def change(request: HttpRequest, clip_id: int, payload: ClipSaid) -> Clip:
    """Renames a clip, says how it is encoded, or corrects where it is cut."""
    rules.change(
        clip_id,
        person_of(request),
        cuts=payload.cuts,
        encoding_key=payload.encoding or "",
        name=payload.name or "",
    )
    return rules.find(clip_id)


@router.delete("/{int:clip_id}", response={204: None})
def remove(request: HttpRequest, clip_id: int) -> Status[None]:
    """Removes a clip that no shot is cut from."""
    rules.remove(rules.find(clip_id), person_of(request))
    return Status(204, None)


@router.get("/{int:clip_id}/still", openapi_extra=gives(JPEG))
def still(
    request: HttpRequest, clip_id: int, frame: FrameNumber = 0, width: Width = 160, v: str = ""
) -> HttpResponse:
    """A frame of the clip, JPEG for the screen. ``v``: the clip's encoding, so that a kept answer is never
    stale."""
    return binary(rules.still(rules.whole(clip_id), frame, width), "image/jpeg")
