"""Timecode of hours, minutes, seconds and frames (SMPTE ST 12-1:2014), drop frame too."""

import re
from fractions import Fraction

#: Hours, minutes, seconds, frames; a semicolon or a point before the frames says drop frame (ST 12-1, 5.2.2).
_FORM = re.compile(r"(\d{2}):(\d{2}):(\d{2})([:;.,])(\d{2,3})")
#: Rates that drop frame is for: two numbers are left out every minute but each tenth (ST 12-1, 5.2.2), four
#: at the doubled rate.
_DROPPED = {30: 2, 60: 4}


def unit_of(rate: Fraction) -> int:
    """Frames that the timecode of a rate counts in a second: 30 for 30000/1001."""
    return max(round(rate), 1)


def dropped(rate: Fraction) -> int:
    """Frame numbers that drop frame leaves out in a minute; 0 at rates that it is not for."""
    return _DROPPED.get(unit_of(rate), 0)


def is_drop(text: str) -> bool:
    """Whether a timecode is written as drop frame."""
    found = _FORM.fullmatch(text.strip())
    return found is not None and found[4] in ";."


def frames_of(text: str, rate: Fraction, drop: bool | None = None) -> int:
    """The frame that a timecode names, counted from midnight. drop: whether it leaves numbers out; ``None``
    as it is written. Raises ``ValueError`` with what is wrong with it."""
    found = _FORM.fullmatch(text.strip())
    if found is None:
        raise ValueError(f"“{text[:20]}” is no timecode")
    hours, minutes, seconds, frame = (int(found[k]) for k in (1, 2, 3, 5))
    unit = unit_of(rate)
    if hours > 23 or minutes > 59 or seconds > 59:
        raise ValueError(f"{text} lies beyond a day of 24 hours")
    if frame >= unit:
        raise ValueError(f"{text} has a frame {frame}, and a second has {unit} here")
    left_out = dropped(rate) if (is_drop(text) if drop is None else drop) else 0
    if left_out and seconds == 0 and frame < left_out and minutes % 10:
        raise ValueError(f"{text} is a number that drop frame leaves out")
    total = hours * 60 + minutes
    return (total * 60 + seconds) * unit + frame - left_out * (total - total // 10)


def text_of(frames: int, rate: Fraction, drop: bool = False) -> str:
    """A frame counted from midnight as a timecode; after a day it begins again."""
    unit, left_out = unit_of(rate), dropped(rate) if drop else 0
    minute, ten = 60 * unit - left_out, 600 * unit - 9 * left_out
    frames %= 144 * ten
    tens, rest = divmod(frames, ten)
    # The first minute of ten is whole.
    if left_out:
        frames += left_out * (9 * tens + max(0, (rest - left_out) // minute))
    seconds, frame = divmod(frames, unit)
    mark = ";" if left_out else ":"
    digits = 3 if unit > 100 else 2
    return f"{seconds // 3600:02d}:{seconds // 60 % 60:02d}:{seconds % 60:02d}{mark}{frame:0{digits}d}"


def later(timecode: str, frames: int, rate: Fraction) -> str:
    """A timecode so many frames on; drop frame where it is written so. Raises ``ValueError``."""
    return text_of(frames_of(timecode, rate) + frames, rate, is_drop(timecode))
