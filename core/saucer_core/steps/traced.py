"""Traces shared by several kinds: what a step does to a grey ramp."""

from typing import TYPE_CHECKING, Any

import numpy as np

from ..arrays import F32

if TYPE_CHECKING:
    from .step import Step, Surroundings

#: Places along a drawn line.
SAMPLES = 65


def ramp(samples: int = SAMPLES) -> F32:
    """Equal code values from 0 to 1, float32 ``(samples, 3)``."""
    return np.repeat(np.linspace(0, 1, samples, dtype=np.float32)[:, None], 3, axis=1)


def line(values: F32) -> list[float]:
    """A row of numbers fit for JSON."""
    return [round(float(v), 5) for v in values]


def tone_line(step: "Step", at: "Surroundings") -> dict[str, Any]:
    """The three channels of a grey ramp after ``step``, over code values 0–1 of the encoding it works on."""
    out = ramp() if step.neutral() else step.apply(ramp(), at)
    return {"x": line(ramp()[:, 0]), "red": line(out[:, 0]), "green": line(out[:, 1]), "blue": line(out[:, 2])}
