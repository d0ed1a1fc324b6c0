"""What a look does to a clip over its length, for ``apply --over-time``: a report, and its lines drawn."""

import json
from collections.abc import Sequence
from dataclasses import asdict
from pathlib import Path
from xml.sax.saxutils import escape

from ..errors import FileError
from ..formats import clips, recipe
from ..formats.files import whole
from ..readings import overtime
from ..readings.overtime import FrameReading, Place
from .clip import Wanted
from .shared import Answer, is_recipe, present, told

#: Pixels of the drawing: its width, what lies left and right of the lines, the height of a line.
WIDTH, LEFT, RIGHT, HIGH = 1200, 90, 30, 60
#: What is drawn: its name, and the reading of a side.
_LINES = (
    ("tone, %", "middle"),
    ("skin, °", "hue"),
    ("colour, hundredths", "chroma"),
    ("white clipped", "white"),
    ("black clipped", "black"),
)


def over_time(look: Path, source: Path, wanted: Wanted, report: Path, plot: Path | None) -> Answer:
    """Measures a clip under a look, and writes the report as JSON and the lines as SVG. Raises
    ``FileError``."""
    if not is_recipe(look):
        raise FileError(look.name, "is no look. A clip is measured over time under a look and its steps")
    own = recipe.read(present(look))
    told("looking the clip through")
    found = clips.look_through(source)
    key = wanted.encoding or found.facts.encoding
    if not key:
        raise FileError(source.name, "says nothing of its colours. Say how it is encoded with --encoding")
    told("taking samples")
    numbers = overtime.chosen(len(found.stamps))
    samples = overtime.sample(clips.frames_in_order(source, numbers, found.stamps))
    readings = []
    for reading in overtime.measure(own.look, samples, key, None, wanted.strength, tables=own.tables):
        readings.append(reading)
        if not wanted.quiet and len(readings) % overtime.AT_ONCE == 0:
            told(f"frame {len(readings)} of {len(numbers)}")
    places = overtime.places(readings)
    said = []
    for place in places:
        blamed = overtime.cause(own.look, place, samples, key, tables=own.tables)
        said.append({**asdict(place), "cause": asdict(blamed) if blamed else None})
    told("")
    data = {
        "clip": source.name,
        "encoding": key,
        "frames": [asdict(r) for r in readings],
        "places": said,
        "limits": {kind: asdict(limit) for kind, limit in overtime.LIMITS.items()},
    }
    text = json.dumps(data, indent=1)
    _write(report, text)
    if plot is not None:
        _write(plot, _drawn(readings, places, source.name))
    answer: Answer = {"report": str(report), "frames": len(readings), "places": [p.text for p in places]}
    return {**answer, **({"plot": str(plot)} if plot is not None else {})}


def _write(path: Path, text: str) -> None:
    def write(place: Path) -> None:
        place.write_text(text, encoding="utf-8")

    whole(path, write)


def _drawn(readings: Sequence[FrameReading], places: Sequence[Place], name: str) -> str:
    """The lines over the clip as SVG, before faint and after dark, with the places at which the look
    breaks."""
    last = max(readings[-1].number, 1)
    height = HIGH * len(_LINES) + 50

    def x(number: int) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * number / last

    parts = [f'<text x="{LEFT}" y="18">{escape(name)}, before the look and after it</text>']
    for place in places:
        wide = max(x(place.last) - x(place.first), 2)
        parts.append(
            f'<rect class="place" x="{x(place.first):.1f}" y="28" width="{wide:.1f}" height="{height - 50}">'
            f"<title>{escape(place.text)}</title></rect>"
        )
    for row, (label, field) in enumerate(_LINES):
        top = 30 + row * HIGH
        sides = [[getattr(side, field) for side in (r.before, r.after)] for r in readings]
        known = [v for pair in sides for v in pair if v is not None]
        low, high = min([0.0, *known]), max([1e-6, *known])
        parts.append(f'<text x="6" y="{top + HIGH / 2:.0f}">{escape(label)}</text>')
        for side, style in ((0, "before"), (1, "after")):
            points = [
                f"{x(r.number):.1f},{top + HIGH - 8 - (v - low) / (high - low) * (HIGH - 14):.1f}"
                for r, pair in zip(readings, sides, strict=True)
                if (v := pair[side]) is not None
            ]
            parts.append(f'<polyline class="{style}" points="{" ".join(points)}"/>')
    style = (
        "text{font:12px sans-serif}polyline{fill:none;stroke-width:1.4}.before{stroke:#aaa}"
        ".after{stroke:#111}.place{fill:#e0b15a;opacity:.3}"
    )
    body = "".join(parts)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{WIDTH}" height="{height}"><style>{style}</style>'
        f'<rect width="100%" height="100%" fill="#fff"/>{body}</svg>'
    )
