"""A trim: what is done to one frame or shot before the look."""

from pydantic import Field

from .steps import Step
from .steps.balance import Balance
from .steps.contrast import Contrast
from .steps.exposure import Exposure
from .steps.parameter import number
from .steps.slope_offset_power import Correction, SlopeOffsetPower, SopRow, step_of
from .steps.step import Strict


class Trim(Strict):
    """Exposure and balance in light, then contrast and an ASC CDL on the picture's own code values, in this
    order.

    The CDL is done without its clamps: what a camera recorded beyond white is still there for the look.
    """

    exposure: float = number(0.0, -4.0, 4.0, label="Exposure", unit="stops", fine=0.05, coarse=0.5)
    temperature: float = number(
        0.0, -100.0, 100.0, label="Temperature", fine=1, coarse=10, help="cooler – warmer"
    )
    tint: float = number(0.0, -100.0, 100.0, label="Tint", fine=1, coarse=10, help="greener – more magenta")
    contrast: float = number(1.0, 0.5, 2.0, label="Contrast", unit="×", fine=0.01, coarse=0.1)
    red: SopRow = Field(SopRow(), title="Red")
    green: SopRow = Field(SopRow(), title="Green")
    blue: SopRow = Field(SopRow(), title="Blue")
    saturation: float = number(1.0, 0.0, 4.0, label="Saturation", fine=0.01, coarse=0.1)

    def correction(self) -> SlopeOffsetPower:
        """Its ASC CDL part as a step."""
        return SlopeOffsetPower(
            id="trim-cdl",
            red=self.red,
            green=self.green,
            blue=self.blue,
            saturation=self.saturation,
            clamp=False,
        )

    @classmethod
    def of(cls, correction: Correction) -> "Trim":
        """The trim that is an ASC CDL alone. Raises ``ValueError`` where its numbers are beyond what a trim
        has."""
        step = step_of(correction)
        return cls(red=step.red, green=step.green, blue=step.blue, saturation=step.saturation)

    def steps(self) -> list[Step]:
        """The trim as steps."""
        return [
            Exposure(id="trim-exposure", stops=self.exposure),
            Balance(id="trim-balance", temperature=self.temperature, tint=self.tint),
            Contrast(id="trim-contrast", amount=self.contrast),
            self.correction(),
        ]
