"""Seams of a carrier: neighbours on its grid that lie far apart in the picture.

A look gives such neighbours values as alike as those of neighbours that lie side by side; whatever follows
the place tears them apart. So the jump at each seam is measured against the same measurement at all other
steps of the grid, where nothing tears: the picture is its own comparison, and bends, knees and steps of a
look count on both sides alike. In a square carrier green has seams (every level-th step starts a new line),
in tiles blue has (every row of tiles). A strip has none: there, place and blue are the same.
"""

from dataclasses import dataclass

import numpy as np

from ...arrays import F32, F64
from ...tables.carrier import I64, Arrangement

#: What fourth differences make of a step between two points, and of a bend there: they tell the two apart, as
#: one is odd and one even.
_SHAPES = {"step": np.array([1.0, -3.0, 3.0, -1.0]), "bend": np.array([0.5, -0.5, -0.5, 0.5])}
#: Terms along a line of red over which jumps are averaged, so that grain averages out.
_ALONG = 4
#: Terms across it.
_ACROSS = 3
#: Blocks of lines, along red and across, that jumps are averaged in to be compared line by line.
_BLOCKS = 6
#: Share of the seams that may differ from the others: a bend of the look can lie at one of them.
_FEW = 0.25
#: What rounding leaves of an averaged jump, as a share of its step.
_LEAST = 0.3


#: Times that jumps at seams must be larger than elsewhere, with their signs. Honest looks stay below 4.4.
_TORN = 4.5
#: Times that they must be larger whatever their sign. Honest looks never reach both limits together.
_ROUGH = 2.5
#: Steps of rounding from which their size speaks for itself.
_SIZE = 3.0
#: Points at the ends of lines that a filter reaches.
_FILTERED = 5
#: Points at the ends of lines that light is not told from: neighbours are mixed there by much else.
_INSIDE = 3
#: Terms of a smooth sum over the picture, across and down.
_WAVES = 4


@dataclass(frozen=True)
class Seams:
    """Jumps at seams beside the same at other steps.

    torn: how many times larger jumps are at seams, in what nearly all seams have in common; usual: the same
    for half of the lines, whatever the others do; rough: the same for their size, whatever their sign; size:
    root mean square of the jump, in code values.
    """

    torn: float = 1.0
    usual: float = 1.0
    rough: float = 1.0
    size: float = 0.0

    def follows_place(self, rounding: float) -> bool:
        """Whether the picture was changed by place; ``rounding``: a step of its codes."""
        return self.usual > _TORN or (
            self.torn > _TORN and (self.rough > _ROUGH or self.size > _SIZE * rounding)
        )


@dataclass(frozen=True)
class Light:
    """What light over the place explains of the jumps at seams.

    corners, lean: how much lighter the picture is made at its corners, and toward one side, as shares of the
    light there. Which side cannot be told: at every seam the places across and down jump by the same amounts.
    shading, glow: shares (0–1) of the jumps that light times place, and light added by place, explain.
    """

    corners: float = 0.0
    lean: float = 0.0
    shading: float = 0.0
    glow: float = 0.0


def _axis_first(grid: F32 | F64, arrangement: Arrangement) -> F64:
    """The grid with the axis that has seams first, then the axis across, then red: ``(n, n, n, 3)``."""
    return (
        np.moveaxis(grid, 1, 0).astype(np.float64)
        if arrangement.layout == "hald"
        else grid.astype(np.float64)
    )


def period(arrangement: Arrangement) -> int:
    """Steps of the grid from seam to seam; 0 where there are none."""
    if arrangement.layout == "strip":
        return 0
    return arrangement.level if arrangement.layout == "hald" else arrangement.width // arrangement.grid


def breaks(values: F64, shape: str) -> F64:
    """The *step* or *bend* between each two points of the first axis, ``(n - 1, ...)``.

    Nil where values go on smoothly, or too near to an end to tell.
    """
    fourth = np.diff(values, n=4, axis=0)
    pattern = _SHAPES[shape]
    found = np.zeros((len(values) - 1, *values.shape[1:]))
    for k in range(3, len(values) - 4):
        found[k] = np.tensordot(pattern, fourth[k - 3 : k + 1], axes=(0, 0)) / (pattern @ pattern)
    return found


def _terms(values: F64) -> F64:
    """Values ``(n, across, red, 3)`` in terms along red and across: ``(n, terms)``; their squares sum to the
    mean square."""
    bases = []
    for count, terms in ((values.shape[1], _ACROSS), (values.shape[2], _ALONG)):
        basis = np.polynomial.legendre.legvander(np.linspace(-1, 1, count), terms - 1)
        # What is mixed with its neighbours in the picture differs at the ends of a line alone.
        basis = np.concatenate([basis, np.eye(count)[:, [0, -1]]], axis=1)
        bases.append(np.linalg.qr(basis)[0] / np.sqrt(count))
    found: F64 = np.einsum("narc,ai,rj->nijc", values, bases[0], bases[1], optimize=True).reshape(
        len(values), -1
    )
    return found


def _blocks(values: F64) -> F64:
    """Values ``(n, across, red, 3)`` averaged over blocks of lines: ``(n, blocks)``."""
    for axis in (1, 2):
        parts = np.array_split(values, min(_BLOCKS, values.shape[axis]), axis=axis)
        values = np.stack([part.mean(axis=axis) for part in parts], axis=axis)
    return values.reshape(len(values), -1)


def seams_of(arrangement: Arrangement) -> I64:
    """The steps of the grid that are seams, without those too near to an end to tell."""
    every, n = period(arrangement), arrangement.grid
    at = np.arange(every - 1, n - 1, every) if every else np.zeros(0, np.int64)
    return at[(at >= 3) & (at <= n - 5)]


def seams(grid: F32, arrangement: Arrangement, rounding: float, inside: bool = False) -> Seams:
    """How much larger steps and bends are at the seams of a grid ``(n, n, n, 3)`` than elsewhere.

    rounding: a step of its codes. inside: without the ends of lines, where a filter mixes what lies side by
    side.
    """
    least = _LEAST * rounding
    at = seams_of(arrangement)
    if len(at) < 2:
        return Seams()
    values = _axis_first(grid, arrangement)
    if inside:
        values = values[:, _FILTERED:-_FILTERED, _FILTERED:-_FILTERED]
    terms, blocks = _terms(values), _blocks(values)
    found = Seams()
    for shape in _SHAPES:
        here, others = _beside(terms, at, shape, period(arrangement))
        usual_here, usual_others = _beside(blocks, at, shape, period(arrangement))
        one = Seams(
            _norm(_common(here)) / max(least, *(_norm(_common(o)) for o in others)),
            _middle(_common(usual_here)) / max(least, *(_middle(_common(o)) for o in usual_others)),
            _alone(here) / max(least, *(_alone(o) for o in others)),
            float(np.sqrt(np.median((here**2).sum(axis=1)))),
        )
        found = max(found, one, key=lambda s: max(s.torn, s.usual, s.rough))
    return found


def _beside(values: F64, at: I64, shape: str, every: int) -> tuple[F64, list[F64]]:
    """The breaks ``(seams, ...)`` of values ``(n, ...)`` at seams; and, once those are mended, the same at
    each distance beside them."""
    torn = {one: breaks(values, one) for one in _SHAPES}
    mended = values.copy()
    for k in at:
        mended[k + 1 :] -= torn["step"][k]
        mended[k + 1 :] -= torn["bend"][k] * (np.arange(len(values) - k - 1) + 0.5)[:, None]
    others = breaks(mended, shape)
    beside = [at[at + phase <= len(values) - 5] + phase for phase in range(1, every)]
    return torn[shape][at], [others[places] for places in beside if len(places) >= 2]


def _common(found: F64) -> F64:
    """What nearly all of them have in common."""
    low, high = np.quantile(found, (_FEW, 1 - _FEW), axis=0)
    common: F64 = np.where(low * high > 0, np.minimum(np.abs(low), np.abs(high)), 0.0)
    return common


def _norm(common: F64) -> float:
    return float(np.sqrt((common**2).sum()))


def _middle(common: F64) -> float:
    return float(np.median(common))


def _alone(found: F64) -> float:
    return float(np.median(np.sqrt((found**2).sum(axis=1))))


def light(grid: F32, arrangement: Arrangement) -> Light:
    """The light that explains most of the jumps at the seams of a grid ``(n, n, n, 3)``: over its place, or
    added by it."""
    at = seams_of(arrangement)
    values = _axis_first(grid, arrangement)
    n = arrangement.grid
    column, row = (
        _axis_first(p.reshape(n, n, n, 1).astype(np.float64), arrangement)[..., 0]
        for p in arrangement.places()
    )
    inside = slice(_INSIDE, -_INSIDE)
    values, column, row = (
        values[:, inside, inside],
        column[:, inside, inside, None],
        row[:, inside, inside, None],
    )
    x, y = (column + 0.5) / arrangement.width * 2 - 1, (row + 0.5) / arrangement.height * 2 - 1
    away = (x * x + y * y) / 2
    windows = np.unique([k - j for k in at for j in range(4)])

    def torn(field: F64) -> F64:
        found: F64 = np.diff(_blocks(field), n=4, axis=0)[windows].reshape(-1)
        return found

    waves = [
        np.cos(np.pi * (i * (x + 1) + j * (y + 1)) / 2)
        for i in range(_WAVES + 1)
        for j in range(-_WAVES, _WAVES + 1)
        if i or j > 0
    ]
    added = np.stack([torn(wave) for wave in waves], axis=1)
    found = []
    for c in range(3):
        value = values[..., c : c + 1]
        wanted = torn(value)
        over = np.stack([torn(value * field) for field in (away, away**2, x, y)], axis=1)
        (near, far, across, down), shading = _explained(over, wanted)
        found.append((near + far, max(across, down, key=abs), shading, _explained(added, wanted)[1]))
    corners, lean, shading, glow = (float(v) for v in np.median(np.array(found), axis=0))
    return Light(_of_clean(corners), _of_clean(lean), shading, glow)


def _of_clean(share: float) -> float:
    """A share of the light as it came back, as one of the light that it was before."""
    return share / (1 - share) if share < 0.9 else 9.0


def _explained(terms: F64, wanted: F64) -> tuple[F64, float]:
    """The least-squares solution and the share it explains, without the tenth that it explains worst: bends
    of the look lie there."""
    solved, *_ = np.linalg.lstsq(terms, wanted, rcond=None)
    off = np.abs(wanted - terms @ solved)
    kept = off <= np.quantile(off, 0.9)
    solved, *_ = np.linalg.lstsq(terms[kept], wanted[kept], rcond=None)
    left = wanted[kept] - terms[kept] @ solved
    return solved, 1 - float(left @ left) / (float(wanted[kept] @ wanted[kept]) or 1.0)
