"""R'G'B' and the luma and colour differences that clips are kept as.

Recommendation ITU-R BT.601-7 (section 2.5), BT.709-6 (section 3), BT.2020-2 (table 4, non-constant
luminance); their code values as in Recommendation ITU-T H.273 (2021), section 8.3, equations 20 to 46. Where
the differences are kept at half width they lie on every second column, and at half height midway between two
rows (H.273, chroma sample location type 0).
"""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32, in_pieces
from ..kernels import kernel

U16 = NDArray[np.uint16]
#: Share of red and blue in luma, by the number that H.273 gives the matrix.
LUMA = {1: (0.2126, 0.0722), 5: (0.299, 0.114), 6: (0.299, 0.114), 9: (0.2627, 0.0593)}
#: Rows of a picture that are worked on at once: a few hundred kilobytes, which stay in the core's cache.
ROWS = 8


@dataclass(frozen=True)
class Layout:
    """How planes hold a picture.

    depth: bits a sample. wide, high: pixels that share a colour difference, 1 or 2 each way. matrix: a key of
    ``LUMA``. full: whether codes run over all that the bits hold.
    """

    depth: int
    wide: int
    high: int
    matrix: int
    full: bool

    def scales(self) -> tuple[float, float, float, float]:
        """Code of black, codes from black to white, code of no colour, codes from one end of a difference to
        the other."""
        if self.full:
            top = float(2**self.depth - 1)
            return 0.0, top, float(2 ** (self.depth - 1)), top
        unit = float(2 ** (self.depth - 8))
        return 16 * unit, 219 * unit, 128 * unit, 224 * unit

    def reach(self) -> tuple[float, float]:
        """The lowest and the highest R'G'B' that the codes hold."""
        black, span, _, _ = self.scales()
        return -black / span, (2**self.depth - 1 - black) / span

    def rows(self) -> tuple[float, ...]:
        """Three rows of four numbers that give R'G'B' from the codes of luma, blue and red difference: three
        factors and what is added (H.273, section 8.3)."""
        black, span, middle, reach = self.scales()
        kr, kb = LUMA[self.matrix]
        kg = 1 - kr - kb
        shares = (
            (0.0, 2 * (1 - kr)),
            (-2 * kb * (1 - kb) / kg, -2 * kr * (1 - kr) / kg),
            (2 * (1 - kb), 0.0),
        )
        return tuple(
            number
            for blue, red in shares
            for number in (1 / span, blue / reach, red / reach, -black / span - (blue + red) * middle / reach)
        )

    def numbers(self) -> F32:
        """What the loops need: the scales, the shares of red and blue, and the highest code."""
        red, blue = LUMA[self.matrix]
        return np.array([*self.scales(), red, blue, 2**self.depth - 1], dtype=np.float32)


@kernel(
    "void(uint16[:, :], uint16[:, :], uint16[:, :], int64, int64, int64, int64, float32[::1], "
    "float32[:, ::1])"
)
def _open(y: U16, u: U16, v: U16, first: int, last: int, wide: int, high: int, n: F32, tile: F32) -> None:
    width, across, down = y.shape[1], u.shape[1], u.shape[0]
    black, span, middle, reach, kr, kb = n[0], n[1], n[2], n[3], n[4], n[5]
    one, two, half = np.float32(1), np.float32(2), np.float32(0.5)
    kg = one - kr - kb
    r_v, b_u = two * (one - kr), two * (one - kb)
    g_u, g_v = -two * kb * (one - kb) / kg, -two * kr * (one - kr) / kg
    cb, cr = np.empty(across + 1, np.float32), np.empty(across + 1, np.float32)
    for row in range(first, last):
        here = row // high
        other = here
        near = one
        if high == 2:
            near = np.float32(0.75)
            other = min(max(here + (1 if row % 2 else -1), 0), down - 1)
        far = one - near
        for i in range(across):
            cb[i] = (near * np.float32(u[here, i]) + far * np.float32(u[other, i]) - middle) / reach
            cr[i] = (near * np.float32(v[here, i]) + far * np.float32(v[other, i]) - middle) / reach
        cb[across], cr[across] = cb[across - 1], cr[across - 1]
        at = (row - first) * width
        for x in range(width):
            i = x // wide
            odd = half * np.float32(x - i * wide)
            p, q = cb[i] + odd * (cb[i + 1] - cb[i]), cr[i] + odd * (cr[i + 1] - cr[i])
            luma = (np.float32(y[row, x]) - black) / span
            tile[0, at + x] = luma + r_v * q
            tile[1, at + x] = luma + g_u * p + g_v * q
            tile[2, at + x] = luma + b_u * p


@kernel(
    "void(float32[:, ::1], int64, int64, int64, int64, float32[::1], uint16[:, :], uint16[:, :], "
    "uint16[:, :])"
)
def _close(tile: F32, first: int, last: int, wide: int, high: int, n: F32, y: U16, u: U16, v: U16) -> None:
    width = y.shape[1]
    black, span, middle, reach, kr, kb, top = n[0], n[1], n[2], n[3], n[4], n[5], n[6]
    one, two, half, nil = np.float32(1), np.float32(2), np.float32(0.5), np.float32(0)
    kg = one - kr - kb
    b_u, r_v = one / (two * (one - kb)), one / (two * (one - kr))
    low, high_end = -black / span, (top - black) / span
    across = u.shape[1]
    cb, cr = np.empty(width + 1, np.float32), np.empty(width + 1, np.float32)
    for begin in range(first, last, high):
        rows = min(high, last - begin)
        share = one / np.float32(rows)
        for x in range(width + 1):
            cb[x] = nil
            cr[x] = nil
        for row in range(begin, begin + rows):
            at = (row - first) * width
            for x in range(width):
                r, g, b = tile[0, at + x], tile[1, at + x], tile[2, at + x]
                # Codes above white and below black have room in narrow range, and stay; ``low`` and ``high``
                # are its ends.
                r, g, b = min(max(r, low), high_end), min(max(g, low), high_end), min(max(b, low), high_end)
                luma = kr * r + kg * g + kb * b
                y[row, x] = np.uint16(min(max(luma * span + black + half, nil), top))
                cb[x] += share * (b - luma) * b_u
                cr[x] += share * (r - luma) * r_v
        out = begin // high
        for i in range(across):
            x = i * wide
            p, q = cb[x], cr[x]
            if wide == 2:
                left, right = max(x - 1, 0), min(x + 1, width - 1)
                p = half * p + half * half * (cb[left] + cb[right])
                q = half * q + half * half * (cr[left] + cr[right])
            u[out, i] = np.uint16(min(max(p * reach + middle + half, nil), top))
            v[out, i] = np.uint16(min(max(q * reach + middle + half, nil), top))


def planes_for(height: int, width: int, at: Layout) -> tuple[U16, U16, U16]:
    """Empty planes for a picture of that size."""
    small = (-(-height // at.high), -(-width // at.wide))
    return np.empty((height, width), np.uint16), np.empty(small, np.uint16), np.empty(small, np.uint16)


def through(
    planes: tuple[U16, U16, U16], at: Layout, work: Any, made: tuple[U16, U16, U16], to: Layout
) -> None:
    """Planes to planes, a few rows at a time: opened to R'G'B', changed by ``work`` (a tile, float32
    ``(3, n)``), closed again."""
    height, width = planes[0].shape
    numbers, wanted = at.numbers(), to.numbers()

    def rows(begin: int, end: int) -> None:
        for a in range(2 * begin, min(2 * end, height), ROWS):
            b = min(a + ROWS, 2 * end, height)
            tile = np.empty((3, (b - a) * width), dtype=np.float32)
            _open(*planes, a, b, at.wide, at.high, numbers, tile)
            work(tile)
            _close(tile, a, b, to.wide, to.high, wanted, *made)

    # Pairs of rows, so that no two pieces write the same colour difference.
    in_pieces(rows, -(-height // 2), 8 * ROWS)


def to_rgb(planes: tuple[U16, U16, U16], at: Layout) -> F32:
    """The picture as R'G'B', float32 ``(height, width, 3)``; codes beyond black and white stay beyond 0 and
    1."""
    height, width = planes[0].shape
    tile = np.empty((3, height * width), dtype=np.float32)
    _open(*planes, 0, height, at.wide, at.high, at.numbers(), tile)
    return np.ascontiguousarray(tile.T).reshape(height, width, 3)


def reduced(planes: tuple[U16, U16, U16], at: Layout, by: int) -> F32:
    """``to_rgb`` with the mean of ``by`` × ``by`` pixels as one, of fewer at the right and lower edges; the
    whole is never in memory."""
    height, width = planes[0].shape
    numbers, starts = at.numbers(), np.arange(0, width, by)
    across = np.minimum(starts + by, width) - starts
    made = np.empty((-(-height // by), len(starts), 3), dtype=np.float32)
    for row, first in enumerate(range(0, height, by)):
        last = min(first + by, height)
        tile = np.empty((3, (last - first) * width), dtype=np.float32)
        _open(*planes, first, last, at.wide, at.high, numbers, tile)
        made[row] = (
            np.add.reduceat(tile.reshape(3, last - first, width).mean(axis=1), starts, axis=1) / across
        ).T
    return made


def to_planes(rgb: F32, to: Layout) -> tuple[U16, U16, U16]:
    """R'G'B' ``(height, width, 3)`` as planes, held to what the codes reach, rounded to the nearest."""
    height, width = rgb.shape[:2]
    made = planes_for(height, width, to)
    tile = np.ascontiguousarray(rgb.reshape(-1, 3).T, dtype=np.float32)
    _close(tile, 0, height, to.wide, to.high, to.numbers(), *made)
    return made
