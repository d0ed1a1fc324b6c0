"""Cuts of a project over HTTP."""

from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Status
from ninja.files import UploadedFile

from ..clips import rules as clips
from ..fields import attached
from ..jobs.api import JobOut
from ..jobs.rules import Job
from ..openapi import BINARY, gives
from ..people.rules import person_of
from ..projects import rules as projects
from . import outgoing, rules, taking, waiting
from .payloads import CutLine, CutListIn, CutSaid, CutTaking, CutWhole, FillIn
from .showing import line, whole

router = Router(tags=["cuts"])


@router.get("/{int:project_id}/cuts", response=list[CutLine])
def cuts(request: HttpRequest, project_id: int) -> list[CutLine]:
    """The cuts of a project, the newest first: those that were taken, and those that are looked at."""
    return [line(cut) for cut in rules.every(projects.find(project_id))]


@router.post("/{int:project_id}/cuts", response={201: CutWhole})
def propose(
    request: HttpRequest, project_id: int, about: Form[CutListIn], file: File[UploadedFile]
) -> Status[CutWhole]:
    """Looks at a cut list: what it would change. Nothing of the project changes."""
    found = projects.find(project_id)
    return Status(201, whole(rules.propose(found, person_of(request), file, about.rate)))


@router.get("/{int:project_id}/cuts/{int:cut_id}", response=CutWhole)
def cut(request: HttpRequest, project_id: int, cut_id: int) -> CutWhole:
    """A cut with its events, beside what the project has now."""
    return whole(rules.find(projects.find(project_id), cut_id))


@router.patch("/{int:project_id}/cuts/{int:cut_id}", response=CutWhole)
def say(request: HttpRequest, project_id: int, cut_id: int, payload: CutSaid) -> CutWhole:
    """Says which clips events are of, and which CDLs become trims."""
    found = rules.find(projects.find(project_id), cut_id)
    chosen = {one.place: one.clip for one in payload.clips}
    return whole(rules.choose(found, person_of(request), chosen, payload.corrections))


@router.post("/{int:project_id}/cuts/{int:cut_id}/take", response={201: JobOut})
def take(request: HttpRequest, project_id: int, cut_id: int, payload: CutTaking) -> Status[Job]:
    """Takes a cut: the shots of the project follow it, as one change."""
    found = rules.find(projects.find(project_id), cut_id)
    return Status(201, taking.order(found, person_of(request), payload.seen))


@router.post("/{int:project_id}/cuts/{int:cut_id}/clips", response={201: JobOut})
def fill(request: HttpRequest, project_id: int, cut_id: int, payload: FillIn) -> Status[Job]:
    """Gives an event of the cut that the project follows its clip: it becomes a shot."""
    found = rules.find(projects.find(project_id), cut_id)
    clip = clips.find(payload.clip)
    return Status(201, waiting.choose_clip(found, person_of(request), payload.place, clip))


@router.delete("/{int:project_id}/cuts/{int:cut_id}", response={204: None})
def drop(request: HttpRequest, project_id: int, cut_id: int) -> Status[None]:
    """Lets go of a cut that was not taken."""
    rules.let_go(rules.find(projects.find(project_id), cut_id), person_of(request))
    return Status(204, None)


@router.get("/{int:project_id}/cuts/{int:cut_id}/list", openapi_extra=gives(BINARY))
def out(
    request: HttpRequest,
    project_id: int,
    cut_id: int,
    form: Annotated[Literal["otio", "edl"], Query()] = "otio",
) -> HttpResponse:
    """The list of a cut with the looks and trims of its shots on it."""
    found = rules.find(projects.find(project_id), cut_id)
    name, text = outgoing.listed(found, f".{form}")
    return attached(name, text.encode())
