"""``capture``: a look taken from a carrier that was brought back."""

from pathlib import Path

import click

from ..formats import carrier
from ..formats.registry import write_table
from .shared import FOUND_WANTING, PATH, WRITES, Answer, answering, present


@click.command("capture")
@click.argument("picture", type=PATH)
@click.option("-o", "--output", type=PATH, help=f"The table to write ({WRITES}).")
@click.option("--smooth", is_flag=True, help="Take the smoothing that is offered.")
@click.option("--as-it-is", is_flag=True, help="Write the table whatever was found.")
@answering
def command(picture: Path, output: Path | None, smooth: bool, as_it_is: bool) -> Answer:
    """Take a look from a carrier that was brought back; exit status 3 where it cannot be relied on."""
    found = carrier.read(present(picture))
    answer = found.as_dict()
    lut = found.smoothed if found.verdict == "smooth" and smooth else found.lut
    wanting = found.verdict == "refuse" or (found.verdict == "smooth" and not smooth and not as_it_is)
    if lut is not None and output is not None and (not wanting or as_it_is):
        write_table(output, lut)
        answer["file"] = str(output)
        wanting = False
    return {**answer, **({"status": FOUND_WANTING} if wanting else {})}
