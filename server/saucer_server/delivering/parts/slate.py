"""The line of letters under the picture of a review clip."""

from fractions import Fraction

import numpy as np
from PIL import Image, ImageDraw
from saucer_core.formats.review_writing import U8, ReviewSize, Slate
from saucer_core.formats.timecode import later

from ...sheets.lettering import width, write
from ..pieces import OfReviewShot
from ..plan import ReviewPlan

#: Colours of the line and of its letters.
GROUND, LETTERS = "#141414", "#c8c8c8"
#: Share of the line's height that letters take.
LETTER_SHARE = 0.5
#: Between two things that are said.
BETWEEN = "   ·   "


def said(source: OfReviewShot, plan: ReviewPlan) -> list[str]:
    """What the line says of a shot, but for what changes with its frames."""
    shot = source.reviewed
    parts = {
        "shot": shot.slate,
        "look": shot.words or "no look",
        "date": source.date,
        "for": f"for {plan.whom}" if plan.whom else "",
    }
    return [parts[key] for key in plan.slate if parts.get(key)]


def _timecode(begin: str, rate: str, number: int) -> str:
    """What is said of a frame: its timecode, or its number where the clip has none."""
    try:
        return later(begin, number, Fraction(rate))
    except (ValueError, ZeroDivisionError):
        return f"frame {number}"


def slate_of(source: OfReviewShot, plan: ReviewPlan, size: ReviewSize, begin: str | None) -> Slate | None:
    """The line for each frame; nothing where none is wanted. begin: the timecode of the clip's first frame;
    ``None`` for a still."""
    if not size.slate:
        return None
    ground = Image.new("RGB", (size.width, size.slate_rows), GROUND)
    letters = round(size.slate_rows * LETTER_SHARE)
    edge = size.slate_rows // 2
    top = (size.slate_rows - letters) / 2 - letters * 0.12
    timed = begin is not None and "timecode" in plan.slate
    draw = ImageDraw.Draw(ground)
    # Room for a timecode on the right.
    room = width(draw, "00:00:00:00", letters) + edge if timed else 0
    write(draw, (edge, top), BETWEEN.join(said(source, plan)), LETTERS, letters, size.width - 2 * edge - room)
    still: U8 = np.asarray(ground)

    def at(number: int) -> U8:
        if not timed:
            return still
        assert begin is not None
        line = ground.copy()
        over = ImageDraw.Draw(line)
        words = _timecode(begin, source.rate, number)
        wide = width(over, words, letters)
        write(over, (size.width - edge - wide, top), words, LETTERS, letters, wide + 1)
        return np.asarray(line)

    return at
