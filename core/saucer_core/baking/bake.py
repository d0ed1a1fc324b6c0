"""Baking: a look as a table."""

import numpy as np

from ..arrays import F32
from ..encodings import Encoding, ycbcr
from ..encodings.camera_log import DARKEST, FILM_LOG, PEAK
from ..encodings.code_range import CodeRange, from_full, to_full
from ..errors import LookError
from ..operations import apply
from ..prefixes import PrefixCache
from ..program import Program
from ..tables.lut import GRID_LIMIT, SHAPER_LIMIT, Lut, Shaper, identity_grid

#: The trade's usual sizes (common practice).
USUAL_GRIDS = (17, 33, 65)
#: The fewest for PQ and HLG: with 33 an exposure in PQ is off by ΔE ITP 4.6 (99 %), with 65 by 2.0 (ITU-R
#: BT.2124-0).
HDR_GRID = 65


def table_places(source: Encoding, rgb: F32) -> F32:
    """Colours of an encoding as places in its table, 0–1 where the table reaches.

    Display and log encodings are their own places. Linear light goes through the film-log curve, so that the
    grid is spent as the eye spends it, from ``DARKEST`` light, a little below black, up to ``PEAK``.
    """
    return FILM_LOG.encode(rgb) if source.response == "linear" else rgb


def grid_colours(source: Encoding, places: F32) -> F32:
    """The inverse of ``table_places``."""
    return FILM_LOG.decode(places) if source.response == "linear" else places


def shaper_for(source: Encoding) -> Shaper | None:
    """The shaper a file needs in front of the grid: film log for linear light, none otherwise."""
    if source.response != "linear":
        return None
    light = np.linspace(DARKEST, PEAK, SHAPER_LIMIT, dtype=np.float64).astype(np.float32)
    values = np.repeat(FILM_LOG.encode(light)[:, None], 3, axis=1)
    return Shaper(values, np.full(3, DARKEST, dtype=np.float32), np.full(3, PEAK, dtype=np.float32))


def grid_for(program: Program, wanted: int) -> int:
    """The points a side of a table that nobody measures first: at least those that high dynamic range
    needs."""
    return max(wanted, HDR_GRID) if program.source.hdr or program.end.hdr else wanted


def bake(
    program: Program,
    size: int,
    *,
    range_in: CodeRange = "full",
    range_out: CodeRange = "full",
    title: str = "",
    comments: tuple[str, ...] = (),
    cache: PrefixCache | None = None,
) -> Lut:
    """What a program does on a grid of ``size`` (2–129) points a side.

    The ranges say how the files that the table is used on are coded. Raises ``ValueError`` on another size,
    ``MissingTable``.
    """
    if not 2 <= size <= GRID_LIMIT:
        raise ValueError(f"a grid has 2 to {GRID_LIMIT} points a side, not {size}")
    grid = apply(to_full(range_in), grid_colours(program.source, identity_grid(size)))
    out = apply(from_full(range_out), program(grid, cache, f"grid {size} {range_in} {program.source.key}"))
    return Lut(np.ascontiguousarray(out), shaper_for(program.source), title=title, comments=comments)


#: Points a side, over 0–1, of the table that a look becomes for a clip.
CLIP_GRID = 65


def bake_for_clip(program: Program, full_range: bool, depth: int) -> Lut:
    """A table over all that the codes of a clip reach: with narrow range also above white and below black
    (BT.709-6, 4.6)."""
    low, high = (0.0, 1.0) if full_range else ycbcr.Layout(depth, 1, 1, 1, full=False).reach()
    size = round((CLIP_GRID - 1) * (high - low)) + 1
    if program.source.response == "linear" or full_range:
        return bake(program, CLIP_GRID)
    given = (low + identity_grid(size) * np.float32(high - low)).astype(np.float32)
    return Lut(
        np.ascontiguousarray(program(given)),
        low=np.full(3, low, np.float32),
        high=np.full(3, high, np.float32),
    )


def bake_curves(
    program: Program, points: int = 4096, *, title: str = "", comments: tuple[str, ...] = ()
) -> Lut:
    """What a program does as a pure 1-D LUT of ``points`` (2–65,536) a channel.

    Raises ``LookError`` where a channel's result depends on another channel: then only a grid can hold it.
    """
    if not 2 <= points <= SHAPER_LIMIT:
        raise ValueError(f"a 1-D LUT has 2 to {SHAPER_LIMIT:,} points, not {points}")
    out = program(grid_colours(program.source, identity_grid(9)))
    # Axes blue, green, red: each channel may vary along its own axis alone.
    talk = [float(np.ptp(out[..., c], axis=tuple(a for a in range(3) if a != 2 - c)).max()) for c in range(3)]
    if max(talk) > 1e-4:
        name = ("red", "green", "blue")[int(np.argmax(talk))]
        raise LookError(
            f"The look mixes channels ({name} changes with another one): a 1-D LUT cannot hold it. Bake "
            "a 3-D one."
        )
    low, high = (DARKEST, PEAK) if program.source.response == "linear" else (0.0, 1.0)
    ramp = np.linspace(low, high, points, dtype=np.float64).astype(np.float32)
    values = np.ascontiguousarray(program(np.repeat(ramp[:, None], 3, axis=1)))
    ends = (np.full(3, v, dtype=np.float32) for v in (low, high))
    return Lut(None, Shaper(values, *ends), title=title, comments=comments)
