"""Likeness: how far apart two looks are by what they do to a fixed set of colours, as an eye sees it.

The colours are greys, three rings of hues and skins on a standard screen, brought to what each look expects
as a frame would be; so looks for different encodings, and tables and steps, can be compared. The choice of
colours is Saucer's own.
"""

from functools import cache

import numpy as np

from ..arrays import F32
from ..difference import ciede2000, cielab
from ..encodings import encoding
from ..look import Look
from ..screen import SCREEN
from ..steps import Tables, no_tables
from .traits import SKIN, from_lch, on_screen

#: Greys of the set of colours.
GREYS = 21
#: Lightness and chroma of its rings.
RINGS = ((0.42, 0.06), (0.62, 0.06), (0.62, 0.12), (0.8, 0.06))
#: Hues on each ring.
HUES = 20
#: Mean ΔE2000 up to which two looks are twins: side by side an eye sees no difference.
TWIN_MEAN = 0.5
#: Largest ΔE2000 up to which they are.
TWIN_LARGEST = 2.0


@cache
def _shown() -> F32:
    greys = np.repeat(np.linspace(0, 1, GREYS, dtype=np.float32)[:, None], 3, axis=1)
    rings = from_lch(tuple((light, chroma, 360 * k / HUES) for light, chroma in RINGS for k in range(HUES)))
    return np.concatenate([greys, rings, from_lch(SKIN)])


def behaviour(look: Look | None, *, tables: Tables = no_tables) -> F32:
    """What a look (none at all) makes of the fixed colours: CIELAB, float32 ``(n, 3)``. Raises
    ``LookError``."""
    out = _shown() if look is None else on_screen(look, _shown(), tables)
    return cielab(np.clip(out, 0, 1), encoding(SCREEN)).astype(np.float32)


#: How the fixed colours are gathered for a gist: neighbouring greys, hues of a ring, and all skins.
_GATHERED = ((GREYS, 3), *(((HUES, 4),) * len(RINGS)), (len(SKIN), len(SKIN)))
GIST = 3 * sum(count // size for count, size in _GATHERED)


def gist(colours: F32) -> F32:
    """A behaviour in fewer numbers, float32 ``(GIST,)``: the straight distance of two gists is never above
    that of the behaviours.

    Neighbouring colours are averaged and weighted by the root of their number, which is an orthogonal
    projection; divided by the root of the number of colours, so that distances stay near a mean ΔE.
    """
    parts, start = [], 0
    for count, size in _GATHERED:
        group = colours[start : start + count].reshape(count // size, size, 3)
        parts.append(group.mean(axis=1) * np.float32(size**0.5))
        start += count
    whole: F32 = (np.concatenate(parts).ravel() / len(colours) ** 0.5).astype(np.float32)
    return whole


def apart(one: F32, other: F32) -> tuple[float, float]:
    """Mean and largest ΔE2000 between two behaviours."""
    return all_apart(one, other[None])[0]


def all_apart(one: F32, others: F32) -> list[tuple[float, float]]:
    """Mean and largest ΔE2000 between a behaviour and each of ``(m, n, 3)``."""
    off = ciede2000(np.broadcast_to(one, others.shape).astype(np.float64), others.astype(np.float64)).reshape(
        len(others), -1
    )
    return list(zip(off.mean(axis=1).tolist(), off.max(axis=1).tolist(), strict=True))


def twins(one: F32, other: F32) -> bool:
    """Whether an eye can tell the two looks apart."""
    mean, largest = apart(one, other)
    return mean <= TWIN_MEAN and largest <= TWIN_LARGEST


def nearest(one: F32, others: F32, count: int = 1) -> list[tuple[int, float]]:
    """Places of the nearest among behaviours ``(m, n, 3)``, and their mean ΔE2000; the nearest first.

    A straight distance in CIELAB chooses eight times as many as are wanted; ΔE2000 then puts those in order.
    """
    if not len(others):
        return []
    rough = np.sqrt(((others - one) ** 2).sum(axis=-1)).mean(axis=-1)
    near = np.argsort(rough, kind="stable")[: max(8 * count, 8)]
    found = sorted((mean, int(k)) for (mean, _), k in zip(all_apart(one, others[near]), near, strict=True))
    return [(k, mean) for mean, k in found[:count]]
