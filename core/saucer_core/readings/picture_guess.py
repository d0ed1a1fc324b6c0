"""What a picture that declares nothing is probably in, guessed from its pixels, with how sure that is.

Film log has no black at the bottom of its codes, leaves room at the top and has little contrast between them
(common practice: a scanner puts black at 95 of 1023, Cineon, "Conversion of 10-bit log film data to 8-bit
linear", 1995); a display picture uses its codes. Light has most of its values far below white, and some above
it. The figures are Saucer's own, chosen on pictures whose encoding is known.
"""

from dataclasses import dataclass

import numpy as np

from ..arrays import F32
from ..luma import LUMA
from .guess import SURE

#: Shares of the pixels that are taken for black and for white.
ENDS = (0.002, 0.998)
#: Between these codes of black a film log becomes likely: from 0 to 1.
LOG_BLACK = (0.10, 0.14)
#: Between these distances of white from black, too: from 0 to 1.
LOG_SPREAD = (0.60, 0.54)
#: A picture with less between its ends says nothing of its encoding: a wall, a fog.
LEAST_SPREAD = 0.2
#: Where a display picture has its black and its white where it uses all its codes.
DISPLAY_BLACK, DISPLAY_WHITE = 0.04, 0.95
#: How sure a guess is at most, and at least: nobody has said it.
MOST, LEAST = 0.9, 0.5


@dataclass(frozen=True)
class PictureGuess:
    """An encoding, how sure it is, 0–1, and what that rests on, in words."""

    key: str
    sure: float
    why: str

    @property
    def certain(self) -> bool:
        """Whether it need not be asked."""
        return self.sure >= SURE


def guess_picture(rgb: F32, usual: str, floating: bool) -> PictureGuess:
    """What a picture ``(height, width, 3)`` is in. usual: the key that is usual for its kind of file.
    floating: whether its file holds numbers beyond 0–1."""
    luma = np.sort(np.asarray(rgb, np.float64).reshape(-1, 3) @ LUMA)
    low, high = (float(luma[min(int(end * len(luma)), len(luma) - 1)]) for end in ENDS)
    if floating:
        if high > 1.02 or float(np.median(luma)) < 0.25:
            return PictureGuess("linear_709", MOST, "its values are those of light")
        return PictureGuess("linear_709", 0.7, "floating numbers are usually light, and none is above white")
    at = f"black at {low * 1023:.0f} and white at {high * 1023:.0f} of 1023"
    log = (
        0.0 if high - low < LEAST_SPREAD else min(_between(low, LOG_BLACK), _between(high - low, LOG_SPREAD))
    )
    if log >= 0.5 or usual == "film_log":
        sure = LEAST + (MOST - LEAST) * log
        return PictureGuess(
            "film_log", sure, f"looks like a log: {at}" if log >= 0.5 else f"usual for its kind, though {at}"
        )
    all_codes = (low < DISPLAY_BLACK) + (high > DISPLAY_WHITE)
    sure = (0.6, 0.8, MOST)[all_codes] * (1 - log)
    return PictureGuess(usual, max(sure, LEAST), f"usual; {at}")


def _between(value: float, ends: tuple[float, float]) -> float:
    """0 at the first end and beyond, 1 at the second."""
    return float(np.clip((value - ends[0]) / (ends[1] - ends[0]), 0, 1))
