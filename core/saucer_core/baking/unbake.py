"""Unbaking: editable steps that do what a table does, the fewest first, and what is left as a table of its
own.

Step after step is added: of every kind, at every place in the order, the one is taken whose numbers promise
the smallest error (one Gauss-Newton step on each); then the numbers of all steps are fitted together by least
squares on CIELAB, its differences weighed by chroma as in CIE 116-1995 (ΔE94). What no step gives is left to
a table: before the steps, where it holds the colours from which they make what the table makes; or behind
them, where they cannot make it from any.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32, F64
from ..difference import ciede2000, cielab
from ..encodings import Encoding, conversion, encoding
from ..errors import CoreError
from ..look import Look
from ..operations import Operation, apply, fuse
from ..steps import Step, Surroundings
from ..steps.encode import Encode
from ..steps.lut_step import LutStep
from ..steps.scene_to_display import SceneToDisplay
from ..tables.lut import Lut, Table, identity_grid
from .fit import neighbours, weights_of_points
from .knobs import CORRECTIONS, PALETTE, Knobs, rendering
from .spread import ordinary, spread

#: Steps at most.
AT_MOST = 6
#: Mean ΔE2000 that counts as done.
DONE = 0.2
#: Share of the error that a step must take away to be worth having.
WORTH = 0.15
#: Mean ΔE2000 below which a step must take away more.
GOOD = 0.45
#: The share that it must take away there.
WORTH_GOOD = 0.35
#: Mean ΔE2000 up to which one correction alone counts as what a table does.
ALONE = 0.1
#: Colours that are fitted, spread through the cube.
CUBE = 420
#: Colours that are fitted, of ordinary pictures.
ORDINARY = 480
#: Rounds of the joint fit with a step on trial.
TRIAL_ROUNDS = 3
#: Rounds after it was taken.
ROUNDS = 6
#: Rounds at the end.
LAST_ROUNDS = 24
#: Points a side of the rest.
REST = 49
#: Points a side of a finer rest before the steps, where that is not enough.
FINER = 65
#: Rounds in which the colours of a rest are found.
REST_ROUNDS = 10
#: Rounds after which a rest may be given up.
GIVEN_UP = 5
#: It is, where more than this share of its points is not there yet.
LOST = 0.1
#: Code values from its aim from which a point is not there yet.
FAR_OFF = 5e-3
#: Mean ΔE2000 with which a rest before the steps is good enough.
ENOUGH = 0.05
#: Pull between neighbours of a rest behind the steps.
SMOOTH = 2e-4
#: Rounds of its conjugate gradients.
CG_ROUNDS = 120
#: Kinds that are tried for one more step.
TRIED = 3
#: Kinds that are tried while the error is above ``FAR``.
TRIED_FAR = 5
#: ΔE2000.
FAR = 1.5
#: Times that an error counts for each place further back in the palette: plain steps first.
PLAINER = 1.04
#: What a light of the scene is worked on in: a table for linear light says nothing of how its numbers are
#: spread.
_LOG = {
    "linear_709": "film_log",
    "linear_p3": "film_log_p3",
    "linear_2020": "film_log_2020",
    "acescg": "acescct",
    "aces2065_1": "acescct",
}

Tell = Callable[[float, str], None]


@dataclass(frozen=True)
class Stage:
    """The steps so far: kinds in their order, and ΔE2000 that remains over the cube and over ordinary
    colours: mean, 99 %, largest."""

    kinds: tuple[str, ...]
    cube: tuple[float, float, float]
    ordinary: tuple[float, float, float]


@dataclass(frozen=True)
class Unbaked:
    """Steps in order with what remains after each was added.

    shares: how much of the table's change each step makes, 0–1, by what is missing without it; what they lack
    to 1 is left to the rest.
    rest: the table to put before them, or behind; with_rest: what then remains.
    """

    input: str
    output: str
    steps: tuple[Step, ...]
    shares: tuple[float, ...]
    stages: tuple[Stage, ...]
    rest: Lut
    rest_behind: bool
    with_rest: Stage

    def look(self, rest: bool, strength: float = 1.0) -> Look:
        """A look of the steps, with the rest in its place if wanted. Its table goes by the digest of
        ``rest``."""
        steps: list[Step] = [s.model_copy(update={"id": f"step-{k}"}) for k, s in enumerate(self.steps, 1)]
        if rest:
            at = self.output if self.rest_behind else self.input
            about = {"id": "rest", "label": "Rest", "name": self.rest.title, "strength": strength}
            table = LutStep(table=self.rest.digest(), expects=at, gives=at, **about)
            steps = [*steps, table] if self.rest_behind else [table, *steps]
        return Look.model_validate(
            {"input": self.input, "output": self.output, "steps": [s.model_dump() for s in steps]}
        )


#: Seed of the points that numbers are fitted to.
FITTED_AT = 20_12
#: Seed of the points that what remains is measured at: never the same.
MEASURED_AT = 20_27
#: Points in each cell at which a table with a rest is compared with one without it.
JUDGED_A_CELL = 2
#: ΔE2000 by which the table with a rest may be worse at one of them.
NO_WORSE = 0.5
#: Rounds in which a rest is given back there.
GIVEN_BACK_ROUNDS = 6


class _Fit:
    """The chain of steps under the hands of the fit: each has its knobs and their numbers."""

    def __init__(self, table: Table, expects: Encoding, gives: Encoding) -> None:
        self.source = encoding(_LOG.get(expects.key, expects.key))
        self.gives = gives
        self._into = conversion(self.source, expects)
        self._table = table
        greys = np.repeat(np.linspace(0, 1, 65, dtype=np.float32)[:, None], 3, axis=1)
        cube = np.concatenate([spread(CUBE, FITTED_AT), greys, identity_grid(2).reshape(-1, 3)])
        self.rgb = np.ascontiguousarray(
            np.concatenate([cube, np.clip(ordinary(ORDINARY, self.source, FITTED_AT), 0, 1)]), np.float32
        )
        self.cube_count = len(cube)
        self.wanted = self.seen(self.target(self.rgb))
        between = np.repeat(np.linspace(0.004, 0.996, 64, dtype=np.float32)[:, None], 3, axis=1)
        cube = np.concatenate([spread(CUBE, MEASURED_AT), between])
        self._judged_cube = len(cube)
        self._judged = np.ascontiguousarray(
            np.concatenate([cube, np.clip(ordinary(ORDINARY, self.source, MEASURED_AT), 0, 1)]), np.float32
        )
        self._judged_wanted = self.seen(self.target(self._judged))
        chroma = np.hypot(self.wanted[:, 1], self.wanted[:, 2])
        self._weight = np.stack(
            [np.ones(len(chroma)), 1 / (1 + 0.045 * chroma), 1 / (1 + 0.045 * chroma)], axis=1
        )
        self.knobs: list[Knobs] = []
        self.numbers: list[F64] = []
        self.lead: tuple[Step, ...] = ()
        self.tail: tuple[Step, ...] = ()

    def target(self, rgb: F32) -> F32:
        """What the table makes of colours in ``source``."""
        return self._table.apply(apply(self._into, rgb) if self._into else rgb)

    def seen(self, out: F32) -> F64:
        """CIELAB of what is given, held to what a file of the encoding holds."""
        return cielab(np.clip(out, 0, 1), self.gives)

    def off(self, out: F32) -> F64:
        """Weighed differences, ``(3 n,)``."""
        weighed: F64 = ((self.seen(out) - self.wanted) * self._weight).reshape(-1)
        return weighed

    def _run(self, step: Step, rgb: F32, at: Encoding) -> F32:
        return apply(step.operations(Surroundings(at)), rgb)

    def built(self) -> list[Step]:
        """The steps as they stand."""
        return [*self.lead, *(k.build(v) for k, v in zip(self.knobs, self.numbers, strict=True)), *self.tail]

    def _encodings(self, steps: Sequence[Step]) -> list[Encoding]:
        at, found = self.source, []
        for step in steps:
            found.append(at)
            at = step.output(at)
        return found

    def through(self, steps: Sequence[Step], rgb: F32) -> F32:
        """Colours through steps in order."""
        for step, at in zip(steps, self._encodings(steps), strict=True):
            rgb = self._run(step, rgb, at)
        return rgb

    def given(self, steps: Sequence[Step]) -> list[F32]:
        """What each step is given, and what the last one gives."""
        found = [self.rgb]
        for step, at in zip(steps, self._encodings(steps), strict=True):
            found.append(self._run(step, found[-1], at))
        return found

    def slopes(
        self, knobs: Knobs, numbers: F64, given: F32, at: Encoding, rest: Sequence[Operation], base: F64
    ) -> F64:
        """How the differences move with each number, ``(3 n, numbers)``; ``rest``: all that follows the
        step."""
        reach = knobs.high - knobs.low
        nudges = 2e-3 * reach * np.where(numbers + 2e-3 * reach <= knobs.high, 1, -1)
        # All nudged steps first, then what follows on all of their colours at once: there are few colours and
        # many small loops.
        moved = [
            apply(knobs.build(one).operations(Surroundings(at)), given) for one in numbers + np.diag(nudges)
        ]
        seen = self.seen(apply(rest, np.concatenate(moved))).reshape(len(numbers), -1, 3)
        off = ((seen - self.wanted) * self._weight).reshape(len(numbers), -1)
        columns: F64 = ((off - base) / nudges[:, None]).T
        return columns

    def after(self, steps: Sequence[Step], first: int) -> list[Operation]:
        """All that the steps from ``first`` on do."""
        encodings = self._encodings(steps)
        return fuse(
            [
                o
                for s, at in zip(steps[first:], encodings[first:], strict=True)
                for o in s.operations(Surroundings(at))
            ]
        )

    def settle(self, rounds: int) -> float:
        """Fits the numbers of all steps together (Levenberg-Marquardt, numbers held to their limits); gives
        the mean square left."""
        damping = 1e-2
        steps = self.built()
        given = self.given(steps)
        base = self.off(given[-1])
        left = float(base @ base)
        low, high = (np.concatenate([getattr(k, name) for k in self.knobs]) for name in ("low", "high"))
        for _ in range(rounds):
            lead = len(self.lead)
            encodings = self._encodings(steps)
            jacobian = np.concatenate(
                [
                    self.slopes(
                        k, v, given[lead + i], encodings[lead + i], self.after(steps, lead + i + 1), base
                    )
                    for i, (k, v) in enumerate(zip(self.knobs, self.numbers, strict=True))
                ],
                axis=1,
            )
            reach = high - low
            scaled = jacobian * reach
            square, pull = scaled.T @ scaled, scaled.T @ base
            at = np.concatenate(self.numbers)
            better = False
            for _ in range(5):
                tried = np.clip(at + _step(square, pull, damping, at <= low, at >= high) * reach, low, high)
                self._take(tried)
                steps_tried = self.built()
                given_tried = self.given(steps_tried)
                found = self.off(given_tried[-1])
                if float(found @ found) < left:
                    better = True
                    break
                damping *= 6
            if not better:
                self._take(at)
                break
            gained = 1 - float(found @ found) / max(left, 1e-12)
            steps, given, base, left = steps_tried, given_tried, found, float(found @ found)
            damping = max(damping / 4, 1e-6)
            if gained < 1e-3:
                break
        return left / len(base)

    def _take(self, numbers: F64) -> None:
        edges = np.cumsum([len(k.start) for k in self.knobs])[:-1]
        self.numbers = list(np.split(numbers, edges))

    def promise(
        self, knobs: Knobs, place: int, steps: Sequence[Step], given: Sequence[F32], base: F64
    ) -> tuple[float, F64]:
        """The mean square that a new step at ``place`` promises, and its first numbers."""
        at = [
            *self._encodings(steps),
            steps[-1].output(self._encodings(steps)[-1]) if steps else self.source,
        ][place]
        slopes = self.slopes(knobs, knobs.start, given[place], at, self.after(steps, place), base)
        reach = knobs.high - knobs.low
        scaled = slopes * reach
        square = scaled.T @ scaled
        step = _solved(
            square + 3e-3 * np.diag(np.diag(square) + 1e-3 * np.trace(square) / len(square) + 1e-12),
            -(scaled.T @ base),
        )
        left = base + scaled @ step
        return float(left @ left) / len(base), np.clip(knobs.start + step * reach, knobs.low, knobs.high)

    def measured(
        self, steps: Sequence[Step], *, before: Lut | None = None, behind: Lut | None = None
    ) -> Stage:
        """What remains of the table's difference, with a rest before the steps or behind them; at points that
        nothing was fitted to."""
        delta = self.left_at(self._judged, self._judged_wanted, steps, before, behind)
        cube, ordinary = delta[: self._judged_cube], delta[self._judged_cube :]
        return Stage(tuple(str(getattr(s, "kind", "")) for s in steps), _three(cube), _three(ordinary))

    def left_at(
        self,
        rgb: F32,
        wanted: F64,
        steps: Sequence[Step],
        before: Lut | None = None,
        behind: Lut | None = None,
    ) -> F64:
        """ΔE2000 that remains at colours ``(n, 3)`` of which the table makes ``wanted`` (CIELAB)."""
        made = self.through(steps, rgb if before is None else before.apply(rgb))
        found: F64 = ciede2000(self.seen(made if behind is None else behind.apply(made)), wanted)
        return found


def _solved(square: F64, right: F64) -> F64:
    """The solution of linear equations; the smallest one where some of the numbers do nothing."""
    try:
        return np.linalg.solve(square, right).astype(np.float64)
    except np.linalg.LinAlgError:
        return np.linalg.lstsq(square, right, rcond=None)[0].astype(np.float64)


def _step(
    square: F64, pull: F64, damping: float, lowest: NDArray[np.bool_], highest: NDArray[np.bool_]
) -> F64:
    """A damped Gauss-Newton step of numbers of which some stand at their limits: those that would go beyond
    stay, the others do without."""
    damped = square + damping * np.diag(np.diag(square) + 1e-3 * np.trace(square) / len(square))
    free = np.ones(len(pull), dtype=bool)
    while True:
        step = np.zeros(len(pull))
        step[free] = _solved(damped[np.ix_(free, free)], -pull[free])
        beyond = (lowest & (step < 0)) | (highest & (step > 0))
        if not beyond.any():
            return step
        free &= ~beyond


def _three(delta: F64) -> tuple[float, float, float]:
    return float(delta.mean()), float(np.percentile(delta, 99)), float(delta.max())


def _lead(fit: _Fit) -> None:
    """What brings the source to the encoding that the table gives: a plain conversion, or a rendering with
    numbers of its own."""
    if fit.source == fit.gives:
        return
    if fit.source.referred == "scene" and fit.gives.referred == "display":
        fit.knobs, fit.numbers = [rendering(fit.gives.key)], [rendering(fit.gives.key).start.copy()]
        rendered = fit.settle(ROUNDS)
        kept = fit.knobs, fit.numbers
        fit.knobs, fit.numbers, fit.lead = [], [], (Encode(to=fit.gives.key),)
        plain = fit.off(fit.through(fit.built(), fit.rgb))
        if rendered < float(plain @ plain) / len(plain):
            fit.lead = ()
            fit.knobs, fit.numbers = kept
        return
    fit.lead = (Encode(to=fit.gives.key),)


def unbake(
    table: Table,
    expects: str,
    gives: str,
    *,
    title: str = "",
    tell: Tell | None = None,
    at_most: int = AT_MOST,
) -> Unbaked:
    """Takes a table apart. tell: called with the share that is done, 0–1, and what is being done; it may
    raise to stop.

    Raises ``CoreError`` where the table gives linear light, whose steps an eye cannot judge by code values.
    """
    say = tell or (lambda share, doing: None)
    if encoding(gives).response == "linear":
        raise CoreError(
            "A table that gives linear light cannot be made editable. Let it give a display or logarithmic "
            "encoding."
        )
    fit = _Fit(table, encoding(expects), encoding(gives))
    say(0.0, "the way between its encodings")
    _lead(fit)
    stages: list[Stage] = []
    steps = fit.built()
    if steps:
        stages.append(fit.measured(steps))
    first = len(steps)
    error = _mean(fit.measured(steps))
    if error > DONE and (corrected := _one_correction(fit)) is not None:
        stages.append(corrected)
        error = _mean(corrected)
    while len(fit.built()) - first < at_most and error > DONE:
        added = len(fit.built()) - first
        say(0.05 + 0.7 * added / at_most, f"step {added + 1}, ΔE {error:.2f} left")
        found = _grown(fit, first, error) or _fitted_to_gamut(fit, error)
        if found is None:
            break
        error = _mean(found)
        stages.append(found)
    say(0.78, "the last numbers")
    if fit.knobs:
        fit.settle(LAST_ROUNDS)
    tidy = [*fit.lead, *(k.tidy(v) for k, v in zip(fit.knobs, fit.numbers, strict=True)), *fit.tail]
    final = fit.measured(tidy)
    stages = [*stages[:-1], final] if stages else [final]
    say(0.85, "the rest")
    rest, behind, remains = _best_rest(fit, tidy, title or table.title)
    say(1.0, "")
    return Unbaked(
        fit.source.key, gives, tuple(tidy), _shares(fit, tidy, final), tuple(stages), rest, behind, remains
    )


def _best_rest(fit: _Fit, steps: Sequence[Step], title: str) -> tuple[Lut, bool, Stage]:
    """The rest, whether it stands behind the steps, and what then remains."""
    named = f"Rest of {title}".strip()[:200]
    tried: list[tuple[Lut, bool, Stage]] = []
    for points in (REST, FINER):
        before = _given_back(
            fit,
            steps,
            replace(_rest_before(fit, steps, points, tried[-1][0] if tried else None), title=named),
            False,
        )
        remains = fit.measured(steps, before=before)
        if _mean(remains) <= ENOUGH:
            return before, False, remains
        tried.append((before, False, remains))
    behind = _given_back(fit, steps, replace(_rest_behind(fit, steps), title=named), True)
    tried.append((behind, True, fit.measured(steps, behind=behind)))
    return min(tried, key=lambda one: _mean(one[2]))


def _given_back(fit: _Fit, steps: Sequence[Step], rest: Lut, is_behind: bool) -> Lut:
    """The rest with those points given back, so that they change nothing, around which it is worse than doing
    without it."""
    # Somewhere in every cell, more than once, and not where its points lie.
    cell = (np.arange(rest.size - 1, dtype=np.float32) + np.float32(0.5)) / np.float32(rest.size - 1)
    middles = np.stack(np.meshgrid(cell, cell, cell, indexing="ij"), axis=-1).reshape(-1, 3)
    moved = (
        np.random.default_rng(MEASURED_AT)
        .uniform(-0.5, 0.5, (JUDGED_A_CELL, *middles.shape))
        .astype(np.float32)
    )
    rgb = (middles + moved / np.float32(rest.size - 1)).reshape(-1, 3)
    wanted = fit.seen(fit.target(rgb))
    made = fit.through(steps, rgb)
    without: F64 = ciede2000(fit.seen(made), wanted)
    assert rest.grid is not None
    size, grid = rest.size, rest.grid.copy()
    own = (identity_grid(size) * (rest.high - rest.low) + rest.low).astype(np.float32)
    places = (made if is_behind else rgb) - rest.low
    cells = np.clip(places / (rest.high - rest.low) * (size - 1), 0, size - 1.001).astype(np.int64)
    # A colour is judged again only where a corner of its cell was given back since.
    live = np.arange(len(rgb))
    for _ in range(GIVEN_BACK_ROUNDS):
        now = replace(rest, grid=grid)
        left = fit.left_at(rgb[live], wanted[live], steps, *((None, now) if is_behind else (now, None)))
        worse = live[left > without[live] + NO_WORSE]
        if not len(worse):
            break
        r, g, b = np.unique(cells[worse], axis=0).T
        back = np.zeros((size, size, size), dtype=bool)
        for corner in np.ndindex(2, 2, 2):
            back[b + corner[0], g + corner[1], r + corner[2]] = True
        grid[back] = own[back]
        inside = size - 1
        touched = np.zeros((inside, inside, inside), dtype=bool)
        for i, j, k in np.ndindex(2, 2, 2):
            touched |= back[i : i + inside, j : j + inside, k : k + inside]
        live = np.flatnonzero(touched[cells[:, 2], cells[:, 1], cells[:, 0]])
    return replace(rest, grid=np.ascontiguousarray(grid))


def _shares(fit: _Fit, steps: Sequence[Step], final: Stage) -> tuple[float, ...]:
    """Of the whole change, each step's part: how much farther from the table the others alone stay."""
    missing = []
    for k, step in enumerate(steps):
        if isinstance(step, Encode | SceneToDisplay):
            # Without the way between the encodings nothing can be compared.
            missing.append(0.0)
        else:
            missing.append(max(_mean(fit.measured([*steps[:k], *steps[k + 1 :]])) - _mean(final), 0.0))
    total = sum(missing)
    if total <= 0:
        return tuple(0.0 for _ in steps)
    left = min(_mean(final) / (total + _mean(final)), 1.0)
    return tuple(m / total * (1 - left) for m in missing)


def _worth(now: float, before: float) -> bool:
    return now <= before * (1 - (WORTH if before > GOOD else WORTH_GOOD))


def _mean(stage: Stage) -> float:
    return (stage.cube[0] + stage.ordinary[0]) / 2


def _grown(fit: _Fit, first: int, error: float) -> Stage | None:
    """Adds the step that is worth most of those that promise most. ``None``, and nothing added, where none is
    worth it."""
    knobs, numbers = list(fit.knobs), [v.copy() for v in fit.numbers]
    tried = []
    for place, kind, start in _promising(fit, first)[: TRIED if error < FAR else TRIED_FAR]:
        at = place - len(fit.lead)
        fit.knobs = [*knobs[:at], kind, *knobs[at:]]
        fit.numbers = [*numbers[:at], start, *numbers[at:]]
        fit.settle(TRIAL_ROUNDS)
        found = _mean(fit.measured(fit.built()))
        tried.append((found * PLAINER ** PALETTE.index(kind), fit.knobs, fit.numbers))
    if tried:
        _, fit.knobs, fit.numbers = min(tried, key=lambda t: t[0])
        fit.settle(ROUNDS)
        best = fit.measured(fit.built())
        if _worth(_mean(best), error):
            return best
    fit.knobs, fit.numbers = knobs, numbers
    return None


def _one_correction(fit: _Fit) -> Stage | None:
    """Slope, offset, power and saturation, where they alone are what the table does. ``None``, and nothing
    added, where they are not."""
    knobs, numbers = list(fit.knobs), [v.copy() for v in fit.numbers]
    tried = []
    for correction in CORRECTIONS:
        fit.knobs, fit.numbers = [*knobs, correction], [*numbers, correction.start.copy()]
        fit.settle(LAST_ROUNDS)
        tried.append((fit.measured(fit.built()), fit.knobs, fit.numbers))
    best, fit.knobs, fit.numbers = min(tried, key=lambda t: _mean(t[0]))
    if _mean(best) <= ALONE:
        return best
    fit.knobs, fit.numbers = knobs, numbers
    return None


def _fitted_to_gamut(fit: _Fit, error: float) -> Stage | None:
    """Ends in a gamut fit where that is worth a step."""
    if fit.tail or not fit.knobs:
        return None
    numbers = [v.copy() for v in fit.numbers]
    fit.tail = (Encode(to=fit.gives.key, fit=True),)
    fit.settle(ROUNDS)
    found = fit.measured(fit.built())
    if _worth(_mean(found), error):
        return found
    fit.tail, fit.numbers = (), numbers
    return None


def _promising(fit: _Fit, first: int) -> list[tuple[int, Knobs, F64]]:
    """Steps that could be added behind what leads between the encodings, with their places and first numbers;
    the best first."""
    steps = fit.built()
    given = fit.given(steps)
    base = fit.off(given[-1])
    now = float(base @ base) / len(base)
    found: list[tuple[float, int, Knobs, F64]] = []
    for plainness, knobs in enumerate(PALETTE):
        tried = []
        for place in range(first, len(steps) + 1 - len(fit.tail)):
            # Two steps of one kind side by side would fight over the same numbers.
            beside = [getattr(steps[k], "kind", "") for k in (place - 1, place) if 0 <= k < len(steps)]
            if knobs.kind not in beside:
                left, numbers = fit.promise(knobs, place, steps, given, base)
                tried.append((left * PLAINER**plainness, place, knobs, numbers))
        found += sorted(tried, key=lambda t: t[0])[:1]
    return [
        (place, knobs, numbers)
        for left, place, knobs, numbers in sorted(found, key=lambda t: t[0])
        if left < now * 1.5
    ]


def _rest_before(fit: _Fit, steps: Sequence[Step], points: int, coarser: Lut | None) -> Lut:
    """The table before the steps: for each of its points the colour from which they make what the table
    makes.

    coarser: one with fewer points, to begin from.
    Found by damped Newton steps on every point at once; a point where the steps cannot get there keeps the
    colour that comes nearest.
    """
    grid = identity_grid(points).reshape(-1, 3)
    wanted = np.clip(fit.target(grid), 0, 1)
    operations = fit.after(steps, 0)

    def made(rgb: F32) -> F32:
        return apply(operations, np.ascontiguousarray(rgb, np.float32)) if operations else rgb

    def short(out: F32, of: F32) -> F32:
        """How far from what is wanted; beyond the end of a channel nothing more is asked for."""
        past = ((of >= 1) & (out >= 1)) | ((of <= 0) & (out <= 0))
        return np.where(past, np.float32(0), out - of)

    at = grid.copy() if coarser is None else coarser.apply(grid)
    off = short(made(at), wanted)
    size = np.abs(off).max(axis=1)
    damping = np.full(len(grid), 1e-4, np.float32)
    nudge = np.float32(2e-3)
    for k in range(REST_ROUNDS):
        if k == GIVEN_UP and (size > FAR_OFF).mean() > LOST:
            break
        # Points that are there already need no more work.
        live = np.flatnonzero(size > 2e-5)
        if not len(live):
            break
        here, rest = at[live], off[live]
        slopes = np.empty((len(live), 3, 3), np.float32)
        base = made(here)
        for c in range(3):
            moved = here.copy()
            moved[:, c] += nudge
            slopes[:, :, c] = (made(moved) - base) / nudge
        turned = slopes.transpose(0, 2, 1)
        square = turned @ slopes + damping[live, None, None] * np.eye(3, dtype=np.float32)
        step = np.linalg.solve(square, -(turned @ rest[..., None]))[..., 0]
        tried = np.clip(here + np.clip(step, -0.25, 0.25), -0.5, 1.5).astype(np.float32)
        found = short(made(tried), wanted[live])
        now = np.abs(found).max(axis=1)
        better = now < size[live]
        at[live[better]], off[live[better]], size[live[better]] = tried[better], found[better], now[better]
        # Never so little that a colour whose channels all do nothing leaves equations without a solution.
        damping[live] = np.maximum(
            np.where(better, damping[live] * 0.2, damping[live] * 10), np.float32(1e-7)
        )
    return Lut(np.ascontiguousarray(at.reshape(points, points, points, 3)))


def _rest_behind(fit: _Fit, steps: Sequence[Step]) -> Lut:
    """The table behind the steps: what they make of many colours is brought to what the table makes of them.

    Least squares over the points between which each colour is read; a pull of each point's change toward that
    of its neighbours decides where no colour tells.
    """
    from scipy.sparse.linalg import cg

    grid = np.concatenate([identity_grid(REST).reshape(-1, 3), fit.rgb])
    made = fit.through(steps, grid)
    wanted = np.clip(fit.target(grid), 0, 1)
    low, high = (np.clip(f(made, axis=0), *ends) for f, ends in ((np.min, (-0.25, 0)), (np.max, (1, 1.5))))
    low, high = low.astype(np.float32), high.astype(np.float32)
    read = weights_of_points((np.clip(made, low, high) - low) / (high - low), REST)
    own = identity_grid(REST).reshape(-1, 3) * (high - low) + low
    square = read.T @ read + SMOOTH * neighbours(REST)
    asked = read.T @ (wanted - read @ own)
    change = np.stack([cg(square, asked[:, c], rtol=1e-6, maxiter=CG_ROUNDS)[0] for c in range(3)], axis=1)
    return Lut(
        np.ascontiguousarray((own + change).reshape(REST, REST, REST, 3), np.float32), low=low, high=high
    )
