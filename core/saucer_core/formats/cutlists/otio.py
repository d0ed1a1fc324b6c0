"""OpenTimelineIO files, through its library: read in a process of its own (``otio_child``), written here."""

import json
import re
import tempfile
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import opentimelineio as library

from ...errors import FileError
from ...steps.slope_offset_power import Correction
from .. import alone
from .model import MOST, CutList, Event, overlaps, told

SUFFIX = ".otio"
SIZE_LIMIT = 64 * 2**20
#: Nested lists and objects: those of OpenTimelineIO are some twenty deep.
DEEPEST = 200
#: Strings of JSON, which hold brackets of their own, and brackets.
_MARKS = re.compile(rb'"(?:[^"\\]|\\.)*"|[\[\]{}]')
#: Seconds after which the process is ended whatever it does.
PATIENCE = 90
_CHILD = Path(__file__).with_name("otio_child.py")
#: Frames in a day at the highest rate.
_DAY = 24 * 3600 * 240
#: Rates that files write as decimals, and what they are.
_RATES = {23.976: "24000/1001", 23.98: "24000/1001", 29.97: "30000/1001", 47.95: "48000/1001"} | {
    59.94: "60000/1001",
    119.88: "120000/1001",
}


def rate_of(value: float) -> Fraction:
    """A rate that is written as a decimal."""
    near = next((exact for said, exact in _RATES.items() if abs(said - value) < 0.006), None)
    return Fraction(near) if near else Fraction(value).limit_denominator(1001)


def _deep(data: bytes) -> int:
    """How deep a JSON text is nested."""
    deep = deepest = 0
    for mark in _MARKS.finditer(data):
        if mark[0] in (b"[", b"{"):
            deep += 1
            deepest = max(deepest, deep)
        elif mark[0] in (b"]", b"}"):
            deep -= 1
    return deepest


def read(path: Path, name: str) -> CutList:
    """A list from its file. Raises ``FileError``."""
    if path.stat().st_size > SIZE_LIMIT:
        raise FileError(name, f"larger than {SIZE_LIMIT // 2**20} MiB, the most a cut list may be")
    if _deep(path.read_bytes()) > DEEPEST:
        raise FileError(name, f"is nested deeper than {DEEPEST}: no cut list is")
    with tempfile.TemporaryDirectory() as folder:
        result = Path(folder) / "result.json"
        alone.run(_CHILD, str(path), str(result), path=path, name=name, what="a cut list", patience=PATIENCE)
        said = json.loads(result.read_text(encoding="utf-8"))
    if len(said["events"]) > MOST:
        raise FileError(name, f"has more than {MOST:,} events, the most a cut list may have")
    rate = rate_of(float(said["rate"]))
    if not 1 <= rate <= 240:
        raise FileError(name, f"says {float(rate):g} frames a second; a cut has 1 to 240")
    events = tuple(_event(number, plain, name) for number, plain in enumerate(said["events"], 1))
    if not events:
        raise FileError(name, "holds no clip of pictures")
    return CutList(said["title"][:200], rate, False, events, (*told(said["counts"]), *overlaps(events)))


def _event(number: int, plain: "dict[str, object]", name: str) -> Event:
    numbers = plain.pop("correction")
    event = Event(**plain, correction=_correction(number, numbers, name))  # type: ignore[arg-type]
    if event.lasts <= 0:
        raise FileError(name, f"event {number} ends before it begins")
    if not (0 <= event.start < _DAY and 0 <= event.at < _DAY and event.length < _DAY and event.lasts < _DAY):
        raise FileError(name, f"event {number} lies beyond a day of 24 hours")
    return event


def _correction(number: int, numbers: object, name: str) -> Correction | None:
    if not isinstance(numbers, list):
        return None
    s = [float(v) for v in numbers]
    if len(s) != 10 or min(*s[:3], s[9]) < 0 or min(s[6:9]) <= 0 or not all(abs(v) < 1e6 for v in s):
        raise FileError(name, f"event {number} has an ASC CDL that is not as it should be")
    return Correction((s[0], s[1], s[2]), (s[3], s[4], s[5]), (s[6], s[7], s[8]), s[9])


@dataclass(frozen=True)
class Treated:
    """What is done to the pictures of an event. looks: name, revision and strength of each, the lowest first;
    lut: a file that does it, as a path from where the list lies, or empty; trim: as the core keeps it."""

    looks: tuple[tuple[str, int, float], ...]
    lut: str
    trim: "dict[str, object]"


def _effect(done: Treated) -> "library.schema.Effect":
    """The looks and the LUT of an event as an effect that OpenTimelineIO hands on unchanged."""
    looks = [{"name": name, "revision": number, "strength": share} for name, number, share in done.looks]
    said = {"looks": looks, "trim": done.trim, **({"lut": done.lut} if done.lut else {})}
    name = " + ".join(f"{name} r{number}" for name, number, _ in done.looks)
    return library.schema.Effect(name=name, effect_name="Look", metadata={"saucer": said})


def write(cut: CutList, treated: "Mapping[int, Treated] | None" = None) -> str:
    """A list as text. treated: what is done to the pictures of events, by their place from 0."""
    schema, time = library.schema, library.opentime
    rate = float(cut.rate)

    def range_of(start: int, length: int) -> "library.opentime.TimeRange":
        return time.TimeRange(time.RationalTime(start, rate), time.RationalTime(length, rate))

    timeline = schema.Timeline(cut.title or "cut")
    begin = min((e.at for e in cut.events), default=0)
    timeline.global_start_time = time.RationalTime(begin, rate)
    track = schema.Track("V1", kind=schema.TrackKind.Video)
    timeline.tracks.append(track)
    here = begin
    for number, e in enumerate(cut.events):
        if e.at > here:
            track.append(schema.Gap(source_range=range_of(0, e.at - here)))
        clip = schema.Clip(e.name, schema.MissingReference(), range_of(e.start, e.lasts))
        if e.reel:
            clip.metadata["cmx_3600"] = {"reel": e.reel}
        if (c := e.correction) is not None:
            sop = {"slope": list(c.slope), "offset": list(c.offset), "power": list(c.power)}
            clip.metadata["cdl"] = {"asc_sop": sop, "asc_sat": c.saturation}
        if e.speed != 1:
            clip.effects.append(schema.LinearTimeWarp(time_scalar=e.speed))
        if treated and number in treated:
            clip.effects.append(_effect(treated[number]))
        if e.comes_in and len(track):
            half = time.RationalTime(e.comes_in // 2, rate)
            rest = time.RationalTime(e.comes_in - e.comes_in // 2, rate)
            track.append(schema.Transition("", "SMPTE_Dissolve", half, rest))
        track.append(clip)
        here = e.at + e.lasts
    return str(timeline.to_json_string())
