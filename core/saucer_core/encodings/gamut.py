"""Gamut fit: chroma taken back toward what a set of primaries can show, hue and lightness kept. Saucer's own
formula.

For each colour the largest chroma is found (by halving, in OKLCh) at which no channel lies below zero or
above the white. Chroma up to 75 % of it stays; what lies beyond is bent so that it nears the limit and never
passes it.
"""

import numpy as np

from ..arrays import F32, F64
from ..kernels import kernel
from .oklab import LAB_BACK, LabPass, cones
from .primaries import Primaries

#: Share of the largest chroma from which on chroma is bent.
KNEE = np.float32(0.75)
_HALVINGS = 14


@kernel("void(float64[:, ::1], float32[:, ::1], float32[:, ::1], float32)")
def _fit(t: F64, n: F32, m: F32, white: np.float32) -> None:
    nil, one, knee = np.float32(0), np.float32(1), KNEE
    slack = np.float32(1e-5)
    for i in range(t.shape[1]):
        light, a, b = np.float32(t[0, i]), np.float32(t[1, i]), np.float32(t[2, i])
        chroma = np.sqrt(a * a + b * b)
        if chroma < np.float32(1e-6):
            continue
        # Above white only the lower limit counts: brightness is not this step's business.
        top = max(white, light * light * light) + slack
        low, high = nil, np.float32(2)
        for _ in range(_HALVINGS):
            s = (low + high) * np.float32(0.5)
            x = n[0, 0] * light + s * (n[0, 1] * a + n[0, 2] * b)
            y = n[1, 0] * light + s * (n[1, 1] * a + n[1, 2] * b)
            z = n[2, 0] * light + s * (n[2, 1] * a + n[2, 2] * b)
            x, y, z = x * x * x, y * y * y, z * z * z
            red = m[0, 0] * x + m[0, 1] * y + m[0, 2] * z
            green = m[1, 0] * x + m[1, 1] * y + m[1, 2] * z
            blue = m[2, 0] * x + m[2, 1] * y + m[2, 2] * z
            inside = min(red, min(green, blue)) >= -slack and max(red, max(green, blue)) <= top
            if inside:
                low = s
            else:
                high = s
        if low * knee < one:
            # In units of the largest chroma the colour lies at 1 / low.
            r = one / max(low, np.float32(1e-4))
            over = (r - knee) / (one - knee)
            bent = knee + (one - knee) * over / (one + over)
            share = np.float64(bent / r)
            t[1, i], t[2, i] = t[1, i] * share, t[2, i] * share


def gamut_fit(primaries: Primaries, white: float = 1.0) -> LabPass:
    """Chroma bent back into ``primaries``, for a white of ``white`` (linear light)."""
    back = cones(primaries)[1]
    return LabPass(_fit, (LAB_BACK.astype(np.float32), back.astype(np.float32), np.float32(white)))
