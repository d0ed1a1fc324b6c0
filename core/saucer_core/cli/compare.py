"""``compare``: how far apart two looks or LUTs are."""

from collections.abc import Callable
from pathlib import Path

import click
import numpy as np

from ..arrays import F32
from ..baking.deviation import measuring_points
from ..difference import difference, metric_of
from ..encodings import encoding as encoding_of
from ..errors import LookError
from ..formats import recipe
from ..formats.registry import read_table
from ..treatment import Treatment
from .shared import (
    ENCODING,
    FOUND_WANTING,
    PATH,
    Answer,
    answering,
    arriving,
    is_recipe,
    picture_files,
    present,
    refuse,
)


@click.command("compare")
@click.argument("first", type=PATH, metavar="LOOK|LUT")
@click.argument("second", type=PATH, metavar="LOOK|LUT")
@click.option(
    "--frames",
    type=PATH,
    multiple=True,
    help="Compare on this picture, or folder of pictures; else all over the cube.",
)
@click.option(
    "--encoding",
    type=ENCODING,
    help="The encoding of those pictures; else linear for EXR and sRGB for others.",
)
@click.option("--limit", type=float, help="Exit status 3 where the largest difference lies above it.")
@answering
def command(
    first: Path, second: Path, frames: tuple[Path, ...], encoding: str | None, limit: float | None
) -> Answer:
    """Say how far apart two looks or LUTs are."""
    refuse(
        [("--encoding", encoding is not None and not frames)],
        "it is that of the pictures given with --frames",
    )
    (one, a_in, a_out), (other, b_in, b_out) = _side(first), _side(second)
    if a_in and b_in and (a_in, a_out) != (b_in, b_out):
        raise LookError(f"They do not compare: one takes {a_in} to {a_out}, the other {b_in} to {b_out}.")
    rgb = measuring_points()
    if frames:
        rgb = np.concatenate(
            [arriving(p, encoding, a_in or b_in or "srgb").reshape(-1, 3) for p in picture_files(frames)]
        )
    at = encoding_of(a_out or b_out or "bt709_display")
    here, there = np.clip(one(rgb), 0, 1), np.clip(other(rgb), 0, 1)
    delta = difference(here, there, at)
    worst = int(delta.argmax())
    answer: Answer = {
        "metric": metric_of(at),
        "mean": float(delta.mean()),
        "95 %": float(np.percentile(delta, 95)),
        "largest": float(delta[worst]),
        "largest code difference of 1023": float(np.abs(here - there).max() * 1023),
        "worst": {"in": rgb[worst].tolist(), "first": here[worst].tolist(), "second": there[worst].tolist()},
    }
    return {
        **answer,
        **({"status": FOUND_WANTING} if limit is not None and answer["largest"] > limit else {}),
    }


def _side(path: Path) -> tuple[Callable[[F32], F32], str, str]:
    if is_recipe(path):
        found = recipe.read(present(path))
        return Treatment(found.look).compile(found.tables), found.look.input, found.look.output
    return read_table(present(path)).apply, "", ""
