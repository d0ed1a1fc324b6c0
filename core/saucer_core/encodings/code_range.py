"""Code range: whether a file uses all its codes or leaves room at both ends.

Narrow range puts black at 64 and white at 940 of ten bits (ITU-R BT.709-6, item 4.6; the same shares in eight
bits, 16 and 235, by BT.601). A picture read as full that is narrow has raised blacks and dull whites; one
read as narrow that is full has clipped ends.
"""

from typing import Literal

import numpy as np

from ..arrays import F32
from ..luma import LUMA
from ..operations import Linear

CodeRange = Literal["full", "narrow"]
#: Ten-bit code of black.
BLACK = 64
#: Ten-bit code of white.
WHITE = 940
#: The largest ten-bit code.
CODES = 1023


def to_full(given: CodeRange) -> list[Linear]:
    """From a file's code values to full range."""
    if given == "full":
        return []
    return [Linear(np.eye(3) * CODES / (WHITE - BLACK), np.full(3, -BLACK / (WHITE - BLACK)))]


def from_full(wanted: CodeRange) -> list[Linear]:
    """From full range to a file's code values."""
    if wanted == "full":
        return []
    return [Linear(np.eye(3) * (WHITE - BLACK) / CODES, np.full(3, BLACK / CODES))]


def suspicion(rgb: F32, declared: CodeRange) -> str:
    """Why the declared range is probably wrong, in words; empty where nothing speaks against it.

    rgb: code values as they stand in the file, ``(..., 3)``, of a picture that holds black and white.
    """
    luma = np.sort(np.asarray(rgb, dtype=np.float64).reshape(-1, 3) @ LUMA)
    if not len(luma):
        return ""
    low, high = float(luma[int(0.0005 * len(luma))]), float(luma[min(int(0.9995 * len(luma)), len(luma) - 1)])
    black, white = BLACK / CODES, WHITE / CODES
    near = 6 / CODES
    if declared == "full" and abs(low - black) < near and white - 4 * near < high < white + near:
        return (
            f"black stands at {low * CODES:.0f} and white at {high * CODES:.0f} of 1023, where narrow range "
            "has them: "
            "it was probably recorded in narrow range"
        )
    beyond = float(np.mean((luma < black - near) | (luma > white + near)))
    if declared == "narrow" and beyond > 0.005:
        return (
            f"{beyond:.1%} of it lies beyond the ends of narrow range and would be clipped: it is "
            "probably full range"
        )
    return ""
