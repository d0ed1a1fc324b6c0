"""Samples of a clip: from each of some frames, pixels that are enough to measure by, none of them scaled.

Scaling would average the noise away and soften the bands that are looked for. So small blocks are taken all
over the frame, and short pieces of rows and columns; together they say what a picture of the whole would.
"""

import io
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...arrays import F32
from ...errors import FileError

F16 = NDArray[np.float16]
#: Frames that are sampled at most.
FRAMES = 240
#: Pixels a side of a block, and blocks across and down a frame.
BLOCK = 8
ACROSS, DOWN = 20, 12
#: Pixels of a piece of a row or a column, and how many rows and columns pieces are taken of.
PIECE = 64
LINES = 8


@dataclass(frozen=True)
class Samples:
    """R'G'B' in the clip's own encoding, float16, of some frames.

    numbers ``(n,)``: which frames. blocks ``(n, count, side², 3)``: neighbours in a square. pieces ``(n,
    count, length, 3)``: neighbours in a row or a column.
    """

    numbers: NDArray[np.int64]
    blocks: F16
    pieces: F16

    def some(self, places: Iterable[int]) -> "Samples":
        """Those of some of the frames, by their places in ``numbers``."""
        at = np.fromiter(places, dtype=np.int64)
        return Samples(self.numbers[at], self.blocks[at], self.pieces[at])

    def to_bytes(self) -> bytes:
        """As a file, which ``from_bytes`` takes."""
        out = io.BytesIO()
        np.savez(out, numbers=self.numbers, blocks=self.blocks, pieces=self.pieces)
        return out.getvalue()

    @staticmethod
    def from_bytes(data: bytes) -> "Samples":
        """Samples that were written; raises ``FileError`` where they are none."""
        try:
            with np.load(io.BytesIO(data), allow_pickle=False) as held:
                return Samples(held["numbers"], held["blocks"], held["pieces"])
        except (ValueError, KeyError, OSError) as error:
            raise FileError("samples", f"cannot be read ({error}). Take them again") from None


def chosen(frames: int, most: int = FRAMES) -> tuple[int, ...]:
    """Which frames of a clip are sampled: all of them, or neighbours two by two that are spread evenly."""
    if frames <= most:
        return tuple(range(frames))
    begins = np.linspace(0, frames - 2, most // 2).round().astype(int)
    return tuple(int(n) for begin in begins for n in (begin, begin + 1))


def _starts(room: int, length: int, count: int) -> NDArray[np.int64]:
    """Where ``count`` stretches of a length begin, spread evenly over the room; fewer where it is small."""
    return np.unique(np.linspace(0, max(room - length, 0), count).round().astype(np.int64))


def _of(rgb: F32) -> tuple[F32, F32]:
    height, width = rgb.shape[:2]
    side = min(BLOCK, width, height)
    rows, columns = _starts(height, side, DOWN), _starts(width, side, ACROSS)
    blocks = np.stack([rgb[y : y + side, x : x + side] for y in rows for x in columns])
    piece = min(PIECE, width, height)
    across = [rgb[y, x : x + piece] for y in _lines(height) for x in range(0, width - piece + 1, piece)]
    down = [rgb[y : y + piece, x] for x in _lines(width) for y in range(0, height - piece + 1, piece)]
    return blocks.reshape(len(blocks), side * side, 3), np.stack(across + down)


def _lines(room: int) -> NDArray[np.int64]:
    """Rows, or columns, in the middle of equal stretches."""
    return np.unique(((np.arange(LINES) + 0.5) * room / LINES).astype(np.int64))


def sample(frames: Iterable[tuple[int, F32]]) -> Samples:
    """Samples of frames by number, each R'G'B' ``(height, width, 3)``, all of one size. Raises ``ValueError``
    for no frames."""
    numbers, blocks, pieces = [], [], []
    for number, rgb in frames:
        block, piece = _of(rgb)
        numbers.append(number)
        blocks.append(block.astype(np.float16))
        pieces.append(piece.astype(np.float16))
    if not numbers:
        raise ValueError("no frames to sample")
    return Samples(np.array(numbers, dtype=np.int64), np.stack(blocks), np.stack(pieces))
