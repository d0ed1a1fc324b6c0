"""Places of a clip at which a look breaks: stretches of frames in which a measure lies beyond its limit."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ...arrays import F64
from ..evenness import turn
from .measuring import FrameReading

Kind = Literal["white", "black", "outside", "noise", "flicker", "flash", "bands", "skin"]


@dataclass(frozen=True)
class Limit:
    """When a measure makes a place.

    over: it begins there; under: it ends below that, so that it does not come and go. floor: what is after
    the look must be that much at least, in the measure's unit, else nobody sees it. why: in words. The
    figures are Saucer's own, found on made clips and on the demo's.
    """

    over: float
    under: float
    floor: float
    unit: str
    why: str


LIMITS: dict[Kind, Limit] = {
    "white": Limit(0.01, 0.005, 0.0, "share", "one part in a hundred of a picture is a lamp, or a cheek"),
    "black": Limit(0.04, 0.02, 0.0, "share", "shadows may close a little more than lights before it is seen"),
    "outside": Limit(0.03, 0.015, 0.0, "share", "colours that the screen cannot show lose their shape"),
    "noise": Limit(
        1.6, 1.35, 1.2, "times", "grain that was fine gets in the way; below the floor it is fine"
    ),
    "flicker": Limit(1.4, 1.2, 0.8, "times", "a light that breathes begins to blink"),
    "flash": Limit(8.0, 5.0, 0.0, "%", "a frame that is so much lighter or darker than both its neighbours"),
    "bands": Limit(0.012, 0.006, 0.0, "share", "a sky that shows its steps"),
    "skin": Limit(7.0, 4.0, 0.0, "°", "the distance from which a shot's skin stands out of its scene"),
}
#: Sampled frames between two stretches that are one place all the same.
GAP = 3


@dataclass(frozen=True)
class Place:
    """A stretch of frames in which a look breaks. first, last: both included; at: the frame in which it is
    worst; amount: there, in the unit of the limit; text: in words."""

    kind: Kind
    first: int
    last: int
    at: int
    amount: float
    text: str


def _numbers(values: Sequence[float | None]) -> F64:
    return np.array([np.nan if v is None else v for v in values])


def _known(values: F64) -> F64:
    """0 in place of what is not known."""
    return np.asarray(np.nan_to_num(values), np.float64)


def _raised(before: F64, after: F64, floor: float) -> F64:
    """How many times what was there is there after the look; below the floor it is none."""
    return np.asarray(np.where(after >= floor, after / np.maximum(before, floor / 4), 0.0), np.float64)


def _around(hues: F64) -> F64:
    """How far hues lie from the one that is usual, in degrees."""
    known = hues[~np.isnan(hues)]
    if not len(known):
        return np.zeros_like(hues)
    offs = np.array([turn(h, known[0]) for h in hues])
    return np.asarray(np.abs(offs - np.nanmedian(offs)), np.float64)


def _flash(middle: F64, numbers: np.ndarray) -> F64:
    """By how much each frame is lighter, or darker, than both its neighbours."""
    jumps = np.zeros_like(middle)
    inner = (np.diff(numbers)[:-1] == 1) & (np.diff(numbers)[1:] == 1)
    last, following = middle[1:-1] - middle[:-2], middle[1:-1] - middle[2:]
    both = np.where(np.sign(last) == np.sign(following), np.minimum(np.abs(last), np.abs(following)), 0.0)
    jumps[1:-1] = np.where(inner, both, 0.0)
    return jumps


def amounts(readings: Sequence[FrameReading], kind: Kind) -> F64:
    """The measure of a kind in each frame, in the unit of its limit; 0 where it is not known."""
    before, after = [r.before for r in readings], [r.after for r in readings]
    limit = LIMITS[kind]
    if kind in ("white", "black", "outside", "bands"):
        shares = [getattr(a, kind) - getattr(b, kind) for b, a in zip(before, after, strict=True)]
        return np.array(shares, dtype=np.float64)
    if kind in ("noise", "flicker"):
        changes = [r.change for r in readings]
        then = _numbers([getattr(c[0], kind) if c else None for c in changes])
        now = _numbers([getattr(c[1], kind) if c else None for c in changes])
        return _known(_raised(then, now, limit.floor))
    if kind == "flash":
        numbers = np.array([r.number for r in readings])
        then, now = (_flash(_numbers([s.middle for s in side]), numbers) for side in (before, after))
        return _known(np.where(now > 1.2 * then, now, 0.0))
    off: F64 = _around(_numbers([s.hue for s in after])) - _around(_numbers([s.hue for s in before]))
    return _known(off)


def places(readings: Sequence[FrameReading]) -> list[Place]:
    """All places in the readings of a clip's frames, in the order of the clip."""
    found: list[Place] = []
    for kind in LIMITS:
        values = amounts(readings, kind)
        for first, last in _stretches(values, LIMITS[kind]):
            worst = first + int(values[first : last + 1].argmax())
            begin, end, at = (readings[k].number for k in (first, last, worst))
            amount = float(values[worst])
            found.append(Place(kind, begin, end, at, amount, _said(kind, amount, begin, end)))
    return sorted(found, key=lambda place: (place.first, place.kind))


def _stretches(values: F64, limit: Limit) -> list[tuple[int, int]]:
    """First and last place of each stretch: it goes on from where the measure is over as long as it is not
    under."""
    found: list[tuple[int, int]] = []
    wide = values >= limit.under
    k = 0
    while k < len(values):
        if not wide[k]:
            k += 1
            continue
        end = k
        while end + 1 < len(values) and wide[end + 1]:
            end += 1
        if values[k : end + 1].max() >= limit.over:
            if found and k - found[-1][1] <= GAP:
                found[-1] = (found[-1][0], end)
            else:
                found.append((k, end))
        k = end + 1
    return found


_WORDS: dict[Kind, str] = {
    "white": "highlights clip",
    "black": "shadows close",
    "outside": "colours leave the gamut",
    "noise": "noise is raised",
    "flicker": "flicker is raised",
    "flash": "a flash",
    "bands": "a smooth place shows bands",
    "skin": "skin drifts",
}


def amount_in_words(kind: Kind, amount: float) -> str:
    """An amount with its unit: ``3.1 %``, ``1.8 ×``, ``9°``."""
    unit = LIMITS[kind].unit
    if unit == "share":
        return f"{100 * amount:.1f} %"
    return f"{amount:.1f} ×" if unit == "times" else f"{amount:.0f}{'°' if unit == '°' else ' %'}"


def _said(kind: Kind, amount: float, first: int, last: int) -> str:
    where = f"frame {first}" if first == last else f"frames {first}–{last}"
    return f"{_WORDS[kind]}, {amount_in_words(kind, amount)}, {where}"
