"""How evenly shots sit beside each other: skin, greys and tone of a picture under its look, which shots stand
out of their scene, and the trim that brings one to the others.

What is skin and what is grey is told by the picture as it is before its look, trim included; how it is shown,
after the look. The figures are Saucer's own: they were chosen on the demo's frames so that a difference is
named once people notice it side by side.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.optimize import least_squares

from ..arrays import F32, F64
from ..encodings import conversion, encoding
from ..encodings.oklab import to_oklab
from ..look import Look
from ..operations import apply
from ..screen import SCREEN
from ..steps import Tables, no_tables
from ..treatment import Treatment
from ..trim import Trim

What = Literal["skin", "grey", "tone"]

#: Degrees of OKLCh hue that skin has on a display before a look (common practice), wide enough for a balance
#: that is somewhat off.
SKIN_HUE = (20.0, 92.0)
#: Chroma of such skin.
SKIN_CHROMA = (0.025, 0.17)
#: Lightness of such skin, from deep to fair.
SKIN_LIGHT = (0.25, 0.92)
#: Chroma that a grey has at most.
GREY_CHROMA = 0.045
#: Lightness of greys: neither black nor white.
GREY_LIGHT = (0.2, 0.92)
#: Share of a picture from which its skin is spoken of.
LEAST_SKIN = 0.05
#: Share of a picture from which its greys are spoken of.
LEAST_GREY = 0.012
#: Chroma from which skin has a hue.
LEAST_CHROMA = 0.013
#: How far a shot may lie from its scene: degrees of hue, hundredths of OKLab, per cent of lightness.
LIMITS: dict[What, float] = {"skin": 7.0, "grey": 2.0, "tone": 12.0}
#: And how many times the usual distance of the others from their middle: a scene of many colours has no band
#: of its own.
SPREAD = 3.0
#: Shots that a scene must have for one to stand out of it.
FEWEST = 3
#: Width of the picture that is enough to measure a shot.
WIDTH = 160


@dataclass(frozen=True)
class Reading:
    """What a shot shows under its look.

    skin: hue in degrees, ``None`` where there is too little of it. grey: how far greys lean to green–red and
    to blue–yellow, in hundredths of OKLab; ``None`` likewise. tone: mean lightness in per cent.
    """

    skin: float | None
    grey: tuple[float, float] | None
    tone: float


@dataclass(frozen=True)
class Apart:
    """By how much a shot stands out of its scene, and in what: degrees, hundredths or per cent; its sign
    tells the direction."""

    what: What
    by: float
    text: str


def lab_of(rgb: F32, key: str) -> F64:
    """OKLab ``(..., 3)`` of colours in an encoding."""
    return to_oklab(rgb, encoding(key)).astype(np.float64)


def _masks(rgb: F32, source: str, trim: Trim) -> tuple[np.ndarray, np.ndarray]:
    trimmed = Treatment(None, source, trim, ends="screen").compile()(rgb)
    return regions(lab_of(np.clip(trimmed, 0, 1), SCREEN))


def regions(lab: F64) -> tuple[np.ndarray, np.ndarray]:
    """What is skin and what is grey in OKLab colours ``(..., 3)`` as they are before a look, ``(...)``."""
    light, chroma = lab[..., 0], np.hypot(lab[..., 1], lab[..., 2])
    hue = np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360
    skin = (hue > SKIN_HUE[0]) & (hue < SKIN_HUE[1]) & (chroma > SKIN_CHROMA[0]) & (chroma < SKIN_CHROMA[1])
    skin &= (light > SKIN_LIGHT[0]) & (light < SKIN_LIGHT[1])
    grey = (chroma < GREY_CHROMA) & (light > GREY_LIGHT[0]) & (light < GREY_LIGHT[1])
    return skin, grey


def _read(lab: F64, skin: np.ndarray, grey: np.ndarray, least: float = LEAST_CHROMA) -> Reading:
    size = skin.size
    hue = lean = None
    if skin.sum() >= LEAST_SKIN * size:
        a, b = lab[..., 1][skin].mean(), lab[..., 2][skin].mean()
        hue = float(np.degrees(np.arctan2(b, a)) % 360) if np.hypot(a, b) > least else None
    if grey.sum() >= LEAST_GREY * size:
        lean = (float(lab[..., 1][grey].mean() * 100), float(lab[..., 2][grey].mean() * 100))
    return Reading(hue, lean, float(lab[..., 0].mean() * 100))


def read(
    look: Look | None, rgb: F32, source: str, trim: Trim, strength: float = 1.0, *, tables: Tables = no_tables
) -> Reading:
    """The reading of a picture ``(height, width, 3)`` in the encoding ``source``, some ``WIDTH`` wide,
    trimmed and under its look.

    Raises ``LookError``.
    """
    shown = Treatment(look, source, trim, strength, "screen").compile(tables)(rgb)
    return _read(lab_of(np.clip(shown, 0, 1), SCREEN), *_masks(rgb, source, trim))


def turn(a: float, b: float) -> float:
    """From hue ``b`` to hue ``a``, −180 to 180 degrees."""
    return (a - b + 180) % 360 - 180


def middle(readings: Sequence[Reading]) -> Reading:
    """What is usual among shots: the median of each; of hues, the one that the others lie around."""
    skins = [r.skin for r in readings if r.skin is not None]
    greys = [r.grey for r in readings if r.grey is not None]
    skin = None
    if skins:
        first = skins[0]
        skin = float((first + np.median([turn(s, first) for s in skins])) % 360)
    grey = (
        (float(np.median([g[0] for g in greys])), float(np.median([g[1] for g in greys]))) if greys else None
    )
    return Reading(skin, grey, float(np.median([r.tone for r in readings])) if readings else 0.0)


def leaning(a: float, b: float) -> str:
    """The colour that a grey leans to which lies there in OKLab."""
    names = ("red", "yellow", "green", "blue")
    return names[int(((np.degrees(np.arctan2(b, a)) + 45) % 360) // 90)]


def apart(readings: Sequence[Reading | None]) -> list[list[Apart]]:
    """For each shot of a scene what it stands out by, the most telling first; measured against the others of
    the scene."""
    found: list[list[Apart]] = []
    for k, own in enumerate(readings):
        others = [r for j, r in enumerate(readings) if j != k and r is not None]
        found.append(_apart(own, others) if own is not None else [])
    return found


def _apart(own: Reading, others: Sequence[Reading]) -> list[Apart]:
    usual, said = middle(others), []
    enough = FEWEST - 1

    def beyond(one: Apart, distances: Sequence[float]) -> bool:
        return abs(one.by) > max(LIMITS[one.what], SPREAD * float(np.median(distances)))

    if own.skin is not None and usual.skin is not None and sum(r.skin is not None for r in others) >= enough:
        by = turn(own.skin, usual.skin)
        one = Apart("skin", by, f"skin {abs(by):.0f}° {'yellower' if by > 0 else 'redder'} than its scene")
        said += (
            [one]
            if beyond(one, [abs(turn(r.skin, usual.skin)) for r in others if r.skin is not None])
            else []
        )
    if own.grey is not None and usual.grey is not None and sum(r.grey is not None for r in others) >= enough:
        a, b = own.grey[0] - usual.grey[0], own.grey[1] - usual.grey[1]
        by = float(np.hypot(a, b))
        one = Apart("grey", by, f"greys lean {by:.1f} to {leaning(a, b)}")
        said += (
            [one]
            if beyond(
                one,
                [
                    float(np.hypot(r.grey[0] - usual.grey[0], r.grey[1] - usual.grey[1]))
                    for r in others
                    if r.grey
                ],
            )
            else []
        )
    if len(others) >= enough:
        by = own.tone - usual.tone
        one = Apart("tone", by, f"{abs(by):.0f} % {'lighter' if by > 0 else 'darker'} than its scene")
        said += [one] if beyond(one, [abs(r.tone - usual.tone) for r in others]) else []
    return sorted(said, key=lambda one: -abs(one.by) / LIMITS[one.what])


@dataclass(frozen=True)
class Suggested:
    """A trim that brings a shot to others, what the shot shows now and would show with it."""

    trim: Trim
    before: Reading
    after: Reading


#: How far the search thinks in stops, and in the units of temperature and tint.
_REACH = np.array([2.0, 60.0, 60.0])
#: The search runs away from 0, because it takes its steps as a share of where it is.
_ASIDE = 2.0
ROUNDS = 4


def suggest(
    look: Look | None,
    rgb: F32,
    source: str,
    trim: Trim,
    wanted: Reading,
    strength: float = 1.0,
    *,
    tables: Tables = no_tables,
) -> Suggested:
    """The exposure, temperature and tint that bring a shot's skin, greys and tone to a reading, seen through
    its look.

    Found by least squares, each aim weighted by ``LIMITS``, and pulled softly toward leaving things as they
    are; all else of the trim stays. Several times, because what is skin and what is grey is known better once
    the light is right. Deterministic. Raises ``LookError``.
    """
    rest = Treatment(look, source, _lightless(trim), strength, "screen").compile(tables)
    start = np.array([trim.exposure, trim.temperature, trim.tint])
    low, high = np.array((-4.0, -100.0, -100.0)), np.array((4.0, 100.0, 100.0))
    found, made = start, trim
    for _ in range(ROUNDS):
        skin, grey = _masks(rgb, source, made)

        def off(u: F64, skin: np.ndarray = skin, grey: np.ndarray = grey) -> F64:
            v = (u - _ASIDE) * _REACH
            light = Trim(exposure=float(v[0]), temperature=float(v[1]), tint=float(v[2]))
            lit = Treatment(None, source, light).compile()(rgb)
            now = _read(lab_of(np.clip(rest(lit), 0, 1), SCREEN), skin, grey, 0.0)
            return _off(now, wanted, (v - start) / _REACH)

        begin = np.clip(found, low + 1e-9, high - 1e-9) / _REACH + _ASIDE
        bounds = (low / _REACH + _ASIDE, high / _REACH + _ASIDE)
        found = (least_squares(off, begin, bounds=bounds, diff_step=[0.005], max_nfev=25).x - _ASIDE) * _REACH
        named = {
            "exposure": round(float(found[0]), 2),
            "temperature": float(round(found[1])),
            "tint": float(round(found[2])),
        }
        made = trim.model_copy(update=named)
    readings = [read(look, rgb, source, t, strength, tables=tables) for t in (trim, made)]
    return Suggested(made, readings[0], readings[1])


def _off(now: Reading, wanted: Reading, moved: F64) -> F64:
    said = [0.08 * float(x) for x in moved]
    if wanted.skin is not None and now.skin is not None:
        said.append(turn(now.skin, wanted.skin) / LIMITS["skin"])
    if wanted.grey is not None and now.grey is not None:
        said += [
            (now.grey[0] - wanted.grey[0]) / LIMITS["grey"],
            (now.grey[1] - wanted.grey[1]) / LIMITS["grey"],
        ]
    said.append((now.tone - wanted.tone) / LIMITS["tone"])
    return np.array(said + [0.0] * (7 - len(said)))


def _lightless(trim: Trim) -> Trim:
    return trim.model_copy(update={"exposure": 0.0, "temperature": 0.0, "tint": 0.0})


@dataclass(frozen=True)
class Loss:
    """What an encoding cannot hold of a picture: shares of its pixels outside the gamut, and brighter than
    white."""

    gamut: float
    lights: float


def lost(rgb: F32, given: str, target: str) -> Loss:
    """What is lost of a picture ``(..., 3)`` in the encoding ``given`` when it is delivered in ``target``, as
    shares of its pixels."""
    out = apply(conversion(encoding(given), encoding(target)), rgb)
    light = encoding(target).decode(np.clip(out, -1, 4))
    lights = (out > 1.0005).any(axis=-1)
    gamut = (light < -0.0005).any(axis=-1)
    return Loss(float(gamut.mean()), float(lights.mean()))
