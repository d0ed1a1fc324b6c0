"""Pictures of looks over HTTP: a frame under a revision, saucers, and the table that shows a frame without a
look."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from saucer_core.encodings import EncodingKey
from saucer_core.look import Look as LookValue

from ..bench import pictures
from ..fields import ShareAsked, Width, binary, picture
from ..frames import rules as frames
from ..luts import rules as luts
from ..marks import computes
from ..openapi import BINARY, JPEG, PNG, gives
from ..people.rules import person_of
from . import rules

router = Router(tags=["looks"])

SaucerSize = Annotated[int, Query(ge=16, le=512)]


@router.get("/unlooked", openapi_extra=gives(BINARY))
def unlooked(request: HttpRequest, input: EncodingKey) -> HttpResponse:
    """The table that shows a picture of that encoding without a look."""
    return binary(pictures.unlooked(input), "application/octet-stream")


@router.get("/revisions/{int:revision_id}/still", openapi_extra=gives(JPEG))
def still(
    request: HttpRequest,
    revision_id: int,
    frame: int,
    width: Width = 480,
    strength: ShareAsked = 1.0,
    v: str = "",
) -> HttpResponse:
    """A frame under a revision, JPEG for the screen."""
    found = rules.find_revision(revision_id)
    on = frames.seen_by(person_of(request), frame)
    data = pictures.still(rules.recipe_of(found), found.digest, on, width, strength=strength)
    return picture(
        data,
        "image/jpeg",
        v,
        rules.version_of(found) + frames.version_of(on),
        own=on.passing or bool(on.circle_id or found.look.circle_id),
    )


@router.get("/looks/{int:look_id}/still", openapi_extra=gives(JPEG))
def draft_still(
    request: HttpRequest, look_id: int, frame: int, width: Width = 480, v: str = ""
) -> HttpResponse:
    """A frame under a look's draft, JPEG for the screen. ``v``: versions of draft and frame, so that a kept
    answer is never stale."""
    draft = LookValue.model_validate(rules.find(look_id).draft)
    return binary(pictures.drawn(draft, frames.seen_by(person_of(request), frame), width), "image/jpeg")


@router.get("/revisions/{int:revision_id}/saucer", openapi_extra=gives(PNG))
def revision_saucer(
    request: HttpRequest, revision_id: int, size: SaucerSize = 160, v: str = ""
) -> HttpResponse:
    """The saucer of a revision, PNG. ``v``: its digest."""
    found = rules.find_revision(revision_id)
    return picture(
        pictures.saucer(rules.recipe_of(found), size),
        "image/png",
        v,
        rules.version_of(found),
        own=bool(found.look.circle_id),
    )


@router.get("/luts/words", response=dict[str, list[str]])
def lut_words(request: HttpRequest) -> dict[str, list[str]]:
    """What every borrowed LUT does, in words, by its digest."""
    return {lut.digest: pictures.words_of(pictures.wearing_lut(lut)) for lut in luts.every()}


@router.get("/luts/{int:lut_id}/saucer", openapi_extra=gives(PNG))
def lut_saucer(request: HttpRequest, lut_id: int, size: SaucerSize = 160, v: str = "") -> HttpResponse:
    """The saucer of a borrowed LUT, PNG. ``v``: its digest and encodings, so that a kept answer is never
    stale."""
    return binary(pictures.saucer(pictures.wearing_lut(luts.find(lut_id)), size), "image/png")


@router.get("/luts/{int:lut_id}/still", openapi_extra=gives(JPEG))
def lut_still(request: HttpRequest, lut_id: int, frame: int, width: Width = 160, v: str = "") -> HttpResponse:
    """A frame under a borrowed LUT alone, JPEG for the screen."""
    look = pictures.wearing_lut(luts.find(lut_id))
    return binary(
        pictures.still(look, look.digest(), frames.seen_by(person_of(request), frame), width), "image/jpeg"
    )


@router.get("/saucer/neutral", auth=None, openapi_extra=gives(PNG))
def neutral_saucer(request: HttpRequest, size: SaucerSize = 160) -> HttpResponse:
    """The saucer of no look at all: hues and greys as they are."""
    return binary(pictures.saucer(None, size), "image/png")


@router.post("/saucer", openapi_extra=gives(PNG))
@computes
def draft_saucer(request: HttpRequest, payload: LookValue) -> HttpResponse:
    """The saucer of a draft, PNG."""
    return binary(pictures.saucer(payload, 96), "image/png", "no-store")
