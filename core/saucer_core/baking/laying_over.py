"""Two pictures of the same, laid over each other.

Their sizes give the scale, phase correlation of their outlines the shift (C. D. Kuglin and D. C. Hines, "The
phase correlation image alignment method", 1975).
"""

import numpy as np
from scipy.ndimage import gaussian_filter, map_coordinates

from ..arrays import F32, F64
from ..errors import CoreError

#: Pixels of the longer side that are looked at.
LONGEST = 960
#: Scales that are tried around the one that the sizes give.
SCALES = (1.0, 0.985, 1.015, 0.97, 1.03)
#: How strong the peak of the correlation must be.
PEAK = 0.05
FINER = (-0.01, -0.0075, -0.005, -0.0025, 0.0025, 0.005, 0.0075, 0.01)
#: Correlation of light and dark from which two pictures without outlines are taken for the same.
ALIKE = 0.9
#: Local contrast, in code values, that one pixel in a hundred must have for a picture to have outlines.
OUTLINES = 0.006
#: Pixels at the rim that are left out: a blur reaches over the edge there.
RIM = 4


def lightness(rgb: F32) -> F64:
    """One number a pixel of a picture ``(h, w, 3)`` in codes, as outlines, grain and softness are looked for
    in: ``(h, w)``."""
    found: F64 = rgb.astype(np.float64) @ (0.25, 0.6, 0.15)
    return found


def _outlines(rgb: F32) -> F64:
    """Edges of a picture, whatever its tones: local contrast brought to one strength."""
    luma = lightness(rgb)
    fine = luma - gaussian_filter(luma, 3)
    spread = np.sqrt(gaussian_filter(fine**2, 6)) + 0.004
    window = np.hanning(luma.shape[0])[:, None] * np.hanning(luma.shape[1])[None, :]
    found: F64 = fine / spread * window
    return found


def _resized(rgb: F32, height: int, width: int) -> F32:
    """Scaled by linear interpolation, after a blur where it is made smaller."""
    down = max(rgb.shape[0] / height, rgb.shape[1] / width)
    soft = (
        np.stack([gaussian_filter(rgb[..., c], max(0.0, (down - 1) / 2)) for c in range(3)], axis=-1)
        if down > 1.05
        else rgb
    )
    rows = (np.arange(height) + 0.5) * rgb.shape[0] / height - 0.5
    columns = (np.arange(width) + 0.5) * rgb.shape[1] / width - 0.5
    at = np.meshgrid(rows, columns, indexing="ij")
    return np.stack(
        [map_coordinates(soft[..., c], at, order=1, mode="nearest") for c in range(3)], axis=-1
    ).astype(np.float32)


def _correlated(one: F64, other: F64) -> tuple[float, float, float]:
    """Shift of the other picture down and right, and the strength of the peak, 0–1."""
    product = np.fft.rfft2(one) * np.conj(np.fft.rfft2(other))
    field = np.fft.irfft2(product / (np.abs(product) + 1e-9), s=one.shape)
    row, column = np.unravel_index(int(field.argmax()), field.shape)
    peak = float(field[row, column])

    def fine(before: float, at: float, after: float) -> float:
        bend = before - 2 * at + after
        return 0.0 if bend == 0 else float(np.clip(0.5 * (before - after) / bend, -0.5, 0.5))

    height, width = field.shape
    down = row + fine(field[(row - 1) % height, column], peak, field[(row + 1) % height, column])
    right = column + fine(field[row, (column - 1) % width], peak, field[row, (column + 1) % width])
    down, right = (
        (down - height if down > height / 2 else down),
        (right - width if right > width / 2 else right),
    )
    return -float(down), -float(right), peak


def _at_scale(one: F32, outlines: F64, after: F32, scale: float) -> tuple[float, float, float, float, F32]:
    """How well the treated picture fits at a scale: the peak, the scale, its shift down and right, and the
    picture."""
    h, w = one.shape[:2]
    other = _resized(after, round(h / scale), round(w / scale))
    found = np.zeros_like(one)
    ch, cw = min(h, other.shape[0]), min(w, other.shape[1])
    top, left = (h - ch) // 2, (w - cw) // 2
    from_top, from_left = (other.shape[0] - ch) // 2, (other.shape[1] - cw) // 2
    found[top : top + ch, left : left + cw] = other[from_top : from_top + ch, from_left : from_left + cw]
    down, right, peak = _correlated(outlines, _outlines(found))
    return peak, scale, down, right, found


def _plain(rgb: F32) -> bool:
    """Whether a picture has no outlines to speak of."""
    luma = lightness(rgb)
    return bool(np.quantile(np.abs(luma - gaussian_filter(luma, 3)), 0.99) < OUTLINES)


def _alike(one: F32, other: F32) -> bool:
    """Whether light and dark lie at the same places."""
    a, b = (gaussian_filter(lightness(p), 4)[4:-4, 4:-4].ravel() for p in (one, other))
    return bool(np.corrcoef(a, b)[0, 1] > ALIKE)


def laid_over(before: F32, after: F32) -> tuple[F32, F32, tuple[float, float], float]:
    """Both pictures at one size with the parts that both show; the shift right and down, and the scale.
    Raises ``CoreError``."""
    height, width = before.shape[:2]
    ratio = (width / height) / (after.shape[1] / after.shape[0])
    if not 0.8 < ratio < 1.25:
        raise CoreError(
            f"The two pictures have different shapes, {width} × {height} and {after.shape[1]} × "
            f"{after.shape[0]}: "
            "bring the same frame, untouched and treated, whole."
        )
    small = min(1.0, LONGEST / max(height, width))
    h, w = max(16, round(height * small)), max(16, round(width * small))
    one = _resized(before, h, w)
    outlines = _outlines(one)
    tried = []
    for scale in SCALES:
        tried.append(_at_scale(one, outlines, after, scale))
        if scale == 1.0 and tried[0][0] > 4 * PEAK:
            break
    best = max(tried, key=lambda t: t[0])
    if best[1] != 1.0:
        best = max(
            [best, *(_at_scale(one, outlines, after, best[1] + off) for off in FINER)], key=lambda t: t[0]
        )
    if best[0] < PEAK or _plain(one):
        # A picture without outlines, a sky or soft light say, has nothing to lay over each other by: light
        # and dark must agree as they lie.
        best = (PEAK if _alike(one, tried[0][4]) else 0.0), 1.0, 0.0, 0.0, tried[0][4]
    peak, scale, down, right, found = best
    if peak < PEAK or abs(down) > h / 4 or abs(right) > w / 4:
        raise CoreError(
            "These are not the same picture: their outlines do not fit each other. Bring one frame, "
            "untouched and treated."
        )
    rows, columns = np.meshgrid(np.arange(h) + down, np.arange(w) + right, indexing="ij")
    moved = np.stack(
        [map_coordinates(found[..., c], [rows, columns], order=1, mode="nearest") for c in range(3)], axis=-1
    )
    # What only one of the two shows is left out.
    rows_left, columns_left = (max(0, -(-(n - round(n / scale)) // 2)) + RIM for n in (h, w))
    top, bottom = rows_left + max(0, int(np.ceil(-down))), h - rows_left - max(0, int(np.ceil(down)))
    first, last = columns_left + max(0, int(np.ceil(-right))), w - columns_left - max(0, int(np.ceil(right)))
    inside = slice(top, bottom), slice(first, last)
    shift = right / small, down / small
    grown = after.shape[1] / width * scale
    return np.ascontiguousarray(one[inside]), np.ascontiguousarray(moved[inside], np.float32), shift, grown
