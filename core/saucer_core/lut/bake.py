"""Baking: a look as a table, and how far the table is from the look."""

from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
from scipy.stats import qmc

from ..arrays import F32
from ..encodings import encoding
from ..encodings.film_log import FILM_LOG, PEAK
from ..look import Look, PrefixCache
from ..steps import Tables, no_tables
from ..trim import Trim, through
from .lut import GRID_LIMIT, SHAPER_LIMIT, Lut, Shaper, identity_grid

#: Ten-bit code values: the unit of the errors.
CODES = 1023


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
    title: str = "",
    comments: tuple[str, ...] = (),
    cache: PrefixCache | None = None,
) -> Lut:
    """The look on a grid of ``size`` (2–129) points a side, for colours in ``source`` (the look's input where not given).

    A trim is done before the look, in ``source``. Raises ``ValueError`` on another size, ``LookError``.
    """
    source = source or look.input
    if not 2 <= size <= GRID_LIMIT:
        raise ValueError(f"a grid has 2 to {GRID_LIMIT} points a side, not {size}")
    grid = grid_colours(source, identity_grid(size))
    out = through(look, grid, source=source, trim=trim, strength=strength, tables=tables, cache=cache, cache_key=f"grid {size}")
    return Lut(np.ascontiguousarray(out), shaper_for(source), title=title, comments=comments)


@dataclass(frozen=True)
class Deviation:
    """How far a table is from the look, in ten-bit code values of the output, over 0–1 of the table's reach.

    worst_in and worst_look and worst_table: the colour where it is worst, as it comes in, and as look and table give it.
    """

    largest: float
    mean: float
    share_under_one: float
    worst_in: tuple[float, float, float]
    worst_look: tuple[float, float, float]
    worst_table: tuple[float, float, float]

    def as_dict(self) -> dict[str, Any]:
        """Plain numbers, for JSON."""
        return asdict(self)


def _three(rgb: F32) -> tuple[float, float, float]:
    return round(float(rgb[0]), 6), round(float(rgb[1]), 6), round(float(rgb[2]), 6)


def measuring_points() -> F32:
    """2¹⁶ Sobol points of the unit cube and a grey ramp of 1,024 steps, float32 ``(n, 3)``."""
    sobol = qmc.Sobol(3, scramble=False).random_base2(16).astype(np.float32)
    grey = np.repeat(np.linspace(0, 1, 1024, dtype=np.float32)[:, None], 3, axis=1)
    return np.concatenate([sobol, grey])


def measure(
    look: Look,
    lut: Lut,
    *,
    tables: Tables = no_tables,
    strength: float = 1.0,
    source: str | None = None,
    trim: Trim | None = None,
) -> Deviation:
    """Compares the look with its table as a reader would interpolate it, both clipped to the 0–1 a file is shown in."""
    rgb = grid_colours(source or look.input, measuring_points())
    exact = np.clip(through(look, rgb, source=source, trim=trim, strength=strength, tables=tables), 0, 1)
    read = np.clip(lut.apply(rgb), 0, 1)
    off = np.abs(exact - read).max(axis=1) * CODES
    worst = int(off.argmax())
    return Deviation(
        largest=float(off[worst]),
        mean=float(off.mean()),
        share_under_one=float((off < 1).mean()),
        worst_in=_three(rgb[worst]),
        worst_look=_three(exact[worst]),
        worst_table=_three(read[worst]),
    )
