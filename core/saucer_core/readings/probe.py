"""The probe: what one spot of a picture is, before and after."""

from dataclasses import asdict, dataclass

import numpy as np

from ..arrays import F32
from ..encodings import Encoding
from ..encodings.oklab import to_oklab
from ..luma import LUMA
from ..steps.saturation import SKIN_HUE
from ..steps.traced import shown


@dataclass(frozen=True)
class Spot:
    """One colour in its encoding: code values 0–1, their luma, in 8 and 10 bits, in per cent; linear light;
    OKLCh; as seen on screen."""

    code: tuple[float, float, float]
    luma: float
    eight: tuple[int, int, int]
    ten: tuple[int, int, int]
    percent: tuple[float, float, float]
    linear: tuple[float, float, float]
    lightness: float
    chroma: float
    hue: float
    from_skin: float
    css: str

    def as_dict(self) -> dict[str, object]:
        """Plain numbers, for JSON."""
        return asdict(self)


def _three(values: F32, digits: int) -> tuple[float, float, float]:
    r, g, b = (round(float(v), digits) for v in values)
    return r, g, b


def spot(rgb: F32, at: Encoding) -> Spot:
    """Reads a colour ``(3,)``; ``from_skin`` is its hue's distance from the hue of skin, degrees."""
    one = np.asarray(rgb, dtype=np.float32).reshape(1, 3)
    light, a, b = (float(v) for v in to_oklab(one, at)[0])
    hue = float(np.degrees(np.arctan2(b, a)) % 360)
    red, green, blue = (float(v) for v in one[0])
    return Spot(
        code=_three(one[0], 5),
        luma=round(float(one[0] @ LUMA), 5),
        eight=(round(red * 255), round(green * 255), round(blue * 255)),
        ten=(round(red * 1023), round(green * 1023), round(blue * 1023)),
        percent=_three(one[0] * 100, 2),
        linear=_three(at.decode(one)[0], 6),
        lightness=round(light, 4),
        chroma=round(float(np.hypot(a, b)), 4),
        hue=round(hue, 1),
        from_skin=round((hue - SKIN_HUE + 180) % 360 - 180, 1),
        css=shown(one, at),
    )


def area(picture: F32, x: float, y: float, size: int = 3) -> F32:
    """The mean of ``size`` × ``size`` pixels around a place given in shares of width and height."""
    h, w = picture.shape[:2]
    column, row = min(int(x * w), w - 1), min(int(y * h), h - 1)
    half = size // 2
    part = picture[max(0, row - half) : row + half + 1, max(0, column - half) : column + half + 1]
    found: F32 = part.reshape(-1, 3).mean(axis=0).astype(np.float32)
    return found
