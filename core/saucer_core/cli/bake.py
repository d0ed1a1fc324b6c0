"""``bake``: a LUT file from a look recipe."""

import json
from dataclasses import asdict
from functools import partial
from pathlib import Path

import click

from ..baking.bake import USUAL_GRIDS, bake, bake_curves
from ..baking.deviation import Measuring, choices, costliest_step
from ..baking.fit import fit
from ..checks import checks
from ..encodings.code_range import CodeRange
from ..errors import FileError
from ..formats import cdl, clf, cube, recipe
from ..formats.files import whole_text
from ..formats.registry import format_of, write_table
from ..readings.traits import traits
from ..tables.health import health
from ..tables.interpolate import Interpolation
from ..tables.lut import GRID_LIMIT, Lut
from ..treatment import Treatment
from .shared import (
    ENCODING,
    LOOK_FILE,
    PATH,
    RANGE,
    SHARE,
    WRITES,
    Answer,
    answering,
    arriving,
    picture_files,
    present,
    refuse,
)


@click.command("bake")
@click.argument("look", type=LOOK_FILE)
@click.option("-o", "--output", type=PATH, required=True, help=f"The file to write, ending in {WRITES}.")
@click.option("--grid", type=click.IntRange(2, GRID_LIMIT), default=33, help="Points a side.")
@click.option(
    "--fitted",
    is_flag=True,
    help="A table fitted to lie nearest to the look between its points, instead of sampled on them.",
)
@click.option(
    "--curves",
    type=int,
    default=0,
    metavar="POINTS",
    help="A pure 1-D LUT, where the look mixes no channels.",
)
@click.option("--exact", is_flag=True, help="Exact operations instead of a table (.clf, .cc, .ccc, .cdl).")
@click.option(
    "--interpolation",
    type=click.Choice(["tetrahedral", "trilinear"]),
    default="tetrahedral",
    help="How readers will read it.",
)
@click.option("--strength", type=SHARE, default=1.0, help="Over the look's own.")
@click.option(
    "--for",
    "source",
    type=ENCODING,
    help="The encoding of the pictures it is for; else what the look comes in as.",
)
@click.option("--range-in", type=RANGE, default="full", help="Code range of the pictures it is used on.")
@click.option("--range-out", type=RANGE, default="full", help="Code range of what it gives.")
@click.option("--title", default="", help="Else the look's name.")
@click.option("--rights", default="", help="Who may use and pass it on; written into the file.")
@click.option("--description", default="", help="Written into the file.")
@click.option(
    "--frames",
    type=PATH,
    multiple=True,
    help="A picture, or folder of pictures, that the error is measured on as well.",
)
@click.option(
    "--encoding",
    type=ENCODING,
    help="The encoding of those pictures; else linear for EXR and sRGB for others.",
)
@click.option("--report", type=PATH, help="Write all that was measured to this file, as JSON.")
@answering
def command(
    look: Path,
    output: Path,
    grid: int,
    fitted: bool,
    curves: int,
    exact: bool,
    interpolation: Interpolation,
    strength: float,
    source: str | None,
    range_in: CodeRange,
    range_out: CodeRange,
    title: str,
    rights: str,
    description: str,
    frames: tuple[Path, ...],
    encoding: str | None,
    report: Path | None,
) -> Answer:
    """Make a LUT file from a look recipe."""
    found = recipe.read(present(look))
    known = format_of(output.name)
    about: Answer = {
        "title": title or found.name,
        "comments": tuple(x for x in (f"Rights: {rights}" if rights else "", description) if x),
    }
    unused = [
        ("--report", report is not None),
        ("--frames", bool(frames)),
        ("--range-in", range_in != "full"),
    ]
    unused += [("--range-out", range_out != "full"), ("--for", source is not None), ("--fitted", fitted)]
    if exact:
        refuse(
            [*unused, ("--strength", strength < 1), ("--curves", curves > 0)],
            "exact operations are the look itself",
        )
        if known.key not in ("clf", "cdl"):
            raise FileError(output.name, "exact operations are written as .clf, or as .cc, .ccc, .cdl")
        if known.key == "clf":
            text = clf.exact_text(found.look, tables=found.tables, **about)
        else:
            one = cdl.NamedCorrection(
                cdl.correction_of(found.look), about["title"], " ".join(about["comments"])
            )
            text = cdl.write_text([one], output.suffix.lower())
        whole_text(output, text)
        return {"file": str(output), "exact": True}
    refuse(
        [("--encoding", encoding is not None and not frames)],
        "it is that of the pictures given with --frames",
    )
    program = Treatment(found.look, source or "", strength=strength).compile(found.tables)
    if curves:
        refuse(unused, "a 1-D LUT is not measured")
        table = bake_curves(program, curves, **about)
        write_table(output, table)
        return {"file": str(output), "points": curves, **_left_out(known.key, table)}
    seen = [arriving(p, encoding, program.source.key) for p in picture_files(frames)]
    make = partial(fit, program, grid, pictures=seen) if fitted else partial(bake, program, grid)
    lut = make(range_in=range_in, range_out=range_out, **about)
    write_table(output, lut)
    measuring = Measuring(program, seen)
    deviation = measuring.compare(make(), interpolation)
    answer: Answer = {
        "file": str(output),
        "grid": grid,
        "interpolation": interpolation,
        "method": "fitted" if fitted else "sampled",
        "deviation": deviation.as_dict(),
    }
    if fitted:
        answer["sampled"] = measuring.compare(bake(program, grid), interpolation).as_dict()
    if report is not None:
        offered = choices(program, sizes=sorted({*USUAL_GRIDS, grid}), pictures=seen)
        in_look = [arriving(p, encoding, found.look.input) for p in picture_files(frames)] if source else seen
        whole: Answer = {
            **answer,
            "choices": [{**asdict(c), "deviation": c.deviation.as_dict()} for c in offered],
            "recommended": next(c.grid for c in offered if c.recommended),
            "costliest step": costliest_step(program, grid),
            "health": health(lut).as_dict(),
            "traits": traits(found.look, tables=found.tables).as_dict(),
            "checks": [asdict(c) for c in checks(found.look, in_look, tables=found.tables)],
        }
        whole_text(report, json.dumps(whole, indent=1, ensure_ascii=False) + "\n")
    return {**answer, **_left_out(known.key, lut)}


def _left_out(key: str, table: Lut) -> Answer:
    missing = cube.left_out(table) if key == "cube" else []
    return {"left out": missing} if missing else {}
