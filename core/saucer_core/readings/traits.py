"""Traits: what a look measurably does, and words for it.

Measured on greys and on colours spread through what the look expects, brought there as a frame would be;
compared as they look on a standard display. The words and their limits are Saucer's own, set by looking at
the demo looks.
"""

from dataclasses import asdict, dataclass

import numpy as np

from ..arrays import F32
from ..encodings import encoding
from ..encodings.oklab import from_oklab, to_oklab
from ..look import Look
from ..luma import LUMA32
from ..screen import SCREEN
from ..steps import Tables, no_tables
from ..treatment import Treatment

#: Skin from light to dark: OKLab lightness, chroma, hue.
SKIN = ((0.82, 0.05, 55.0), (0.7, 0.07, 53.0), (0.6, 0.08, 50.0), (0.48, 0.07, 47.0), (0.36, 0.05, 45.0))
#: Hues of the ring on which chroma and turn are measured.
HUES = 24
#: Chroma of that ring.
CHROMA = 0.09


@dataclass(frozen=True)
class Traits:
    """Numbers that say what a look does.

    warmth, tint: what mid greys gain in OKLab b and lose in a, × 1000 (above 0: warmer, greener). contrast:
    slope at mid grey against the picture without the look. black, white: where the ends of a grey ramp go,
    code values 0–1. saturation: mean chroma ratio of 24 hues. shadow_tint, highlight_tint: hue in degrees and
    OKLab chroma × 1000 of a dark and a light grey. skin_hue,
    skin_saturation: mean turn in degrees and chroma ratio of five skins, against the look's own mid grey.
    exposure: change of mid grey's lightness × 100. hue_spread: how far hues are gathered toward two opposite
    ones, 0–1.
    """

    warmth: float
    tint: float
    contrast: float
    black: float
    white: float
    saturation: float
    shadow_tint: tuple[float, float]
    highlight_tint: tuple[float, float]
    skin_hue: float
    skin_saturation: float
    exposure: float
    hue_spread: float

    @property
    def monochrome(self) -> bool:
        """Whether hardly any colour is left."""
        return self.saturation < 0.25

    def words(self) -> list[str]:
        """The most telling first."""
        return [word for _, word in sorted(_words(self), reverse=True)]

    def as_dict(self) -> dict[str, object]:
        """Plain numbers and words, for JSON."""
        return {**asdict(self), "monochrome": self.monochrome, "words": self.words()}


def on_screen(look: Look, shown: F32, tables: Tables) -> F32:
    """Screen colours ``(n, 3)`` through the look, back on the screen. Raises ``LookError``."""
    return Treatment(look, source=SCREEN, ends="screen").compile(tables)(shown)


def _lab(shown: F32) -> F32:
    return to_oklab(np.clip(shown, 0, 1), encoding(SCREEN))


def from_lch(rows: tuple[tuple[float, float, float], ...]) -> F32:
    """Screen colours of OKLCh, hue in degrees; held to 0–1."""
    light, chroma, hue = np.array(rows, dtype=np.float64).T
    turn = np.radians(hue)
    lab = np.stack([light, chroma * np.cos(turn), chroma * np.sin(turn)], axis=1).astype(np.float32)
    return np.clip(from_oklab(lab, encoding(SCREEN)), 0, 1)


def _tint(lab: F32) -> tuple[float, float]:
    return round(float(np.degrees(np.arctan2(lab[2], lab[1])) % 360), 1), round(
        float(np.hypot(lab[1], lab[2])) * 1000, 1
    )


def traits(look: Look, *, tables: Tables = no_tables) -> Traits:
    """Measures a look. Raises ``LookError``."""
    ramp = np.repeat(np.linspace(0, 1, 129, dtype=np.float32)[:, None], 3, axis=1)
    colours = from_lch(tuple((0.66, CHROMA, 360 * k / HUES) for k in range(HUES)))
    skin = from_lch(SKIN)
    out = on_screen(look, np.concatenate([ramp, colours, skin]), tables)
    before, after = _lab(np.concatenate([ramp, colours, skin])), _lab(out)
    greys, hues, skins = after[:129], after[129 : 129 + HUES], after[129 + HUES :]
    mid = greys[48:81].mean(axis=0)
    slope = (greys[74, 0] - greys[54, 0]) / (before[74, 0] - before[54, 0])
    chroma = np.hypot(hues[:, 1], hues[:, 2])
    ratio = chroma / np.hypot(before[129 : 129 + HUES, 1], before[129 : 129 + HUES, 2])
    # Skin is judged against the look's own grey: under blue light it is the rest of the blue that counts.
    was, now = before[129 + HUES :], skins - mid * np.array([0, 1, 1], dtype=np.float32)
    turn = np.degrees(np.arctan2(now[:, 2], now[:, 1]) - np.arctan2(was[:, 2], was[:, 1]))
    doubled = np.exp(2j * np.arctan2(hues[:, 2], hues[:, 1]))
    gathered = abs((doubled * chroma).sum()) / max(float(chroma.sum()), 1e-6)
    luma = out[:129] @ LUMA32
    return Traits(
        warmth=round(float(mid[2]) * 1000, 1),
        tint=round(float(-mid[1]) * 1000, 1),
        contrast=round(float(slope), 3),
        black=round(float(luma[0]), 4),
        white=round(float(luma[-1]), 4),
        saturation=round(float(ratio.mean()), 3),
        shadow_tint=_tint(greys[26:42].mean(axis=0)),
        highlight_tint=_tint(greys[96:116].mean(axis=0)),
        skin_hue=round(float(((turn + 180) % 360 - 180).mean()), 1),
        skin_saturation=round(
            float((np.hypot(now[:, 1], now[:, 2]) / np.hypot(was[:, 1], was[:, 2])).mean()), 3
        ),
        exposure=round(float(mid[0] - before[48:81, 0].mean()) * 100, 1),
        hue_spread=round(float(gathered), 3),
    )


#: Names of hues, by where each begins, OKLCh degrees.
_NAMES = (
    (0, "rose"),
    (20, "red"),
    (40, "orange"),
    (68, "amber"),
    (88, "yellow"),
    (112, "olive"),
    (130, "green"),
    (165, "sea green"),
    (190, "teal"),
    (225, "blue"),
    (275, "violet"),
    (305, "purple"),
    (325, "plum"),
    (348, "rose"),
)


def hue_name(hue: float) -> str:
    """A common word for a hue in OKLCh degrees."""
    return next(name for start, name in reversed(_NAMES) if hue >= start)


def _words(t: Traits) -> list[tuple[float, str]]:
    """Words with how telling each is."""
    found: list[tuple[float, str]] = []

    def say(strength: float, word: str) -> None:
        if strength >= 1:
            found.append((strength, word))

    if t.monochrome:
        say(6 if t.saturation < 0.05 else 5, "monochrome" if t.saturation < 0.05 else "near monochrome")
    elif t.saturation < 0.85:
        say(1 + (0.85 - t.saturation) * 6, "muted")
    elif t.saturation > 1.15:
        say(1 + (t.saturation - 1.15) * 6, "saturated")
    if not t.monochrome:
        say(abs(t.warmth) / 8, "warm" if t.warmth > 0 else "cool")
        if abs(t.tint) > abs(t.warmth):
            say(abs(t.tint) / 8, "greenish" if t.tint > 0 else "rosy")
        say((t.hue_spread - 0.22) * 10, "two hues")
    say(abs(t.exposure) / 6, "bright" if t.exposure > 0 else "dark")
    say((t.contrast - 1) * 7, "hard")
    say((1 - t.contrast) * 8, "soft")
    say(t.black / 0.02, "lifted blacks")
    say((1 - t.white) / 0.06, "lowered whites")
    for (hue, amount), place in ((t.shadow_tint, "shadows"), (t.highlight_tint, "highlights")):
        say(amount / (14 if t.monochrome else 11), f"{hue_name(hue)} {place}")
    if not t.monochrome and 12 < abs(t.skin_hue) < 90:
        say(abs(t.skin_hue) / 12, "skin turned to " + ("yellow" if t.skin_hue > 0 else "red"))
    return found or [(0.0, "neutral")]
