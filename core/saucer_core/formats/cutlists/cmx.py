"""CMX 3600 edit lists (SMPTE ST 258:2004, and common practice: clip names, ASC CDL and speeds in remarks).

What a list of one video track says is read: events, reels, dissolves and wipes as cuts of the clip that comes
in, speeds (``M2``), ``FROM CLIP NAME``, ``TO CLIP NAME``, ``ASC_SOP`` and ``ASC_SAT``. Sound is left out, and
that is said.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from ...errors import FileError
from ...steps.slope_offset_power import Correction
from ..timecode import dropped, frames_of
from .model import MOST, CutList, Event, overlaps, told

SUFFIX = ".edl"
#: Beyond this a number of a correction is none.
LARGEST = 1e6
_CODE = r"\d{2}:\d{2}:\d{2}[:;.,]\d{2,3}"
#: Number, reel, tracks, kind of transition and its length, then four timecodes (ST 258, 5).
_EVENT = re.compile(
    rf"(\d{{1,6}})\s+(\S+)\s+(\S+)\s+(C|D|K\w*|W\d*)\s+(?:(\d+)\s+)?({_CODE})\s+({_CODE})\s+({_CODE})\s+({_CODE})\s*"
)
_SPEED = re.compile(rf"M2\s+(\S+)\s+(-?\d+(?:\.\d+)?)\s+({_CODE})\s*")
_NAME = re.compile(r"\*\s*(FROM|TO) CLIP NAME:\s*(.*)", re.IGNORECASE)
#: Three groups of numbers in brackets, which are looked at one by one: a pattern for numbers that may stand
#: against each other takes time without end on a row of digits.
_SOP = re.compile(
    r"\*\s*ASC_SOP:?\s*\(([^()]{1,120})\)\s*\(([^()]{1,120})\)\s*\(([^()]{1,120})\)\s*", re.IGNORECASE
)
_SAT = re.compile(r"\*\s*ASC_SAT:?\s*(\S{1,40})\s*", re.IGNORECASE)
#: Tracks that hold pictures: V, V1, V2 …, B (both), and those with sound beside (AA/V).
_PICTURES = re.compile(r"(V\d*|B|A*/V|NONE)", re.IGNORECASE)
#: Reels that stand for no clip: black, and what an auxiliary source gives (ST 258, 5.2).
_NO_CLIP = ("BL", "BLACK")
#: The auxiliary source (ST 258, 5.2): stands where a clip lies on no reel.
_NO_REEL = "AX"


@dataclass
class _Begun:
    """An event whose remarks are still being read."""

    line: int
    number: str
    reel: str
    transition: int
    places: tuple[int, int, int, int]
    from_name: str = ""
    to_name: str = ""
    sop: tuple[float, ...] = ()
    saturation: float | None = None
    speed: float | None = None


class _Reader:
    def __init__(self, name: str, rate: Fraction) -> None:
        self.name, self.rate = name, rate
        self.title, self.drop = "", False
        self.events: list[_Begun] = []
        self.sound = 0

    def fail(self, line: int, why: str) -> FileError:
        return FileError(self.name, why, line)

    def take(self, number: int, line: str) -> None:
        if line.upper().startswith("TITLE:"):
            self.title = line[6:].strip()[:200]
        elif line.upper().startswith("FCM:"):
            self.drop = "NON" not in line.upper()
        elif found := _EVENT.fullmatch(line):
            self.event(number, found)
        elif line[:1].isdigit() and re.match(r"\d+\s+\S+\s+\S+\s+\S+", line):
            raise self.fail(number, "an event that is not written as CMX 3600 has it. Export the list again")
        elif self.events:
            self.remark(number, line)

    def event(self, number: int, found: "re.Match[str]") -> None:
        begun = found[1], found[2], found[3]
        if not _PICTURES.fullmatch(begun[2]):
            self.sound += 1
            return
        if len(self.events) >= MOST:
            raise self.fail(number, f"has more than {MOST:,} events, the most a cut list may have")
        try:
            places = [
                frames_of(found[k], self.rate, self.drop and bool(dropped(self.rate))) for k in range(6, 10)
            ]
        except ValueError as error:
            raise self.fail(number, f"event {begun[0]}: {error}") from None
        first, after, at, end = places
        if after < first or end < at:
            side = "of the clip" if after < first else "of the cut"
            raise self.fail(number, f"event {begun[0]} ends before it begins, on the side {side}")
        transition = 0 if found[4] == "C" else int(found[5] or 0)
        self.events.append(_Begun(number, begun[0], begun[1], transition, (first, after, at, end)))

    def remark(self, number: int, line: str) -> None:
        last = self.events[-1]
        if found := _NAME.fullmatch(line):
            # In a dissolve both names follow the line of what comes in.
            if found[1].upper() == "FROM":
                last.from_name = last.from_name or found[2].strip()[:200]
            else:
                last.to_name = found[2].strip()[:200]
        elif found := _SOP.fullmatch(line):
            last.sop = tuple(v for group in found.groups() for v in self.numbers(number, last, group, 3))
        elif found := _SAT.fullmatch(line):
            (last.saturation,) = self.numbers(number, last, found[1], 1)
        elif found := _SPEED.fullmatch(line):
            last.speed = float(found[2]) / float(
                self.rate if self.rate.denominator == 1 else round(self.rate)
            )
        elif line.startswith("*") and "ASC_S" in line.upper():
            raise self.no_correction(number, last)

    def no_correction(self, line: int, event: _Begun) -> FileError:
        return self.fail(line, f"event {event.number} has an ASC CDL that is not written as it should be")

    def numbers(self, line: int, event: _Begun, text: str, count: int) -> list[float]:
        """So many numbers of a correction."""
        try:
            found = [float(word) for word in text.split()]
        except ValueError:
            raise self.no_correction(line, event) from None
        if len(found) != count or not all(abs(v) < LARGEST for v in found):
            raise self.no_correction(line, event)
        return found

    def cut(self) -> CutList:
        """The list as it was read."""
        kept = [self.whole(e) for e in self.events if e.reel.upper() not in _NO_CLIP and _shows(e)]
        counts = {
            "soft": sum(e.comes_in > 0 for e in kept),
            "sound": self.sound,
            "speeds": sum(e.speed != 1 for e in kept),
        }
        doubts = (*told(counts), *overlaps(tuple(kept)))
        return CutList(self.title, self.rate, self.drop and bool(dropped(self.rate)), tuple(kept), doubts)

    def whole(self, e: _Begun) -> Event:
        """An event with its remarks."""
        first, after, at, end = e.places
        correction = None
        if e.sop or e.saturation is not None:
            s = e.sop or (1, 1, 1, 0, 0, 0, 1, 1, 1)
            correction = Correction(
                (s[0], s[1], s[2]),
                (s[3], s[4], s[5]),
                (s[6], s[7], s[8]),
                1.0 if e.saturation is None else e.saturation,
            )
            if min(*correction.slope, correction.saturation) < 0 or min(correction.power) <= 0:
                raise self.fail(e.line, f"event {e.number}: slope, saturation and power must lie above 0")
        name = (e.to_name or e.from_name) if e.transition else e.from_name
        speed = e.speed if e.speed is not None else 1.0
        # What a list says of the clip's side at another speed differs; the speed says how much is used.
        length = after - first if speed == 1 else max(round((end - at) * abs(speed)), 1)
        if speed == 0:
            raise self.fail(e.line, f"event {e.number} stands still: a held frame is no stretch of a clip")
        reel = "" if e.reel.upper() == _NO_REEL else e.reel
        return Event(name, reel, first, length, at, end - at, speed, e.transition, correction)


def _shows(e: _Begun) -> bool:
    """The line of what goes out in a dissolve is of no length."""
    return e.places[3] > e.places[2]


def read(text: str, name: str, rate: Fraction) -> CutList:
    """A list from its text; the format does not say its rate. Raises ``FileError`` with the line."""
    reader = _Reader(name, rate)
    for number, line in enumerate(text.splitlines(), 1):
        if stripped := line.strip():
            reader.take(number, stripped)
    found = reader.cut()
    if not found.events:
        raise FileError(name, "holds no event of a picture: it is no CMX 3600 list, or an empty one")
    return found


def write(cut: CutList, notes: dict[int, list[str]] | None = None) -> str:
    """A list as text. notes: further remarks of events, by their place from 0."""
    lines = [
        f"TITLE: {_plain(cut.title) or 'CUT'}",
        f"FCM: {'DROP FRAME' if cut.drop else 'NON-DROP FRAME'}",
        "",
    ]
    for k, e in enumerate(cut.events):
        reel = _word(e.reel) or _NO_REEL
        codes = [cut.timecode(v) for v in (e.start, e.start + e.length, e.at, e.at + e.lasts)]
        kind = f"D    {e.comes_in:03d}" if e.comes_in else "C        "
        if e.comes_in:
            before = [cut.timecode(e.start)] * 2 + [cut.timecode(e.at)] * 2
            lines.append(f"{k + 1:03d}  {reel:<8} V     C         {' '.join(before)}")
        lines.append(f"{k + 1:03d}  {reel:<8} V     {kind} {' '.join(codes)}")
        if e.speed != 1:
            lines.append(f"M2   {reel:<8} {e.speed * round(cut.rate):09.3f} {cut.timecode(e.start)}")
        if e.name:
            lines.append(f"* {'TO' if e.comes_in else 'FROM'} CLIP NAME: {_plain(e.name)}")
        lines += _correction(e)
        lines += [f"* {_plain(note)}" for note in (notes or {}).get(k, [])]
    return "\n".join([*lines, ""])


def _correction(e: Event) -> Iterator[str]:
    if (c := e.correction) is None:
        return
    parts = "".join(f"({' '.join(f'{v:.6f}' for v in part)})" for part in (c.slope, c.offset, c.power))
    yield f"* ASC_SOP {parts}"
    yield f"* ASC_SAT {c.saturation:.6f}"


def _plain(text: str) -> str:
    return " ".join("".join(c if c.isprintable() else " " for c in text).split())


def _word(text: str) -> str:
    """A reel as one word, as the columns of a list have it."""
    return "_".join(_plain(text).split())
