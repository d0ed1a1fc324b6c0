"""The HTTP interface: one router an app, and one place where errors become answers."""

import logging
import random
import time
from typing import Any

from django.core.exceptions import ObjectDoesNotExist, RequestDataTooBig, SuspiciousOperation
from django.db import IntegrityError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.openapi.docs import Swagger
from ninja.openapi.schema import OpenAPISchema
from ninja.parser import Parser
from ninja.security import SessionAuth
from psycopg.errors import DeadlockDetected, DiskFull
from saucer_core.errors import Abandoned, CoreError
from saucer_core.version import __version__

from .bakes.api import router as bakes
from .bench.api import router as bench
from .bench.vocabulary import router as vocabulary
from .cancellation import GONE
from .carrying.api import router as carrying
from .catalogue.api import router as catalogue
from .catalogue.collections_api import router as collections
from .catalogue.history_api import router as history
from .clips.api import router as clips
from .cuts.api import router as cuts
from .declared import Declared, facts
from .delivering.api import router as deliveries
from .delivering.feed_api import router as feed
from .encodings.api import router as encodings
from .errors import RuleError
from .frames.api import router as frames
from .inspecting.api import router as inspecting
from .intake.api import router as intakes
from .jobs.api import router as jobs
from .jobs.health_api import router as health
from .looks.api import router as looks
from .looks.revisions_api import router as revisions
from .looks.stills_api import router as stills
from .luts.api import router as luts
from .openapi import in_whole
from .outgoing.api import router as outgoing
from .packs.api import router as packs
from .people.activity_api import router as activity
from .people.api import router as people
from .people.quotas_api import router as quotas
from .people.team_api import router as team
from .people.tokens import TokenAuth
from .presets.api import router as presets
from .problems import failed, forged
from .projects.api import router as projects
from .projects.shots_api import router as shots
from .projects.wall_api import router as wall
from .reel.api import router as reel
from .removals.api import router as removed
from .reviewing.api import router as reviewing
from .sheets.api import router as sheets
from .storage import FULL, away

#: What else somebody needs to go on after an error: each error has names of its own.
Detail = dict[str, Any]
log = logging.getLogger("saucer")


class Problem(Schema):
    """Every answer that is not a success."""

    message: str
    detail: Detail = {}


class JsonAlone(Parser):
    """Reads a body as JSON only where it says that it is: a form of another site cannot say so."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The body. Raises 400 for another type, as for anything that cannot be read."""
        if request.content_type != "application/json":
            raise ValueError("not sent as application/json")
        return super().parse_body(request)


class Interface(NinjaAPI):
    """The interface, whose document says of every operation what an answer that is no success looks like."""

    #: Written with the first request for it; it changes with the sources alone.
    _document: OpenAPISchema | None = None

    def get_openapi_schema(
        self, *, path_prefix: str | None = None, path_params: dict[str, Any] | None = None
    ) -> OpenAPISchema:
        """The OpenAPI document. Do not change it."""
        if self._document is not None:
            return self._document
        document = super().get_openapi_schema(path_prefix=path_prefix, path_params=path_params)
        document["components"]["schemas"]["Problem"] = Problem.model_json_schema()
        said = {"application/json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
        for path in document["paths"].values():
            for operation in path.values():
                operation["responses"]["default"] = {
                    "description": "What is wrong, and what to do",
                    "content": said,
                }
        in_whole(document)
        self._document = document
        return document


api = Interface(
    title="Saucer",
    version=__version__,
    auth=[TokenAuth(), SessionAuth()],
    docs=Swagger(),
    docs_url="/docs",
    openapi_url="/openapi.json",
    parser=JsonAlone(),
)
# Routes are tried in this order, so those that are asked while a hand drags come first.
api.add_router("", bench)
for router in (people, team, activity, quotas):
    api.add_router("", router)
api.add_router("", health)
api.get("/declared", response=Declared, tags=["start"])(facts)
api.add_router("/encodings", encodings)
api.add_router("/frames", frames)
for router in (looks, revisions, bakes, luts, stills, vocabulary):
    api.add_router("", router)
api.add_router("/carriers", carrying)
api.add_router("/presets", presets)
api.add_router("/catalogue", catalogue)
api.add_router("/collections", collections)
api.add_router("", history)
api.add_router("", reviewing)
api.add_router("/sheets", sheets)
api.add_router("/outgoing", outgoing)
api.add_router("/packs", packs)
api.add_router("", inspecting)
for router in (projects, shots, wall, cuts, reel):
    api.add_router("/projects", router)
api.add_router("", deliveries)
api.add_router("/clips", clips)
api.add_router("/feed", feed)
api.add_router("/intakes", intakes)
api.add_router("/jobs", jobs)
api.add_router("/bin", removed)


#: How often a request is carried out again that met a deadlock.
TRIES = 4
#: Names of the place of an error that are told.
PLACES = 8
_NO_ROOM = "The disk is full: nothing was kept. Ask whoever runs Saucer to make room, then try again."
_NO_FILE = "A file could not be kept or read. Nothing was changed; try again in a moment."


def _answer(request: HttpRequest, status: int, message: str, detail: Detail | None = None) -> HttpResponse:
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


@api.exception_handler(HttpError)
def _framework(request: HttpRequest, error: HttpError) -> HttpResponse:
    """What the framework says no with: a request without the token against forged ones, or one that cannot be
    read."""
    if error.status_code == 403:
        return forged(request)
    return _answer(request, error.status_code, str(error.message) or "That is no request Saucer can read.")


@api.exception_handler(Http404)
def _nowhere(request: HttpRequest, error: Http404) -> HttpResponse:
    return _answer(request, 404, "There is nothing at this address.")


@api.exception_handler(MultiPartParserError)
@api.exception_handler(SuspiciousOperation)
def _unreadable(request: HttpRequest, error: Exception) -> HttpResponse:
    return _answer(request, 400, "That is no request Saucer can read. Reload the page and try again.")


@api.exception_handler(RecursionError)
def _deep(request: HttpRequest, error: RecursionError) -> HttpResponse:
    return _answer(
        request, 422, "That is nested deeper than any look may be. Take groups apart, then send it again."
    )


@api.exception_handler(IntegrityError)
def _together(request: HttpRequest, error: IntegrityError) -> HttpResponse:
    """Two did what cannot both be, as removing something that another puts to use."""
    log.warning("two changes met: %s", error)
    return _answer(
        request,
        409,
        "Somebody changed the same at this moment. Nothing of yours was changed: look again, then repeat it.",
    )


@api.exception_handler(Abandoned)
def _given_up(request: HttpRequest, error: Abandoned) -> HttpResponse:
    return HttpResponse(status=GONE)


@api.exception_handler(ObjectDoesNotExist)
def _removed(request: HttpRequest, error: ObjectDoesNotExist) -> HttpResponse:
    """Somebody removed it between two looks at it."""
    log.warning("removed in between: %s", error)
    return _answer(
        request,
        404,
        "This is not here any more: somebody removed it at this moment. Nothing of yours was changed.",
    )


def _again(request: HttpRequest) -> HttpResponse:
    """Carries a request out once more whose transaction the database ended because it waited for another one
    that waited for it."""
    tries = int(getattr(request, "saucer_tries", 0)) + 1
    match = request.resolver_match
    if tries > TRIES or match is None or request.FILES:
        return _together(request, IntegrityError("a deadlock"))
    request.saucer_tries = tries  # type: ignore[attr-defined]
    time.sleep(random.uniform(0.01, 0.05) * 2**tries)
    answer: HttpResponse = match.func(request, *match.args, **match.kwargs)
    return answer


@api.exception_handler(OperationalError)
def _database(request: HttpRequest, error: OperationalError) -> HttpResponse:
    if isinstance(error.__cause__, DeadlockDetected):
        log.warning("a deadlock: %s", error)
        return _again(request)
    log.exception("the database")
    if isinstance(error.__cause__, DiskFull):
        return _answer(request, 507, _NO_ROOM)
    return _answer(
        request,
        503,
        "The database cannot be reached at this moment. What you changed is kept here; try again in "
        "a moment.",
    )


@api.exception_handler(Exception)
def _failed(request: HttpRequest, error: Exception) -> HttpResponse:
    if isinstance(error, away()):
        log.exception("the storage")
        return _answer(request, 503, _NO_FILE)
    log.exception("an error of Saucer's own")
    return failed(request)


@api.exception_handler(RequestDataTooBig)
def _big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
    return _answer(request, 413, "That is more than one request may hold.")


@api.exception_handler(ValidationError)
def _invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
    first = error.errors[0]
    loc = [str(p) for p in first["loc"] if p not in ("body", "query", "path", "payload")]
    # Deep inside a look the innermost places tell most.
    place = " › ".join(loc if len(loc) <= PLACES else ["…", *loc[-PLACES:]])
    said = str(first["msg"]).removeprefix("Value error, ")
    return _answer(request, 422, f"{place}: {said}" if place else said)


@api.exception_handler(OSError)
def _disk(request: HttpRequest, error: OSError) -> HttpResponse:
    log.exception("a file could not be kept or read")
    if error.errno in FULL:
        return _answer(request, 507, _NO_ROOM)
    return _answer(request, 503, _NO_FILE)
