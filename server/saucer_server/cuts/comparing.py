"""A cut beside the shots that a project has: what stays, what changes, what comes back."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Literal

from saucer_core.formats.cutlists.matching import without_ending
from saucer_core.formats.cutlists.model import CutList, Event
from saucer_core.formats.cutlists.recut import Kind, Recut, recut

from ..clips import rules as clips
from ..clips.rules import Clip
from ..projects.arranging import every_shot_of
from ..projects.rules import Project, Scene, Shot, shots_of
from .models import Cut
from .rules import current, shelf_of, source_of
from .values import Met

__all__ = [
    "Became",
    "Changed",
    "Comparison",
    "Stretch",
    "called",
    "compare",
    "scenes_of",
    "stretches_of",
]

#: What became of an event: as the core tells it, or brought back from those that were laid aside.
Became = Kind | Literal["back"]


@dataclass(frozen=True)
class Stretch:
    """An event of a cut with what it met. event: told by its clip, where it has one, and by frames of the
    clip from 0. number: its place, from 1. shot: that shows it; nothing where it waits or is new."""

    event: Event
    number: int
    name: str
    met: Met
    clip: Clip | None
    shot: Shot | None


@dataclass(frozen=True)
class Changed:
    """What becomes of one event of either cut. kinds: as the core tells it, or *back*. shot: the one that is
    kept, brought back or laid aside; like: the one whose look and trim a new one takes over."""

    kinds: tuple[Became, ...]
    old: int | None
    new: int | None
    starts: int = 0
    ends: int = 0
    shot: Shot | None = None
    like: Shot | None = None

    @property
    def stays(self) -> bool:
        """Whether nothing happens to it."""
        return self.kinds == ("same",)

    @property
    def goes(self) -> bool:
        """Whether its shot is laid aside."""
        return self.kinds in (("gone",), ("joined",))


@dataclass(frozen=True)
class Comparison:
    """The cut that a project follows, the one that comes, and what becomes of each event: those of the new
    cut in its order, then those that are gone."""

    before: list[Stretch]
    after: list[Stretch]
    changed: list[Changed]


def _of_clip(event: Event, clip: Clip | None, start: int) -> Event:
    """The event, told by its clip where it has one."""
    return replace(event, name=f"clip {clip.pk}", reel="", start=start) if clip else event


def _stretch(event: Event, number: int, met: Met, held: "_Held", shot: Shot | None) -> Stretch:
    clip, begin = held.get(met.clip or 0, (None, 0))
    start = event.start - begin
    name = shot.name if shot else called(event, clip)
    return Stretch(_of_clip(event, clip, start), number, name, met, clip, shot)


def called(event: Event, clip: Clip | None) -> str:
    """What an event is called: as its clip, else as the list calls that, without the ending of a file."""
    if clip is not None:
        return clip.name
    return without_ending(event.name) or event.reel or "without a name"


#: Clips by their ids, each with its first frame by its timecode.
_Held = dict[int, tuple[Clip, int]]


def _clips(keys: Iterable[int | None]) -> _Held:
    rows = clips.every().filter(pk__in={key for key in keys if key is not None})
    return {clip.pk: (clip, found.start if (found := source_of(clip)) else 0) for clip in rows}


def stretches_of(cut: Cut, shots: dict[int, Shot]) -> list[Stretch]:
    """The events of a cut. shots: by their ids."""
    held = _clips(met.clip for met in cut.met)
    return [
        _stretch(event, k, met, held, shots.get(met.shot or 0))
        for k, (event, met) in enumerate(zip(cut.events, cut.met, strict=True), 1)
    ]


def _before(project: Project, rate: Fraction) -> list[Stretch]:
    """What the project has: its shots of clips, and the events of its cut that wait."""
    shots = [shot for shot in shots_of(project) if shot.clip_id is not None]
    now = current(project)
    events = dict(enumerate(now.events, 1)) if now else {}
    found, end = [], 0
    for shot in shots:
        used = shot.last - shot.first + 1
        own = events.pop(shot.number, None) if shot.number <= project.cut_events else None
        event = own or Event("", "", shot.first, used, end, used)
        event = replace(_of_clip(event, shot.clip, shot.first), length=used)
        found.append(
            Stretch(event, shot.number, shot.name, Met(clip=shot.clip_id, shot=shot.pk), shot.clip, shot)
        )
        end = max(end, event.at + event.lasts)
    if now is None or not events:
        return found
    # Events that wait are told by a clip that came meanwhile.
    shelf = shelf_of(project, rate)
    matched = {k: shelf.match(event) for k, event in events.items()}
    held = _clips(match.key for match in matched.values())
    waiting = [
        _stretch(event, k, Met(clip=matched[k].key, by=matched[k].by), held, None)
        for k, event in events.items()
    ]
    return sorted([*found, *waiting], key=lambda stretch: stretch.number)


def scenes_of(shots: Sequence[Shot | None]) -> list[Scene | None]:
    """The scene of each event of a cut: that of its shot, or, where it has none yet, of the event before it;
    for the first ones that of the first shot. shots: of the events, in their order."""
    found: list[Scene | None] = []
    before = next((shot.scene for shot in shots if shot is not None), None)
    for shot in shots:
        before = shot.scene if shot is not None else before
        found.append(before)
    return found


def _list(stretches: list[Stretch], rate: Fraction) -> CutList:
    return CutList("", rate, False, tuple(stretch.event for stretch in stretches))


def compare(cut: Cut) -> Comparison:
    """A cut that was not taken beside what its project has now."""
    project, rate = cut.project, Fraction(cut.rate)
    before, after = _before(project, rate), stretches_of(cut, {})
    found = recut(_list(before, rate), _list(after, rate))
    rows = every_shot_of(project).filter(aside=True).exclude(clip=None)
    aside = list(rows.select_related("frame", "clip", "scene"))
    changed = []
    for one in found:
        back = _back(after[one.new], aside) if one.new is not None and one.kinds == ("new",) else None
        if back is not None:
            aside.remove(back)
        changed.append(_changed(one, before, back))
    return Comparison(before, after, changed)


def _changed(one: Recut, before: list[Stretch], back: Shot | None) -> Changed:
    if back is not None:
        return Changed(("back",), None, one.new, shot=back)
    was = before[one.old].shot if one.old is not None else None
    if one.kinds == ("split",):
        return Changed(one.kinds, one.old, one.new, like=was)
    return Changed(one.kinds, one.old, one.new, one.starts, one.ends, shot=was)


def _back(stretch: Stretch, aside: list[Shot]) -> Shot | None:
    """The shot that was laid aside and shows the most frames of an event; none where no frame is shared."""
    event = stretch.event

    def common(shot: Shot) -> int:
        return min(event.end, shot.last + 1) - max(event.start, shot.first)

    of_clip = [shot for shot in aside if stretch.clip is not None and shot.clip_id == stretch.clip.pk]
    best = max(of_clip, key=common, default=None)
    return best if best is not None and common(best) > 0 else None
