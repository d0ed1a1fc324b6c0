"""Which clip an event of a cut list is of: told by name, by reel and by timecode, in this order of trust."""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import PurePath
from typing import Literal

from ..timecode import frames_of, is_drop, text_of, unit_of
from .model import Event

#: By what an event was told: its clip's name, its reel, its timecode alone, or a person.
By = Literal["name", "reel", "timecode", "hand", ""]
#: Reels that CMX 3600 has have eight characters at most; what is longer was cut off (common practice).
REEL = 8


@dataclass(frozen=True)
class Source:
    """A clip that events may be of. key: its own, whatever tells it from others; names: what it and its file
    are called; reel: what it was recorded on; start: its first frame, by its timecode, from midnight; 0
    where it has none. timed: whether it has one; drop: whether that is drop frame."""

    key: int
    names: tuple[str, ...]
    reel: str
    start: int
    frames: int
    rate: Fraction
    timed: bool
    drop: bool = False

    def first(self, event: Event) -> int:
        """The frame of the clip, from 0, at which an event begins."""
        return event.start - self.start

    def holds(self, event: Event, rate: Fraction) -> bool:
        """Whether it has all frames of an event of a cut of that rate."""
        begin = self.first(event)
        return unit_of(self.rate) == unit_of(rate) and 0 <= begin <= self.frames - event.length

    def range_said(self) -> str:
        """Its first and last frame as timecodes."""
        first, last = (text_of(n, self.rate, self.drop) for n in (self.start, self.start + self.frames - 1))
        return f"{first} – {last}"


@dataclass(frozen=True)
class Match:
    """The clip of an event, by its key; ``None`` where none is sure. asked: those that it may be, for a
    person to choose. why: why none is sure, in words."""

    key: int | None
    by: By = ""
    asked: tuple[int, ...] = ()
    why: str = ""


def source(
    key: int, name: str, file_name: str, reel: str, timecode: str, frames: int, rate: Fraction
) -> Source:
    """A clip by what is known of it. timecode: of its first frame; empty where it has none, or where it is
    none."""
    try:
        start, timed = (frames_of(timecode, rate), True) if timecode else (0, False)
    except ValueError:
        start, timed = 0, False
    names = {_plain(said) for said in (name, file_name)} - {""}
    return Source(key, tuple(sorted(names)), reel.casefold(), start, frames, rate, timed, is_drop(timecode))


def without_ending(name: str) -> str:
    """A name without the ending of a file, which has four characters at most."""
    path = PurePath(name.strip())
    return path.stem if 1 < len(path.suffix) <= 5 else path.name


def _plain(name: str) -> str:
    """A name without the ending of its file, whatever its case."""
    return without_ending(name).casefold()


class Shelf:
    """Clips among which the clips of events are looked for. rate: of the cut."""

    def __init__(self, sources: Iterable[Source], rate: Fraction) -> None:
        self._rate = rate
        self._all = list(sources)
        self._by_name: defaultdict[str, list[Source]] = defaultdict(list)
        self._by_reel: defaultdict[str, list[Source]] = defaultdict(list)
        for one in self._all:
            for name in one.names:
                self._by_name[name].append(one)
            # Where a clip says no reel, its name stands for it (common practice).
            for reel in {one.reel} if one.reel else set(one.names):
                self._by_reel[reel[:REEL]].append(one)

    def match(self, event: Event) -> Match:
        """The clip of an event."""
        reel = event.reel.strip().casefold()
        named = self._by_name.get(_plain(event.name), []) if event.name.strip() else []
        if named:
            return self._of(event, named, "name", reel)
        # A reel of eight characters may have been cut off; a longer or shorter one is whole.
        reeled = [
            x for x in self._by_reel.get(reel[:REEL], []) if len(reel) <= REEL or reel in (x.reel, *x.names)
        ]
        if reel and reeled:
            return self._of(event, reeled, "reel", reel)
        fits = [x for x in self._all if x.timed and x.holds(event, self._rate)]
        if len(fits) == 1 and not event.name.strip() and not reel:
            return Match(fits[0].key, "timecode")
        if fits:
            return Match(None, "", _keys(fits), "only the timecode fits")
        return Match(None, "", (), "no clip has its name, reel or timecode")

    def _of(self, event: Event, found: list[Source], by: By, reel: str) -> Match:
        fits = [x for x in found if x.holds(event, self._rate)]
        if len(fits) > 1 and reel:
            fits = [x for x in fits if x.reel == reel] or fits
        if len(fits) == 1:
            return Match(fits[0].key, by)
        if fits:
            return Match(None, "", _keys(fits), f"{len(fits)} clips fit")
        return Match(None, "", (), self._short(event, found))

    def _short(self, event: Event, found: list[Source]) -> str:
        """Why none of these clips holds an event."""
        one = found[0]
        if unit_of(one.rate) != unit_of(self._rate):
            return f"its clip has {unit_of(one.rate)} frames a second, the cut {unit_of(self._rate)}"
        return f"its clip has {one.range_said()} alone"

    def of_key(self, key: int) -> Source | None:
        """The clip of that key."""
        return next((x for x in self._all if x.key == key), None)


def _keys(found: Sequence[Source]) -> tuple[int, ...]:
    return tuple(x.key for x in found[:12])
