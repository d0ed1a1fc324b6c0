"""The look: ordered steps between an input and an output encoding. Data only; ``program`` evaluates it."""

import hashlib
import json
from typing import Annotated, Any, ClassVar, Literal, Optional, Union, get_args

from pydantic import Field, model_validator

from .effects import Finish
from .encodings import Encoding, EncodingKey, encoding
from .errors import LookError
from .steps import LutStep, Step
from .steps.balance import Balance
from .steps.channel_mix import ChannelMix
from .steps.colour_wash import ColourWash
from .steps.contrast import Contrast
from .steps.curves import Curves
from .steps.encode import Encode
from .steps.exposure import Exposure
from .steps.hue_curves import HueCurves
from .steps.hue_ranges import HueRanges
from .steps.levels import Levels
from .steps.lift_gamma_gain import LiftGammaGain
from .steps.monochrome import Monochrome
from .steps.parameter import share
from .steps.roll_off import RollOff
from .steps.saturation import Saturation
from .steps.scene_to_display import SceneToDisplay
from .steps.slope_offset_power import SlopeOffsetPower
from .steps.step import PLAIN, Purpose, Strict
from .steps.tone_ramp import ToneRamp
from .steps.zone_tint import ZoneTint

STEP_LIMIT = 200
#: Steps of a look and of all that it borrows: as many as six looks stacked on a shot may have. Each costs a
#: live answer about 1.5 ms.
WHOLE_LIMIT = 1250
#: Looks inside looks inside looks.
DEPTH_LIMIT = 6
#: Groups inside groups.
GROUP_LIMIT = 24


class LookStep(Step):
    """A pinned revision of another look, whole inside the step: it cannot change or get lost.

    What comes in is brought to what the look expects as a frame would be (``encodings.meeting``), and what it
    gives is brought back the same way, so that looks of any kind can be stacked.
    """

    title: ClassVar[str] = "Look"
    purpose: ClassVar[Purpose] = "borrow"
    summary: ClassVar[str] = "A revision of another look, eased and blended"

    kind: Literal["look"] = "look"
    look: Optional["Look"] = Field(None, title="Look")
    revision: int = Field(0, ge=0, title="Revision", description="which revision it was taken from; 0: none")
    name: str = Field("", max_length=160, pattern=PLAIN, title="Name")

    def neutral(self) -> bool:
        return self.look is None


class Group(Step):
    """Steps that are eased, blended and switched together."""

    title: ClassVar[str] = "Group"
    purpose: ClassVar[Purpose] = "group"
    summary: ClassVar[str] = "Several steps, eased and switched as one"

    kind: Literal["group"] = "group"
    steps: list["AnyStep"] = Field(default_factory=list, max_length=64)

    def output(self, encoding_in: Encoding) -> Encoding:
        for step in self.steps:
            if step.on:
                encoding_in = step.output(encoding_in)
        return encoding_in

    def neutral(self) -> bool:
        return not any(step.on for step in self.steps)


_Kinds = Union[
    Exposure,
    Contrast,
    Levels,
    Curves,
    RollOff,
    Balance,
    Saturation,
    HueRanges,
    HueCurves,
    ZoneTint,
    Monochrome,
    ChannelMix,
    SlopeOffsetPower,
    LiftGammaGain,
    ColourWash,
    ToneRamp,
    Encode,
    SceneToDisplay,
    LutStep,
    LookStep,
    Group,
]
AnyStep = Annotated[_Kinds, Field(discriminator="kind")]

#: The kinds that a person can add, in the order of the menu.
KINDS: tuple[type[Step], ...] = get_args(_Kinds)


def every_step(steps: list[Any]) -> list[Step]:
    """All steps, those inside groups included, in order; steps of borrowed looks are not the look's own."""
    found: list[Step] = []
    for step in steps:
        found.append(step)
        if isinstance(step, Group):
            found += every_step(step.steps)
    return found


def _nested(steps: list[Any]) -> int:
    """How many groups lie around the innermost steps."""
    return max((1 + _nested(s.steps) for s in steps if isinstance(s, Group)), default=0)


class Look(Strict):
    """A repeatable colour treatment: what it expects, what it gives, and the steps between, top to bottom.

    Its strength eases all steps at once, toward the picture as it would be without them.
    The finish is carried along for previews and stills; no table holds it.
    """

    input: EncodingKey = Field("bt709_display", title="Comes in as")
    output: EncodingKey = Field("bt709_display", title="Goes out as")
    steps: list[AnyStep] = Field(default_factory=list)
    strength: float = share(1.0, 0.0, 1.0, label="Strength of the look")
    finish: Finish = Field(default_factory=Finish, title="Finish")

    @model_validator(mode="after")
    def _sound(self) -> "Look":
        steps = every_step(self.steps)
        if len(steps) > STEP_LIMIT:
            raise ValueError(f"a look holds at most {STEP_LIMIT} steps")
        if _nested(self.steps) > GROUP_LIMIT:
            raise ValueError(f"groups are nested more than {GROUP_LIMIT} deep: take some apart")
        if self.cost() > WHOLE_LIMIT:
            raise ValueError(
                f"the look and all that it borrows have {self.cost():,} steps, more than {WHOLE_LIMIT:,}: "
                "borrow less"
            )
        if len({s.id for s in steps}) != len(steps):
            raise ValueError("two steps have the same id")
        if self.depth() > DEPTH_LIMIT:
            raise ValueError(f"looks are nested more than {DEPTH_LIMIT} deep")
        return self

    def borrowed_looks(self) -> list["Look"]:
        """The looks that steps of this one borrow."""
        return [s.look for s in every_step(self.steps) if isinstance(s, LookStep) and s.look is not None]

    def cost(self) -> int:
        """How many steps it has, those of borrowed looks included, however often one is borrowed."""
        return len(every_step(self.steps)) + sum(inner.cost() for inner in self.borrowed_looks())

    def depth(self) -> int:
        """1 for a look that borrows no other."""
        return 1 + max((inner.depth() for inner in self.borrowed_looks()), default=0)

    def lut_steps(self) -> list[LutStep]:
        """The steps that name a borrowed table, those of borrowed looks included."""
        own = [s for s in every_step(self.steps) if isinstance(s, LutStep) and s.table]
        return own + [s for inner in self.borrowed_looks() for s in inner.lut_steps()]

    def encodings(self) -> dict[str, Encoding]:
        """The encoding that each step, by id, is given; those inside groups included."""
        found: dict[str, Encoding] = {}

        def walk(steps: list[Any], at: Encoding) -> Encoding:
            for step in steps:
                found[step.id] = at
                if isinstance(step, Group):
                    walk(step.steps, at)
                at = step.output(at) if step.on else at
            return at

        walk(self.steps, encoding(self.input))
        return found

    def end(self) -> Encoding:
        """The encoding after the last step."""
        at = encoding(self.input)
        for step in self.steps:
            if step.on:
                at = step.output(at)
        return at

    def digest(self) -> str:
        """SHA-256 of the look as kept."""
        return hashlib.sha256(canonical(self.model_dump(mode="json"))).hexdigest()


LookStep.model_rebuild(_types_namespace={"Look": Look})
Group.model_rebuild(force=True)
Look.model_rebuild(force=True)


def wearing(table: str, name: str, expects: str, gives: str, step_id: str = "table") -> Look:
    """A look that is one borrowed table alone, by the digest of its numbers."""
    step = LutStep(id=step_id, table=table, name=name, expects=expects, gives=gives)
    return Look(input=expects, output=gives, steps=[step])


def canonical(value: Any) -> bytes:
    """JSON with sorted keys: equal values give equal bytes."""
    return json.dumps(value, sort_keys=True, separators=(",", ":")).encode()


def check(look: Look) -> None:
    """Raises ``LookError`` where the steps, or those of a borrowed look, do not end in the look's output
    encoding."""
    end, wanted = look.end(), encoding(look.output)
    if end != wanted:
        raise LookError(
            f"The steps end in {end.label}, but the look goes out as {wanted.label}. "
            f"Add an Encode step to {wanted.label}, or let the look go out as {end.label}."
        )
    for step in every_step(look.steps):
        if isinstance(step, LookStep) and step.look is not None:
            try:
                check(step.look)
            except LookError as error:
                raise LookError(
                    f"The borrowed look “{step.name or 'unnamed'}” cannot be used: {error}"
                ) from None
