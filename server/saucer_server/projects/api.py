"""Projects over HTTP."""

from datetime import datetime

from django.core.files.storage import default_storage
from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import PatchDict, Router, Schema, Status
from pydantic import Field
from saucer_core.trim import Trim

from ..fields import Share, Text, Width, binary, safe_name, said
from ..frames.api import FrameOut
from ..jobs.api import JobOut
from ..looks import rules as looks
from ..looks.revisions_api import RevisionOut
from ..lookup import Id
from ..people.rules import person_of
from . import delivery, rules
from .rules import Delivery, Project, Shot

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

    @staticmethod
    def resolve_trim(shot: Shot) -> Trim:
        """The trim with every number."""
        return rules.trim_of(shot)


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

    @staticmethod
    def resolve_ready(delivery: Delivery) -> bool:
        """Whether its file is there."""
        return bool(delivery.file)

    @staticmethod
    def resolve_made_by(delivery: Delivery) -> str:
        """The person's name."""
        return str(delivery.made_by)


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

    @staticmethod
    def resolve_shots(project: Project) -> list[Shot]:
        """Its shots in order."""
        return list(rules.shots_of(project))

    @staticmethod
    def resolve_deliveries(project: Project) -> list[Delivery]:
        """Its deliveries, the newest first."""
        return list(project.deliveries.select_related("job", "made_by"))


class ShotsIn(Schema):
    """Frames to add as shots."""

    frames: list[Id] = Field(min_length=1, max_length=200)


class ShotAbout(Schema):
    """What is said of one shot."""

    name: Text = Field(min_length=1, max_length=120)
    trim: Trim
    strength: Share


class AssignIn(Schema):
    """A revision for shots; ``None`` takes the look off."""

    shots: list[Id] = Field(min_length=1, max_length=1000)
    revision: Id | None
    strength: Share = 1.0


class DeliverIn(Schema):
    """What to deliver."""

    grid: int = Field(33, ge=2, le=65)


class UseOut(Schema):
    """A project that uses a revision of a look, and on how many shots."""

    project: Id
    name: str
    revision: int
    shots: int


@router.get("/using/{int:look_id}", response=list[UseOut])
def using(request: HttpRequest, look_id: int) -> list[UseOut]:
    """Which projects use a look."""
    found = rules.uses_of(looks.find(look_id))
    return [UseOut(project=p.pk, name=p.name, revision=number, shots=count) for p, number, count in found]


@router.get("", response=list[ProjectLine])
def projects(request: HttpRequest) -> list[ProjectLine]:
    """All projects."""
    return [
        ProjectLine(id=p.pk, name=p.name, note=p.note, shots=len(shots), looks=looks, frames=[s.frame_id for s in shots[:6]])
        for p, shots, looks in rules.every()
    ]


@router.post("", response={201: ProjectOut})
def create(request: HttpRequest, payload: ProjectIn) -> Status[Project]:
    """Starts a project."""
    return Status(201, rules.create(person_of(request), payload.name, payload.note))


@router.get("/{int:project_id}", response=ProjectOut)
def project(request: HttpRequest, project_id: int) -> Project:
    """A project with its shots and deliveries."""
    return rules.find(project_id)


@router.post("/{int:project_id}/shots", response={201: ProjectOut})
def add_shots(request: HttpRequest, project_id: int, payload: ShotsIn) -> Status[Project]:
    """Adds frames as shots."""
    found = rules.find(project_id)
    rules.add_shots(found, payload.frames)
    return Status(201, found)


@router.patch("/{int:project_id}/shots/{int:shot_id}", response=ShotOut)
def change_shot(request: HttpRequest, project_id: int, shot_id: int, payload: PatchDict[ShotAbout]) -> Shot:
    """Renames or trims a shot, or eases its look."""
    return rules.change_shot(rules.find(project_id), shot_id, said(payload))


@router.delete("/{int:project_id}/shots/{int:shot_id}", response={204: None})
def remove_shot(request: HttpRequest, project_id: int, shot_id: int) -> Status[None]:
    """Takes a shot out of the project; the frame stays."""
    rules.find_shot(rules.find(project_id), shot_id).delete()
    return Status(204, None)


@router.post("/{int:project_id}/assign", response=ProjectOut)
def assign(request: HttpRequest, project_id: int, payload: AssignIn) -> Project:
    """Puts a revision on several shots."""
    found = rules.find(project_id)
    rules.assign(found, payload.shots, payload.revision, payload.strength)
    return found


@router.get("/{int:project_id}/shots/{int:shot_id}/still")
def still(request: HttpRequest, project_id: int, shot_id: int, width: Width = 480, v: str = "") -> HttpResponse:
    """A shot as it will be delivered, JPEG for the screen. ``v``: whatever changes when the shot changes."""
    return binary(rules.still(rules.find_shot(rules.find(project_id), shot_id), width), "image/jpeg")


@router.post("/{int:project_id}/deliveries", response={201: DeliveryOut})
def deliver(request: HttpRequest, project_id: int, payload: DeliverIn) -> Status[Delivery]:
    """Asks for a delivery."""
    return Status(201, delivery.order(rules.find(project_id), person_of(request), payload.grid))


@router.get("/{int:project_id}/deliveries/{int:number}/file")
def delivery_file(request: HttpRequest, project_id: int, number: int) -> FileResponse:
    """The package as ZIP."""
    found = rules.find(project_id)
    row = delivery.ready(found, number)
    name = f"{safe_name(found.name)}_delivery_{row.number}.zip"
    return FileResponse(default_storage.open(row.file), as_attachment=True, filename=name)
