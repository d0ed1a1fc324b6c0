"""``carrier``: a picture that holds every colour of a grid."""

from pathlib import Path

import click

from ..baking.bake import bake
from ..formats import carrier, pictures, recipe
from ..treatment import Treatment
from .shared import LOOK_FILE, PATH, Answer, answering, present


@click.command("carrier")
@click.option(
    "-o", "--output", type=PATH, required=True, help=f"The picture to write ({', '.join(carrier.DEPTHS)})."
)
@click.option(
    "--layout",
    type=click.Choice(["hald", "strip", "tiles"]),
    default="hald",
    help="How the colours are laid out.",
)
@click.option("--size", type=int, help="Level of a Hald (8 where not given), else points a side (64).")
@click.option(
    "--depth", type=click.Choice(["uint8", "uint16", "float"]), default="uint16", help="Of the picture."
)
@click.option("--look", type=LOOK_FILE, help="A recipe: with this look on it.")
@click.option(
    "--beside",
    type=PATH,
    help="A picture to show beside it, so that the other program shows both; scaled to its height.",
)
@answering
def command(
    output: Path, layout: str, size: int | None, depth: str, look: Path | None, beside: Path | None
) -> Answer:
    """Write a picture that holds every colour of a grid once."""
    arrangement = carrier.arrangement_of(layout, size or (8 if layout == "hald" else 64))
    grid = None
    if look is not None:
        found = recipe.read(present(look))
        grid = bake(Treatment(found.look).compile(found.tables), arrangement.grid).grid
    shown = (
        carrier.fitted_beside(pictures.read(present(beside))[0], arrangement) if beside is not None else None
    )
    carrier.write(output, arrangement, depth, grid, shown)
    sizes = {"grid": arrangement.grid, "width": arrangement.width, "height": arrangement.height}
    return {"file": str(output), "layout": layout, **sizes}
