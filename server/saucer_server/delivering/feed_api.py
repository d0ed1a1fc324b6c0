"""Feeds over HTTP, for those who have an address and no account."""

import hashlib
from typing import TypeVar

from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Router
from saucer_core.formats.delivery import Manifest

from ..errors import missing
from ..openapi import BINARY, gives
from ..people.address import address_of
from ..ranges import ranged
from . import feed
from .feed import Opened
from .rules import place_of

Answer = TypeVar("Answer", bound=HttpResponse | FileResponse)

router = Router(tags=["feed"], auth=None)


def _same(request: HttpRequest, etag: str) -> bool:
    asked = request.headers.get("If-None-Match", "")
    return asked == "*" or etag in [tag.strip().removeprefix("W/") for tag in asked.split(",")]


@router.get("/{token}", response=Manifest)
def manifest(request: HttpRequest, token: str) -> HttpResponse:
    """What the newest delivery of the feed's project holds; 304 where that is known."""
    opened = feed.open_feed(token)
    data = feed.manifest(opened, token).model_dump_json().encode()
    etag = f'"{hashlib.sha256(data).hexdigest()[:32]}"'
    answer = (
        HttpResponse(status=304)
        if _same(request, etag)
        else HttpResponse(data, content_type="application/json")
    )
    answer["ETag"], answer["Cache-Control"] = etag, "private, no-cache"
    feed.note(opened, "list", answer.status_code, len(answer.content), address_of(request))
    return answer


@router.get("/{token}/files/{sha256}", openapi_extra=gives(BINARY))
def file(request: HttpRequest, token: str, sha256: str) -> HttpResponse | FileResponse:
    """A file of the newest delivery by its checksum; a part of it where a range is asked for."""
    opened = feed.open_feed(token)
    own = feed.own_list(opened, sha256)
    if own is not None:
        return _answered(
            request, opened, "list", HttpResponse(own, content_type="application/octet-stream"), sha256
        )
    found = next((f for f in opened.files if f.sha256 == sha256), None)
    if found is None:
        raise missing("file")
    size, etag = found.bytes, f'"{sha256}"'
    if _same(request, etag):
        return _answered(request, opened, found.path, HttpResponse(status=304), sha256)
    given = ranged(request, place_of(sha256), size, etag)
    return _answered(request, opened, found.path, given, sha256)


def _answered(request: HttpRequest, opened: Opened, what: str, answer: Answer, sha: str) -> Answer:
    answer["ETag"], answer["Cache-Control"] = f'"{sha}"', "private, max-age=31536000, immutable"
    size = int(answer.headers.get("Content-Length", 0) or 0)
    feed.note(opened, what, answer.status_code, size, address_of(request))
    return answer
