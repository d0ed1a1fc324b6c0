"""Camera encodings that a team defines from a maker's published numbers.

The curve is the camera logarithm of ``camera_log``, under the names of the Common LUT Format (SMPTE ST
2136-1:2024, Log node). A key is made from the numbers: the same definition has the same key everywhere, and a
recipe can carry it.
"""

import hashlib
from typing import Annotated, Any

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from .camera_log import CameraLog
from .primaries import Primaries

Coordinate = Annotated[float, Field(ge=-1.0, le=2.0, allow_inf_nan=False)]
Chromaticity = tuple[Coordinate, Coordinate]


def _number(label: str, help_text: str, low: float, high: float) -> Any:
    return Field(ge=low, le=high, allow_inf_nan=False, title=label, description=help_text)


def _open(label: str, help_text: str, low: float, high: float) -> Any:
    return Field(None, ge=low, le=high, allow_inf_nan=False, title=label, description=help_text)


class CameraEncoding(BaseModel):
    """Primaries, white point and a logarithm, as a maker publishes them."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: str = Field(min_length=1, max_length=60, pattern=r"^[^\x00-\x1f\x7f]*$")
    red: Chromaticity
    green: Chromaticity
    blue: Chromaticity
    white: Chromaticity
    base: float = _number("Base", "of the logarithm", 1.01, 100.0)
    log_side_slope: float = _number("Log-side slope", "code for each step of the logarithm", 1e-4, 1e4)
    log_side_offset: float = _number("Log-side offset", "code added after the logarithm", -1e3, 1e3)
    lin_side_slope: float = _number(
        "Lin-side slope", "light is multiplied by it before the logarithm", 1e-6, 1e6
    )
    lin_side_offset: float = _number("Lin-side offset", "light added before the logarithm", -1e3, 1e3)
    lin_side_break: float | None = _open(
        "Lin-side break", "the curve is straight below this light; empty for no straight part", -10.0, 10.0
    )
    linear_slope: float | None = _open(
        "Linear slope", "of the straight part; empty for the tangent at the break", 1e-6, 1e6
    )

    @model_validator(mode="after")
    def _sound(self) -> "CameraEncoding":
        if (
            self.lin_side_break is not None
            and self.lin_side_slope * self.lin_side_break + self.lin_side_offset <= 0
        ):
            raise ValueError(
                "the break lies where the logarithm has no value: lin-side slope × break + offset must "
                "be above 0"
            )
        columns = np.array([[*self.red], [*self.green], [*self.blue]])
        if self.white[1] <= 0:
            raise ValueError("the white point's y must lie above 0")
        edges = columns[1:] - columns[0]
        if abs(edges[0, 0] * edges[1, 1] - edges[0, 1] * edges[1, 0]) < 1e-6:
            raise ValueError("the three primaries lie on one line")
        return self

    def key(self) -> str:
        """The key of the encoding: the same for the same numbers, whatever the name."""
        numbers = self.model_dump_json(exclude={"name"})
        return "camera-" + hashlib.sha256(numbers.encode()).hexdigest()[:12]

    def primaries(self) -> Primaries:
        """Its primaries."""
        return Primaries(self.key(), self.red, self.green, self.blue, self.white)

    def transfer(self) -> CameraLog:
        """Its curve."""
        if self.lin_side_break is None:
            # Straight below the smallest light the logarithm has a value for, with the tangent there.
            cut, slope = (1e-6 - self.lin_side_offset) / self.lin_side_slope, None
        else:
            cut, slope = self.lin_side_break, self.linear_slope
        return CameraLog(
            self.base,
            self.log_side_slope,
            self.log_side_offset,
            self.lin_side_slope,
            self.lin_side_offset,
            cut,
            slope,
        )
