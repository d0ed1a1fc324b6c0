"""All kinds of step as one type, and the group that nests them."""

from typing import Annotated, Any, ClassVar, Literal, Union

from pydantic import Field

from ..encodings import Encoding
from ..operations import Operation
from .balance import Balance
from .channel_mix import ChannelMix
from .colour_wash import ColourWash
from .compose import in_order
from .contrast import Contrast
from .curves import Curves
from .encode import Encode
from .exposure import Exposure
from .hue_curves import HueCurves
from .hue_ranges import HueRanges
from .levels import Levels
from .lift_gamma_gain import LiftGammaGain
from .look_step import LookStep
from .lut_step import LutStep
from .monochrome import Monochrome
from .roll_off import RollOff
from .saturation import Saturation
from .scene_to_display import SceneToDisplay
from .slope_offset_power import SlopeOffsetPower
from .step import Purpose, Step, Surroundings
from .tone_ramp import ToneRamp
from .zone_tint import ZoneTint


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

    def operations(self, at: Surroundings) -> list[Operation]:
        return in_order(self.steps, at)

    def trace(self, at: Surroundings) -> dict[str, Any]:
        return {}


AnyStep = Annotated[
    Union[
        Exposure, Contrast, Levels, Curves, RollOff, Balance, Saturation, HueRanges, HueCurves, ZoneTint, Monochrome, ChannelMix,
        SlopeOffsetPower, LiftGammaGain, ColourWash, ToneRamp, Encode, SceneToDisplay, LutStep, LookStep, Group,
    ],
    Field(discriminator="kind"),
]  # fmt: skip

#: The kinds that a person can add, in the order of the menu.
KINDS: tuple[type[Step], ...] = (
    Exposure, Contrast, Levels, Curves, RollOff, Balance, Saturation, HueRanges, HueCurves, ZoneTint, Monochrome, ChannelMix,
    SlopeOffsetPower, LiftGammaGain, ColourWash, ToneRamp, Encode, SceneToDisplay, LutStep, LookStep, Group,
)  # fmt: skip
