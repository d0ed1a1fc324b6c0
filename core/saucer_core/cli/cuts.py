"""``cuts``: what a cut list holds, what changed since another one, and the same list in the other form."""

from fractions import Fraction
from pathlib import Path

import click

from ..errors import FileError
from ..formats.cutlists import reading
from ..formats.cutlists.model import CutList, Event
from ..formats.cutlists.recut import Recut, recut
from ..formats.files import whole_text
from .shared import PATH, Answer, answering, present

#: Rates that a cut has, as they are written.
_RATES = {
    "23.976": Fraction(24000, 1001),
    "24": Fraction(24),
    "25": Fraction(25),
    "29.97": Fraction(30000, 1001),
    "30": Fraction(30),
    "48": Fraction(48),
    "50": Fraction(50),
    "59.94": Fraction(60000, 1001),
    "60": Fraction(60),
}


@click.command("cuts")
@click.argument("file", type=PATH, metavar="LIST")
@click.argument("before", type=PATH, required=False, metavar="[BEFORE]")
@click.option(
    "--rate", type=click.Choice(list(_RATES)), default="24", help="Of CMX 3600 lists, which do not say it."
)
@click.option("--write", type=PATH, help="Write the list: .otio, or .edl as CMX 3600.")
@answering
def command(file: Path, before: Path | None, rate: str, write: Path | None) -> Answer:
    """Say what a cut list holds, and what changed since the list BEFORE.

    OpenTimelineIO files and CMX 3600 lists are read. Events are told by their clip and the frames of it that
    they use: what moved, became longer or shorter, slipped, was split or joined, is new or gone.
    """
    cut = _read(file, rate)
    answer: Answer = {
        "title": cut.title,
        "rate": str(cut.rate),
        "events": [_said(cut, e) for e in cut.events],
        "frames": cut.frames,
        "doubts": list(cut.doubts),
    }
    if before is not None:
        was = _read(before, rate)
        answer["changed"] = [_changed(r, was, cut) for r in recut(was, cut) if r.kinds != ("same",)]
    if write is not None:
        whole_text(write, reading.write(cut, write.name))
        answer["written"] = str(write)
    return answer


def _read(path: Path, rate: str) -> CutList:
    try:
        return reading.read(present(path), path.name, _RATES[rate])
    except IsADirectoryError:
        raise FileError(path.name, "is a folder; name a cut list") from None


def _said(cut: CutList, e: Event) -> Answer:
    said: Answer = {
        "clip": e.name,
        "reel": e.reel,
        "from": cut.timecode(e.start),
        "frames": e.length,
        "at": cut.timecode(e.at),
    }
    if e.speed != 1:
        said["speed"] = e.speed
    if e.correction is not None:
        said["cdl"] = True
    return said


def _changed(r: Recut, was: CutList, now: CutList) -> Answer:
    event = now.events[r.new] if r.new is not None else was.events[r.old or 0]
    said: Answer = {"clip": event.name, "what": list(r.kinds)}
    if r.starts:
        said["frames at its start"] = r.starts
    if r.ends:
        said["frames at its end"] = r.ends
    return said
