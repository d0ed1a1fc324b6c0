"""Traces shared by several kinds: what a step does to a grey ramp."""

from typing import TYPE_CHECKING, Any

import numpy as np

from ..arrays import F32
from ..encodings import Encoding, convert, encoding
from ..operations import apply

if TYPE_CHECKING:
    from .step import Step, Surroundings

#: What an editor draws of a step: named lists of numbers and words for JSON. Every kind has names of its own;
#: the editor of that kind knows them.
Trace = dict[str, Any]
#: Places along a drawn line.
SAMPLES = 65


def ramp(samples: int = SAMPLES) -> F32:
    """Equal code values from 0 to 1, float32 ``(samples, 3)``."""
    return np.repeat(np.linspace(0, 1, samples, dtype=np.float32)[:, None], 3, axis=1)


def line(values: F32) -> list[float]:
    """A row of numbers fit for JSON."""
    found: list[float] = np.round(np.asarray(values, dtype=np.float64), 5).tolist()
    return found


def swatches(rgb: F32, at: Encoding) -> list[str]:
    """``#rrggbb`` in sRGB of colours ``(n, 3)`` in the encoding ``at``, clipped."""
    code = np.round(np.clip(convert(rgb, at, encoding("srgb")), 0, 1) * 255).astype(int)
    return [f"#{r:02x}{g:02x}{b:02x}" for r, g, b in code]


def shown(rgb: F32, at: Encoding) -> str:
    """One colour ``(3,)`` or ``(1, 3)`` as ``swatches`` gives it."""
    return swatches(np.reshape(rgb, (1, 3)), at)[0]


def tone_line(step: "Step", at: "Surroundings") -> Trace:
    """The three channels of a grey ramp after ``step``, over code values 0–1 of the encoding it works on."""
    out = ramp() if step.neutral() else apply(step.operations(at), ramp())
    return {
        "x": line(ramp()[:, 0]),
        "red": line(out[:, 0]),
        "green": line(out[:, 1]),
        "blue": line(out[:, 2]),
    }
