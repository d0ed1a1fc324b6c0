"""Clips over HTTP."""

from datetime import datetime
from typing import Annotated

from django.db.models import QuerySet
from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field
from saucer_core.encodings import EncodingKey
from saucer_core.formats.proxies import ProxyIndex
from saucer_core.formats.sequences import Rate

from ..fields import Text, Width, binary
from ..frames import rules as frames
from ..frames.api import FrameOut
from ..jobs.api import JobOut
from ..openapi import JPEG, MP4, gives
from ..people.rules import person_of
from . import moments, proxying, rules
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
    interlaced: bool
    doubts: list[str]


class ClipOut(Schema):
    """A clip; without facts and cuts until it was looked through. deinterlaced: whether the fields of its
    frames are made whole frames. plays: it has a proxy; proxy_job: the work on it."""

    id: int
    name: str
    file_name: str
    bytes: int
    encoding: str
    deinterlaced: bool
    facts: FactsOut | None
    cuts: list[int]
    job: JobOut
    plays: bool
    proxy_job: JobOut | None
    added_by: str
    added_at: datetime

    @staticmethod
    def resolve_plays(clip: Clip) -> bool:
        """Whether its proxy is there."""
        return bool(clip.proxy)

    @staticmethod
    def resolve_added_by(clip: Clip) -> str:
        """The person's name."""
        return str(clip.added_by)


class ClipAbout(Schema):
    """What is said of a new clip. encoding: nothing for what the file declares, or else what is usual. rate:
    frames a second, for a numbered sequence; nothing for the usual ones."""

    name: Text = Field("", max_length=120)
    light: Text = Field("", max_length=40)
    encoding: EncodingKey | None = None
    rate: Rate | None = None


class MomentIn(Schema):
    """A frame of the clip that a frame stands for."""

    frame: int
    number: FrameNumber


class ClipSaid(Schema):
    """What is said of a clip: cuts are the first frames of its shots."""

    name: Text | None = Field(None, max_length=120)
    encoding: EncodingKey | None = None
    cuts: list[FrameNumber] | None = Field(None, max_length=2000)
    deinterlaced: bool | None = None


@router.get("", response=list[ClipOut])
def clips(request: HttpRequest) -> QuerySet[Clip]:
    """All clips, the newest first."""
    return rules.every()[:200]


@router.post("", response={201: ClipOut})
def add(request: HttpRequest, about: Form[ClipAbout], file: File[UploadedFile]) -> Status[Clip]:
    """Takes a clip in. A frame stands for it among the frames as soon as it was looked through."""
    made = rules.take_upload(
        file,
        person_of(request),
        about.encoding or "",
        name=about.name,
        light=about.light,
        among_frames=True,
        rate=about.rate or "",
    )
    return Status(201, made)


@router.post("/{int:clip_id}/frame", response={201: FrameOut})
def stand(request: HttpRequest, clip_id: int) -> Status[frames.Frame]:
    """Puts the clip among the frames, where it is not yet."""
    return Status(201, moments.stand(rules.find(clip_id), person_of(request)))


@router.post("/held", response={201: FrameOut})
def hold(request: HttpRequest, payload: MomentIn) -> Status[frames.Frame]:
    """Keeps a frame of a clip as a still among the frames."""
    person = person_of(request)
    return Status(201, moments.hold(frames.seen_by(person, payload.frame), payload.number, person))


@router.get("/{int:clip_id}", response=ClipOut)
def clip(request: HttpRequest, clip_id: int) -> Clip:
    """A clip."""
    return rules.find(clip_id)


@router.patch("/{int:clip_id}", response=ClipOut)
def change(request: HttpRequest, clip_id: int, payload: ClipSaid) -> Clip:
    """Renames a clip, says how it is encoded and whether it is deinterlaced, or corrects where it is cut."""
    person = person_of(request)
    rules.change(
        clip_id,
        person,
        cuts=payload.cuts,
        encoding_key=payload.encoding or "",
        name=payload.name or "",
        deinterlaced=payload.deinterlaced,
    )
    if payload.deinterlaced is not None:
        proxying.order(rules.find(clip_id), person)
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


@router.post("/{int:clip_id}/proxy", response={201: ClipOut})
def order_proxy(request: HttpRequest, clip_id: int) -> Status[Clip]:
    """Asks for the clip's proxy, where it has none and none is being made."""
    proxying.order(rules.find(clip_id), person_of(request))
    return Status(201, rules.find(clip_id))


@router.get("/{int:clip_id}/proxy", response=ProxyIndex)
def proxy(request: HttpRequest, clip_id: int) -> ProxyIndex:
    """Where the frames of the clip's proxy lie in its file, and when each is shown."""
    return proxying.index_of(clip_id)


@router.get("/{int:clip_id}/proxy/file", openapi_extra=gives(MP4))
def proxy_file(request: HttpRequest, clip_id: int) -> HttpResponse | FileResponse:
    """The proxy, MP4, or the range of it that is asked for."""
    return proxying.file_of(request, clip_id)
