"""Projects over HTTP."""

from datetime import datetime

from django.core.files.storage import default_storage
from django.db import transaction
from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Router, Schema, Status
from pydantic import Field
from saucer_core.trim import Trim

from ..errors import missing
from ..fields import Share, Text, Width, binary
from ..frames.api import FrameOut
from ..frames.api import out as frame_out
from ..jobs.api import JobOut
from ..looks.baking import safe_name
from ..looks.pictures import still as look_still
from ..looks.revisions_api import RevisionOut, revision_out
from ..looks.rules import recipe_of
from ..people.rules import person_of
from . import delivery, rules
from .models import Delivery, Project, Shot

router = Router(tags=["projects"])


class ProjectIn(Schema):
    """A new project."""

    name: Text = Field(min_length=1, max_length=120)
    note: Text = Field("", max_length=4000)


class ShotOut(Schema):
    """A shot with what is on it."""

    id: int
    number: int
    name: str
    frame: FrameOut
    trim: Trim
    revision: RevisionOut | None
    strength: float


class DeliveryOut(Schema):
    """A delivery and its job."""

    id: int
    number: int
    bytes: int
    grid: int
    job: JobOut
    ready: bool
    made_by: str
    made_at: datetime


class ProjectLine(Schema):
    """A project in the list."""

    id: int
    name: str
    note: str
    shots: int
    looks: int
    frames: list[int]


class ProjectOut(Schema):
    """A project, whole."""

    id: int
    name: str
    note: str
    shots: list[ShotOut]
    deliveries: list[DeliveryOut]


class ShotsIn(Schema):
    """Frames to add as shots."""

    frames: list[int] = Field(min_length=1, max_length=200)


class ShotChange(Schema):
    """What can be changed on one shot."""

    name: Text | None = Field(None, min_length=1, max_length=120)
    trim: Trim | None = None
    strength: Share | None = None


class AssignIn(Schema):
    """A revision for shots; ``None`` takes the look off."""

    shots: list[int] = Field(min_length=1, max_length=1000)
    revision: int | None
    strength: Share = 1.0


class DeliverIn(Schema):
    """What to deliver."""

    grid: int = Field(33, ge=2, le=65)


def _shot(s: Shot) -> ShotOut:
    revision = revision_out(s.revision) if s.revision else None
    return ShotOut(
        id=s.pk,
        number=s.number,
        name=s.name,
        frame=frame_out(s.frame),
        trim=rules.trim_of(s),
        revision=revision,
        strength=s.strength,
    )


def _delivery(d: Delivery) -> DeliveryOut:
    return DeliveryOut(
        id=d.pk, number=d.number, bytes=d.bytes, grid=d.grid, job=JobOut.from_orm(d.job), ready=bool(d.file),
        made_by=str(d.made_by), made_at=d.made_at,
    )  # fmt: skip


def _whole(project: Project) -> ProjectOut:
    shots = project.shots.select_related("frame__added_by", "revision__look", "revision__made_by")
    deliveries = project.deliveries.select_related("job", "made_by")
    return ProjectOut(
        id=project.pk, name=project.name, note=project.note, shots=[_shot(s) for s in shots],
        deliveries=[_delivery(d) for d in deliveries],
    )  # fmt: skip


@router.get("", response=list[ProjectLine])
def projects(request: HttpRequest) -> list[ProjectLine]:
    """All projects."""
    lines = []
    for p in Project.objects.prefetch_related("shots"):
        shots = list(p.shots.all())
        used = {s.revision_id for s in shots if s.revision_id}
        lines.append(
            ProjectLine(id=p.pk, name=p.name, note=p.note, shots=len(shots), looks=len(used), frames=[s.frame_id for s in shots[:6]])
        )
    return lines


@router.post("", response={201: ProjectOut})
def create(request: HttpRequest, payload: ProjectIn) -> Status[ProjectOut]:
    """Starts a project."""
    return Status(201, _whole(rules.create(person_of(request), payload.name, payload.note)))


@router.get("/{int:project_id}", response=ProjectOut)
def project(request: HttpRequest, project_id: int) -> ProjectOut:
    """A project with its shots and deliveries."""
    return _whole(rules.find(project_id))


@router.post("/{int:project_id}/shots", response={201: ProjectOut})
def add_shots(request: HttpRequest, project_id: int, payload: ShotsIn) -> Status[ProjectOut]:
    """Adds frames as shots."""
    found = rules.find(project_id)
    rules.add_shots(found, payload.frames)
    return Status(201, _whole(found))


@router.patch("/{int:project_id}/shots/{int:shot_id}", response=ShotOut)
def change_shot(request: HttpRequest, project_id: int, shot_id: int, payload: ShotChange) -> ShotOut:
    """Renames or trims a shot, or eases its look."""
    with transaction.atomic():
        shot = rules.find_shot(rules.find(project_id), shot_id)
        fields = payload.model_dump(exclude_none=True)
        for field, value in fields.items():
            setattr(shot, field, value)
        shot.save(update_fields=list(fields))
    return _shot(shot)


@router.delete("/{int:project_id}/shots/{int:shot_id}", response={204: None})
def remove_shot(request: HttpRequest, project_id: int, shot_id: int) -> Status[None]:
    """Takes a shot out of the project; the frame stays."""
    rules.find_shot(rules.find(project_id), shot_id).delete()
    return Status(204, None)


@router.post("/{int:project_id}/assign", response=ProjectOut)
def assign(request: HttpRequest, project_id: int, payload: AssignIn) -> ProjectOut:
    """Puts a revision on several shots."""
    found = rules.find(project_id)
    rules.assign(found, payload.shots, payload.revision, payload.strength)
    return _whole(found)


@router.get("/{int:project_id}/shots/{int:shot_id}/still")
def still(request: HttpRequest, project_id: int, shot_id: int, width: Width = 480, v: str = "") -> HttpResponse:
    """A shot as it will be delivered, JPEG for the screen. ``v``: whatever changes when the shot changes."""
    shot = rules.find_shot(rules.find(project_id), shot_id)
    if shot.revision is None:
        raise missing("assignment")
    look = recipe_of(shot.revision)
    shown = look_still(look, shot.revision.digest, shot.frame, width, strength=shot.strength, trim=rules.trim_of(shot))
    return binary(shown, "image/jpeg")


@router.post("/{int:project_id}/deliveries", response={201: DeliveryOut})
def deliver(request: HttpRequest, project_id: int, payload: DeliverIn) -> Status[DeliveryOut]:
    """Asks for a delivery."""
    return Status(201, _delivery(delivery.order(rules.find(project_id), person_of(request), payload.grid)))


@router.get("/{int:project_id}/deliveries/{int:number}/file")
def delivery_file(request: HttpRequest, project_id: int, number: int) -> FileResponse:
    """The package as ZIP."""
    found = rules.find(project_id)
    row = found.deliveries.filter(number=number).first() if number < 2**31 else None
    if row is None or not row.file:
        raise missing("delivery")
    name = f"{safe_name(found.name)}_delivery_{row.number}.zip"
    return FileResponse(default_storage.open(row.file), as_attachment=True, filename=name)
