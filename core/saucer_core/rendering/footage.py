"""What footage a folder holds, and which of it a shot is of."""

import os
from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path

from ..errors import FileError
from ..formats import clips
from ..formats.clip_index import glance
from ..formats.clips import ClipFacts
from ..formats.cutlists.matching import Match, Shelf, Source, source
from ..formats.cutlists.model import Event
from ..formats.delivery import ListedSource
from ..formats.developing import develop
from ..formats.sequences import NUMBERED
from ..formats.timecode import frames_of, text_of

#: Marks between the name of a sequence and its numbers.
_MARKS = " ._-"


@dataclass(frozen=True)
class Clip:
    """A clip of the footage."""

    path: Path
    facts: ClipFacts


@dataclass(frozen=True)
class Run:
    """Numbered pictures of the footage, by their numbers. name: what stands before the numbers."""

    name: str
    files: dict[int, Path] = field(repr=False)

    @property
    def first(self) -> int:
        """The lowest number."""
        return min(self.files)

    @property
    def last(self) -> int:
        """The highest number."""
        return max(self.files)


@dataclass(frozen=True)
class Part:
    """The frames of a clip or of numbered pictures that a shot uses, both included: places in the clip, from
    0, or numbers of the pictures. doubts: what is not as it was looked at, in words."""

    of: Clip | Run
    first: int
    last: int
    doubts: tuple[str, ...] = ()

    def with_handles(self, handles: int) -> "Part":
        """The same with up to so many frames more at each end, as far as there are any."""
        low, high = (
            (0, self.of.facts.frames - 1) if isinstance(self.of, Clip) else (self.of.first, self.of.last)
        )
        return Part(self.of, max(self.first - handles, low), min(self.last + handles, high), self.doubts)


@dataclass(frozen=True)
class Footage:
    """What a folder holds. stills: pictures by their file names in small letters. unread: what cannot be
    read, each in words."""

    folder: Path
    clips: tuple[Clip, ...]
    runs: tuple[Run, ...]
    stills: dict[str, list[Path]] = field(repr=False)
    unread: tuple[str, ...] = ()


def look_into(folder: Path, besides: Path, tell: Callable[[str], None]) -> Footage:
    """Looks a folder through, and the folders in it; clips by their heads alone. besides: a folder that is
    left out. Raises ``FileError`` where there is no such folder."""
    if not folder.is_dir():
        raise FileError(str(folder), "is no folder")
    found: list[Clip] = []
    numbered: defaultdict[tuple[Path, str, str], dict[int, Path]] = defaultdict(dict)
    stills: defaultdict[str, list[Path]] = defaultdict(list)
    unread: list[str] = []
    for path in _files(folder, besides.resolve()):
        suffix = path.suffix.lower()
        if suffix in clips.SUFFIXES:
            tell(f"looking at {path.name}")
            try:
                found.append(Clip(path, glance(path)))
            except FileError as error:
                unread.append(str(error))
        elif suffix in develop.SUFFIXES:
            stills[path.name.casefold()].append(path)
            if (parts := NUMBERED.fullmatch(path.name)) is not None:
                numbered[path.parent, parts["stem"], suffix][int(parts["number"])] = path
    runs = [Run(stem.rstrip(_MARKS) or at.name, files) for (at, stem, _), files in numbered.items()]
    return Footage(folder, tuple(found), tuple(runs), dict(stills), tuple(unread))


def _files(folder: Path, besides: Path) -> Iterator[Path]:
    for at, folders, names in os.walk(folder):
        here = Path(at)
        folders[:] = sorted(f for f in folders if not f.startswith(".") and (here / f).resolve() != besides)
        yield from (here / name for name in sorted(names) if not name.startswith("."))


def still_of(footage: Footage, wanted: ListedSource) -> Path:
    """The picture that a shot is of, by its file's name. Raises ``FileError`` where there is none, or where
    there are several."""
    found = footage.stills.get(wanted.file.casefold(), [])
    if not found:
        raise FileError(wanted.file, "no picture of this name is in the footage")
    if len(found) > 1:
        said = ", ".join(str(path.relative_to(footage.folder)) for path in found[:4])
        raise FileError(wanted.file, f"is there {len(found)} times: {said}. Keep one in the footage")
    return found[0]


def part_of(footage: Footage, wanted: ListedSource) -> Part:
    """The frames that a shot uses, told by name, by reel and by timecode, in this order of trust. Raises
    ``FileError`` with why none is sure.

    Where its clip has no timecode, frames are counted from the first one; so they are in footage that has
    lost its timecode, if the name fits.
    """
    rate = Fraction(wanted.rate)
    begin = _start(wanted, rate)
    places: list[Clip | Run] = [*footage.clips, *footage.runs]
    lost: list[Clip | Run] = [x for x in places if isinstance(x, Clip) and not x.facts.timecode]
    ways = [(places, 0, False)]
    if begin is not None:
        ways = [(places, begin, True), (lost, 0, False)]
    answers: list[str] = []
    for among, start, timed in ways:
        shelf = Shelf(_sources(among, rate, timed), rate)
        for name in dict.fromkeys((wanted.file, wanted.name)):
            event = Event(name, wanted.reel, start + wanted.first, wanted.last - wanted.first + 1, 0, 1)
            match = shelf.match(event)
            if match.key is not None and (timed or match.by == "name"):
                return _part(among[match.key], shelf, match.key, event, among is lost)
            answers.append(_why(match, footage, among))
    raise FileError(wanted.file or wanted.name, answers[0])


def _start(wanted: ListedSource, rate: Fraction) -> int | None:
    """The first frame of a shot's clip by its timecode; nothing where it has none."""
    try:
        return frames_of(wanted.timecode, rate) if wanted.timecode else None
    except ValueError:
        return None


def _sources(places: list[Clip | Run], rate: Fraction, timed: bool) -> Iterator[Source]:
    """The footage as clips that an event may be of. timed: whether timecodes count."""
    for key, place in enumerate(places):
        if isinstance(place, Run):
            # The numbers of pictures are counted as frames from midnight, as where they are brought in.
            start = text_of(place.first, rate) if timed else ""
            folder = next(iter(place.files.values())).parent.name
            yield source(key, place.name, folder, "", start, place.last - place.first + 1, rate)
            continue
        facts = place.facts
        own = Fraction(facts.rate) if facts.rate else rate
        start = facts.timecode if timed else ""
        yield source(key, place.path.name, "", facts.reel, start, facts.frames, own)


def _part(place: Clip | Run, shelf: Shelf, key: int, event: Event, lost: bool) -> Part:
    found = shelf.of_key(key)
    assert found is not None, "the key is of this shelf"
    first = found.first(event) + (place.first if isinstance(place, Run) else 0)
    doubts = ("has lost its timecode: frames are counted from its first one",) if lost else ()
    return Part(place, first, first + event.length - 1, doubts)


def _why(match: Match, footage: Footage, places: list[Clip | Run]) -> str:
    """Why no footage is sure, with what it may be."""
    if not match.asked:
        return match.why
    names = []
    for key in match.asked[:4]:
        place = places[key]
        path = place.path if isinstance(place, Clip) else place.files[place.first]
        names.append(str(path.relative_to(footage.folder)))
    does = "Leave one in the footage" if len(match.asked) > 1 else "Give it the name of the clip, if it is it"
    return f"{match.why}: {', '.join(names)}. {does}"
