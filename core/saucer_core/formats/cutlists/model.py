"""A cut as its list says it, whatever the file."""

from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

from ...steps.slope_offset_power import Correction
from ..timecode import text_of

#: Events of one list.
MOST = 20_000


@dataclass(frozen=True)
class Event:
    """A stretch of a clip in a cut.

    name: of the clip; reel: what it lies on; either may be empty. start, length: the frames of the clip that
    are used, counted in its timecode from midnight. at: where they stand in the cut, counted so too; lasts:
    frames there. speed: frames of the clip for one of the cut, negative where it runs backwards. comes_in:
    frames of a dissolve or wipe into it, 0 for a cut. correction: an ASC CDL that the list gives it.
    """

    name: str
    reel: str
    start: int
    length: int
    at: int
    lasts: int
    speed: float = 1.0
    comes_in: int = 0
    correction: Correction | None = None

    @cached_property
    def source(self) -> tuple[str, str]:
        """By what its clip is told from others."""
        return self.name.casefold(), self.reel.casefold()

    @property
    def end(self) -> int:
        """The frame of the clip after the last one that is used."""
        return self.start + self.length


@dataclass(frozen=True)
class CutList:
    """A cut. rate: its frames a second. drop: whether its timecode is drop frame. events: in the order of the
    cut. doubts: what was left out, or is not as it should be, each in words."""

    title: str
    rate: Fraction
    drop: bool
    events: tuple[Event, ...]
    doubts: tuple[str, ...] = ()

    @property
    def frames(self) -> int:
        """How long it is, from its first frame to its last."""
        if not self.events:
            return 0
        return max(e.at + e.lasts for e in self.events) - min(e.at for e in self.events)

    def timecode(self, frames: int) -> str:
        """A frame of the cut or of a clip as a timecode."""
        return text_of(frames, self.rate, self.drop)


#: What is told of a list, by how often it is so: for one, and for several.
_TOLD = {
    "sound": ("{} event of sound is left out", "{} events of sound are left out"),
    "sound_tracks": ("{} track of sound is left out", "{} tracks of sound are left out"),
    "tracks": ("", "{} tracks of pictures are read as one: what lies above hides the others"),
    "nested": ("{} cut within the cut is left out", "{} cuts within the cut are left out"),
    "held": ("{} held frame is left out", "{} held frames are left out"),
    "rates": ("{} event has another rate than the cut", "{} events have another rate than the cut"),
    "speeds": ("{} event changes speed", "{} events change speed"),
    "soft": ("{} dissolve is read as a cut", "{} dissolves are read as cuts"),
}


def told(counts: dict[str, int]) -> list[str]:
    """What a person should know of a list, in words. counts: by the keys above."""
    return [
        words[min(counts[key], 2) - 1].format(counts[key])
        for key, words in _TOLD.items()
        if counts.get(key, 0) and words[min(counts[key], 2) - 1]
    ]


def overlaps(events: tuple[Event, ...]) -> list[str]:
    """What overlaps in a cut, in words: a list of one track has each frame once."""
    said = []
    end, before = 0, 0
    for number, event in enumerate(sorted(events, key=lambda e: e.at), 1):
        if number > 1 and event.at < end:
            said.append(f"{end - event.at} frames of event {number} lie under event {before}")
        if event.at + event.lasts > end:
            end, before = event.at + event.lasts, number
    return said
