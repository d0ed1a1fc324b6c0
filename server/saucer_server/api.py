"""The HTTP interface: one router an app, and one place where errors become answers."""

import errno
import logging
from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, ValidationError
from ninja.security import SessionAuth
from saucer_core.errors import CoreError

from .catalogue.api import router as catalogue
from .errors import RuleError
from .frames.api import router as frames
from .jobs.api import router as jobs
from .looks.api import router as looks
from .looks.bakes_api import router as bakes
from .looks.live_api import router as live
from .looks.luts_api import router as luts
from .looks.presets_api import router as presets
from .looks.revisions_api import router as revisions
from .looks.stills_api import router as stills
from .looks.vocabulary_api import router as vocabulary
from .people.api import router as people
from .projects.api import router as projects

log = logging.getLogger("saucer")


class Problem(Schema):
    """Every answer that is not a success."""

    message: str
    detail: dict[str, Any] = {}


api = NinjaAPI(title="Saucer", version="1", auth=SessionAuth(), docs_url=None, openapi_url="/openapi.json")
api.add_router("", people)
api.add_router("/frames", frames)
for router in (looks, revisions, bakes, luts, stills, vocabulary, live):
    api.add_router("", router)
api.add_router("/presets", presets)
api.add_router("/catalogue", catalogue)
api.add_router("/projects", projects)
api.add_router("/jobs", jobs)


def _answer(request: HttpRequest, status: int, message: str, detail: dict[str, Any] | None = None) -> HttpResponse:
    return api.create_response(request, {"message": message, "detail": detail or {}}, status=status)


@api.exception_handler(RuleError)
def _rule(request: HttpRequest, error: RuleError) -> HttpResponse:
    return _answer(request, error.status, error.message, error.detail)


@api.exception_handler(CoreError)
def _core(request: HttpRequest, error: CoreError) -> HttpResponse:
    step = getattr(error, "step_id", None)
    return _answer(request, 422, str(error), {"step": step} if step else None)


@api.exception_handler(AuthenticationError)
def _stranger(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return _answer(request, 401, "Sign in to go on.")


@api.exception_handler(RequestDataTooBig)
def _big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
    return _answer(request, 413, "That is more than one request may hold.")


@api.exception_handler(ValidationError)
def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    first = error.errors[0]
    place = " › ".join(str(p) for p in first["loc"] if p not in ("body", "query", "path", "payload"))
    return _answer(request, 422, f"{place}: {first['msg']}" if place else str(first["msg"]))


@api.exception_handler(OSError)
def _disk(request: HttpRequest, error: OSError) -> HttpResponse:
    log.exception("a file could not be kept or read")
    if error.errno in (errno.ENOSPC, errno.EDQUOT):
        return _answer(request, 507, "The disk is full: nothing was kept. Ask whoever runs Saucer to make room, then try again.")
    return _answer(request, 503, "A file could not be kept or read. Nothing was changed; try again in a moment.")
