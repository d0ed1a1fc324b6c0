"""Two cuts of the kiln film as lists, to try cutting with: ``python -m demo.cuts FOLDER``.

The first is an OpenTimelineIO file, the next one a CMX 3600 list. Both use the clips of the demo, and clips
that have not come yet.
"""

import sys
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

from saucer_core.formats.cutlists import reading
from saucer_core.formats.cutlists.model import CutList, Event
from saucer_core.formats.timecode import frames_of
from saucer_core.steps.slope_offset_power import Correction

RATE = Fraction(24)
#: Where the clips begin, by their timecode.
BEGIN = {
    "fire_at_night_log.mov": "21:30:10:00",
    "from_yard_to_fire_log.mov": "10:00:00:00",
    "heads_into_shade_log.mov": "14:07:22:00",
    "yard_at_dusk_log.mov": "19:44:00:00",
    # These two have not come.
    "hands_wet_clay_02.mov": "14:22:07:03",
    "spy_hole_04.mov": "21:05:52:10",
}
REELS = {"hands_wet_clay_02.mov": "K014", "spy_hole_04.mov": "K027"}
YARD, FIRE, HEADS, THROUGH = (
    "yard_at_dusk_log.mov",
    "fire_at_night_log.mov",
    "heads_into_shade_log.mov",
    "from_yard_to_fire_log.mov",
)
WARM = Correction((1.08, 1.02, 0.95), (0.0, 0.0, 0.0), (1.0, 1.0, 1.0), 1.0)
DEEP = Correction((0.94, 0.97, 1.04), (-0.01, 0.0, 0.01), (1.05, 1.0, 1.0), 0.95)


@dataclass(frozen=True)
class Used:
    """Frames of a clip, from 0, as a cut uses them. comes_in: frames of a dissolve into them."""

    clip: str
    first: int
    length: int
    correction: Correction | None = None
    comes_in: int = 0


FIRST = (
    Used(YARD, 0, 36),
    Used(THROUGH, 4, 36),
    Used(YARD, 60, 30),
    Used(HEADS, 0, 28),
    Used(HEADS, 40, 24),
    Used("hands_wet_clay_02.mov", 0, 24),
    Used(HEADS, 80, 32),
    Used(THROUGH, 92, 36),
    Used(FIRE, 0, 30),
    Used(THROUGH, 48, 30),
    Used(FIRE, 44, 20),
    Used(FIRE, 84, 30),
)
NEXT = (
    # Shorter, then two that changed places, a longer one, one that slipped.
    Used(YARD, 0, 26),
    Used(YARD, 60, 30, WARM),
    Used(THROUGH, 4, 36),
    Used(HEADS, 0, 34, DEEP),
    Used(HEADS, 46, 24),
    Used("hands_wet_clay_02.mov", 0, 24),
    # The last of the heads is gone; the fire is split by what shows through the spy hole.
    Used(THROUGH, 92, 36),
    Used(FIRE, 0, 16, WARM),
    Used("spy_hole_04.mov", 0, 30),
    Used(FIRE, 16, 14),
    Used(THROUGH, 48, 30, comes_in=12),
    Used(FIRE, 84, 36),
    Used(YARD, 92, 22),
)


def cut(used: tuple[Used, ...]) -> CutList:
    """A cut of those frames, one after the other."""
    at, events = frames_of("01:00:00:00", RATE), []
    for one in used:
        events.append(
            Event(
                name=one.clip,
                reel=REELS.get(one.clip, ""),
                start=frames_of(BEGIN[one.clip], RATE) + one.first,
                length=one.length,
                at=at,
                lasts=one.length,
                comes_in=one.comes_in,
                correction=one.correction,
            )
        )
        at += one.length
    return CutList("kiln", RATE, False, tuple(events))


def write(folder: Path) -> list[Path]:
    """Writes both lists; gives their paths."""
    folder.mkdir(parents=True, exist_ok=True)
    lists = (("kiln_cut_1.otio", FIRST), ("kiln_cut_2.edl", NEXT))
    paths = []
    for name, used in lists:
        path = folder / name
        path.write_text(reading.write(cut(used), name), encoding="utf-8")
        paths.append(path)
    return paths


if __name__ == "__main__":
    for written in write(Path(sys.argv[1])):
        print(written)
