"""The shots of a project over HTTP: what they are, their trims, their pictures."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field
from saucer_core.encodings import EncodingKey
from saucer_core.formats.sequences import Rate
from saucer_core.look import Look as LookValue
from saucer_core.readings.evenness import Reading
from saucer_core.trim import Trim

from ..clips.api import ClipOut
from ..clips.rules import Clip
from ..fields import ShareAsked, Width, binary, picture
from ..looks import rules as looks
from ..lookup import Id
from ..openapi import JPEG, gives
from ..people.rules import person_of
from . import fromclip, pictures, rollout, rules, trimming
from .api import ProjectOut, ShotOut
from .payloads import Ripple, ShotPatch
from .rules import Project, Shot

router = Router(tags=["projects"])

Full = Annotated[float, Query(gt=0, le=100, allow_inf_nan=False)]


class LeanOut(Schema):
    """How far greys lean to red and to yellow, in hundredths of OKLab."""

    red: float
    yellow: float


class ReadingOut(Schema):
    """What a shot shows under its look: hue of skin (°), lean of its greys, mean lightness (%)."""

    skin: float | None
    grey: LeanOut | None
    tone: float

    @staticmethod
    def resolve_grey(reading: Reading) -> LeanOut | None:
        """How its greys lean."""
        return LeanOut(red=reading.grey[0], yellow=reading.grey[1]) if reading.grey else None


class SuggestedOut(Schema):
    """A trim that would bring a shot to others: what it shows now, would show, and is to show."""

    trim: Trim
    before: ReadingOut
    after: ReadingOut
    aim: ReadingOut


class DroppedIn(Schema):
    """Where a still or a clip that is dropped in came from, and how it is encoded where that is known."""

    folder: str = Field("", max_length=400)
    encoding: EncodingKey | None = None


class DroppedClip(DroppedIn):
    """The same of a clip. rate: frames a second, for a numbered sequence; nothing for the usual ones."""

    rate: Rate | None = None


@router.post("/{int:project_id}/stills", response={201: ShotOut})
def take_still(
    request: HttpRequest, project_id: int, about: Form[DroppedIn], file: File[UploadedFile]
) -> Status[Shot]:
    """A still that is dropped into the project as a shot; how it is encoded is told by the project's rules
    where it is not said."""
    found = rules.find(project_id)
    made = fromclip.take_still(
        found, person_of(request), file, about.folder.replace("\0", ""), about.encoding or ""
    )
    return Status(201, rules.find_shot(found, made.pk))


@router.post("/{int:project_id}/clips", response={201: ClipOut})
def take_clip(
    request: HttpRequest, project_id: int, about: Form[DroppedClip], file: File[UploadedFile]
) -> Status[Clip]:
    """Takes a clip in and looks it through; how it is encoded is said, told by the project's rules, or by the
    file's own tags."""
    found = rules.find(project_id)
    folder = about.folder.replace("\0", "")
    made = fromclip.take_clip(
        found, person_of(request), file, folder, about.encoding or "", rate=about.rate or ""
    )
    return Status(201, made)


@router.patch("/{int:project_id}/shots/{int:shot_id}", response=ShotOut)
def change_shot(request: HttpRequest, project_id: int, shot_id: int, payload: ShotPatch) -> Shot:
    """Renames a shot, puts it into a scene, says what of it is meant, or reads its picture in another
    encoding."""
    return rules.change_shot(rules.find(project_id), person_of(request), shot_id, payload)


@router.delete("/{int:project_id}/shots/{int:shot_id}", response={204: None})
def remove_shot(request: HttpRequest, project_id: int, shot_id: int) -> Status[None]:
    """Takes a shot out of the project; a frame stays."""
    rules.remove_shot(rules.find(project_id), person_of(request), shot_id)
    return Status(204, None)


@router.post("/{int:project_id}/trim", response=ProjectOut)
def trim(request: HttpRequest, project_id: int, payload: Ripple) -> Project:
    """Keeps a trim, or parts of it, on shots."""
    found = rules.find(project_id)
    trimming.keep(found, person_of(request), payload)
    return found


@router.get("/{int:project_id}/shots/{int:shot_id}/suggested", response=SuggestedOut)
def suggested(
    request: HttpRequest, project_id: int, shot_id: int, hero: Id | None = None
) -> trimming.Suggestion:
    """The trim that brings a shot to its scene, or to another shot; nothing is kept."""
    return trimming.suggested(rules.find(project_id), shot_id, hero)


@router.get("/{int:project_id}/shots/{int:shot_id}/worn", response=LookValue)
def worn(
    request: HttpRequest,
    project_id: int,
    shot_id: int,
    newer: bool = False,
    now: Id | None = None,
    then: Id | None = None,
) -> LookValue:
    """The looks on a shot as one, their strengths inside; where there is none, one that does nothing.
    ``newer``: with the newer revisions that stand ready for it; ``now``, ``then``: with one revision in place
    of another."""
    shot = rules.find_shot(rules.find(project_id), shot_id)
    layers = rollout.with_newer(shot) if newer else list(shot.layers.all())
    if now is not None and then is not None:
        layers = rollout.replaced(shot, looks.find_revision(now), looks.find_revision(then))
    on = rules.worn(layers)
    if on is None:
        return LookValue(input=shot.frame.encoding, output=shot.frame.encoding)
    return on.look.model_copy(update={"strength": on.look.strength * on.strength})


@router.get("/{int:project_id}/shots/{int:shot_id}/still", openapi_extra=gives(JPEG))
def still(
    request: HttpRequest, project_id: int, shot_id: int, width: Width = 480, v: str = ""
) -> HttpResponse:
    """A shot as it will be delivered, JPEG for the screen. ``v``: its version."""
    shot = rules.find_shot(rules.find(project_id), shot_id)
    # Before it is drawn: drawing puts the shot's trim on its frame.
    version = rules.version_of(shot)
    return picture(pictures.still(shot, width), "image/jpeg", v, version, own=bool(shot.project.circle_id))


@router.get("/{int:project_id}/shots/{int:shot_id}/trying", openapi_extra=gives(JPEG))
def trying(
    request: HttpRequest,
    project_id: int,
    shot_id: int,
    revision: Id,
    strength: ShareAsked = 1.0,
    over: bool = False,
    width: Width = 320,
    v: str = "",
) -> HttpResponse:
    """A shot under a look that is not put on it: instead of what is there, or over it."""
    shot = rules.find_shot(rules.find(project_id), shot_id)
    return binary(
        pictures.trying(shot, looks.find_revision(revision), strength, width, over=over), "image/jpeg"
    )


@router.get("/{int:project_id}/shots/{int:shot_id}/trimmed", openapi_extra=gives(JPEG))
def trimmed(
    request: HttpRequest, project_id: int, shot_id: int, trim: str, width: Width = 480
) -> HttpResponse:
    """A shot under its look with another trim, as JSON, that is not kept."""
    shot = rules.find_shot(rules.find(project_id), shot_id)
    shot.trim = trimming.parsed(trim)
    return binary(pictures.still(shot, width), "image/jpeg")


@router.get("/{int:project_id}/shots/{int:shot_id}/then", openapi_extra=gives(JPEG))
def then(
    request: HttpRequest,
    project_id: int,
    shot_id: int,
    now: Id,
    revision: Id,
    width: Width = 320,
    v: str = "",
) -> HttpResponse:
    """A shot with another revision in place of one that is on it."""
    shot = rules.find_shot(rules.find(project_id), shot_id)
    layers = rollout.replaced(shot, looks.find_revision(now), looks.find_revision(revision))
    return binary(pictures.wearing(layers, shot.frame, width, shot), "image/jpeg")


@router.get("/{int:project_id}/shots/{int:shot_id}/apart", openapi_extra=gives(JPEG))
def apart(
    request: HttpRequest,
    project_id: int,
    shot_id: int,
    now: Id,
    revision: Id,
    width: Width = 320,
    full: Full = 6.0,
    v: str = "",
) -> HttpResponse:
    """What another revision would change on a shot: black for nothing, white from ΔE ``full`` on."""
    shot = rules.find_shot(rules.find(project_id), shot_id)
    layers = rollout.replaced(shot, looks.find_revision(now), looks.find_revision(revision))
    return binary(pictures.apart(shot, layers, width, full), "image/jpeg")
