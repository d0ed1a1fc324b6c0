"""``pair``: a look from a picture and the same one treated."""

from dataclasses import asdict
from pathlib import Path

import click
import numpy as np

from ..baking.pair import pair
from ..formats import pictures
from ..formats.registry import write_table
from .shared import ENCODING, FOUND_WANTING, PATH, WRITES, Answer, answering, present, told

#: Below this share of the change a look is not what happened.
LITTLE = 0.5


@click.command("pair")
@click.argument("before", type=PATH)
@click.argument("after", type=PATH)
@click.option("-o", "--output", type=PATH, help=f"The table to write ({WRITES}).")
@click.option(
    "--expects", type=ENCODING, default="bt709_display", help="The encoding of the untouched picture."
)
@click.option("--gives", type=ENCODING, default="bt709_display", help="The encoding of the treated one.")
@click.option(
    "--unexplained", type=PATH, help="Write what no look explains as a picture, white from 8 of 255 on."
)
@answering
def command(
    before: Path, after: Path, output: Path | None, expects: str, gives: str, unexplained: Path | None
) -> Answer:
    """Take a look from a picture and the same one treated; exit status 3 where a look explains less than half
    of the change."""
    untouched, treated = (pictures.read(present(p))[0] for p in (before, after))
    told("laying the two over each other")
    found = pair(untouched, treated, expects, gives, title=after.stem)
    answer: Answer = {
        "share": round(found.share, 4),
        "change": round(found.change, 3),
        "left": round(found.left, 3),
        "shift": [round(v, 2) for v in found.shift],
        "scale": round(found.scale, 4),
        "seen": round(found.seen, 4),
        "findings": [asdict(f) for f in found.findings],
    }
    if unexplained is not None:
        off = np.clip(np.abs(found.unexplained).max(axis=-1, keepdims=True) * (255 / 8), 0, 1)
        pictures.write(unexplained, np.repeat(off, 3, axis=-1).astype(np.float32), "uint8")
        answer["picture"] = str(unexplained)
    if output is not None:
        write_table(output, found.lut)
        answer["file"] = str(output)
    return {**answer, **({"status": FOUND_WANTING} if found.share < LITTLE else {})}
