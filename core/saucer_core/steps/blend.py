"""Blend modes: how a result is put over what came in.

W3C Compositing and Blending Level 1, section 10.1 (separable blend modes). The backdrop is what came in, the source is
the result. The formulas are defined for 0–1; outside that range they are carried on, and where a formula would turn
round (screen, overlay, soft light) the part of a value beyond 0–1 is added back, so that nothing is clipped.
"""

from collections.abc import Callable
from typing import Literal

import numpy as np

from ..arrays import F32

Blend = Literal["normal", "multiply", "screen", "overlay", "soft_light"]


def _multiply(backdrop: F32, source: F32) -> F32:
    return backdrop * source


def _screen(backdrop: F32, source: F32) -> F32:
    return backdrop + source - backdrop * source


def _hard_light(backdrop: F32, source: F32) -> F32:
    return np.where(source <= 0.5, _multiply(backdrop, 2 * source), _screen(backdrop, 2 * source - 1))


def _overlay(backdrop: F32, source: F32) -> F32:
    return _hard_light(source, backdrop)


def _soft_light(backdrop: F32, source: F32) -> F32:
    bent = np.where(backdrop <= 0.25, ((16 * backdrop - 12) * backdrop + 4) * backdrop, np.sqrt(np.abs(backdrop)))
    darker = backdrop - (1 - 2 * source) * backdrop * (1 - backdrop)
    lighter = backdrop + (2 * source - 1) * (bent - backdrop)
    return np.where(source <= 0.5, darker, lighter)


_FORMULAS: dict[str, Callable[[F32, F32], F32]] = {
    "screen": _screen,
    "overlay": _overlay,
    "soft_light": _soft_light,
}


def blend(mode: Blend, backdrop: F32, source: F32) -> F32:
    """``source`` put over ``backdrop``, both float32 ``(n, 3)`` in one encoding."""
    if mode == "normal":
        return source
    if mode == "multiply":
        return _multiply(backdrop, source)
    inside_b, inside_s = np.clip(backdrop, 0, 1), np.clip(source, 0, 1)
    return _FORMULAS[mode](inside_b, inside_s) + (backdrop - inside_b)


def mix(before: F32, after: F32, strength: float) -> F32:
    """``before`` at 0, ``after`` at 1."""
    if strength == 1.0:
        return after
    return before + np.float32(strength) * (after - before)
