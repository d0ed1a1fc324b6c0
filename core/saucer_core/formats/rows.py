"""Rows of three numbers, as the text formats write them."""

import numpy as np
from numpy.typing import NDArray


def rows(values: NDArray[np.floating]) -> str:
    """One line for each colour of ``(..., 3)``: nine significant digits, from which a float32 is read back
    identically."""
    flat = values.ravel().tolist()
    return ("%.9g %.9g %.9g\n" * (len(flat) // 3)) % tuple(flat)
