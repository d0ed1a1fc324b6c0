"""Fitted tables: the points' values are chosen so that what is read *between* them lies nearest to the look.

A sampled table is exact on its points and off between them, most where the look bends. Here the values come
from a least-squares fit over many colours, as the tetrahedral interpolation reads them: the differences from
the sampled values are the unknowns, each colour weighs as much as the eye sees its error (the slope of ΔE in
each channel). A pull toward the sampled values decides where few colours tell. Where the fitted table is
worse at other colours, its points are given back to the sampled values (``guard``).
"""

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache
from typing import Any

import numpy as np

from ..arrays import F32, F64
from ..difference import difference
from ..encodings import Encoding
from ..encodings.code_range import CodeRange, from_full, to_full
from ..operations import apply
from ..program import Program
from ..tables.lut import Lut
from .bake import bake, grid_colours, table_places
from .deviation import pixels_of
from .guard import Guard
from .spread import spread

#: Colours for a cell of the grid, spread through the cube.
A_CELL = 6
#: Colours at least, for small grids.
FEWEST = 2**15
#: Colours at most, for large ones.
MOST = 2**19
#: Seed of those colours.
FITTED_AT = 20_11
#: Pull toward the sampled values, as a share of the mean weight on a point.
PULL = 0.05
#: Steps of the conjugate gradients: what is left after them is far below a code.
STEPS = 24
#: Code by which a channel is moved to see how much the eye notices there.
NUDGE = 1 / 512
#: Weight of all pixels of the pictures together, in weights of all colours of the cube together.
PICTURES = 0.5


def weights_of_points(places: F32, size: int) -> Any:
    """How much each point of the grid counts for each colour, a sparse ``(n, size³)``: tetrahedral
    interpolation."""
    from scipy.sparse import csr_matrix

    at = np.clip(places, 0, 1).astype(np.float64) * (size - 1)
    cell = np.minimum(at.astype(np.int64), size - 2)
    part = at - cell
    order = np.argsort(-part, axis=1, kind="stable")
    sorted_part = np.take_along_axis(part, order, axis=1)
    # Red runs fastest.
    stride = np.array([1, size, size * size])
    corner = cell @ stride
    along = stride[order]
    corners = np.stack(
        [corner, corner + along[:, 0], corner + along[:, 0] + along[:, 1], corner + along.sum(axis=1)], axis=1
    )
    share = np.stack(
        [
            1 - sorted_part[:, 0],
            sorted_part[:, 0] - sorted_part[:, 1],
            sorted_part[:, 1] - sorted_part[:, 2],
            sorted_part[:, 2],
        ],
        axis=1,
    )
    rows = np.arange(len(places) + 1) * 4
    return csr_matrix((share.ravel(), corners.ravel(), rows), shape=(len(places), size**3))


@lru_cache(maxsize=1)
def neighbours(size: int) -> Any:
    """The squared differences between neighbours of a grid as a sparse matrix ``(size³, size³)``."""
    from scipy.sparse import diags, eye, kron

    along = np.full(size, 2.0)
    along[[0, -1]] = 1.0
    line: Any = diags([along, np.full(size - 1, -1.0), np.full(size - 1, -1.0)], [0, 1, -1])
    one = eye(size)
    return (kron(kron(one, one), line) + kron(kron(one, line), one) + kron(kron(line, one), one)).tocsr()


def _seen(colours: F32, at: Encoding) -> F64:
    """How much ΔE a code makes in each channel, ``(n, 3)``; 0 where nothing is seen because the colour lies
    outside."""
    top = np.inf if at.response == "linear" else 1.0
    held = np.clip(colours, 0, top)
    out = np.empty(colours.shape)
    for c in range(3):
        nudged = [colours.copy() for _ in range(2)]
        for moved, by in zip(nudged, (NUDGE, -NUDGE), strict=True):
            moved[:, c] += by
        out[:, c] = np.maximum(*(difference(held, np.clip(moved, 0, top), at) for moved in nudged)) / NUDGE
    return out


def _free(size: int) -> F64:
    """1 for the points that may move, 0 for greys (black and white among them) and the corners of the
    cube."""
    free = np.ones((size, size, size))
    line = np.arange(size)
    free[line, line, line] = 0
    free[:: size - 1, :: size - 1, :: size - 1] = 0
    return free.ravel()


def _solve(normal: Any, right: F64, diagonal: F64) -> F64:
    """Conjugate gradients, preconditioned by the diagonal: always the same steps, so that the same look gives
    the same bytes."""
    found = np.zeros_like(right)
    residual = right.copy()
    scaled = residual / diagonal
    direction, gain = scaled.copy(), float(residual @ scaled)
    for _ in range(STEPS):
        if gain <= 0:
            break
        turned = normal @ direction
        step = gain / float(direction @ turned)
        found += step * direction
        residual -= step * turned
        scaled = residual / diagonal
        new = float(residual @ scaled)
        direction = scaled + new / gain * direction
        gain = new
    return found


def _bounds(grid: F32) -> tuple[F32, F32]:
    """The least and the largest value around each point: what is fitted stays between them, so that nothing
    overshoots."""
    from scipy.ndimage import maximum_filter, minimum_filter

    around = (3, 3, 3, 1)
    return minimum_filter(grid, around, mode="nearest"), maximum_filter(grid, around, mode="nearest")


def fit(
    program: Program,
    size: int,
    *,
    pictures: Sequence[F32] = (),
    range_in: CodeRange = "full",
    range_out: CodeRange = "full",
    title: str = "",
    comments: tuple[str, ...] = (),
) -> Lut:
    """A fitted table of ``size`` (3–129) points a side, for tetrahedral reading.

    pictures: float32 ``(..., 3)`` in the program's source encoding, whose colours weigh more. The ranges are
    those of ``bake``. Greys, black, white and the corners of the cube are those of the look; no value leaves
    the range of the look's values around its point. The same input gives the same bytes. Raises
    ``ValueError`` on another size, ``MissingTable``.
    """
    from scipy.sparse import diags

    sampled = bake(program, size, range_in=range_in, title=title, comments=comments)
    assert sampled.grid is not None
    start = sampled.grid.reshape(-1, 3).astype(np.float64)
    count = int(np.clip(A_CELL * (size - 1) ** 3, FEWEST, MOST))

    def places_of(half: int) -> F32:
        """Where pixels of the pictures lie in the table: of one half of them for the fit, of the other to
        judge it by."""
        seen = [pixels_of(p, half) for p in pictures]
        found = (
            table_places(program.source, apply(from_full(range_in), np.concatenate(seen)))
            if seen
            else np.empty((0, 3), np.float32)
        )
        return np.clip(found, 0, 1)

    def look(at_places: F32) -> F32:
        return program(apply(to_full(range_in), grid_colours(program.source, at_places)))

    pixels = places_of(1)
    places = np.concatenate([spread(count, FITTED_AT), pixels])
    exact = look(places)
    shares = weights_of_points(places, size)
    at = program.end
    eye = _seen(exact, at) ** 2
    weigh = np.ones(len(places))
    if len(pixels):
        weigh[count:] = PICTURES * count / len(pixels)
    free = _free(size)
    off = exact.astype(np.float64) - shares @ start
    moved = np.empty_like(start)
    for c in range(3):
        weight = weigh * eye[:, c]
        normal = (shares.T @ diags(weight) @ shares).tocsr()
        pull = PULL * normal.diagonal().mean() + 1e-12
        normal = diags(free) @ normal @ diags(free) + diags(np.full(size**3, pull) + (1 - free))
        moved[:, c] = _solve(normal, free * (shares.T @ (weight * off[:, c])), normal.diagonal())
    low, high = (b.reshape(-1, 3) for b in _bounds(sampled.grid))

    fitted = np.clip(start + free[:, None] * moved, low, high).astype(np.float32).reshape(sampled.grid.shape)
    guard = Guard(sampled.grid, look, program.source, at, places_of(0))
    grid = guard.kept(fitted)
    grid = apply(from_full(range_out), grid)
    return replace(sampled, grid=np.ascontiguousarray(grid))
