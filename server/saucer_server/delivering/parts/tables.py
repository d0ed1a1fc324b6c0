"""Look LUTs and shot LUTs."""

from collections.abc import Sequence
from pathlib import Path
from typing import Any

from saucer_core.arrays import F32
from saucer_core.baking.bake import bake, grid_for
from saucer_core.baking.deviation import Measuring
from saucer_core.encodings import encoding
from saucer_core.formats.registry import format_for
from saucer_core.program import Program
from saucer_core.treatment import Treatment
from saucer_core.trim import Trim

from ...frames import rules as frames
from ...looks import rules as looks
from ...luts.rules import table
from ..pieces import OfLook, OfShot
from ..plan import Plan
from ..snapshots import Stack
from .maker import MEASURED, Made, Maker, Work

#: Colours of the cube that a table is measured on: two to this power.
MEASURING = 14


def _about(stack: Stack, source: str, out: str) -> tuple[str, ...]:
    """The comment lines that a table carries."""
    lines = []
    for one in stack.layers:
        revision = looks.find_revision(one.revision)
        eased = f" at {one.strength:.0%}" if one.strength < 1 else ""
        lines += [
            f"Look: {revision.look.name}, revision {revision.number}{eased}, by {revision.made_by}",
            f"Checksum of the look: {revision.digest}",
        ]
        if revision.look.rights:
            lines.append(f"Rights: {revision.look.rights}")
    return (*lines, f"Comes in as: {encoding(source).label}", f"Goes out as: {encoding(out).label}")


def _write(
    program: Program, grid: int, title: str, about: tuple[str, ...], shown: Sequence[F32], folder: Path
) -> Made:
    lut = bake(program, grid, title=title, comments=about)
    known = format_for(lut)
    path = folder / f"table{known.suffix}"
    path.write_text(known.text(lut), encoding="utf-8")
    measured = Measuring(program, list(shown), power=MEASURING).report(lut, "tetrahedral")
    seen = measured.shown
    # The error of code values belongs to the whole cube, which is what a program that reads the table will
    # compare.
    return Made(
        [(known.suffix, path)],
        {
            "grid": grid,
            "mean error ΔE": round(seen.delta_mean, 3),
            "99 % under ΔE": round(seen.delta_99, 3),
            "largest error": round(measured.cube.largest, 2),
            "measured on": "the shot" if shown else "the whole cube",
        },
    )


def _look_made_of(source: OfLook, plan: Plan) -> list[Any]:
    said = [[x.look, x.number, x.strength] for x in source.layers]
    about = _about(source, source.out, source.out)
    return [source.digests(), said, source.out, plan.grid, plan.white, about]


def _look(source: OfLook, work: Work) -> Made:
    look, plan = source.look(), work.plan
    title = " + ".join(one.label for one in source.layers)
    program = Treatment(look, goes_out=source.out, sdr_white=plan.white).compile(table)
    about = _about(source, look.input, source.out)
    return _write(program, grid_for(program, plan.grid), title, about, (), work.folder)


def _shot_made_of(source: OfShot, plan: Plan) -> list[Any]:
    shot = source.shot
    about = _about(shot, source.out, source.out)
    return [shot.made_of(), shot.named(), source.out, plan.grid, plan.white, about]


def _shot(source: OfShot, work: Work) -> Made:
    shot, plan = source.shot, work.plan
    treatment = Treatment(shot.look(), shot.encoding, shot.trim, goes_out=source.out, sdr_white=plan.white)
    program = treatment.compile(table)
    about = (*_about(shot, shot.encoding, source.out), f"With the trim of shot {shot.number}, {shot.name}")
    seen = [frames.original(shot.picture(), MEASURED)]
    grid = grid_for(program, plan.grid)
    made = _write(program, grid, f"{shot.name}, {shot.words}", about, seen, work.folder)
    return Made(made.files, made.facts if shot.trim == Trim() else {**made.facts, "trim": "inside"})


LOOK_LUTS = Maker(OfLook, _look_made_of, _look)
SHOT_LUTS = Maker(OfShot, _shot_made_of, _shot)
