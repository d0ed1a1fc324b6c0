"""All kinds of step as one type, and the group that nests them."""

from typing import Annotated, Any, ClassVar, Literal, Union

import numpy as np
from pydantic import Field

from ..arrays import F32
from ..encodings import Encoding, convert
from .balance import Balance
from .blend import blend, mix
from .channel_mix import ChannelMix
from .contrast import Contrast
from .curves import Curves
from .encode import Encode
from .exposure import Exposure
from .levels import Levels
from .lut_step import LutStep
from .saturation import Saturation
from .scene_to_display import SceneToDisplay
from .step import Purpose, Step, Surroundings
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

    def apply(self, rgb: F32, at: Surroundings) -> F32:
        return run(self.steps, rgb, at)


AnyStep = Annotated[
    Union[Exposure, Contrast, Levels, Curves, Balance, Saturation, ZoneTint, ChannelMix, Encode, SceneToDisplay, LutStep, Group],
    Field(discriminator="kind"),
]
Group.model_rebuild()

#: The kinds that a person can add, in the order of the menu.
KINDS: tuple[type[Step], ...] = (
    Exposure, Contrast, Levels, Curves, Balance, Saturation, ZoneTint, ChannelMix, Encode, SceneToDisplay, LutStep, Group,
)  # fmt: skip


#: Nothing leaves a step beyond the largest half-float: several extreme steps in a row stay finite.
BOUND = np.float32(65504.0)


def run_step(step: Step, rgb: F32, at: Surroundings) -> F32:
    """One step with its switch, blend and strength: ``mix(x, blend(x, f(x)), strength)`` in the encoding after it."""
    if not step.on or step.neutral():
        return rgb
    if step.strength == 1.0 and step.blend == "normal":
        out = step.apply(rgb, at)
    else:
        before = convert(rgb, at.encoding, step.output(at.encoding))
        if step.strength == 0.0:
            return before
        after = np.ascontiguousarray(step.apply(rgb, at), dtype=np.float32)
        out = mix(before, blend(step.blend, before, after), step.strength)
    held: F32 = np.clip(out, -BOUND, BOUND, dtype=np.float32)
    return held


def run(steps: list[Any], rgb: F32, at: Surroundings) -> F32:
    """Steps from first to last on ``(n, 3)``."""
    for step in steps:
        rgb = run_step(step, rgb, at)
        if step.on:
            at = Surroundings(step.output(at.encoding), at.tables)
    return rgb
