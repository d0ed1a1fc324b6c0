"""The wall of a project, and newer revisions for it, over HTTP."""

from django.http import HttpRequest
from ninja import Router, Schema

from ..looks import rules as looks
from ..looks.revisions_api import RevisionOut
from ..lookup import Id
from ..people.rules import person_of
from . import evenness, rollout, rules
from .api import ProjectOut
from .payloads import Seen, Several
from .rules import Project
from .shots_api import ReadingOut

router = Router(tags=["projects"])


class ApartOut(Schema):
    """By how much a shot stands out of its scene, and in what."""

    what: str
    by: float
    text: str


class OnWallOut(Schema):
    """A shot on the wall: what it shows, and by what it stands out."""

    shot: int
    reading: ReadingOut
    apart: list[ApartOut]

    @staticmethod
    def resolve_shot(one: evenness.OnWall) -> int:
        """Its id."""
        return one.shot.pk


class SceneOnWallOut(Schema):
    """A scene on the wall; ``None``: the shots that are in none."""

    scene: int | None
    usual: ReadingOut
    shots: list[OnWallOut]

    @staticmethod
    def resolve_scene(one: evenness.SceneOnWall) -> int | None:
        """Its id."""
        return one.scene.pk if one.scene else None


class NewerOut(Schema):
    """A revision that stands ready for shots on another one of the same look; words: what it changes."""

    now: RevisionOut
    then: RevisionOut
    shots: list[int]
    words: list[str]

    @staticmethod
    def resolve_shots(offer: rollout.Offer) -> list[int]:
        """Ids of the shots that it stands ready for."""
        return [shot.pk for shot in offer.shots]


class ShotChangeOut(Schema):
    """How far a shot would change: mean ΔE, and what 99 % of its picture stay under."""

    shot: int
    mean: float
    most: float

    @staticmethod
    def resolve_shot(change: rollout.ShotChange) -> int:
        """Its id."""
        return change.shot.pk


class RollOutIn(Schema):
    """Shots that are to go from one revision of a look to another; none: they stay, and are not asked again
    for this one."""

    now: Id
    then: Id
    shots: Several
    seen: Seen = None


@router.get("/{int:project_id}/wall", response=list[SceneOnWallOut])
def wall(request: HttpRequest, project_id: int) -> list[evenness.SceneOnWall]:
    """How evenly the shots sit beside each other, by scene."""
    return evenness.wall(rules.find(project_id))


@router.get("/{int:project_id}/offers", response=list[NewerOut])
def offers(request: HttpRequest, project_id: int) -> list[rollout.Offer]:
    """Newer revisions of looks that are on the project."""
    return rollout.offers(rules.find(project_id))


@router.get("/{int:project_id}/changed", response=list[ShotChangeOut])
def changed(request: HttpRequest, project_id: int, now: Id, then: Id) -> list[rollout.ShotChange]:
    """What another revision would change on each shot, the biggest change first."""
    return rollout.changed_by(rules.find(project_id), looks.find_revision(now), looks.find_revision(then))


@router.post("/{int:project_id}/roll-out", response=ProjectOut)
def roll_out(request: HttpRequest, project_id: int, payload: RollOutIn) -> Project:
    """Puts another revision on chosen shots, or says that all stay."""
    found, person = rules.find(project_id), person_of(request)
    now, then = looks.find_revision(payload.now), looks.find_revision(payload.then)
    if payload.shots:
        rollout.roll_out(found, person, now, then, payload.shots, payload.seen)
    else:
        rollout.stay(found, person, now, then)
    return found
