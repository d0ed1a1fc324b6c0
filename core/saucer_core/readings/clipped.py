"""Which colours of a picture a look drives to the end of its range, where they cannot be told apart any
more."""

from dataclasses import dataclass
from functools import cache

import numpy as np

from ..arrays import F32
from ..look import Look
from ..steps import Tables, no_tables
from .traits import SKIN, from_lch, hue_name, on_screen

#: OKLab lightnesses of the colours of an ordinary picture on a standard screen.
_LIGHTS = (0.3, 0.42, 0.54, 0.66, 0.78, 0.88)
#: Their chromas.
_CHROMAS = (0.03, 0.07, 0.11, 0.15)
#: Hues on each ring of one lightness and one chroma.
HUES = 36
#: How near to the end of a channel counts as at it.
_END = 0.5 / 255


@dataclass(frozen=True)
class Clipped:
    """share: of an ordinary picture's colours, 0–1. hue: where most of them lie, in a common word. skin:
    whether skins are among them."""

    share: float
    hue: str = ""
    skin: bool = False

    def words(self) -> str:
        """For a list of findings; empty where hardly anything is clipped."""
        if self.share < 0.01:
            return ""
        return (
            f"clips {self.share:.0%} of colours, most in {self.hue}, "
            f"{'skins too' if self.skin else 'no skin'}"
        )


@cache
def _ordinary() -> tuple[F32, list[float]]:
    rows = tuple(
        (light, chroma, 360 * k / HUES) for light in _LIGHTS for chroma in _CHROMAS for k in range(HUES)
    )
    shown = from_lch(rows)
    inside = np.all((shown > 2 * _END) & (shown < 1 - 2 * _END), axis=1)
    return np.ascontiguousarray(shown[inside]), [
        row[2] for row, kept in zip(rows, inside, strict=True) if kept
    ]


def clipped(look: Look, *, tables: Tables = no_tables) -> Clipped:
    """What a look clips of colours that lie inside a standard screen. Raises ``LookError``."""
    shown, hues = _ordinary()
    out = on_screen(look, np.concatenate([shown, from_lch(SKIN)]), tables)
    at_end = np.any((out <= _END) | (out >= 1 - _END), axis=1)
    colours, skin = at_end[: len(shown)], at_end[len(shown) :]
    hit = np.radians(np.array(hues)[colours])
    if not len(hit):
        return Clipped(0.0, skin=bool(skin.any()))
    middle = float(np.degrees(np.arctan2(np.sin(hit).sum(), np.cos(hit).sum())) % 360)
    return Clipped(float(colours.mean()), hue_name(middle), bool(skin.any()))
