"""Changes that depend on hue: one table around the hue circle, read by every step that works on hues."""

import numpy as np

from ..arrays import F32, F64
from ..elementary import angle, hold
from ..encodings import encoding
from ..encodings.oklab import LabPass, from_oklab
from ..kernels import kernel
from .traced import Trace, line, swatches

#: Places around the circle.
PLACES = 1024
#: OKLab lightness that 100 % adds to a strong colour.
FULL_LIGHT = 0.25
#: Chroma from which on a colour counts fully for changes of lightness: below it they fade, so that neutrals
#: stay.
COLOURFUL = np.float32(0.08)
#: OKLab lightness of the drawn ring.
RING_LIGHT = 0.72
#: Its chroma.
RING_CHROMA = 0.12
#: Places of it that are drawn.
RING_PLACES = 72

_PER_TURN = np.float32(PLACES / (2 * np.pi))


@kernel("void(float64[:, ::1], float32[::1], float32[::1], float32[::1])")
def _turn(t: F64, along: F32, across: F32, light: F32) -> None:
    """On OKLab. along, across: the new a and b of a colour of chroma 1 at hue 0, for each place (its turn and
    gain)."""
    one, nil, next_place = np.float32(1), np.float32(0), np.uint64(1)
    # Two loops, because reading from a table keeps the compiler from doing several angles at once.
    places = np.empty(t.shape[1], dtype=np.float32)
    for i in range(t.shape[1]):
        u = angle(np.float32(t[2, i]), np.float32(t[1, i])) * _PER_TURN
        places[i] = u if u >= nil else u + np.float32(PLACES)
    for i in range(t.shape[1]):
        x, y = t[1, i], t[2, i]
        a, b = np.float32(x), np.float32(y)
        whole = min(np.int32(places[i]), np.int32(PLACES - 1))
        f = places[i] - np.float32(whole)
        # Unsigned, so that no check for places counted from the end is compiled in.
        k = np.uint64(np.uint32(whole))
        p = along[k] + f * (along[k + next_place] - along[k])
        q = across[k] + f * (across[k + next_place] - across[k])
        w = min((a * a + b * b) / (COLOURFUL * COLOURFUL), one)
        t[0, i] = hold(
            t[0, i] + (light[k] + f * (light[k + next_place] - light[k])) * w * (np.float32(2) - w)
        )
        t[1, i] = hold(x * p - y * q)
        t[2, i] = hold(x * q + y * p)


def hues(places: int = PLACES) -> F32:
    """Hues in degrees, 0 to 360, both ends."""
    return np.linspace(0, 360, places + 1, dtype=np.float32)


def turning(shift: F32, gain: F32, light: F32) -> LabPass:
    """What happens to each hue of ``hues()``: shift in degrees, factor of chroma, share of ``FULL_LIGHT``."""
    turn = np.radians(np.asarray(shift, dtype=np.float64))
    along, across = gain * np.cos(turn), gain * np.sin(turn)
    tables = [
        np.ascontiguousarray(v, dtype=np.float32) for v in (along, across, FULL_LIGHT * np.asarray(light))
    ]
    return LabPass(_turn, tuple(tables))


def window(hue: F32, centre: float, width: float, feather: float) -> F32:
    """1 within half the width of the centre, smoothly to 0 over the feather to both sides."""
    away = np.abs((hue - centre + 180.0) % 360.0 - 180.0)
    t = np.clip((width / 2 + feather - away) / max(feather, 1e-3), 0, 1)
    smooth: F32 = (t * t * (3 - 2 * t)).astype(np.float32)
    return smooth


def css(lab: F32) -> list[str]:
    """``#rrggbb`` of OKLab colours ``(n, 3)``."""
    srgb = encoding("srgb")
    return swatches(from_oklab(np.ascontiguousarray(lab, dtype=np.float32), srgb), srgb)


def circle(places: int = RING_PLACES) -> F32:
    """The hue circle that editors draw, from red on, as OKLab ``(places, 3)``."""
    turn = np.radians(np.arange(places) * 360 / places)
    return np.stack(
        [np.full(places, RING_LIGHT), RING_CHROMA * np.cos(turn), RING_CHROMA * np.sin(turn)], axis=1
    ).astype(np.float32)


def ring(change: LabPass | None) -> Trace:
    """The hue circle before and after a change on OKLab, as colours to draw."""
    lab = np.ascontiguousarray(circle().T, dtype=np.float64)
    turn = np.arctan2(lab[2], lab[1])
    before = css(circle())
    if change is not None:
        change.run(lab)
    shift = (np.degrees(np.arctan2(lab[2], lab[1]) - turn) + 180) % 360 - 180
    return {
        "before": before,
        "after": css(lab.T.astype(np.float32)),
        "shift": line(shift),
        "gain": line(np.hypot(lab[1], lab[2]) / RING_CHROMA),
    }
