"""Files that are taken in pieces (RFC 9110, 14): by the front where it lies on the same disk, else from
here."""

import re
from typing import IO

from django.conf import settings
from django.core.files.storage import default_storage
from django.http import FileResponse, HttpRequest, HttpResponse

#: A range of bytes, each end of as many digits as a file can have bytes.
_RANGE = re.compile(r"bytes=([0-9]{0,18})-([0-9]{0,18})$")
#: Bytes that are read at a time.
PIECE = 2**18
#: Where the front finds kept files; it answers nobody there by itself.
FRONT = "/-/files/"


def _span(request: HttpRequest, size: int, etag: str) -> tuple[int, int] | None:
    """First and last byte that are asked for; ``None`` where there are none such."""
    asked = _RANGE.match(request.headers.get("Range", ""))
    if asked is None or request.headers.get("If-Range", etag) != etag or asked.groups() == ("", ""):
        return 0, size - 1
    first, last = asked.groups()
    begin = int(first) if first else max(size - int(last), 0)
    end = min(int(last), size - 1) if first and last else size - 1
    return (begin, end) if begin <= end and begin < size else None


class _Part:
    """Some bytes of a file, from where it stands."""

    def __init__(self, source: IO[bytes], left: int) -> None:
        self._source, self._left = source, left

    def read(self, size: int = PIECE) -> bytes:
        """The next ones."""
        data = self._source.read(min(size if size > 0 else PIECE, self._left))
        self._left -= len(data)
        return data

    def close(self) -> None:
        """Closes the file."""
        self._source.close()


def ranged(
    request: HttpRequest, name: str, size: int, etag: str, kind: str = "application/octet-stream"
) -> HttpResponse | FileResponse:
    """A kept file of ``size`` bytes, or the part of it that is asked for; 416 where it has no such part.

    etag: with its quotes; it changes with the file.
    """
    span = _span(request, size, etag)
    if span is None:
        answer = HttpResponse(status=416)
        answer["Content-Range"] = f"bytes */{size}"
        return answer
    begin, end = span
    source = default_storage.open(name)
    source.seek(begin)
    whole = end - begin + 1 == size
    given = FileResponse(_Part(source, end - begin + 1), status=200 if whole else 206, content_type=kind)
    given["Content-Length"], given["Accept-Ranges"] = str(end - begin + 1), "bytes"
    if not whole:
        given["Content-Range"] = f"bytes {begin}-{end}/{size}"
    given["ETag"] = etag
    return given


def by_front(name: str, kind: str) -> HttpResponse | None:
    """The same, handed over to the front; ``None`` where none stands before this process, or files lie
    elsewhere."""
    if not settings.FRONT_FILES:
        return None
    answer = HttpResponse(content_type=kind)
    answer["X-Accel-Redirect"] = f"{FRONT}{name}"
    return answer
