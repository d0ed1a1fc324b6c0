"""What is said over HTTP of cuts."""

from datetime import datetime
from typing import Annotated

from ninja import Schema
from pydantic import BaseModel, Field
from saucer_core.formats.cutlists.matching import By
from saucer_core.formats.sequences import USUAL_RATE, Rate
from saucer_core.trim import Trim

from ..frames.values import ShownPart
from ..jobs.api import JobOut
from ..lookup import Id
from ..projects.payloads import SHOTS, Seen
from .comparing import Became

Place = Annotated[int, Field(ge=0, lt=SHOTS)]


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
