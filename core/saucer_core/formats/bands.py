"""Rows of a picture as they are read and written, and where pixels lie in the picture that is shown."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..arrays import F32


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
