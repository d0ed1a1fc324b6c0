"""What a cut does to its events, in words."""

from fractions import Fraction

from saucer_core.formats.timecode import unit_of

from .comparing import Changed, Comparison


def length(frames: int, rate: Fraction) -> str:
    """So many frames as seconds and frames, ``12:05``."""
    unit = unit_of(rate)
    return f"{frames // unit}:{frames % unit:02d}"


def how(changed: Changed, found: Comparison, rate: Fraction) -> str:
    """What becomes of an event."""
    kind = changed.kinds[0]
    if kind == "gone":
        return "laid aside with look and trim" if changed.shot else "waited for a clip, and is not wanted now"
    if kind == "joined":
        into = found.after[changed.new or 0]
        return f"part of {into.number}, {into.name}; laid aside with look and trim"
    if kind == "back":
        return "back with its look and trim"
    if kind == "split":
        return f"split off {changed.like.name}, with its look and trim" if changed.like else "split off"
    if kind == "new":
        stretch = found.after[changed.new or 0]
        return "with the look of its scene" + ("" if stretch.clip else ", when its clip comes")
    said = [_moved(changed, found)] if "moved" in changed.kinds else []
    if "slipped" in changed.kinds:
        frames = abs(changed.starts)
        said.append(
            f"shows {length(frames, rate)} {'earlier' if changed.starts > 0 else 'later'} of its clip"
        )
    else:
        said += [
            f"{length(abs(frames), rate)} {'more at' if frames > 0 else 'off'} its {end}"
            for frames, end in ((changed.starts, "start"), (changed.ends, "end"))
            if frames
        ]
    return "; ".join(said)


def _moved(changed: Changed, found: Comparison) -> str:
    place = changed.new or 0
    was = f", was {found.before[changed.old].number}" if changed.old is not None else ""
    if place == 0:
        return f"first now{was}"
    before = found.after[place - 1]
    return f"after {before.number} {before.name} now{was}"
