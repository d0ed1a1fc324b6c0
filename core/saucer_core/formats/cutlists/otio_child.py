"""Reads one OpenTimelineIO file, in a process of its own, and writes what it holds as plain JSON.

Run by ``otio`` as ``python -I otio_child.py FILE RESULT``: alone, with nothing of Saucer, under limits of
time and memory that it sets itself before it looks at the file.
"""

import json
import resource
import sys
from typing import Any

#: Seconds of computing, and bytes of address space, that a cut list may cost.
SECONDS, MEMORY = 60, 2 * 2**30

# JSON by nature: what a file says of its clips.
Plain = dict[str, Any]


def _frames(time: Any, rate: float) -> int:
    found: int = round(time.rescaled_to(rate).value)
    return found


def _speed(clip: Any, otio: Any) -> float | None:
    """Frames of the clip for one of the cut; ``None`` for a held frame."""
    speed = 1.0
    for effect in clip.effects:
        if isinstance(effect, otio.schema.FreezeFrame):
            return None
        if isinstance(effect, otio.schema.LinearTimeWarp):
            speed *= float(effect.time_scalar)
    return speed


def _text(value: Any) -> str:
    return str(value)[:200] if isinstance(value, str) else ""


def _reel(clip: Any) -> str:
    """What a file says of the reel, by those who write it: the CMX adapter of OpenTimelineIO, and others."""
    held: list[Any] = [clip.metadata, getattr(clip.media_reference, "metadata", None) or {}]
    for holder in held:
        for place in (holder.get("cmx_3600"), holder):
            if hasattr(place, "get"):
                for word in ("reel", "reel_name", "tape"):
                    if found := _text(place.get(word)):
                        return found
    return ""


def _correction(clip: Any) -> list[float] | None:
    """Nine numbers of slope, offset and power, and saturation (as OpenTimelineIO's CMX adapter has them)."""
    cdl = clip.metadata.get("cdl")
    if not hasattr(cdl, "get"):
        return None
    sop, sat = cdl.get("asc_sop"), cdl.get("asc_sat")
    found: list[float] = []
    for part, usual in (("slope", 1.0), ("offset", 0.0), ("power", 1.0)):
        values = list(sop.get(part) or [usual] * 3) if hasattr(sop, "get") else [usual] * 3
        found += [float(v) for v in values[:3]]
    return [*found, float(sat) if sat is not None else 1.0] if sop is not None or sat is not None else None


def _events(timeline: Any, otio: Any) -> Plain:
    """The pictures of a timeline as one track: what lies above hides what lies under it."""
    tracks = [t for t in timeline.tracks if isinstance(t, otio.schema.Track)]
    pictures = [t for t in tracks if t.kind == otio.schema.TrackKind.Video and len(t)]
    sound = [t for t in tracks if t.kind == otio.schema.TrackKind.Audio and len(t)]
    if not pictures:
        return {"title": timeline.name or "", "rate": 24.0, "events": [], "counts": {}}
    track = pictures[0] if len(pictures) == 1 else otio.algorithms.flatten_stack(pictures)
    first = next((c for c in track if isinstance(c, otio.schema.Clip)), None)
    start = timeline.global_start_time
    rate = float(start.rate if start is not None else first.trimmed_range().duration.rate if first else 24.0)
    begin = _frames(start, rate) if start is not None else 0
    events: list[Plain] = []
    nested, held, other, comes_in = 0, 0, 0, 0
    for item in track:
        if isinstance(item, otio.schema.Transition):
            comes_in = _frames(item.in_offset + item.out_offset, rate)
            continue
        if isinstance(item, otio.schema.Gap):
            comes_in = 0
            continue
        if not isinstance(item, otio.schema.Clip):
            nested, comes_in = nested + 1, 0
            continue
        speed = _speed(item, otio)
        if speed is None or speed == 0:
            held, comes_in = held + 1, 0
            continue
        used, place = item.trimmed_range(), item.range_in_parent()
        other += used.start_time.rate != rate
        lasts = _frames(place.duration, rate)
        media = item.media_reference
        events.append(
            {
                "name": _text(item.name) or _text(getattr(media, "target_url", "")).rpartition("/")[2],
                "reel": _reel(item),
                "start": _frames(used.start_time, rate),
                "length": max(round(lasts * abs(speed)), 1),
                "at": begin + _frames(place.start_time, rate),
                "lasts": lasts,
                "speed": speed,
                "comes_in": comes_in,
                "correction": _correction(item),
            }
        )
        comes_in = 0
    counts = {
        "sound_tracks": len(sound),
        "tracks": len(pictures),
        "nested": nested,
        "held": held,
        "rates": other,
        "speeds": sum(e["speed"] != 1 for e in events),
        "soft": sum(e["comes_in"] > 0 for e in events),
    }
    return {"title": timeline.name or "", "rate": rate, "events": events, "counts": counts}


def main(file: str, result: str) -> int:
    """Exit status 0 where the result is written; 1 with the reason on standard error."""
    for limit, value in ((resource.RLIMIT_CPU, SECONDS), (resource.RLIMIT_AS, MEMORY)):
        resource.setrlimit(limit, (value, value))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    import opentimelineio as otio

    try:
        found = otio.adapters.read_from_file(file, "otio_json")
        if isinstance(found, otio.schema.SerializableCollection):
            found = next((c for c in found if isinstance(c, otio.schema.Timeline)), None)
        if not isinstance(found, otio.schema.Timeline):
            print("holds no timeline", file=sys.stderr)
            return 1
        plain = _events(found, otio)
    except MemoryError:
        print("it needs more memory than a cut list should", file=sys.stderr)
        return 1
    except Exception as error:
        # The library raises whatever it likes; its words are all there is to say.
        print(" ".join(str(error).split()) or type(error).__name__, file=sys.stderr)
        return 1
    with open(result, "w", encoding="utf-8") as out:
        json.dump(plain, out)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1], sys.argv[2]))
