"""Fields and answers that several parts of the interface share."""

from typing import Annotated, Any

from django.http import HttpResponse
from ninja import Query
from pydantic import AfterValidator, Field

#: An answer made of what its address names; it can be kept by the browser for a day.
FOR_A_DAY = "private, max-age=86400"


def _plain(text: str) -> str:
    if "\0" in text:
        raise ValueError("text without NUL characters, please")
    return text


Text = Annotated[str, AfterValidator(_plain)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
ShareAsked = Annotated[float, Query(ge=0, le=1, allow_inf_nan=False)]
Width = Annotated[int, Query(ge=16, le=4096)]


def said(payload: dict[str, Any]) -> dict[str, Any]:
    """What a change says: fields that were sent, nulls left out."""
    return {name: value for name, value in payload.items() if value is not None}


def binary(data: bytes, kind: str, cache: str = FOR_A_DAY) -> HttpResponse:
    """An answer of bytes, kept by the browser as ``cache`` says."""
    answer = HttpResponse(data, content_type=kind)
    answer["Cache-Control"] = cache
    return answer
