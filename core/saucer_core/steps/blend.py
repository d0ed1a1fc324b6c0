"""Blend modes: how a result is put over what came in.

W3C Compositing and Blending Level 1, sections 10.1 (separable) and 10.2 (non-separable), without alpha; the
backdrop is what came in, the source is the result. ``add`` and ``linear_burn`` are common practice. The
formulas are defined for 0–1; outside that range they are carried on, and where a formula would turn round,
what lies beyond 0–1 is added back, so that nothing is clipped.
"""

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from ..arrays import F32
from ..elementary import hold
from ..kernels import Kernel, inlined, kernel
from ..operations import Operation, run_all

Blend = Literal[
    "normal",
    "multiply",
    "screen",
    "overlay",
    "darken",
    "lighten",
    "colour_dodge",
    "colour_burn",
    "hard_light",
    "soft_light",
    "difference",
    "exclusion",
    "hue",
    "saturation",
    "colour",
    "luminosity",
    "add",
    "linear_burn",
]
BLENDS: tuple[Blend, ...] = get_args(Blend)

_NIL = np.float32(0)
_HALF = np.float32(0.5)
_ONE = np.float32(1)
_TWO = np.float32(2)
_SMALL = np.float32(1e-6)


@inlined
def _inside(x):  # type: ignore[no-untyped-def]
    return min(max(x, _NIL), _ONE)


@inlined
def _ease(b, y, strength):  # type: ignore[no-untyped-def]
    return hold(b + strength * (y - b))


# Separable modes: each a loop of its own over what came in (before) and the result (t), so that the compiler
# can widen it.
_separable = kernel("void(float32[::1], float32[::1], float32)")


@_separable
def _normal(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        # Not held: both are within bounds already, so that a strength just below 1 gives what 1 gives.
        t[i] = before[i] + strength * (t[i] - before[i])


@_separable
def _multiply(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        y = b * s
        t[i] = _ease(b, y, strength)


@_separable
def _screen(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        x, s = _inside(b), _inside(s)
        y = x + s - x * s + (b - x)
        t[i] = _ease(b, y, strength)


@_separable
def _overlay(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        x, s = _inside(b), _inside(s)
        bright = _TWO * x - _ONE
        y = (s * _TWO * x if x <= _HALF else s + bright - s * bright) + (b - x)
        t[i] = _ease(b, y, strength)


@_separable
def _darken(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        y = min(b, s)
        t[i] = _ease(b, y, strength)


@_separable
def _lighten(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        y = max(b, s)
        t[i] = _ease(b, y, strength)


@_separable
def _colour_dodge(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        x, s = _inside(b), _inside(s)
        over = min(_ONE, x / max(_ONE - s, _SMALL))
        y = (over if x > _NIL else _NIL) + (b - x)
        t[i] = _ease(b, y, strength)


@_separable
def _colour_burn(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        x, s = _inside(b), _inside(s)
        under = _ONE - min(_ONE, (_ONE - x) / max(s, _SMALL))
        y = (under if x < _ONE else _ONE) + (b - x)
        t[i] = _ease(b, y, strength)


@_separable
def _hard_light(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        x, s = _inside(b), _inside(s)
        bright = _TWO * s - _ONE
        y = (x * _TWO * s if s <= _HALF else x + bright - x * bright) + (b - x)
        t[i] = _ease(b, y, strength)


@_separable
def _soft_light(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        x, s = _inside(b), _inside(s)
        bent = (
            ((np.float32(16) * x - np.float32(12)) * x + np.float32(4)) * x
            if x <= np.float32(0.25)
            else np.sqrt(x)
        )
        darker = x - (_ONE - _TWO * s) * x * (_ONE - x)
        lighter = x + (_TWO * s - _ONE) * (bent - x)
        y = (darker if s <= _HALF else lighter) + (b - x)
        t[i] = _ease(b, y, strength)


@_separable
def _difference(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        y = abs(b - s)
        t[i] = _ease(b, y, strength)


@_separable
def _exclusion(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        x, s = _inside(b), _inside(s)
        y = x + s - _TWO * x * s + (b - x)
        t[i] = _ease(b, y, strength)


@_separable
def _add(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        y = b + s
        t[i] = _ease(b, y, strength)


@_separable
def _linear_burn(t: F32, before: F32, strength: np.float32) -> None:
    for i in range(t.size):
        b, s = before[i], t[i]
        y = b + s - _ONE
        t[i] = _ease(b, y, strength)


_SEPARABLE: dict[Blend, Kernel] = {
    "normal": _normal,
    "multiply": _multiply,
    "screen": _screen,
    "overlay": _overlay,
    "darken": _darken,
    "lighten": _lighten,
    "colour_dodge": _colour_dodge,
    "colour_burn": _colour_burn,
    "hard_light": _hard_light,
    "soft_light": _soft_light,
    "difference": _difference,
    "exclusion": _exclusion,
    "add": _add,
    "linear_burn": _linear_burn,
}


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
        c0, c1, c2 = (
            _clip_scale(c0, light, low, high),
            _clip_scale(c1, light, low, high),
            _clip_scale(c2, light, low, high),
        )
        t[0, i] = b0 + strength * (c0 - x0)
        t[1, i] = b1 + strength * (c1 - x1)
        t[2, i] = b2 + strength * (c2 - x2)


_WHOLE: dict[Blend, int] = {"hue": 0, "saturation": 1, "colour": 2, "luminosity": 3}


def put_over(tile: F32, before: F32, mode: Blend, strength: float) -> None:
    """``tile`` becomes ``mix(before, blend(before, tile), strength)``; both float32 ``(3, n)`` in one
    encoding."""
    if mode in _WHOLE:
        _whole(tile, before, np.float32(strength), _WHOLE[mode])
    else:
        _SEPARABLE[mode](tile.reshape(-1), before.reshape(-1), np.float32(strength))


def mixed(before: F32, after: F32, mode: Blend, strength: float) -> F32:
    """``put_over`` for whole arrays ``(..., 3)`` in one encoding, a new array."""
    tile, under = (x.reshape(-1, 3).T.copy() for x in (after, before))
    put_over(tile, under, mode, strength)
    return np.ascontiguousarray(tile.T).reshape(after.shape)


@dataclass(frozen=True, eq=False)
class Eased(Operation):
    """Operations put over what came in: ``mix(x, blend(x, f(x)), strength)``; ``plain`` brings x to the
    encoding after f."""

    inside: tuple[Operation, ...]
    plain: tuple[Operation, ...]
    blend: Blend = "normal"
    strength: float = 1.0

    def run(self, tile: F32) -> None:
        before = tile.copy()
        run_all(self.plain, before)
        run_all(self.inside, tile)
        put_over(tile, before, self.blend, self.strength)
