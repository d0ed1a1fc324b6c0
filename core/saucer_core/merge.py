"""Taking parts of one look over into another, with what both began as known where it is: a comparison of
three."""

from dataclasses import dataclass
from typing import Literal

from .changes import in_words
from .encodings import encoding
from .errors import LookError
from .look import Look, check
from .steps import Step

Who = Literal["mine", "theirs", "both"]
#: The encodings that a look expects and gives.
ENDS = ":ends"
#: Its strength as a whole.
STRENGTH = ":strength"
#: Its finish.
FINISH = ":finish"
#: The order of its steps.
ORDER = ":order"


@dataclass(frozen=True)
class Part:
    """One part in which two looks differ: a step at the top level with all in it, or what holds for the whole
    look.

    key: the step's id, or ``:ends``, ``:strength``, ``:finish``, ``:order``. mine, theirs: what stands there,
    in words. who: who changed it since the common beginning; without one, both.
    """

    key: str
    name: str
    mine: str
    theirs: str
    who: Who


def _who(base: object, mine: object, theirs: object, known: bool) -> Who:
    if not known or (base != mine and base != theirs):
        return "both"
    return "theirs" if base == mine else "mine"


def _said(step: Step | None) -> str:
    if step is None:
        return "not there"
    inside = getattr(step, "steps", None)
    what = [f"{len(inside)} steps"] if inside is not None else []
    return ", ".join([*what, said] if (said := in_words(step)) else what) or "as it comes"


def _named(step: Step) -> str:
    return step.label or step.title


def _order(look: Look, among: set[str]) -> list[str]:
    return [s.id for s in look.steps if s.id in among]


def _ends(look: Look) -> str:
    return f"{encoding(look.input).label} → {encoding(look.output).label}"


def parts(base: Look | None, mine: Look, theirs: Look) -> list[Part]:
    """Where the two differ, in the order of mine; what only theirs has comes after. base: what both began as,
    if that is known."""
    known = base is not None
    begun = {s.id: s for s in base.steps} if base else {}
    ours, others = {s.id: s for s in mine.steps}, {s.id: s for s in theirs.steps}
    found = []
    for key in [*ours, *(k for k in others if k not in ours)]:
        here, there = ours.get(key), others.get(key)
        if here != there:
            one = here or there
            assert one is not None
            found.append(
                Part(key, _named(one), _said(here), _said(there), _who(begun.get(key), here, there, known))
            )
    common = ours.keys() & others.keys()
    orders = [_order(look, set(common)) for look in (mine, theirs)]
    if orders[0] != orders[1]:
        was = _order(base, set(common)) if base else None
        names = ["; ".join(_named(ours[k]) for k in order) for order in orders]
        found.append(
            Part(ORDER, "Order of the steps", names[0], names[1], _who(was, orders[0], orders[1], known))
        )
    for key, name, of, said in (
        (ENDS, "Comes in and goes out as", lambda look: (look.input, look.output), _ends),
        (STRENGTH, "Strength of the look", lambda look: look.strength, lambda look: f"{look.strength:.0%}"),
        (
            FINISH,
            "Finish",
            lambda look: look.finish,
            lambda look: "in use" if look.finish.active() else "none",
        ),
    ):
        if of(mine) != of(theirs):
            found.append(
                Part(
                    key,
                    name,
                    said(mine),
                    said(theirs),
                    _who(of(base) if base else None, of(mine), of(theirs), known),
                )
            )
    return found


def taken(mine: Look, theirs: Look, keys: set[str]) -> Look:
    """Mine with these parts as theirs has them; a step that comes in stands after the one it follows there.

    Raises ``LookError`` where there is no such part, or where the look that comes out cannot be computed.
    """
    differing = {p.key for p in parts(None, mine, theirs)}
    if keys - differing:
        raise LookError("One of these parts does not differ (any more). Compare the two looks again.")
    others = {s.id: s for s in theirs.steps}
    steps = [others[s.id] if s.id in keys else s for s in mine.steps if s.id not in keys or s.id in others]
    place = [s.id for s in theirs.steps]
    for key in (k for k in place if k in keys and k not in {s.id for s in mine.steps}):
        there = [s.id for s in steps]
        before = next((k for k in reversed(place[: place.index(key)]) if k in there), None)
        steps.insert(there.index(before) + 1 if before else 0, others[key])
    if ORDER in keys:
        turn = iter([s for k in place for s in steps if s.id == k])
        steps = [next(turn) if s.id in others else s for s in steps]
    ends = theirs if ENDS in keys else mine
    found = Look(
        input=ends.input,
        output=ends.output,
        steps=steps,
        strength=(theirs if STRENGTH in keys else mine).strength,
        finish=(theirs if FINISH in keys else mine).finish,
    )
    check(found)
    return found
