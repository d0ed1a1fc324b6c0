"""Rendering the effects of a finish on a picture in its output encoding.

Blurs are Gaussian (SciPy, ``ndimage.gaussian_filter``); radii are standard deviations.
"""

import hashlib
from collections.abc import Callable

import numpy as np
from scipy.ndimage import gaussian_filter

from ..arrays import F32, colours
from ..effects import Finish, Glow, Grain, LightWash, Sharpening, Softening, Vignette
from ..encodings import Encoding, encoding
from ..luma import LUMA32
from ..steps.blend import put_over

#: Code value that a grain of 100 % moves mid grey by (one standard deviation).
FULL_GRAIN = 0.12
#: Light that a vignette of 100 % leaves at the corner: three stops less.
FULL_VIGNETTE = 3.0


def _blur(rgb: F32, radius: float) -> F32:
    sigma = radius * rgb.shape[0]
    return np.stack(
        [gaussian_filter(rgb[..., c], sigma, mode="nearest", truncate=3.5) for c in range(3)], axis=-1
    ).astype(np.float32)


def _softening(rgb: F32, e: Softening, at: Encoding, name: str) -> F32:
    return rgb + np.float32(e.amount) * (_blur(rgb, e.radius) - rgb)


def _sharpening(rgb: F32, e: Sharpening, at: Encoding, name: str) -> F32:
    return rgb + np.float32(e.amount) * (rgb - _blur(rgb, e.radius))


def _glow(rgb: F32, e: Glow, at: Encoding, name: str) -> F32:
    room = max(1 - e.threshold, 1e-3)
    above = np.clip((rgb - e.threshold) / room, 0, None)
    tint = np.maximum(e.tint.code(at), 0)
    spread = _blur(above.astype(np.float32), e.radius) * tint * np.float32(e.amount)
    # Screen over what is there, so that nothing passes white that had not passed it.
    inside = np.clip(rgb, 0, 1)
    out: F32 = rgb + np.clip(spread, 0, 1) * (1 - inside)
    return out


def _places(rgb: F32) -> tuple[F32, F32]:
    """Across and down, 0–1 at the centres of the pixels."""
    h, w = rgb.shape[:2]
    y, x = np.mgrid[0:h, 0:w].astype(np.float32)
    return (x + 0.5) / w, (y + 0.5) / h


def _light_wash(rgb: F32, e: LightWash, at: Encoding, name: str) -> F32:
    x, y = _places(rgb)
    wide = rgb.shape[1] / rgb.shape[0]
    if e.shape == "round":
        away = np.hypot((x - e.x) * wide, y - e.y)
    else:
        turn = np.radians(e.angle)
        # From the edge on the side of the angle: 0 there, 1 at the opposite edge.
        across, down = np.cos(turn), -np.sin(turn)
        reach = (abs(across) * wide + abs(down)) / 2
        away = 0.5 - ((x - 0.5) * wide * across + (y - 0.5) * down) / (2 * reach)
    t = np.clip(1 - away / e.reach, 0, 1)
    weight = (t * t * (3 - 2 * t) * e.amount).astype(np.float32)
    before = np.ascontiguousarray(rgb.reshape(-1, 3).T)
    tile = np.repeat(e.colour.code(at)[:, None], before.shape[1], axis=1).astype(np.float32)
    put_over(tile, before, e.blend, 1.0)
    over = tile.T.reshape(rgb.shape)
    out: F32 = rgb + weight[..., None] * (over - rgb)
    return out


def _vignette(rgb: F32, e: Vignette, at: Encoding, name: str) -> F32:
    x, y = _places(rgb)
    wide = rgb.shape[1] / rgb.shape[0]
    corner = np.hypot(wide / 2, 0.5)
    away = np.hypot((x - 0.5) * wide, y - 0.5) / corner
    t = np.clip((away - e.start * (1 - e.softness)) / max(1 - e.start * (1 - e.softness), 1e-3), 0, 1)
    stops = -FULL_VIGNETTE * e.amount * t * t * (3 - 2 * t)
    return at.encode(at.decode(rgb) * (2.0**stops)[..., None].astype(np.float32))


def _grain(rgb: F32, e: Grain, at: Encoding, name: str) -> F32:
    h, w = rgb.shape[:2]
    seed = int.from_bytes(hashlib.sha256(f"{name}:{e.seed}".encode()).digest()[:8], "little")
    rng = np.random.default_rng(seed)
    # Laid down on a raster of its own grain size: a proxy shows the same grains as the full picture, only
    # smaller.
    rows = max(2, round(1 / e.size))
    columns = max(2, round(rows * w / h))
    raw = rng.standard_normal((rows + 2, columns + 2, 4)).astype(np.float32)
    y = (np.arange(h, dtype=np.float32) + 0.5) / h * rows
    x = (np.arange(w, dtype=np.float32) + 0.5) / w * columns
    j, i = y.astype(int), x.astype(int)
    fy, fx = (y - j)[:, None, None], (x - i)[None, :, None]
    top = raw[j][:, i] * (1 - fx) + raw[j][:, i + 1] * fx
    low = raw[j + 1][:, i] * (1 - fx) + raw[j + 1][:, i + 1] * fx
    noise = (top * (1 - fy) + low * fy) / np.sqrt(((1 - fy) ** 2 + fy**2) * ((1 - fx) ** 2 + fx**2))
    mixed = np.sqrt(1 - e.colour**2) * noise[..., 3:] + e.colour * noise[..., :3]
    grey = np.clip(rgb @ LUMA32, 0, 1)[..., None]
    # Most in the middle tones, little in black and white, as silver has it.
    out: F32 = rgb + np.float32(FULL_GRAIN * e.amount) * mixed * (0.25 + 3 * grey * (1 - grey))
    return out.astype(np.float32)


_RENDER: dict[str, Callable[..., F32]] = {
    "softening": _softening,
    "sharpening": _sharpening,
    "glow": _glow,
    "light_wash": _light_wash,
    "vignette": _vignette,
    "grain": _grain,
}


def finish(rgb: F32, effects: Finish, output: str, frame: str = "") -> F32:
    """A picture ``(height, width, 3)`` in the encoding ``output`` with the effects of a finish.

    frame names the picture: grain is the same for the same name and seed.
    """
    at = encoding(output)
    out = colours(rgb)
    for name, effect in effects.active():
        out = _RENDER[name](out, effect, at, frame)
    return np.ascontiguousarray(out, dtype=np.float32)
