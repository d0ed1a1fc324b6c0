"""Rows of a picture as they are read and written, and where pixels lie in the picture that is shown."""

from collections.abc import Generator, Iterable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32

Rows = TypeVar("Rows")


@dataclass(frozen=True)
class Window:
    """Where the pixels of a file lie in the picture that is shown: EXR's data window in its display window.

    x, y: of the first pixel; left, top, width, height: of the picture.
    """

    x: int
    y: int
    left: int
    top: int
    width: int
    height: int


@dataclass(frozen=True)
class Band:
    """Rows of a picture as they lie in its file, from ``row`` on. rgb: float32 ``(rows, width, 3)``; alpha:
    float32 ``(rows, width)``.

    glows: where there is light without alpha, as in a flame; ``None`` where there is none.
    """

    row: int
    rgb: F32
    alpha: F32 | None
    glows: NDArray[np.bool_] | None = None


def ahead(rows: Iterable[Rows]) -> Generator[Rows, None, None]:
    """The same, in the same order; the next one is made by a thread while the one before it is used.

    Close it where it was not used to its end: that waits for the thread.
    """
    rest = iter(rows)
    with ThreadPoolExecutor(1) as thread:
        coming = thread.submit(next, rest, None)
        while (one := coming.result()) is not None:
            coming = thread.submit(next, rest, None)
            yield one
