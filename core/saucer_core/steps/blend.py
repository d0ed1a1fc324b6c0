"""Blend modes: how a result is put over what came in.

W3C Compositing and Blending Level 1, sections 10.1 (separable) and 10.2 (non-separable), without alpha; the backdrop is what came
in, the source is the result. ``add`` and ``linear_burn`` are common practice. The formulas are defined for 0–1; outside
that range they are carried on, and where a formula would turn round, what lies beyond 0–1 is added back, so that nothing is
clipped.
"""

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from ..arrays import F32
from ..elementary import hold
from ..kernels import inlined, kernel
from ..operations import Operation, run_all

Blend = Literal[
    "normal", "multiply", "screen", "overlay", "darken", "lighten", "colour_dodge", "colour_burn", "hard_light", "soft_light",
    "difference", "exclusion", "hue", "saturation", "colour", "luminosity", "add", "linear_burn",
]  # fmt: skip
BLENDS: tuple[Blend, ...] = get_args(Blend)

_NIL, _HALF, _ONE, _TWO = np.float32(0), np.float32(0.5), np.float32(1), np.float32(2)
_SMALL = np.float32(1e-6)


@inlined
def _inside(x):  # type: ignore[no-untyped-def]
    return min(max(x, _NIL), _ONE)


@inlined
def _multiply(b, s):  # type: ignore[no-untyped-def]
    return b * s


@inlined
def _add(b, s):  # type: ignore[no-untyped-def]
    return b + s


@inlined
def _linear_burn(b, s):  # type: ignore[no-untyped-def]
    return b + s - _ONE


@inlined
def _darken(b, s):  # type: ignore[no-untyped-def]
    return min(b, s)


@inlined
def _lighten(b, s):  # type: ignore[no-untyped-def]
    return max(b, s)


@inlined
def _difference(b, s):  # type: ignore[no-untyped-def]
    return abs(b - s)


@inlined
def _screen(b, s):  # type: ignore[no-untyped-def]
    x, y = _inside(b), _inside(s)
    return x + y - x * y + (b - x)


@inlined
def _exclusion(b, s):  # type: ignore[no-untyped-def]
    x, y = _inside(b), _inside(s)
    return x + y - _TWO * x * y + (b - x)


@inlined
def _hard_light(b, s):  # type: ignore[no-untyped-def]
    x, y = _inside(b), _inside(s)
    bright = _TWO * y - _ONE
    return (x * _TWO * y if y <= _HALF else x + bright - x * bright) + (b - x)


@inlined
def _overlay(b, s):  # type: ignore[no-untyped-def]
    x, y = _inside(b), _inside(s)
    bright = _TWO * x - _ONE
    return (y * _TWO * x if x <= _HALF else y + bright - y * bright) + (b - x)


@inlined
def _colour_dodge(b, s):  # type: ignore[no-untyped-def]
    x, y = _inside(b), _inside(s)
    over = min(_ONE, x / max(_ONE - y, _SMALL))
    return (over if x > _NIL else _NIL) + (b - x)


@inlined
def _colour_burn(b, s):  # type: ignore[no-untyped-def]
    x, y = _inside(b), _inside(s)
    under = _ONE - min(_ONE, (_ONE - x) / max(y, _SMALL))
    return (under if x < _ONE else _ONE) + (b - x)


@inlined
def _soft_light(b, s):  # type: ignore[no-untyped-def]
    x, y = _inside(b), _inside(s)
    bent = ((np.float32(16) * x - np.float32(12)) * x + np.float32(4)) * x if x <= np.float32(0.25) else np.sqrt(x)
    darker = x - (_ONE - _TWO * y) * x * (_ONE - x)
    lighter = x + (_TWO * y - _ONE) * (bent - x)
    return (darker if y <= _HALF else lighter) + (b - x)


@inlined
def _normal(b, s):  # type: ignore[no-untyped-def]
    return s


@inlined
def _ease(b, s, strength):  # type: ignore[no-untyped-def]
    return hold(b + strength * (s - b))


@kernel("void(float32[::1], float32[::1], float32, int64)")
def _over(t: F32, before: F32, strength: np.float32, mode: int) -> None:
    """Separable modes, in the order of ``_SEPARABLE``. One loop each, so that each is a loop the compiler can widen."""
    if mode == 0:
        for i in range(t.size):
            t[i] = _ease(before[i], _normal(before[i], t[i]), strength)
    elif mode == 1:
        for i in range(t.size):
            t[i] = _ease(before[i], _multiply(before[i], t[i]), strength)
    elif mode == 2:
        for i in range(t.size):
            t[i] = _ease(before[i], _screen(before[i], t[i]), strength)
    elif mode == 3:
        for i in range(t.size):
            t[i] = _ease(before[i], _overlay(before[i], t[i]), strength)
    elif mode == 4:
        for i in range(t.size):
            t[i] = _ease(before[i], _darken(before[i], t[i]), strength)
    elif mode == 5:
        for i in range(t.size):
            t[i] = _ease(before[i], _lighten(before[i], t[i]), strength)
    elif mode == 6:
        for i in range(t.size):
            t[i] = _ease(before[i], _colour_dodge(before[i], t[i]), strength)
    elif mode == 7:
        for i in range(t.size):
            t[i] = _ease(before[i], _colour_burn(before[i], t[i]), strength)
    elif mode == 8:
        for i in range(t.size):
            t[i] = _ease(before[i], _hard_light(before[i], t[i]), strength)
    elif mode == 9:
        for i in range(t.size):
            t[i] = _ease(before[i], _soft_light(before[i], t[i]), strength)
    elif mode == 10:
        for i in range(t.size):
            t[i] = _ease(before[i], _difference(before[i], t[i]), strength)
    elif mode == 11:
        for i in range(t.size):
            t[i] = _ease(before[i], _exclusion(before[i], t[i]), strength)
    elif mode == 12:
        for i in range(t.size):
            t[i] = _ease(before[i], _add(before[i], t[i]), strength)
    elif mode == 13:
        for i in range(t.size):
            t[i] = _ease(before[i], _linear_burn(before[i], t[i]), strength)


_SEPARABLE = (
    "normal", "multiply", "screen", "overlay", "darken", "lighten", "colour_dodge", "colour_burn", "hard_light", "soft_light",
    "difference", "exclusion", "add", "linear_burn",
)  # fmt: skip


@inlined
def _luminosity(r, g, b):  # type: ignore[no-untyped-def]
    return np.float32(0.3) * r + np.float32(0.59) * g + np.float32(0.11) * b


@inlined
def _clip_scale(x, light, low, high):  # type: ignore[no-untyped-def]
    y = light + (x - light) * light / max(light - low, _SMALL) if low < _NIL else x
    return light + (y - light) * (_ONE - light) / max(high - light, _SMALL) if high > _ONE else y


@kernel("void(float32[:, ::1], float32[:, ::1], float32, int64)")
def _whole(t: F32, before: F32, strength: np.float32, mode: int) -> None:
    """Non-separable modes: 0 hue, 1 saturation, 2 colour, 3 luminosity."""
    for i in range(t.shape[1]):
        b0, b1, b2 = before[0, i], before[1, i], before[2, i]
        x0, x1, x2 = _inside(b0), _inside(b1), _inside(b2)
        s0, s1, s2 = _inside(t[0, i]), _inside(t[1, i]), _inside(t[2, i])
        backdrop_light = _luminosity(x0, x1, x2)
        if mode == 0:
            c0, c1, c2 = s0, s1, s2
            wide = max(x0, max(x1, x2)) - min(x0, min(x1, x2))
        elif mode == 1:
            c0, c1, c2 = x0, x1, x2
            wide = max(s0, max(s1, s2)) - min(s0, min(s1, s2))
        elif mode == 2:
            c0, c1, c2 = s0, s1, s2
            wide = max(s0, max(s1, s2)) - min(s0, min(s1, s2))
        else:
            c0, c1, c2 = x0, x1, x2
            wide = max(x0, max(x1, x2)) - min(x0, min(x1, x2))
        low, high = min(c0, min(c1, c2)), max(c0, max(c1, c2))
        # SetSat: stretched so that the smallest is 0 and the largest the wanted saturation.
        stretch = wide / (high - low) if high - low > _SMALL else _NIL
        c0, c1, c2 = (c0 - low) * stretch, (c1 - low) * stretch, (c2 - low) * stretch
        light = _luminosity(s0, s1, s2) if mode == 3 else backdrop_light
        move = light - _luminosity(c0, c1, c2)
        c0, c1, c2 = c0 + move, c1 + move, c2 + move
        low, high = min(c0, min(c1, c2)), max(c0, max(c1, c2))
        c0, c1, c2 = _clip_scale(c0, light, low, high), _clip_scale(c1, light, low, high), _clip_scale(c2, light, low, high)
        t[0, i] = b0 + strength * (c0 - x0)
        t[1, i] = b1 + strength * (c1 - x1)
        t[2, i] = b2 + strength * (c2 - x2)


_WHOLE = {"hue": 0, "saturation": 1, "colour": 2, "luminosity": 3}


def put_over(tile: F32, before: F32, mode: Blend, strength: float) -> None:
    """``tile`` becomes ``mix(before, blend(before, tile), strength)``; both float32 ``(3, n)`` in one encoding."""
    if mode in _WHOLE:
        _whole(tile, before, np.float32(strength), _WHOLE[mode])
    else:
        _over(tile.reshape(-1), before.reshape(-1), np.float32(strength), _SEPARABLE.index(mode))


@dataclass(frozen=True, eq=False)
class Eased(Operation):
    """Operations put over what came in: ``mix(x, blend(x, f(x)), strength)``; ``plain`` brings x to the encoding after f."""

    inside: list[Operation]
    plain: list[Operation]
    blend: Blend = "normal"
    strength: float = 1.0

    def run(self, tile: F32) -> None:
        before = tile.copy()
        run_all(self.plain, before)
        run_all(self.inside, tile)
        put_over(tile, before, self.blend, self.strength)
