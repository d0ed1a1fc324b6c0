"""``inspect``: what a file holds."""

from dataclasses import asdict
from pathlib import Path

import click

from ..arrays import F32
from ..checks import checks
from ..encodings.registry import known
from ..errors import LookError
from ..formats import cdl, incoming, pictures, recipe, xml
from ..formats.developing import develop
from ..formats.registry import read_table
from ..look import every_step
from ..readings.sheet import sheet
from ..readings.traits import traits
from ..tables.health import health
from ..tables.lut import Lut
from .shared import ENCODING, PATH, Answer, answering, is_recipe, present, refuse


@click.command("inspect")
@click.argument("file", type=PATH)
@click.option(
    "--plot",
    type=PATH,
    help="Draw what a look or LUT does to this picture file: saucer, grey axis, slices of the cube.",
)
@click.option("--expects", type=ENCODING, help="For --plot, what a LUT expects; else what is guessed.")
@click.option("--gives", type=ENCODING, help="For --plot, what a LUT gives; else what is guessed.")
@answering
def command(file: Path, plot: Path | None, expects: str | None, gives: str | None) -> Answer:
    """Say what a file holds: a look, a LUT, a CDL, or a picture."""
    present(file)
    refuse(
        [("--expects", expects is not None), ("--gives", gives is not None)] if plot is None else [],
        "they are for --plot",
    )
    answer = _held(file)
    if plot is not None:
        answer |= _plotted(file, plot, expects, gives)
    return answer


def _plotted(file: Path, plot: Path, expects: str | None, gives: str | None) -> Answer:
    (one, *_) = incoming.read(file, file.name)
    read = one.read_as(expects or one.look.input, gives or one.look.output)
    with known(read.encodings):
        pictures.write(plot, sheet(read.look, tables=read.tables), "uint8")
    return {"plot": str(plot), "read as": [read.look.input, read.look.output]}


def _held(file: Path) -> Answer:
    if is_recipe(file):
        return _look(file)
    if file.suffix.lower() in develop.SUFFIXES:
        rgb, facts = develop.read(file)
        return {
            "kind": "picture",
            **{"format" if k == "kind" else k: v for k, v in asdict(facts).items()},
            **_span(rgb),
        }
    if file.suffix.lower() in cdl.SUFFIXES:
        found = cdl.corrections(xml.read_limited(file, file.name), file.name)
        return {
            "kind": "CDL",
            "corrections": [
                {"id": c.id, "description": c.description, **asdict(c.correction)} for c in found
            ],
        }
    table = read_table(file)
    about = {
        "kind": "LUT",
        "title": table.title,
        "grid": table.size,
        "comments": list(table.comments),
        "sha256": table.digest(),
    }
    if isinstance(table, Lut):
        shaper = 0 if table.shaper is None else len(table.shaper.values)
        about |= {"shaper": shaper, "interpolation": table.interpolation, **_domain(table)}
    return {**about, "health": health(table).as_dict()}


def _look(file: Path) -> Answer:
    found = recipe.read(file)
    answer: Answer = {
        "kind": "look",
        "name": found.name,
        "input": found.look.input,
        "output": found.look.output,
        "steps": [s.kind for s in every_step(found.look.steps)],  # type: ignore[attr-defined]
        "tables": len(found.luts),
    }
    try:
        answer["traits"] = traits(found.look, tables=found.tables).as_dict()
        answer["checks"] = [c.text for c in checks(found.look, tables=found.tables)]
    except LookError as error:
        answer["trouble"] = str(error)
    return answer


def _span(rgb: F32) -> Answer:
    return {"lowest": float(rgb.min()), "highest": float(rgb.max())}


def _domain(lut: Lut) -> Answer:
    values = lut.grid if lut.grid is not None else lut.shaper.values if lut.shaper is not None else None
    domain = lut.shaper if lut.shaper is not None else lut
    return {
        "domain": [domain.low.tolist(), domain.high.tolist()],
        **({} if values is None else _span(values)),
    }
