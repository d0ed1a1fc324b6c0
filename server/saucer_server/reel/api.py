"""The reel of a project over HTTP: its cuts, and the notes on its moments."""

from datetime import datetime

from django.db.models import QuerySet
from django.http import HttpRequest
from ninja import Router, Schema, Status
from saucer_core.readings.evenness import Reading
from saucer_core.trim import Trim

from ..looks.rules import LookValue
from ..people.rules import person_of
from ..projects import rules as projects
from ..projects.shots_api import ReadingOut, SuggestedOut
from ..projects.wall_api import ApartOut
from . import cuts, notes
from .notes import ReelNote
from .payloads import ReelNoteIn, Words, Wore

router = Router(tags=["reel"])


class OnReelOut(Schema):
    """A shot on the reel: what its first and its last frame show, and what jumps where it begins."""

    shot: int
    begins: ReadingOut
    ends: ReadingOut
    jumps: list[ApartOut]

    @staticmethod
    def resolve_shot(one: cuts.OnReel) -> int:
        """Its id."""
        return one.shot.pk


class SceneOnReelOut(Schema):
    """The cuts inside a scene, and what is usual among its shots."""

    usual: ReadingOut
    shots: list[OnReelOut]


class MendedOut(SuggestedOut):
    """The trim that mends a jump. small: whether it is one that a jump is mended by; else the shots differ in
    what they show."""

    small: bool

    @staticmethod
    def resolve_trim(made: cuts.Mended) -> Trim:
        """The trim."""
        return made.found.trim

    @staticmethod
    def resolve_before(made: cuts.Mended) -> Reading:
        """What the shot begins with now."""
        return made.found.before

    @staticmethod
    def resolve_after(made: cuts.Mended) -> Reading:
        """What it would begin with."""
        return made.found.after

    @staticmethod
    def resolve_aim(made: cuts.Mended) -> Reading:
        """What it is to begin with: what the shot before ends with."""
        return made.found.aim


class ReelReplyOut(Schema):
    """A reply to a note."""

    id: int
    text: str
    by: str
    mine: bool
    at: datetime

    @staticmethod
    def resolve_by(note: ReelNote) -> str:
        """The person's name."""
        return str(note.by)

    @staticmethod
    def resolve_mine(note: ReelNote, context: dict[str, object]) -> bool:
        """Whether the person who asks wrote it."""
        return note.by_id == person_of(context["request"]).pk


class ReelNoteOut(ReelReplyOut):
    """A note on a moment. shot: nothing where it was taken out since; place: what it was called. first, last:
    frames of the shot's clip, both included. wore: what was on the shot then."""

    shot: int | None
    place: str
    first: int
    last: int
    x: float | None
    y: float | None
    wore: list[Wore]
    settled_by: str | None
    replies: list[ReelReplyOut]

    @staticmethod
    def resolve_shot(note: ReelNote) -> int | None:
        """Its id."""
        return note.shot_id

    @staticmethod
    def resolve_settled_by(note: ReelNote) -> str | None:
        """The person's name."""
        return str(note.settled_by) if note.settled_by else None


class ReelNoteText(Schema):
    """What a note or a reply says."""

    text: Words


class ReelNoteSettled(Schema):
    """Whether nothing is left to do."""

    settled: bool


class WaitingNoteOut(Schema):
    """An open note on a project that the person who asks works on."""

    id: int
    project: int
    project_name: str
    shot: int | None
    place: str
    text: str
    by: str
    at: datetime

    @staticmethod
    def resolve_project(note: ReelNote) -> int:
        """Its id."""
        return note.project_id

    @staticmethod
    def resolve_project_name(note: ReelNote) -> str:
        """What it is called."""
        return note.project.name

    @staticmethod
    def resolve_shot(note: ReelNote) -> int | None:
        """Its id."""
        return note.shot_id

    @staticmethod
    def resolve_by(note: ReelNote) -> str:
        """The person's name."""
        return str(note.by)


@router.get("/notes/waiting", response=list[WaitingNoteOut])
def waiting(request: HttpRequest) -> QuerySet[ReelNote]:
    """Open notes of others on the projects that the person who asks works on."""
    return notes.waiting(person_of(request))


@router.get("/{int:project_id}/reel/scenes/{int:scene_id}", response=SceneOnReelOut)
def scene(request: HttpRequest, project_id: int, scene_id: int) -> cuts.SceneOnReel:
    """How the shots of a scene begin and end, and where a cut jumps; scene 0 for those in none."""
    return cuts.scene_of(projects.find(project_id), scene_id)


@router.get("/{int:project_id}/reel/shots/{int:shot_id}/mended", response=MendedOut)
def mended(request: HttpRequest, project_id: int, shot_id: int) -> cuts.Mended:
    """The trim with which a shot begins as the one before it ends. Nothing is kept."""
    return cuts.mended(projects.find(project_id), shot_id)


@router.get("/{int:project_id}/notes", response=list[ReelNoteOut])
def notes_of(request: HttpRequest, project_id: int) -> QuerySet[ReelNote]:
    """Notes on moments of the project, with their replies, the oldest first."""
    return notes.of_project(projects.find(project_id))


@router.post("/{int:project_id}/notes", response={201: ReelNoteOut})
def pin(request: HttpRequest, project_id: int, payload: ReelNoteIn) -> Status[ReelNote]:
    """A note on a moment of a shot."""
    return Status(201, notes.pin(projects.find(project_id), person_of(request), payload))


@router.patch("/{int:project_id}/notes/{int:note_id}", response=ReelNoteOut)
def change(request: HttpRequest, project_id: int, note_id: int, payload: ReelNoteText) -> ReelNote:
    """Writes one's own note anew."""
    return notes.change(projects.find(project_id), note_id, person_of(request), payload.text)


@router.delete("/{int:project_id}/notes/{int:note_id}", response={204: None})
def drop(request: HttpRequest, project_id: int, note_id: int) -> Status[None]:
    """Takes a note away with its replies."""
    notes.drop(projects.find(project_id), note_id, person_of(request))
    return Status(204, None)


@router.post("/{int:project_id}/notes/{int:note_id}/replies", response={201: ReelReplyOut})
def reply(request: HttpRequest, project_id: int, note_id: int, payload: ReelNoteText) -> Status[ReelNote]:
    """A reply to a note."""
    return Status(201, notes.reply(projects.find(project_id), note_id, person_of(request), payload.text))


@router.put("/{int:project_id}/notes/{int:note_id}/settled", response=ReelNoteOut)
def settle(request: HttpRequest, project_id: int, note_id: int, payload: ReelNoteSettled) -> ReelNote:
    """Says that nothing is left to do about a note, or that there is again."""
    return notes.settle(projects.find(project_id), note_id, person_of(request), payload.settled)


@router.get("/{int:project_id}/notes/{int:note_id}/worn", response=LookValue)
def worn(request: HttpRequest, project_id: int, note_id: int) -> LookValue:
    """What was on the shot when a note was written, as one look."""
    return notes.worn_then(projects.find(project_id), note_id)
