"""``convert``: a LUT file read and written anew, in another format too."""

from dataclasses import replace
from pathlib import Path

import click

from ..formats import cube
from ..formats.registry import format_of, read_table, write_table
from ..tables.lut import GRID_LIMIT, Lut, Table, sampled
from .shared import PATH, Answer, answering, present

#: Points a side of a table that has no grid of its own and has to be sampled.
GRID = 65


@click.command("convert")
@click.argument("source", type=PATH)
@click.argument("target", type=PATH)
@click.option("--grid", type=click.IntRange(2, GRID_LIMIT), help="Sample it anew on so many points a side.")
@click.option("--title", default="", help="Else what the file calls it.")
@answering
def command(source: Path, target: Path, grid: int | None, title: str) -> Answer:
    """Read a LUT file and write it anew, in another format too."""
    table = read_table(present(source))
    known = format_of(target.name)
    keeps = isinstance(table, Lut) or known.key in ("clf", "cdl")
    written: Table = table if keeps and not grid else sampled(table, grid or GRID)
    if title and isinstance(written, Lut):
        written = replace(written, title=title)
    write_table(target, written)
    answer: Answer = {
        "file": str(target),
        "grid": written.size,
        "sampled": (written is not table and grid is not None) or not keeps,
    }
    missing = cube.left_out(written) if known.key == "cube" and isinstance(written, Lut) else []
    return {**answer, **({"left out": missing} if missing else {})}
