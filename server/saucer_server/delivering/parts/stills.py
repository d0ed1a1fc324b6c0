"""Stills of full size, and the contact sheet."""

from typing import Any

from saucer_core.readings.evenness import lost
from saucer_core.treatment import way_out

from ...bakes.finished import PICTURE_KINDS
from ...bakes.finished import write as write_picture
from ...bench.pictures import still as screen_still
from ...frames import rules as frames
from ...sheets.pages import Line, page
from ..pieces import OfShot, OfShots
from ..plan import Plan
from ..screening import shown
from .maker import MEASURED, Made, Maker, Work, left_out

#: Pixels: width of the pictures on the contact sheet.
SHEET = 320


def _still_made_of(source: OfShot, plan: Plan) -> list[Any]:
    return [source.shot.made_of(), source.out, plan.picture, plan.finish, plan.white]


def _still(source: OfShot, work: Work) -> Made:
    shot, plan = source.shot, work.plan
    kind, frame, look = PICTURE_KINDS[plan.picture], shot.picture(), shot.look()
    path = work.folder / f"still{kind.suffix}"
    left = write_picture(
        look,
        frame,
        shot.trim,
        path,
        kind,
        with_finish=plan.finish,
        out=way_out(look, source.out, plan.white),
        gives=source.out,
        name=shot.digest,
        source=shot.encoding,
    )
    gone = lost(shown(shot, MEASURED), look.output, source.out)
    return Made(
        [(kind.suffix, path)],
        {
            "size": f"{frame.width} × {frame.height}",
            "outside the gamut": f"{gone.gamut:.1%}",
            "brighter than white": f"{gone.lights:.1%}",
            "finish": "with it" if plan.finish and look.finish.active() else "none",
            **left_out(left),
        },
    )


def _sheet_made_of(source: OfShots, _: Plan) -> list[Any]:
    return [[shot.made_of(), shot.named(), shot.scene] for shot in source.shots]


def _sheet(source: OfShots, work: Work) -> Made:
    lines = []
    for shot in source.shots:
        work.alive()
        frame, look = shot.picture(), shot.look()
        frame.trim = shot.trim
        after = screen_still(look, look.digest(), frame, SHEET, trim=shot.trim)
        pictures = [frames.still(frame, SHEET, True), after]
        lines.append(Line(shot.label, shot.words, shot.scene, [], pictures))
    path = work.folder / "sheet.html"
    path.write_bytes(page("Shots", f"{len(lines)} shots", ["Trimmed", "Delivered"], lines))
    return Made([("", path)])


STILLS = Maker(OfShot, _still_made_of, _still)
SHEETS = Maker(OfShots, _sheet_made_of, _sheet)
