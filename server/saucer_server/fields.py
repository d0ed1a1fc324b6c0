"""Fields and answers that several parts of the interface share."""

import json
import re
import unicodedata
from datetime import UTC, datetime
from typing import Annotated, Any

from django.db.models import Model
from django.http import HttpResponse
from django.utils.http import content_disposition_header
from ninja import Query, Schema
from pydantic import AfterValidator, BaseModel, Field

from .errors import RuleError

#: An answer made of what its address names; it can be kept by the browser for a day.
FOR_A_DAY = "private, max-age=86400"


def _plain(text: str) -> str:
    if "\0" in text:
        raise ValueError("text without NUL characters, please")
    # Half of a pair, which JSON can hold and no file or database.
    if any("\ud800" <= c <= "\udfff" for c in text):
        raise ValueError("text of whole characters, please")
    return text


Text = Annotated[str, AfterValidator(_plain)]


def _zoned(at: datetime) -> datetime:
    if at.tzinfo is None:
        raise ValueError("a time with its zone, please: say, 2026-12-31T18:00:00Z")
    # Near the ends of the calendar the zone would lead out of it.
    if not EARLIEST <= at.year <= LATEST:
        raise ValueError(f"a time between the years {EARLIEST} and {LATEST}, please")
    return at.astimezone(UTC)


#: The first year in which a time may lie that somebody says.
EARLIEST = 2000
#: The last one.
LATEST = 2199
Moment = Annotated[datetime, AfterValidator(_zoned)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
ShareAsked = Annotated[float, Query(ge=0, le=1, allow_inf_nan=False)]
Width = Annotated[int, Query(ge=16, le=4096)]


#: What is known while an answer is made of a row: the request, under ``request``.
Context = dict[str, Any]


def take(row: Model, patch: BaseModel, *names: str) -> list[str]:
    """Puts those fields of a patch that are said onto a row; gives their names. ``None`` is not said."""
    said = [name for name in names if getattr(patch, name) is not None]
    for name in said:
        setattr(row, name, getattr(patch, name))
    return said


def binary(data: bytes, kind: str, cache: str = FOR_A_DAY) -> HttpResponse:
    """An answer of bytes, kept by the browser as ``cache`` says."""
    answer = HttpResponse(data, content_type=kind)
    answer["Cache-Control"] = cache
    return answer


#: Seconds for which the front keeps a picture.
A_WEEK = 604_800


def picture(data: bytes, kind: str, asked: str, version: str, *, own: bool = False) -> HttpResponse:
    """A picture of ``version``; where its address asks for that one the front keeps it for everybody who is
    signed in.

    own: it is one person's, and not kept for others. Under the address of another version, which was or will
    be, nobody keeps it.
    """
    if asked and asked != version:
        return binary(data, kind, "private, no-store")
    answer = binary(data, kind)
    if asked and not own:
        answer["X-Accel-Expires"] = str(A_WEEK)
    return answer


def attached(name: str, data: bytes) -> HttpResponse:
    """An answer that the browser keeps as a file of that name (see ``safe_name``)."""
    answer = binary(data, "application/octet-stream", "private, no-store")
    answer["Content-Disposition"] = content_disposition_header(True, name) or "attachment"
    return answer


#: What no file system of the usual machines takes in a name.
_FORBIDDEN = re.compile(r'[<>:"/\\|?*\x00-\x1f\x7f]+')
#: Names that Windows keeps for devices.
_DEVICES = re.compile(r"(con|prn|aux|nul|com\d|lpt\d)$", re.IGNORECASE)
#: Bytes of a name in UTF-8; file systems take 255, suffix and copies' numbers included.
LONGEST = 160


def safe_name(name: str) -> str:
    """A name as it is, but for what file systems refuse: that becomes a dash."""
    kept = _FORBIDDEN.sub("-", unicodedata.normalize("NFC", name))
    kept = re.sub(r"\s+", " ", kept).strip(" .-")
    kept = kept.encode()[:LONGEST].decode(errors="ignore").strip(" .-")
    if not kept:
        return "look"
    return f"{kept}-" if _DEVICES.match(kept) else kept


class Parameter(Schema):
    """A number as the core declares it (``saucer_core.steps.parameter``): its range in kept values, what the
    screen shows, and the steps of the arrow keys."""

    title: str
    default: float
    minimum: float
    maximum: float
    label: str
    unit: str
    fine: float
    coarse: float
    scale: float
    help: str


class FilesIn(Schema):
    """Where the files that are sent lie: a JSON list of their paths, in the same order."""

    paths: Text = Field("[]", max_length=50_000)

    def places(self, files: int, most: int) -> list[str]:
        """The path of each of so many files, empty where none is said. Raises 422 for what is no list of
        texts, and for more than ``most`` files."""
        try:
            paths = json.loads(self.paths)
        except ValueError:
            paths = None
        if not isinstance(paths, list) or not all(isinstance(p, str) for p in paths) or files > most:
            raise RuleError(
                422, f"paths: a JSON list of texts, one for each file, and at most {most} files at once."
            )
        return [*paths[:files], *[""] * (files - len(paths))]
