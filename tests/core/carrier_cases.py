"""What carriers go through: looks as people make them, and damage as programs do it, on every layout.

Looks are functions of colour alone, on float64 ``(..., 3)`` in 0–1; damage changes the picture
``(height, width, 3)``.
"""

import io
from collections.abc import Callable
from typing import Any

import numpy as np
from PIL import Image
from saucer_core.arrays import F64
from saucer_core.look import Look
from saucer_core.tables.carrier import hald, strip, tiles
from saucer_core.treatment import Treatment
from scipy.ndimage import gaussian_filter, median_filter, shift

Treat = Callable[[F64], F64]

ARRANGEMENTS = {
    **{f"square {level * level}": hald(level) for level in (5, 6, 7, 8, 9)},
    **{f"strip {n}": strip(n) for n in (17, 32, 33, 64)},
    **{f"tiles {n}": tiles(n) for n in (17, 32, 33, 64, 65)},
}


def look(*steps: dict[str, Any], given: str = "bt709_display", gives: str = "bt709_display") -> Treat:
    numbered = [{**step, "id": f"s{k}"} for k, step in enumerate(steps)]
    program = Treatment(Look.model_validate({"input": given, "output": gives, "steps": numbered})).compile()
    return lambda rgb: program(rgb.astype(np.float32)).astype(np.float64)


def smooth(x):
    return x * x * (3 - 2 * x)


def luma(rgb):
    return rgb @ np.array([0.2126, 0.7152, 0.0722])


def negative_print(rgb):
    """Density over log exposure, printed on steep paper."""
    density = 2.2 / (1 + np.exp(-2.6 * (np.log10(np.maximum(rgb, 1e-4)) + 0.7)))
    return 1 / (1 + np.exp(-5.2 * (density - 1.05)))


def knee(rgb):
    return np.where(rgb > 0.7, 0.7 + (rgb - 0.7) * 0.4, rgb)


def two_colours(rgb):
    t = luma(rgb)[..., None]
    return np.array([0.08, 0.13, 0.22]) * (1 - t) + np.array([0.98, 0.9, 0.74]) * t


HONEST: dict[str, Treat] = {
    "nothing": lambda x: x,
    "S-curve": smooth,
    "gamma 2.2": lambda x: x**2.2,
    "gamma 1/2.2": lambda x: x ** (1 / 2.2),
    "log to display": look({"kind": "scene_to_display"}, given="film_log"),
    "ACEScct to display": look({"kind": "scene_to_display"}, given="acescct"),
    "hues turned by 90°": look({"kind": "hue_ranges", "rest": {"shift": 90}}),
    "hues turned by -40°": look({"kind": "hue_ranges", "rest": {"shift": -40}}),
    "saturation 0": look({"kind": "saturation", "amount": 0}),
    "saturation 0.3": look({"kind": "saturation", "amount": 0.3}),
    "saturation 2": look({"kind": "saturation", "amount": 2}),
    "monochrome": lambda x: np.repeat(luma(x)[..., None], 3, axis=-1),
    "monochrome, toned": lambda x: smooth(luma(x))[..., None] ** np.array([0.85, 1.0, 1.25]),
    "knee": knee,
    "channels swapped": lambda x: x[..., [1, 2, 0]],
    "negative": lambda x: 1 - x,
    "negative and print": negative_print,
    "faded": lambda x: 0.12 + 0.74 * x**1.1,
    "two-colour ramp": two_colours,
}


def rounded(rgb, codes=65535):
    return (np.round(np.clip(rgb, 0, 1) * codes) / codes).astype(np.float32)


def raster(rgb):
    """Place in the picture, −1 to 1 across and down."""
    h, w = rgb.shape[:2]
    y, x = np.mgrid[0:h, 0:w]
    return ((x + 0.5) / w * 2 - 1)[..., None], ((y + 0.5) / h * 2 - 1)[..., None]


def blurred(rgb, sigma):
    return np.stack([gaussian_filter(rgb[..., c], sigma, mode="nearest") for c in range(3)], axis=-1)


def through_pillow(rgb, change):
    image = Image.fromarray((np.clip(rgb, 0, 1) * 255 + 0.5).astype(np.uint8))
    return np.asarray(change(image).convert("RGB")).astype(np.float64) / 255


def vignette(rgb, amount):
    x, y = raster(rgb)
    return rgb * (1 - amount * (x * x + y * y) / 2)


def side_light(rgb, amount):
    return rgb * (1 + amount * raster(rgb)[0] / 2)


def light_from_above(rgb, amount):
    return rgb * (1 - amount * raster(rgb)[1] / 2)


def glow(rgb, amount):
    return 1 - (1 - rgb) * (1 - amount * blurred(rgb, 0.06 * min(rgb.shape[:2])))


def sharpened(rgb, amount):
    return rgb + amount * (rgb - blurred(rgb, 1.0))


def resized(rgb, factor):
    h, w = rgb.shape[:2]
    small = (max(1, round(w * factor)), max(1, round(h * factor)))
    return through_pillow(
        rgb, lambda i: i.resize(small, Image.Resampling.BICUBIC).resize((w, h), Image.Resampling.BICUBIC)
    )


def compressed(rgb, quality):
    def save(image):
        data = io.BytesIO()
        image.save(data, "JPEG", quality=int(quality))
        return Image.open(data)

    return through_pillow(rgb, save)


def grained(rgb, codes):
    return rgb + np.random.default_rng(4).normal(0, codes / 255, rgb.shape)


def tone_mapped(rgb, amount):
    """Local tone mapping: light over the light around it."""
    around = blurred(rgb, max(8, min(rgb.shape[:2]) / 12)).mean(axis=-1, keepdims=True)
    return rgb * ((0.5 + 0.02) / (around + 0.02)) ** amount


def local_contrast(rgb, amount):
    return rgb + amount * (rgb - blurred(rgb, 24))


def watermarked(rgb, amount):
    """A ring and bars over the middle of the picture."""
    h, w = rgb.shape[:2]
    y, x = np.mgrid[0:h, 0:w]
    size = 0.3 * min(h, w)
    away = np.hypot(x - w * 0.55, y - h * 0.5)
    mark = (np.abs(away - size) < 0.12 * size) | (
        (np.abs(y - h * 0.5) < 0.1 * size) & (np.abs(x - w * 0.55) < 0.7 * size)
    )
    return np.where(mark[..., None], rgb * (1 - amount) + amount, rgb)


def palette(rgb, colours):
    return through_pillow(rgb, lambda i: i.quantize(int(colours)))


#: How it is done, and three strengths.
DAMAGE: dict[str, tuple[Callable[..., F64], tuple[float, float, float]]] = {
    "vignette": (vignette, (0.1, 0.2, 0.4)),
    "light from one side": (side_light, (0.1, 0.2, 0.4)),
    "light from above": (light_from_above, (0.1, 0.2, 0.4)),
    "glow": (glow, (0.1, 0.2, 0.4)),
    "softening": (blurred, (0.6, 1.0, 2.0)),
    "sharpening": (sharpened, (0.3, 0.6, 1.2)),
    "resized there and back": (resized, (0.75, 0.5, 0.3)),
    "lossy compression": (compressed, (95, 80, 50)),
    "grain": (grained, (1, 3, 8)),
    "local tone mapping": (tone_mapped, (0.15, 0.3, 0.6)),
    "median filter": (
        lambda rgb, size: np.stack(
            [median_filter(rgb[..., c], int(size), mode="nearest") for c in range(3)], -1
        ),
        (3, 5, 7),
    ),
    "shifted": (lambda rgb, by: shift(rgb, (0, by, 0), order=1, mode="nearest"), (1, 2, -1)),
    "watermark": (watermarked, (0.1, 0.25, 0.5)),
    "palette": (palette, (256, 128, 64)),
}
