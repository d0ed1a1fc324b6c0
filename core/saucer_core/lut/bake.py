"""Baking: a look as a table."""

import numpy as np

from ..arrays import F32
from ..encodings import encoding
from ..encodings.code_range import CodeRange, from_full, to_full
from ..encodings.film_log import FILM_LOG, PEAK
from ..errors import LookError
from ..look import Look, PrefixCache
from ..operations import apply
from ..steps import Tables, no_tables
from ..trim import Trim, through
from .lut import GRID_LIMIT, SHAPER_LIMIT, Lut, Shaper, identity_grid

#: The trade's usual sizes (common practice).
USUAL_GRIDS = (17, 33, 65)


def table_places(look_input: str, rgb: F32) -> F32:
    """Colours of the input encoding as places in its table, 0–1 where the table reaches.

    Display and log encodings are their own places. Linear light goes through the film-log curve, so that the grid is
    spent as the eye spends it and light up to ``film_log.PEAK`` has room.
    """
    return FILM_LOG.encode(rgb) if encoding(look_input).response == "linear" else rgb


def grid_colours(look_input: str, places: F32) -> F32:
    """The inverse of ``table_places``."""
    return FILM_LOG.decode(places) if encoding(look_input).response == "linear" else places


def shaper_for(look_input: str) -> Shaper | None:
    """The shaper a file needs in front of the grid: film log for linear light, none otherwise."""
    if encoding(look_input).response != "linear":
        return None
    light = np.linspace(0, PEAK, SHAPER_LIMIT, dtype=np.float64).astype(np.float32)
    values = np.repeat(FILM_LOG.encode(light)[:, None], 3, axis=1)
    return Shaper(values, high=np.full(3, PEAK, dtype=np.float32))


def bake(
    look: Look,
    size: int,
    *,
    tables: Tables = no_tables,
    strength: float = 1.0,
    source: str | None = None,
    trim: Trim | None = None,
    range_in: CodeRange = "full",
    range_out: CodeRange = "full",
    title: str = "",
    comments: tuple[str, ...] = (),
    cache: PrefixCache | None = None,
) -> Lut:
    """The look on a grid of ``size`` (2–129) points a side, for colours in ``source`` (the look's input where not given).

    A trim is done before the look, in ``source``. The ranges say how the files that the table is used on are coded.
    Raises ``ValueError`` on another size, ``LookError``.
    """
    source = source or look.input
    if not 2 <= size <= GRID_LIMIT:
        raise ValueError(f"a grid has 2 to {GRID_LIMIT} points a side, not {size}")
    grid = apply(to_full(range_in), grid_colours(source, identity_grid(size)))
    key = f"grid {size} {range_in}"
    out = through(look, grid, source=source, trim=trim, strength=strength, tables=tables, cache=cache, cache_key=key)
    out = apply(from_full(range_out), out)
    return Lut(np.ascontiguousarray(out), shaper_for(source), title=title, comments=comments)


def bake_curves(look: Look, points: int = 4096, *, tables: Tables = no_tables, title: str = "", comments: tuple[str, ...] = ()) -> Lut:
    """The look as a pure 1-D LUT of ``points`` (2–65,536) a channel.

    Raises ``LookError`` where a channel's result depends on another channel: then only a grid can hold it.
    """
    if not 2 <= points <= SHAPER_LIMIT:
        raise ValueError(f"a 1-D LUT has 2 to {SHAPER_LIMIT:,} points, not {points}")
    probe = grid_colours(look.input, identity_grid(9))
    out = through(look, probe, tables=tables)
    # Axes blue, green, red: each channel may vary along its own axis alone.
    talk = [float(np.ptp(out[..., c], axis=tuple(a for a in range(3) if a != 2 - c)).max()) for c in range(3)]
    if max(talk) > 1e-4:
        name = ("red", "green", "blue")[int(np.argmax(talk))]
        raise LookError(f"The look mixes channels ({name} changes with another one): a 1-D LUT cannot hold it. Bake a 3-D one.")
    ramp = np.repeat(np.linspace(0, 1, points, dtype=np.float32)[:, None], 3, axis=1)
    values = through(look, grid_colours(look.input, ramp), tables=tables)
    high = np.full(3, 1.0, dtype=np.float32)
    if encoding(look.input).response == "linear":
        light = np.linspace(0, PEAK, points, dtype=np.float64).astype(np.float32)
        values, high = through(look, np.repeat(light[:, None], 3, axis=1), tables=tables), np.full(3, PEAK, dtype=np.float32)
    return Lut(None, Shaper(np.ascontiguousarray(values), high=high), title=title, comments=comments)
