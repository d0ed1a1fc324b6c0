"""A camera's own channels, turned into light, and its white balance as a temperature and a tint."""

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from ...arrays import F32, F64
from ...encodings.primaries import BT709, BT2020, D65, between, to_xyz, xyz
from ...encodings.temperature import temperature_of, white_of
from ...kernels import kernel
from ..bands import Band
from .result import Balance

#: Rows that are turned into light at a time.
_ROWS = 256


@kernel("void(uint16[:, ::1], float32[:, ::1], float32[:, ::1])")
def _turn(channels: NDArray[np.uint16], matrix: F32, out: F32) -> None:
    for i in range(channels.shape[0]):
        a, b, c = np.float32(channels[i, 0]), np.float32(channels[i, 1]), np.float32(channels[i, 2])
        for k in range(3):
            out[i, k] = matrix[k, 0] * a + matrix[k, 1] * b + matrix[k, 2] * c


def _camera_from_xyz(matrix: F64, daylight: F64) -> F64:
    """3 × 3 from XYZ to the camera's channels, as they are without any balance.

    matrix: from balanced channels to linear BT.709, rows summing to 1. daylight: the gains that balance D65.
    """
    found: F64 = np.diag(1 / daylight) @ np.linalg.inv(matrix) @ np.linalg.inv(to_xyz(BT709))
    return found


def balance_of(gains: F64, matrix: F64, daylight: F64) -> Balance:
    """The white that gains for red, green and blue take for grey."""
    white = np.linalg.inv(_camera_from_xyz(matrix, daylight)) @ (1 / gains)
    total = float(white.sum())
    if not np.isfinite(white).all() or total <= 0 or white[1] <= 0:
        return Balance(*temperature_of(D65))
    return Balance(*temperature_of((float(white[0]) / total, float(white[1]) / total)))


def gains_of(balance: Balance, matrix: F64, daylight: F64) -> F64:
    """The gains that take a white for grey; green is 1."""
    seen = _camera_from_xyz(matrix, daylight) @ xyz(white_of(balance.kelvin, balance.tint))
    # A white that the camera sees without one of its channels cannot be balanced: it stays at a hundredth.
    gains = 1 / np.maximum(seen, seen.max() / 100)
    found: F64 = gains / gains[1]
    return found


def grey_gains(rgb: F64, used: F64, matrix: F64) -> F64:
    """The gains under which a colour is grey. rgb: linear BT.2020, as it was developed with the gains
    ``used``."""
    balanced = np.linalg.inv(matrix) @ between(BT2020, BT709) @ rgb
    seen = np.maximum(balanced, np.abs(balanced).max() / 100) / used
    gains = 1 / seen
    found: F64 = gains / gains[1]
    return found


def light(channels: np.ndarray, scale: float, matrix: F64) -> Iterator[Band]:
    """Balanced channels as linear BT.2020, band by band; 1 is where green is full.

    channels: uint16 ``(height, width, 3)``. scale: light of one code.
    """
    turn = (between(BT709, BT2020) @ matrix * scale).astype(np.float32)
    for first in range(0, len(channels), _ROWS):
        # A copy: kernels take arrays that may be written to, and the file's may not.
        rows = np.array(channels[first : first + _ROWS])
        rgb = np.empty(rows.shape, np.float32)
        _turn(rows.reshape(-1, 3), turn, rgb.reshape(-1, 3))
        yield Band(first, rgb, None)
