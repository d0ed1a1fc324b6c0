"""What the bench asks for while a look is worked on: table, pictures, readings, checks. Nothing here is
kept."""

from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field
from saucer_core.beginning import USUAL, begun
from saucer_core.changes import Schema as ParameterSchema
from saucer_core.checks import Kind
from saucer_core.checks.check import Mask
from saucer_core.effects import Finish
from saucer_core.encodings import EncodingKey
from saucer_core.look import STEP_LIMIT, AnyStep
from saucer_core.look import Look as LookValue
from saucer_core.trim import Trim

from ..clips.api import FrameNumber
from ..clips.moments import moment
from ..errors import RuleError
from ..fields import Share, Width, binary
from ..frames import rules as frames
from ..frames.rules import Frame
from ..marks import computes
from ..openapi import BINARY, JPEG, gives, head_of
from ..people.recent import RecentSession
from ..people.rules import Person
from ..people.tokens import TokenAuth
from . import judging, overtime, pictures

router = Router(tags=["bench"], auth=[TokenAuth(), RecentSession()])

Place = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class LiveIn(Schema):
    """What the viewer wants to see. ``at``: which frame of its clip, where a frame stands for one; ``only``:
    the id of a step to see alone."""

    look: LookValue
    strength: Share = 1.0
    trim: Trim | None = None
    frame: int | None = None
    at: FrameNumber | None = None
    traces: bool = True
    only: str | None = Field(None, max_length=40)


class ExactIn(LiveIn):
    """What is to be rendered: the look, the look as it would be baked, or how far it is from another one
    (none: from no look)."""

    show: Literal["look", "baked", "difference"] = "look"
    against: LookValue | None = None
    full: float = Field(
        10, ge=1, le=100, allow_inf_nan=False, description="ΔE that is shown as white in a difference"
    )
    grid: int = Field(33, ge=2, le=129)
    interpolation: Literal["tetrahedral", "trilinear"] = "tetrahedral"


class SpotIn(Schema):
    """A place in a picture, as shares of its width and height."""

    x: Place
    y: Place


class ReadingsIn(LiveIn):
    """What is to be read, the pinned spots, and the step whose given tones are wanted. Without a look: the
    frame as it is."""

    look: LookValue | None = None  # type: ignore[assignment]
    spots: list[SpotIn] = Field(default_factory=list, max_length=8)
    step: str | None = Field(None, max_length=40)


class ProbeIn(LiveIn):
    """A spot, and the step that wants to know what it is given there."""

    spot: SpotIn
    step: str | None = Field(None, max_length=40)


class ChecksIn(Schema):
    """A look and the frames it is checked on."""

    look: LookValue
    frames: list[int] = Field(default_factory=list, max_length=12)


class CheckAbout(Schema):
    """A check, as the core states it. ``frame``: where it shows most; ``mask``: which mask shows it there."""

    kind: Kind
    text: str
    amount: float
    step: str
    frame: int | None
    mask: Mask
    action: str
    note: bool


class OverTimeIn(Schema):
    """A look, and the frame that stands for the clip. trim: in place of the frame's. coarse: a part of the
    samples, for a draft that changes."""

    look: LookValue
    frame: int
    trim: Trim | None = None
    coarse: bool = False


class CauseIn(Schema):
    """The same, and a place that was found."""

    look: LookValue
    frame: int
    trim: Trim | None = None
    place: overtime.PlaceOut


class MendIn(ChecksIn):
    """A look, and the check to mend in it by its kind and step, with the frames it was found on."""

    kind: Kind
    step: str = Field("", max_length=40)


class EffectOut(Schema):
    """What an effect is for, and its parameters as JSON Schema with label, unit and range."""

    description: str
    properties: dict[str, ParameterSchema]


class FinishOut(Schema):
    """The effects of a finish: their defaults, the amounts they begin with, and each by its name, with the
    colour that some of them have under ``Colour``."""

    defaults: Finish
    begins: dict[str, float]
    effects: dict[str, EffectOut]


def _how(payload: LiveIn) -> pictures.How:
    return {"strength": payload.strength, "trim": payload.trim, "only": payload.only}


def _seen(request: HttpRequest, frame_id: int, at: int | None = None) -> Frame:
    # The person as ``RecentSession`` knows them: ``request.user`` would read them from the database each
    # time.
    person = getattr(request, "auth", None)
    assert isinstance(person, Person)
    frame = frames.seen_by(person, frame_id)
    return frame if at is None else moment(frame, at)


def _frame_of(request: HttpRequest, payload: LiveIn) -> Frame:
    if payload.frame is None:
        raise RuleError(422, "Say which frame the picture is of.")
    return _seen(request, payload.frame, payload.at)


class BegunIn(Schema):
    """The encodings of a new look, and the steps of each way to begin it."""

    input: EncodingKey
    output: EncodingKey = USUAL
    ways: list[Annotated[list[AnyStep], Field(max_length=STEP_LIMIT)]] = Field(max_length=400)


@router.post("/live", openapi_extra=head_of(pictures.LiveHead))
@computes
def live(request: HttpRequest, payload: ExactIn) -> HttpResponse:
    """A look as the viewer needs it: traces and the half-float table in one binary. With a trim, for that
    frame. The table shows the look, what a bake makes of it, or how far it is from another look."""
    frame = _seen(request, payload.frame) if payload.frame is not None and payload.trim is not None else None
    shown = None
    if payload.show == "difference":
        shown = pictures.difference_from(payload.against, payload.full)
    elif payload.show == "baked":
        shown = pictures.baked_with(payload.grid, payload.interpolation)
    data = pictures.live(payload.look, frame=frame, traced=payload.traces, shown=shown, **_how(payload))
    return binary(data, "application/octet-stream", "no-store")


@router.post("/readings", openapi_extra=head_of(judging.ReadingsHead))
@computes
def readings(request: HttpRequest, payload: ReadingsIn) -> HttpResponse:
    """Histograms, waveform, parade, vectorscope and spots of a frame under a look and before it; see
    ``judging.readings``."""
    frame, look = _frame_of(request, payload), payload.look
    given = (
        judging.given(payload.look, frame, payload.step, payload.trim)
        if payload.look is not None and payload.step
        else None
    )
    data = judging.readings(
        look, frame, **_how(payload), spots=[(s.x, s.y) for s in payload.spots], given=given
    )
    return binary(data, "application/octet-stream", "no-store")


@router.post("/probe", response=judging.Probe)
@computes
def probe(request: HttpRequest, payload: ProbeIn) -> judging.Probe:
    """One spot: before the look, under it, and as it comes to a step (with the balance that would make it
    grey)."""
    spot = (payload.spot.x, payload.spot.y)
    how = _how(payload)
    if payload.step:
        how["only"] = None
    return judging.probe(payload.look, _frame_of(request, payload), spot, step=payload.step, **how)


@router.post("/masks", openapi_extra=gives(BINARY))
@computes
def masks(request: HttpRequest, payload: LiveIn, width: Width = 720) -> HttpResponse:
    """Where a frame under a look is clipped or out of gamut: two uint32 (width, height), then a byte a pixel
    (see the core's masks)."""
    data = judging.masked(payload.look, _frame_of(request, payload), width, **_how(payload))
    return binary(data, "application/octet-stream", "no-store")


@router.post("/checks", response=list[CheckAbout])
@computes
def checks(request: HttpRequest, payload: ChecksIn) -> list[judging.FoundCheck]:
    """All that is worth attention in a look, on those frames."""
    return judging.checked(payload.look, [_seen(request, f) for f in payload.frames])


@router.post("/begun", response=list[LookValue | None])
@computes
def begin(request: HttpRequest, payload: BegunIn) -> list[LookValue | None]:
    """A look for each way to begin, with what converts put before its steps; null where the steps are of no
    use for that encoding."""
    return [begun(payload.input, payload.output, steps) for steps in payload.ways]


@router.post("/mend", response=LookValue)
@computes
def mend(request: HttpRequest, payload: MendIn) -> LookValue:
    """The look with a check's one action done."""
    return judging.mended(
        payload.look, payload.kind, payload.step, [_seen(request, f) for f in payload.frames]
    )


@router.post("/over-time", response=overtime.OverTime)
@computes
def over_time(request: HttpRequest, payload: OverTimeIn) -> overtime.OverTime:
    """What a look does to a clip over its length: its lines, and the places at which it breaks."""
    return overtime.measured(payload.look, _seen(request, payload.frame), payload.trim, coarse=payload.coarse)


@router.post("/over-time/cause", response=overtime.CauseOut | None)
@computes
def cause(request: HttpRequest, payload: CauseIn) -> overtime.CauseOut | None:
    """The step that causes most of a place, and how far it is to be eased; nothing where no step alone is."""
    return overtime.caused(payload.look, _seen(request, payload.frame), payload.trim, payload.place)


@router.get("/finish", response=FinishOut)
def finish(request: HttpRequest) -> FinishOut:
    """The effects of a finish, as the core declares them."""
    whole = Finish()
    begins = {name: getattr(whole, name).begins for name in Finish.model_fields}
    effects = {name: EffectOut(**schema) for name, schema in Finish.model_json_schema()["$defs"].items()}
    return FinishOut(defaults=whole, begins=begins, effects=effects)


@router.post("/picture", openapi_extra=gives(JPEG))
@computes
def picture(request: HttpRequest, payload: LiveIn, width: Width = 720) -> HttpResponse:
    """A frame under a look as JPEG, for screens that cannot draw it themselves."""
    data = pictures.drawn(payload.look, _frame_of(request, payload), width, **_how(payload))
    return binary(data, "image/jpeg", "no-store")


@router.get("/moments/{int:frame_id}/{int:number}/places", openapi_extra=gives(BINARY))
def places(
    request: HttpRequest,
    frame_id: int,
    number: int,
    input: EncodingKey,
    width: Width = 1280,
    trimmed: bool = True,
) -> HttpResponse:
    """A frame of a clip as places in the table of a look with that input, half-float, for the viewer."""
    shown = _seen(request, frame_id, number)
    return binary(frames.table_picture(shown, input, width, trimmed), "application/octet-stream", "no-store")


@router.post("/exact", openapi_extra=gives(BINARY))
@computes
def exact(request: HttpRequest, payload: ExactIn, width: Width = 720) -> HttpResponse:
    """A frame with every pixel computed, half-float, for the viewer at rest."""
    look, frame, how = payload.look, _frame_of(request, payload), _how(payload)
    if payload.show == "baked":
        data = pictures.as_baked(
            look, frame, width, grid=payload.grid, interpolation=payload.interpolation, **how
        )
    elif payload.show == "difference":
        data = pictures.apart(look, payload.against, frame, width, full=payload.full, **how)
    else:
        data = pictures.exact(look, frame, width, **how)
    return binary(data, "application/octet-stream", "no-store")
