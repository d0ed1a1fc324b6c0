"""Where a look takes colours: the cube of a standard screen as points in OKLab, before and after."""

from dataclasses import dataclass

import numpy as np

from ..arrays import F32, F64
from ..difference import ciede2000, cielab
from ..encodings import encoding
from ..encodings.oklab import from_oklab, to_oklab
from ..look import Look
from ..screen import SCREEN
from ..steps import Tables, no_tables
from ..tables.lut import identity_grid
from .traits import SKIN, from_lch, hue_name, on_screen

#: Points a side of the cloud.
SIDE = 12
#: How far right and up together the corner of a slice reaches that shows it before.
CORNER = 0.42
#: OKLab lightness of the disc.
DISC_LIGHT = 0.66
#: Chromas of its rings.
RINGS = (0.03, 0.06, 0.09, 0.12)
#: Hues on each ring.
HUES = 24


_CHANNELS = ("red", "green", "blue")


@dataclass(frozen=True)
class Cloud:
    """Points ``(n, 3)`` in OKLab as L, a, b, float32; their colours on the screen, uint8; ΔE2000 between the
    two, ``(n,)``.

    edges: pairs of points that are neighbours along the twelve edges of the cube, ``(m, 2)``.
    """

    before: F32
    after: F32
    before_rgb: np.ndarray
    after_rgb: np.ndarray
    delta: F64
    edges: np.ndarray


def _eight(rgb: F32) -> np.ndarray:
    return np.round(np.clip(rgb, 0, 1) * 255).astype(np.uint8)


def _edges(side: int) -> np.ndarray:
    """Neighbours along the edges of the cube, where two of the three places are at an end."""
    index = np.arange(side**3).reshape(side, side, side)
    found = []
    for axis in range(3):
        moved = np.moveaxis(index, axis, 0)
        for u in (0, -1):
            for v in (0, -1):
                line = moved[:, u, v]
                found.append(np.stack([line[:-1], line[1:]], axis=1))
    return np.concatenate(found)


def cloud(
    look: Look,
    *,
    tables: Tables = no_tables,
    other: Look | None = None,
    other_tables: Tables = no_tables,
    side: int = SIDE,
) -> Cloud:
    """The cube of the screen, each colour brought to what the look expects as a frame would be, and back.
    Raises ``LookError``.

    With another look the way is from what that one makes of the colours, instead of from the colours as they
    are.
    """
    shown = np.ascontiguousarray(identity_grid(side).reshape(-1, 3))
    first = shown if other is None else np.clip(on_screen(other, shown, other_tables), 0, 1)
    out = np.clip(on_screen(look, shown, tables), 0, 1)
    at = encoding(SCREEN)
    delta = ciede2000(cielab(first, at), cielab(out, at))
    return Cloud(to_oklab(first, at), to_oklab(out, at), _eight(first), _eight(out), delta, _edges(side))


@dataclass(frozen=True)
class Arrow:
    """A colour of the disc: OKLab a and b before and after, and the colour it becomes, ``#rrggbb``."""

    before: tuple[float, float]
    after: tuple[float, float]
    colour: str


@dataclass(frozen=True)
class Disc:
    """Hue and chroma at one lightness. turned: hue of the colour that turns most, in words, and by how many
    degrees; skin: mean turn."""

    light: float
    arrows: list[Arrow]
    turned: tuple[str, float]
    skin: float


def _turn(before: F32, after: F32) -> F64:
    turned = np.degrees(np.arctan2(after[:, 2], after[:, 1]) - np.arctan2(before[:, 2], before[:, 1]))
    found: F64 = ((turned + 180) % 360 - 180).astype(np.float64)
    return found


def disc(look: Look, *, tables: Tables = no_tables) -> Disc:
    """What becomes of rings of hues at one lightness. Raises ``LookError``."""
    rings = from_lch(tuple((DISC_LIGHT, chroma, 360 * k / HUES) for chroma in RINGS for k in range(HUES)))
    colours = np.concatenate([rings, from_lch(SKIN)])
    out = np.clip(on_screen(look, colours, tables), 0, 1)
    at = encoding(SCREEN)
    before, after = to_oklab(colours, at), to_oklab(out, at)
    eight = _eight(out)
    arrows = [
        Arrow((float(b[1]), float(b[2])), (float(a[1]), float(a[2])), "#{:02x}{:02x}{:02x}".format(*c))
        for b, a, c in zip(before[: len(rings)], after[: len(rings)], eight[: len(rings)], strict=True)
    ]
    turn = _turn(before, after)
    # A colour that has hardly any chroma has no hue to speak of.
    kept = np.hypot(after[:, 1], after[:, 2]) > 0.015
    strong = np.hypot(before[:, 1], before[:, 2]) > 0.075
    own = np.where(kept & strong, turn, 0.0)[: len(rings)]
    most = int(np.abs(own).argmax())
    skin = turn[len(rings) :][kept[len(rings) :]]
    named = hue_name(360 * (most % HUES) / HUES)
    return Disc(DISC_LIGHT, arrows, (named, float(own[most])), float(skin.mean()) if len(skin) else 0.0)


def slices(
    look: Look, by: str, *, tables: Tables = no_tables, count: int = 6, size: int = 76
) -> tuple[F32, list[float]]:
    """Cuts through the cube of the screen side by side, float32 ``(size, count × size, 3)``, and the mean
    ΔE2000 of each.

    by: *red*, *green* or *blue*, which stands still in a slice while the other two run right and up; or
    *lightness*: OKLab a runs right and b up. The corner below the falling diagonal shows the slice before.
    Raises ``LookError``.
    """
    up, right = np.meshgrid(np.linspace(1, 0, size), np.linspace(0, 1, size), indexing="ij")
    at = encoding(SCREEN)
    pictures, means = [], []
    for k in range(count):
        still = k / (count - 1)
        light = by == "lightness"
        shown = (
            _lightness(0.2 + 0.7 * still, right, up) if light else _cut(_CHANNELS.index(by), still, right, up)
        )
        flat = np.ascontiguousarray(shown.reshape(-1, 3), np.float32)
        out = np.clip(on_screen(look, flat, tables), 0, 1)
        means.append(float(ciede2000(cielab(flat, at), cielab(out, at)).mean()))
        way = (right + up)[..., None]
        made = np.where(way < CORNER, shown, out.reshape(shown.shape))
        pictures.append(np.where(np.abs(way - CORNER) < 1 / size, np.float32(1), made))
    return np.concatenate(pictures, axis=1).astype(np.float32), means


def _cut(still_at: int, still: float, right: F64, up: F64) -> F32:
    out = np.empty((*right.shape, 3), np.float32)
    out[..., still_at] = still
    others = [c for c in range(3) if c != still_at]
    out[..., others[0]], out[..., others[1]] = right, up
    return out


def _lightness(light: float, right: F64, up: F64) -> F32:
    reach = 0.28
    lab = np.stack([np.full_like(right, light), (right - 0.5) * reach, (up - 0.5) * reach], axis=-1)
    return np.clip(
        from_oklab(np.ascontiguousarray(lab.reshape(-1, 3), np.float32), encoding(SCREEN)), 0, 1
    ).reshape(lab.shape)
