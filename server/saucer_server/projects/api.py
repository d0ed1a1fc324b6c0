"""Projects over HTTP."""

from collections.abc import Iterable
from datetime import datetime
from typing import Annotated, Any, Literal

from django.db.models import Prefetch, QuerySet
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field
from saucer_core.encodings import EncodingKey
from saucer_core.trim import Trim

from ..clips import rules as clips
from ..fields import Text
from ..frames import rules as frames
from ..frames.api import FrameOut
from ..frames.reading_rules import ReadingRule
from ..frames.values import ShownPart
from ..intake import rules as intakes
from ..intake.api import IntakeLine
from ..jobs.api import JobOut
from ..jobs.rules import Job
from ..looks import rules as looks
from ..looks.revisions_api import RevisionOut
from ..lookup import Id
from ..people.rules import person_of
from . import assigning, fromclip, fromfiles, listing, rules
from .payloads import Meant, NamePart, ProjectPatch, Several, Wish
from .rules import Assignment, Change, Layer, NewShot, Project, Scene, Shot

router = Router(tags=["projects"])


class ProjectIn(Schema):
    """A new project."""

    name: Text = Field(min_length=1, max_length=120)
    note: Text = Field("", max_length=4000)


class KeepLookIn(Schema):
    """Whether a look is kept to a project's members."""

    kept: bool


class KeeperOut(Schema):
    """A private project that can keep looks to its members. kept: whether it keeps the look in question."""

    id: int
    name: str
    kept: bool


class LayerOut(Schema):
    """A look on a shot."""

    revision: RevisionOut
    strength: float


class CutOut(Schema):
    """Where a shot is cut from: a clip and its frames, both included."""

    clip: Id
    name: str
    first: int
    last: int
    rate: str


class ShotOut(Schema):
    """A shot with what is on it, and where that comes from. version: a mark that changes with its picture."""

    id: int
    number: int
    name: str
    scene: int | None
    frame: FrameOut
    cut: CutOut | None
    trim: Trim
    layers: list[LayerOut]
    given_by: Literal["project", "scene", "shot", ""]
    meant: list[Meant]
    version: str

    @staticmethod
    def resolve_scene(shot: Shot) -> int | None:
        """Its scene."""
        return shot.scene_id

    @staticmethod
    def resolve_cut(shot: Shot) -> CutOut | None:
        """Where it is cut from; nothing for a still."""
        if shot.clip is None:
            return None
        return CutOut(
            clip=shot.clip.pk,
            name=shot.clip.name,
            first=shot.first,
            last=shot.last,
            rate=shot.clip.facts.rate if shot.clip.facts else "",
        )

    @staticmethod
    def resolve_layers(shot: Shot) -> list[Layer]:
        """The looks on it, the first one first."""
        return list(shot.layers.all())

    @staticmethod
    def resolve_given_by(shot: Shot) -> str:
        """Where its looks come from."""
        return next((layer.given_by for layer in shot.layers.all()), "")

    @staticmethod
    def resolve_version(shot: Shot) -> str:
        """A mark that changes with its picture."""
        return rules.version_of(shot)


class PutOut(Schema):
    """What is put on a scene or on the project; ``None``: no look."""

    revision: RevisionOut | None
    strength: float


class SceneOut(Schema):
    """A scene with what is put on it; ``None`` where nothing is, so that the project's counts."""

    id: int
    name: str
    place: int
    puts: list[PutOut] | None

    @staticmethod
    def resolve_puts(scene: Scene) -> object:
        """What is put on it."""
        return _puts([r for r in scene.assignments.all() if r.shot_id is None])


class ChangeOut(Schema):
    """What somebody did."""

    id: int
    kind: str
    words: str
    shots: list[int]
    undone: bool
    made_by: str
    made_at: datetime

    @staticmethod
    def resolve_made_by(change: Change) -> str:
        """The person's name."""
        return str(change.made_by)


class MemberOut(Schema):
    """Somebody who works on a project."""

    id: int
    name: str
    role: str

    @staticmethod
    def resolve_name(person: Any) -> str:
        """The person's name."""
        return str(person)


class StripOut(Schema):
    """A shot in the strip of a project, and the part of its frame that small cards show."""

    id: int
    version: str
    part: ShownPart

    @staticmethod
    def resolve_part(shot: Shot) -> ShownPart:
        """That of its frame."""
        return shot.frame.part

    @staticmethod
    def resolve_version(shot: Shot) -> str:
        """A mark that changes with its picture."""
        return ShotOut.resolve_version(shot)


class DeliveredOut(Schema):
    """The last finished delivery of a project."""

    number: int
    made_at: datetime


class ProjectLine(Schema):
    """A project in the list: a strip of its shots, what waits in it, its last delivery, and what was done
    last."""

    id: int
    name: str
    note: str
    shots: int
    looks: int
    members: int
    private: bool
    strip: list[StripOut]
    waiting: str
    delivery: DeliveredOut | None
    last: ChangeOut | None


class ProjectOut(Schema):
    """A project, whole. private: seen by its members and leads alone. changes: what was done last, the newest
    first."""

    id: int
    name: str
    note: str
    private: bool
    members: list[MemberOut]
    encodings: list[EncodingKey]
    pattern: list[NamePart]
    reading: list[ReadingRule]
    puts: list[PutOut] | None
    scenes: list[SceneOut]
    shots: list[ShotOut]
    changes: list[ChangeOut]

    @staticmethod
    def resolve_private(project: Project) -> bool:
        """Whether it is kept to a circle."""
        return project.circle_id is not None

    @staticmethod
    def resolve_members(project: Project) -> list[Any]:
        """Who works on it; nobody named means everybody."""
        return list(project.members.order_by("full_name"))

    @staticmethod
    def resolve_puts(project: Project) -> object:
        """What is put on the whole of it."""
        return _puts(_assigned(project.assignments.filter(scene=None, shot=None)))

    @staticmethod
    def resolve_scenes(project: Project) -> list[Scene]:
        """Its scenes in order."""
        return list(
            project.scenes.prefetch_related(Prefetch("assignments", _assigned(Assignment.objects.all())))
        )

    @staticmethod
    def resolve_shots(project: Project) -> list[Shot]:
        """Its shots in order."""
        return list(rules.shots_of(project))

    @staticmethod
    def resolve_changes(project: Project) -> list[Change]:
        """What was done last."""
        return assigning.changes_of(project)


def _assigned(rows: QuerySet[Assignment]) -> QuerySet[Assignment]:
    return rows.select_related("revision__look", "revision__made_by", "revision__moved_by")


def _puts(rows: Iterable[Assignment]) -> list[Assignment] | None:
    return list(rows) or None


class ShotsIn(Schema):
    """Frames to add as shots, into a scene or into none."""

    frames: list[Id] = Field(min_length=1, max_length=400)
    scene: Id | None = None


class CutIn(Schema):
    """Shots to cut from a clip: the first frames of those that are wanted, all of its cuts where none are
    named."""

    clip: Id
    firsts: list[Annotated[int, Field(ge=0, le=1_000_000)]] = Field([], max_length=2000)
    scene: Id | None = None


class SceneIn(Schema):
    """A new scene, and shots to put into it."""

    name: Text = Field(min_length=1, max_length=120)
    shots: Several = ()


class SceneSaid(Schema):
    """What is said of a scene: its name, and its place among the others from 1 on."""

    name: Text = Field("", max_length=120)
    place: int | None = Field(None, ge=1, le=10_000)


class GatherIn(Schema):
    """Shots to put into a scene; ``None``: into none."""

    shots: Several = Field(min_length=1)
    scene: Id | None


class UseOut(Schema):
    """A project that uses a revision of a look, and the shots it is on."""

    project: Id
    name: str
    revision: int
    shots: int
    names: list[str]


@router.get("/keeping/{int:look_id}", response=list[KeeperOut])
def keeping(request: HttpRequest, look_id: int) -> list[KeeperOut]:
    """The private projects that can keep a look to their members."""
    look = looks.find(look_id)
    rows = rules.every().exclude(circle=None)
    return [KeeperOut(id=p.pk, name=p.name, kept=look.circle_id == p.circle_id) for p in rows]


@router.put("/{int:project_id}/looks/{int:look_id}", response=list[KeeperOut])
def keep_look(request: HttpRequest, project_id: int, look_id: int, payload: KeepLookIn) -> list[KeeperOut]:
    """Keeps a look to the members of a private project, or shows it to everybody again."""
    rules.keep_look(rules.find(project_id), looks.find(look_id), person_of(request), payload.kept)
    return keeping(request, look_id)


@router.get("/using/{int:look_id}", response=list[UseOut])
def using(request: HttpRequest, look_id: int) -> list[UseOut]:
    """Which projects use a look, and on which shots."""
    found = rules.uses_of(looks.find(look_id))
    return [
        UseOut(
            project=p.pk,
            name=p.name,
            revision=number,
            shots=len(shots),
            names=[f"{s.number} {s.name}" for s in shots[:40]],
        )
        for p, number, shots in found
    ]


@router.get("", response=list[ProjectLine])
def projects(request: HttpRequest) -> list[listing.Line]:
    """All projects."""
    return listing.lines()


@router.post("", response={201: ProjectOut})
def create(request: HttpRequest, payload: ProjectIn) -> Status[Project]:
    """Starts a project."""
    return Status(201, rules.create(person_of(request), payload.name, payload.note))


@router.get("/{int:project_id}", response=ProjectOut)
def project(request: HttpRequest, project_id: int) -> Project:
    """A project with its scenes and shots."""
    return rules.find(project_id)


@router.patch("/{int:project_id}", response=ProjectOut)
def change(request: HttpRequest, project_id: int, payload: ProjectPatch) -> Project:
    """Says what a project is called and delivers, how its files are named, how pictures are read, and who
    works on it."""
    return rules.change(rules.find(project_id), person_of(request), payload)


@router.post("/{int:project_id}/shots", response={201: ProjectOut})
def add_shots(request: HttpRequest, project_id: int, payload: ShotsIn) -> Status[Project]:
    """Adds frames as shots."""
    found = rules.find(project_id)
    scene = rules.find_scene(found, payload.scene) if payload.scene else None
    rules.add_shots(
        found,
        person_of(request),
        [NewShot(frames.seen_by(person_of(request), i)) for i in payload.frames],
        scene,
    )
    return Status(201, found)


@router.post("/{int:project_id}/intakes", response={201: IntakeLine})
def begin_intake(request: HttpRequest, project_id: int) -> Status[intakes.Intake]:
    """Begins an intake whose files become shots of the project; its rules say how they are read."""
    return Status(201, fromfiles.begin(rules.find(project_id), person_of(request)))


@router.post("/{int:project_id}/intakes/{int:intake_id}/keep", response={201: ProjectOut})
def keep_intake(request: HttpRequest, project_id: int, intake_id: int) -> Status[Project]:
    """Makes shots of all files that are chosen; the others are let go."""
    found = rules.find(project_id)
    fromfiles.keep(found, person_of(request), intake_id)
    return Status(201, found)


@router.post("/{int:project_id}/cut", response={201: JobOut})
def cut(request: HttpRequest, project_id: int, payload: CutIn) -> Status[Job]:
    """Asks for shots that are cut from a clip."""
    clip = clips.find(payload.clip)
    return Status(
        201, fromclip.order(rules.find(project_id), person_of(request), clip, payload.firsts, payload.scene)
    )


@router.post("/{int:project_id}/scenes", response={201: ProjectOut})
def add_scene(request: HttpRequest, project_id: int, payload: SceneIn) -> Status[Project]:
    """A new scene."""
    found = rules.find(project_id)
    rules.add_scene(found, person_of(request), payload.name, payload.shots)
    return Status(201, found)


@router.patch("/{int:project_id}/scenes/{int:scene_id}", response=ProjectOut)
def change_scene(request: HttpRequest, project_id: int, scene_id: int, payload: SceneSaid) -> Project:
    """Renames a scene, or moves it."""
    found = rules.find(project_id)
    rules.change_scene(found, person_of(request), scene_id, name=payload.name, place=payload.place)
    return found


@router.delete("/{int:project_id}/scenes/{int:scene_id}", response={204: None})
def remove_scene(request: HttpRequest, project_id: int, scene_id: int) -> Status[None]:
    """Takes a scene apart; its shots stay with the looks they have."""
    rules.remove_scene(rules.find(project_id), person_of(request), scene_id)
    return Status(204, None)


@router.post("/{int:project_id}/gather", response=ProjectOut)
def gather(request: HttpRequest, project_id: int, payload: GatherIn) -> Project:
    """Puts shots into a scene, or out of theirs."""
    found = rules.find(project_id)
    rules.gather(found, person_of(request), payload.shots, payload.scene)
    return found


@router.post("/{int:project_id}/assign", response=ProjectOut)
def assign(request: HttpRequest, project_id: int, payload: Wish) -> Project:
    """Puts looks on the project, on scenes or on shots."""
    found = rules.find(project_id)
    assigning.assign(found, person_of(request), payload)
    return found


@router.post("/{int:project_id}/changes/{int:change_id}/undo", response=ProjectOut)
def undo(request: HttpRequest, project_id: int, change_id: int) -> Project:
    """Takes back what was done, where nothing was done to the same since."""
    found = rules.find(project_id)
    assigning.undo(found, person_of(request), change_id)
    return found
