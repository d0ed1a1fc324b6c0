"""Feeds over HTTP, for those who have an address and no account."""

import hashlib
import re
from typing import TypeVar

from django.core.files.storage import default_storage
from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Router

from ..errors import missing
from ..openapi import BINARY, gives
from ..people.address import address_of
from . import feed
from .feed import Opened
from .rules import contents_of, place_of

Answer = TypeVar("Answer", HttpResponse, FileResponse)

router = Router(tags=["feed"], auth=None)

#: A range of bytes, each end of as many digits as a file can have bytes (RFC 9110, 14.1.2).
_RANGE = re.compile(r"bytes=([0-9]{0,18})-([0-9]{0,18})$")
PIECE = 2**18


def _same(request: HttpRequest, etag: str) -> bool:
    asked = request.headers.get("If-None-Match", "")
    return asked == "*" or etag in [tag.strip().removeprefix("W/") for tag in asked.split(",")]


@router.get("/{token}", response=feed.Manifest)
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
    found = next((f for f in contents_of(opened.delivery).files if f.sha256 == sha256), None)
    if found is None:
        raise missing("file")
    size, etag = found.bytes, f'"{sha256}"'
    if _same(request, etag):
        return _answered(request, opened, found.path, HttpResponse(status=304), sha256)
    begin, end = _span(request, size, etag)
    if begin is None or end is None:
        answer = HttpResponse(status=416)
        answer["Content-Range"] = f"bytes */{size}"
        return _answered(request, opened, found.path, answer, sha256)
    source = default_storage.open(place_of(sha256))
    source.seek(begin)
    whole = end - begin + 1 == size
    given = FileResponse(
        _Part(source, end - begin + 1), status=200 if whole else 206, content_type="application/octet-stream"
    )
    given["Content-Length"], given["Accept-Ranges"] = str(end - begin + 1), "bytes"
    if not whole:
        given["Content-Range"] = f"bytes {begin}-{end}/{size}"
    return _answered(request, opened, found.path, given, sha256)


def _span(request: HttpRequest, size: int, etag: str) -> tuple[int | None, int | None]:
    """First and last byte that are asked for; nothing where there are none such."""
    asked = _RANGE.match(request.headers.get("Range", ""))
    if asked is None or request.headers.get("If-Range", etag) != etag or asked.groups() == ("", ""):
        return 0, size - 1
    first, last = asked.groups()
    begin = int(first) if first else max(size - int(last), 0)
    end = min(int(last), size - 1) if first and last else size - 1
    return (begin, end) if begin <= end and begin < size else (None, None)


class _Part:
    """Some bytes of a file, from where it stands."""

    def __init__(self, source: object, left: int) -> None:
        self._source, self._left = source, left

    def read(self, size: int = PIECE) -> bytes:
        """The next ones."""
        data: bytes = self._source.read(min(size if size > 0 else PIECE, self._left))  # type: ignore[attr-defined]
        self._left -= len(data)
        return data

    def close(self) -> None:
        """Closes the file."""
        self._source.close()  # type: ignore[attr-defined]


def _answered(request: HttpRequest, opened: Opened, what: str, answer: Answer, sha: str) -> Answer:
    answer["ETag"], answer["Cache-Control"] = f'"{sha}"', "private, max-age=31536000, immutable"
    size = int(answer.headers.get("Content-Length", 0) or 0)
    feed.note(opened, what, answer.status_code, size, address_of(request))
    return answer
