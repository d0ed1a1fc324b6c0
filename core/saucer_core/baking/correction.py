"""A trim said as an ASC CDL, for programs that take a list of corrections."""

from dataclasses import dataclass

import numpy as np
from scipy.optimize import least_squares

from ..arrays import F32, F64, colours
from ..difference import difference
from ..encodings import encoding
from ..operations import apply
from ..steps.slope_offset_power import Correction
from ..treatment import Treatment
from ..trim import Trim

#: Colours that are taken of a picture.
MEASURED_ON = 4096
#: Those of them that the numbers are found on.
FOUND_ON = 1024
#: So far (ΔE for 99 % of a picture's colours) a correction may lie from the trim and still stand for it:
#: about what an eye begins to see.
ENOUGH = 1.0


@dataclass(frozen=True)
class SaidAsCdl:
    """A trim as one correction, and how far that is from it on a picture: ΔE for 99 % of its colours, and at
    most; 0 where it is exact."""

    correction: Correction
    delta_99: float
    delta_largest: float

    @property
    def enough(self) -> bool:
        """Whether it may stand for the trim."""
        return self.delta_99 <= ENOUGH


def _numbers(correction: Correction) -> F64:
    return np.array(
        [*correction.slope, *correction.offset, *correction.power, correction.saturation], dtype=np.float64
    )


def _correction(v: F64, clamp: bool) -> Correction:
    s, o, p = (tuple(float(x) for x in v[k : k + 3]) for k in (0, 3, 6))
    return Correction((s[0], s[1], s[2]), (o[0], o[1], o[2]), (p[0], p[1], p[2]), float(v[9]), clamp)


def said_as_cdl(trim: Trim, source: str, rgb: F32) -> SaidAsCdl:
    """The ASC CDL (version 1.2, without clamps) that lies nearest to a trim of the picture ``rgb``
    ``(..., 3)`` in the encoding ``source``.

    A trim that is a CDL alone is said exactly. Else slope, offset, power and saturation are found by least
    squares over colours of the
    picture: balance in light mixes the channels, which no CDL does, so that there is none for every colour at
    once. Deterministic.
    """
    own = trim.correction().correction()
    if trim.model_copy(update={"exposure": 0.0, "temperature": 0.0, "tint": 0.0, "contrast": 1.0}) == trim:
        return SaidAsCdl(own, 0.0, 0.0)
    at = encoding(source)
    program = Treatment(None, source, trim).compile()

    flat = colours(rgb).reshape(-1, 3)
    given = np.ascontiguousarray(flat[:: max(1, len(flat) // MEASURED_ON)])
    made = program(given)
    every = max(1, len(given) // FOUND_ON)
    few, wanted = np.ascontiguousarray(given[::every]), made[::every]
    weight = 1.0 / np.maximum(np.abs(wanted), 0.05) if at.response == "linear" else np.ones_like(wanted)

    def off(v: F64) -> F64:
        out = apply([_correction(v, False)], few)
        return ((out - wanted) * weight).astype(np.float64).ravel()

    def moved(u: F64) -> F64:
        return off(u - 1)

    low = np.array([0.0] * 3 + [-0.95] * 3 + [0.05] * 3 + [0.0])
    high = np.array([8.0] * 3 + [1.0] * 3 + [8.0] * 3 + [4.0])
    # All numbers are moved by 1, so that none is near 0: the search takes its steps as a share of them, and
    # single precision must see them.
    found = least_squares(
        moved,
        np.clip(_numbers(own), low + 1e-6, high - 1e-6) + 1,
        bounds=(low + 1, high + 1),
        diff_step=[1e-3],
        max_nfev=80,
    )
    correction = _correction(np.round(found.x - 1, 6), False)
    delta = difference(apply([correction], given), made, at)
    return SaidAsCdl(correction, float(np.percentile(delta, 99)), float(delta.max(initial=0)))
