"""Cuts of a project over HTTP."""

from collections.abc import Iterable, Mapping
from datetime import datetime
from fractions import Fraction
from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import BaseModel, Field
from saucer_core.formats.cutlists import cmx
from saucer_core.formats.cutlists.matching import By
from saucer_core.formats.sequences import USUAL_RATE, Rate
from saucer_core.trim import Trim

from ..clips import rules as clips
from ..fields import attached
from ..frames.values import ShownPart
from ..jobs.api import JobOut
from ..jobs.rules import Job
from ..lookup import Id
from ..openapi import BINARY, gives
from ..people.rules import person_of
from ..projects import rules as projects
from ..projects.arranging import every_shot_of
from ..projects.payloads import SHOTS, Seen
from ..projects.rules import Shot, version_of
from . import outgoing, rules, taking, waiting
from .comparing import Became, Changed, Comparison, Stretch, compare, scenes_of, stretches_of
from .rules import Cut
from .words import how

router = Router(tags=["cuts"])

Place = Annotated[int, Field(ge=0, lt=SHOTS)]
#: Timecodes that stand over a cut, at most.
TICKS = 7
#: Seconds between them.
STEPS = (1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1800, 3600)


class CutLine(Schema):
    """A cut of a project. number: of one that was taken; current: whether the project follows it. waiting:
    how many of its events have no clip."""

    id: int
    number: int | None
    current: bool
    title: str
    file_name: str
    events: int
    waiting: int
    made_by: str
    made_at: datetime
    taken_by: str
    taken_at: datetime | None


class MayBe(BaseModel):
    """A clip that an event may be of."""

    id: int
    name: str


class CutStretch(BaseModel):
    """An event of a cut. at, lasts: its frames there. clip, first, last: the frames of the clip that it
    shows, from 0; no clip while it waits. before, behind: frames of the clip that are left around them.
    range: the same as timecodes, as the list has them. by: by what its clip was told; asked, why: where none
    is sure.

    carries: whether the list has an ASC CDL for it; cdl: the trim that this is, nothing where it is beyond
    what a trim has; taken: whether it is to be the trim. trim: the one that its shot has.
    """

    place: int
    number: int
    name: str
    at: int
    lasts: int
    length: int
    speed: float
    clip: int | None
    first: int
    last: int
    before: int
    behind: int
    range: str
    reel: str
    by: By
    asked: list[MayBe]
    why: str
    shot: int | None
    version: str
    part: ShownPart
    scene: str
    carries: bool
    cdl: Trim | None
    taken: bool
    trim: Trim | None


class LookThere(BaseModel):
    """A look on a shot: its revision, with the mark that its portrait changes with, and its name in words."""

    id: int
    digest: str
    words: str


class Recutting(BaseModel):
    """What becomes of an event. kinds: *same*, or what happened; old, new: its places in the bands. shot:
    that is kept or laid aside, with the looks and the trim on it. was, now: frames."""

    kinds: list[Became]
    old: int | None
    new: int | None
    name: str
    number: int | None
    was: int | None
    now: int | None
    how: str
    waits: bool
    shot: int | None
    version: str
    part: ShownPart
    looks: list[LookThere]
    trim: Trim | None


class Tick(BaseModel):
    """A timecode over a cut, at a frame of it."""

    at: int
    label: str


class CutWhole(CutLine):
    """A cut with its events. rate: frames a second, as a fraction; unit: frames of a second by the timecode.
    before: what the project has now; nothing for a cut that was taken. aside: how many shots are laid aside;
    seen: the newest change of the project."""

    kind: str
    rate: str
    unit: int
    doubts: list[str]
    ticks: list[Tick]
    before: list[CutStretch]
    after: list[CutStretch]
    changed: list[Recutting]
    aside: int
    job: JobOut | None
    seen: int | None


class CutListIn(Schema):
    """How many frames a second a list has that does not say it."""

    rate: Rate = USUAL_RATE


class EventClip(Schema):
    """The clip of an event, by the event's place from 0; ``None``: it waits."""

    place: Place
    clip: Id | None


class CutSaid(Schema):
    """What is said of a cut before it is taken; what is left out stays as it is. corrections: the events
    whose CDLs become trims."""

    clips: list[EventClip] = Field([], max_length=SHOTS)
    corrections: list[Place] | None = Field(None, max_length=SHOTS)


class CutTaking(Schema):
    """seen: the newest change of the project that the person had before them."""

    seen: Seen = None


class FillIn(Schema):
    """The clip of an event that waits."""

    place: Place
    clip: Id


def _line(cut: Cut) -> CutLine:
    return CutLine(
        id=cut.pk,
        number=cut.number,
        current=cut.number is not None and cut.number == cut.project.cut_number,
        title=cut.title,
        file_name=cut.file_name,
        events=len(cut.events),
        waiting=cut.waiting,
        made_by=str(cut.made_by),
        made_at=cut.made_at,
        taken_by=str(cut.taken_by or ""),
        taken_at=cut.taken_at,
    )


def _ticks(stretches: list[Stretch], cut: Cut) -> list[Tick]:
    if not stretches:
        return []
    said = cut.as_list
    begin = min(s.event.at for s in stretches)
    end = max(s.event.at + s.event.lasts for s in stretches)
    unit = round(said.rate)
    step = next((s for s in STEPS if (end - begin) <= s * unit * TICKS), STEPS[-1]) * unit
    first = -(-begin // step) * step
    return [Tick(at=at, label=said.timecode(at)) for at in range(first, end, step)]


class _Shown:
    """Says the stretches of a cut. versions: of the pictures of shots, by their ids."""

    def __init__(self, cut: Cut, stretches: list[Stretch], versions: Mapping[int, str]) -> None:
        self._cut, self._list, self._versions = cut, cut.as_list, versions
        asked = {key for stretch in stretches for key in stretch.met.asked}
        self._names = {c.pk: c.name for c in clips.every().filter(pk__in=asked)}

    def __call__(self, stretch: Stretch, shot: Shot | None, scene: str, place: int, own: bool) -> CutStretch:
        """own: whether it is of the cut itself, and not of the one before."""
        event, clip, met = stretch.event, stretch.clip, stretch.met
        said = self._cut.events[place] if own else None
        frames = clip.facts.frames if clip is not None and clip.facts is not None else 0
        return CutStretch(
            place=place,
            number=stretch.number,
            name=stretch.name,
            at=event.at,
            lasts=event.lasts,
            length=event.length,
            speed=event.speed,
            clip=clip.pk if clip else None,
            first=event.start if clip else 0,
            last=event.start + event.length - 1 if clip else 0,
            before=event.start if clip else 0,
            behind=frames - event.start - event.length if clip else 0,
            range=f"{self._list.timecode(said.start)} – {self._list.timecode(said.end - 1)}" if said else "",
            reel=said.reel if said else "",
            by=met.by,
            asked=[MayBe(id=key, name=self._names[key]) for key in met.asked if key in self._names],
            why=met.why,
            shot=shot.pk if shot and not shot.aside else None,
            version=self._versions[shot.pk] if shot else "",
            part=shot.frame.part if shot else ShownPart(),
            scene=scene,
            carries=said is not None and said.correction is not None,
            cdl=taking.trim_of(said) if said else None,
            taken=own and place in self._cut.corrections,
            trim=shot.trim if shot and said is not None and said.correction is not None else None,
        )


def _changed(one: Changed, found: Comparison, rate: Fraction, versions: Mapping[int, str]) -> Recutting:
    old = found.before[one.old] if one.old is not None else None
    new = found.after[one.new] if one.new is not None and not one.goes else None
    shot = one.shot or one.like
    stretch = new or old
    return Recutting(
        kinds=list(one.kinds),
        old=one.old,
        new=one.new,
        name=(one.shot.name if one.shot else stretch.name if stretch else ""),
        number=stretch.number if stretch else None,
        was=old.event.lasts if old is not None and one.kinds != ("split",) else None,
        now=new.event.lasts if new is not None else None,
        how=how(one, found, rate),
        waits=new is not None and new.clip is None,
        shot=shot.pk if shot and not shot.aside else None,
        version=versions[shot.pk] if shot else "",
        part=shot.frame.part if shot else ShownPart(),
        looks=_looks(shot) if shot else [],
        trim=shot.trim if shot and shot.trim != Trim() else None,
    )


def _looks(shot: Shot) -> list[LookThere]:
    return [
        LookThere(
            id=layer.revision_id,
            digest=layer.revision.digest,
            words=f"{layer.revision}{f' {layer.strength:.0%}' if layer.strength < 1 else ''}",
        )
        for layer in shot.layers.all()
    ]


def _versions(shots: Iterable[Shot | None]) -> dict[int, str]:
    return {shot.pk: version_of(shot) for shot in {s.pk: s for s in shots if s is not None}.values()}


def _scenes(shots: list[Shot | None]) -> list[str]:
    return [scene.name if scene is not None else "" for scene in scenes_of(shots)]


def _whole(cut: Cut) -> CutWhole:
    project = cut.project
    aside = every_shot_of(project).filter(aside=True).count()
    newest = project.changes.order_by("-pk").values_list("pk", flat=True).first()
    before: list[CutStretch] = []
    if cut.number is None:
        found = compare(cut)
        stretches = found.after
        of = {c.new: c.shot or c.like for c in found.changed if c.new is not None and not c.goes}
        shots = [of.get(k) for k in range(len(stretches))]
        olds = [stretch.shot for stretch in found.before]
        versions = _versions([*shots, *olds, *(c.shot for c in found.changed)])
        shown = _Shown(cut, found.before, versions)
        before = [
            shown(stretch, shot, scene, k, False)
            for k, (stretch, shot, scene) in enumerate(zip(found.before, olds, _scenes(olds), strict=True))
        ]
    else:
        held = {shot.pk: shot for shot in projects.shots_of(project)}
        stretches = stretches_of(cut, held)
        shots = [stretch.shot for stretch in stretches]
        versions = _versions(shots)
        stand = [Changed(("same",), None, k, shot=shot) for k, shot in enumerate(shots)]
        found = Comparison([], stretches, stand)
    shown = _Shown(cut, stretches, versions)
    after = [
        shown(stretch, shot, scene, k, True)
        for k, (stretch, shot, scene) in enumerate(zip(stretches, shots, _scenes(shots), strict=True))
    ]
    return CutWhole(
        **_line(cut).model_dump(),
        kind="CMX 3600" if cut.file_name.lower().endswith(cmx.SUFFIX) else "OpenTimelineIO",
        rate=cut.rate,
        unit=round(Fraction(cut.rate)),
        doubts=cut.doubts,
        ticks=_ticks(stretches, cut),
        before=before,
        after=after,
        changed=[_changed(one, found, Fraction(cut.rate), versions) for one in found.changed],
        aside=aside,
        job=JobOut.from_orm(cut.job) if cut.job else None,
        seen=newest,
    )


@router.get("/{int:project_id}/cuts", response=list[CutLine])
def cuts(request: HttpRequest, project_id: int) -> list[CutLine]:
    """The cuts of a project, the newest first: those that were taken, and those that are looked at."""
    return [_line(cut) for cut in rules.every(projects.find(project_id))]


@router.post("/{int:project_id}/cuts", response={201: CutWhole})
def propose(
    request: HttpRequest, project_id: int, about: Form[CutListIn], file: File[UploadedFile]
) -> Status[CutWhole]:
    """Looks at a cut list: what it would change. Nothing of the project changes."""
    found = projects.find(project_id)
    return Status(201, _whole(rules.propose(found, person_of(request), file, about.rate)))


@router.get("/{int:project_id}/cuts/{int:cut_id}", response=CutWhole)
def cut(request: HttpRequest, project_id: int, cut_id: int) -> CutWhole:
    """A cut with its events, beside what the project has now."""
    return _whole(rules.find(projects.find(project_id), cut_id))


@router.patch("/{int:project_id}/cuts/{int:cut_id}", response=CutWhole)
def say(request: HttpRequest, project_id: int, cut_id: int, payload: CutSaid) -> CutWhole:
    """Says which clips events are of, and which CDLs become trims."""
    found = rules.find(projects.find(project_id), cut_id)
    chosen = {one.place: one.clip for one in payload.clips}
    return _whole(rules.choose(found, person_of(request), chosen, payload.corrections))


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
