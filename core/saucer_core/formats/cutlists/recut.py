"""What a new cut did to the one before: which events stayed, moved, became longer or shorter, slipped, were
split or joined, which are new, and which are gone.

Events are told by their clip and by the frames of it that they use, not by their place or number.
"""

from bisect import bisect_left
from collections import defaultdict
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Literal

from .model import CutList, Event

Kind = Literal["same", "moved", "longer", "shorter", "slipped", "split", "joined", "new", "gone"]


@dataclass(frozen=True)
class Recut:
    """One event of either cut. kinds: what happened to it; ``same`` alone where nothing did. old, new: its
    places in the cuts before and after, from 0; ``None`` where it is new or gone. starts, ends: frames of the
    clip that were put to its start and to its end; below 0 where they were taken off."""

    kinds: tuple[Kind, ...]
    old: int | None
    new: int | None
    starts: int = 0
    ends: int = 0


def _common(a: Event, b: Event) -> int:
    return min(a.end, b.end) - max(a.start, b.start)


class _Around:
    """Finds the events of a cut that share frames with one, without looking at all of them."""

    def __init__(self, events: tuple[Event, ...]) -> None:
        self._events = events
        places: defaultdict[tuple[str, str], list[int]] = defaultdict(list)
        for place, event in enumerate(events):
            places[event.source].append(place)
        self._longest = {of: max(events[p].length for p in found) for of, found in places.items()}
        self._rows = {of: sorted((events[p].start, p) for p in found) for of, found in places.items()}

    def sharing(self, event: Event) -> list[tuple[int, int]]:
        """Their places, in order, and how many frames each shares."""
        rows = self._rows.get(event.source, [])
        if not rows:
            return []
        low = bisect_left(rows, (event.start - self._longest[event.source], -1))
        high = bisect_left(rows, (event.end, -1))
        near = sorted(place for _, place in rows[low:high])
        return [(p, common) for p in near if (common := _common(self._events[p], event)) > 0]


def _unchanged(before: tuple[Event, ...], after: tuple[Event, ...]) -> dict[int, int]:
    """Events that use the same frames as one before, by their place in the new cut: those in their order
    first, so that one that is used twice stays two."""

    def marks(events: tuple[Event, ...]) -> list[tuple[object, ...]]:
        return [(e.source, e.start, e.length, e.speed) for e in events]

    olds, news = marks(before), marks(after)
    pairs: dict[int, int] = {}
    for o, n, size in SequenceMatcher(None, olds, news, autojunk=False).get_matching_blocks():
        pairs |= {n + k: o + k for k in range(size)}
    free = defaultdict(list)
    met = set(pairs.values())
    for o, mark in enumerate(olds):
        if o not in met:
            free[mark].append(o)
    for n, mark in enumerate(news):
        if n not in pairs and free[mark]:
            pairs[n] = free[mark].pop(0)
    return pairs


def _paired(
    old: list[int], new: list[int], before: tuple[Event, ...], after: tuple[Event, ...]
) -> dict[int, int]:
    """Events of one clip that changed by those that they were: the ones with the most frames in common."""
    pairs: dict[int, int] = {}
    left = set(old)
    common = ((_common(before[o], after[n]), n, o) for n in new for o in old)
    for _, n, o in sorted((-c, n, o) for c, n, o in common if c > 0):
        if n not in pairs and o in left:
            pairs[n] = o
            left.discard(o)
    return pairs


def _in_order(pairs: list[tuple[int, int]]) -> set[int]:
    """Places in the new cut of the events that stayed in their order: the longest row of them."""
    ends: list[int] = []
    rows: list[list[int]] = []
    for new, old in sorted(pairs):
        at = bisect_left(ends, old)
        row = [*(rows[at - 1] if at else []), new]
        if at == len(ends):
            ends.append(old)
            rows.append(row)
        else:
            ends[at], rows[at] = old, row
    return set(rows[-1]) if rows else set()


def recut(before: CutList, after: CutList) -> list[Recut]:
    """What happened to each event: those of the new cut in its order, then those that are gone."""
    pairs = _unchanged(before.events, after.events)
    met = set(pairs.values())
    olds, news = defaultdict(list), defaultdict(list)
    for o, e in enumerate(before.events):
        if o not in met:
            olds[e.source].append(o)
    for n, e in enumerate(after.events):
        if n not in pairs:
            news[e.source].append(n)
    for source, new in news.items():
        pairs |= _paired(olds[source], new, before.events, after.events)
    stayed = _in_order(list(pairs.items()))
    back = {o: n for n, o in pairs.items()}
    olds_around = _Around(before.events)
    found = []
    for n, e in enumerate(after.events):
        if n in pairs:
            found.append(_met(n, pairs[n], n in stayed, before, after))
            continue
        # Frames that an event had before and has no more are split off; others are used anew.
        of = [
            o
            for o, common in olds_around.sharing(e)
            if (now := back.get(o)) is not None and common > _common(after.events[now], e)
        ]
        found.append(Recut(("split",), of[0], n) if of else Recut(("new",), None, n))
    return found + _gone(pairs, back, before, after)


def _gone(pairs: dict[int, int], back: dict[int, int], before: CutList, after: CutList) -> list[Recut]:
    """Events of the cut before that are none any more: joined into another one, or gone."""
    news_around = _Around(after.events)
    found = []
    for o, e in enumerate(before.events):
        if o in back:
            continue
        into = [
            n
            for n, common in news_around.sharing(e)
            if n in pairs and common > _common(e, before.events[pairs[n]])
        ]
        found.append(Recut(("joined",), o, into[0]) if into else Recut(("gone",), o, None))
    return found


def _met(n: int, o: int, stayed: bool, before: CutList, after: CutList) -> Recut:
    """What happened to an event that is in both cuts."""
    was, e = before.events[o], after.events[n]
    starts, ends = was.start - e.start, e.end - was.end
    kinds: list[Kind] = [] if stayed else ["moved"]
    if e.length > was.length:
        kinds.append("longer")
    elif e.length < was.length:
        kinds.append("shorter")
    elif starts:
        kinds.append("slipped")
    return Recut(tuple(kinds) or ("same",), o, n, starts, ends)
