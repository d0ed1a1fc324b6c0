"""Which step of a look causes most of a place, and how far it must be eased."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ...errors import LookError
from ...look import Look, every_step
from ...steps import Tables, no_tables
from ...trim import Trim
from .measuring import FrameReading, measure
from .places import LIMITS, Place, amounts
from .samples import Samples

#: Sampled frames of a place that are looked at for its cause.
FRAMES = 12
#: How finely a strength is told.
FINE = 0.01
#: Share of a place that a step must take away to be its cause.
LEAST = 0.15


@dataclass(frozen=True)
class Cause:
    """The step that causes most of a place. strength: to which it is eased so that the place is within its
    limit; ``None`` where easing it alone does not help. amount: of the place then, in the unit of the
    limit."""

    step: str
    strength: float | None
    amount: float


def eased(look: Look, step_id: str, strength: float) -> Look:
    """The look with one step at another strength. Raises ``KeyError`` where it has no such step."""
    made = look.model_copy(deep=True)
    step = next((s for s in every_step(made.steps) if s.id == step_id), None)
    if step is None:
        raise KeyError(step_id)
    step.strength = strength
    return made


def cause(
    look: Look,
    place: Place,
    samples: Samples,
    source: str,
    trim: Trim | None = None,
    *,
    tables: Tables = no_tables,
) -> Cause | None:
    """The cause of a place; ``None`` where no step alone is. samples: of the whole clip. Raises
    ``LookError``."""
    part = _around(samples, place)

    def amount(changed: Look) -> float | None:
        try:
            readings = list(measure(changed, part, source, trim, tables=tables))
        except LookError:
            # Without this step the look does not end where it goes out.
            return None
        return _worst(readings, place)

    now = amount(look)
    if now is None:
        return None
    at = look.encodings()
    # A step that leads to another encoding is no choice of colour: it cannot be eased.
    steps = [s for s in every_step(look.steps) if s.on and s.strength > 0 and s.output(at[s.id]) == at[s.id]]
    without = {s.id: amount(eased(look, s.id, 0.0)) for s in steps}
    known = {key: value for key, value in without.items() if value is not None}
    if not known:
        return None
    step = min(known, key=lambda key: known[key])
    if known[step] > (1 - LEAST) * now:
        return None
    own = next(s.strength for s in steps if s.id == step)
    strength = _within(look, step, own, LIMITS[place.kind].over, amount)
    left = amount(eased(look, step, strength)) if strength is not None else known[step]
    return Cause(step, strength, float(left if left is not None else known[step]))


def _within(
    look: Look, step: str, own: float, limit: float, amount: Callable[[Look], float | None]
) -> float | None:
    """The largest strength, in whole per cents, at which the place is within its limit."""
    low, high = 0, round(own / FINE)
    if (at_none := amount(eased(look, step, 0.0))) is None or at_none >= limit:
        return None
    while high - low > 1:
        middle = (low + high) // 2
        found = amount(eased(look, step, middle * FINE))
        if found is not None and found < limit:
            low = middle
        else:
            high = middle
    return round(low * FINE, 2)


def _worst(readings: Sequence[FrameReading], place: Place) -> float:
    """The largest amount among the frames of the place."""
    inside = [place.first <= r.number <= place.last for r in readings]
    return float(amounts(readings, place.kind)[inside].max(initial=0.0))


def _around(samples: Samples, place: Place) -> Samples:
    """Some of the frames of a place, around its worst one, each with its neighbour; for skin, which drifts
    from what it is over the whole clip, also some of all others."""
    inside = [k for k, n in enumerate(samples.numbers) if place.first - 1 <= n <= place.last + 1]
    middle = min(range(len(inside)), key=lambda j: abs(int(samples.numbers[inside[j]]) - place.at))
    first = max(0, min(middle - FRAMES // 2, len(inside) - FRAMES))
    chosen = set(inside[first : first + FRAMES])
    if place.kind == "skin":
        chosen |= set(range(0, len(samples.numbers), max(len(samples.numbers) // (2 * FRAMES), 1)))
    return samples.some(sorted(chosen))
