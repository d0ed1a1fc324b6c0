"""What each part of a delivery is made from, and how."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from saucer_core.arrays import F32
from saucer_core.baking.bake import bake, bake_for_clip, grid_for
from saucer_core.baking.correction import said_as_cdl
from saucer_core.baking.deviation import Measuring
from saucer_core.encodings import SdrWhite, encoding
from saucer_core.finish.render import finish
from saucer_core.formats import cdl, ocio_config, recipe
from saucer_core.formats.clip_writing import CLIP_KINDS, ClipWork, render
from saucer_core.formats.registry import format_for
from saucer_core.operations import Operation, apply
from saucer_core.program import Program
from saucer_core.readings.evenness import lost
from saucer_core.stack import Layer, stacked
from saucer_core.treatment import Treatment, delivering
from saucer_core.trim import Trim

from ..bakes.finished import PICTURE_KINDS
from ..bakes.finished import write as write_picture
from ..bench.pictures import rendered
from ..bench.pictures import still as screen_still
from ..clips import rules as clips
from ..frames import rules as frames
from ..looks import rules as looks
from ..luts.rules import table
from ..sheets.pages import Line, page
from .plan import Plan

#: Pixels: width of the pictures that tables and losses are measured on.
MEASURED = 480
#: Pixels: width of the pictures on the contact sheet.
SHEET = 320

Alive = Callable[[], None]


@dataclass(frozen=True)
class Made:
    """Files, each with what is appended to the path of the piece; and what was measured, in plain words and
    numbers."""

    files: list[tuple[str, Path]]
    facts: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class Maker:
    """made_of: everything that the files depend on, as JSON takes it. make: into a folder; the second one
    keeps lengths of a clip."""

    made_of: Callable[[dict[str, Any], Plan], Any]
    make: Callable[[dict[str, Any], Plan, Path, Path, Alive], Made]


def _layers(spec: dict[str, Any]) -> list[Layer]:
    found = []
    for pk, strength in spec["layers"]:
        revision = looks.find_revision(pk)
        found.append(Layer(looks.recipe_of(revision), strength, revision.look.name, revision.number))
    return found


def look_of(spec: dict[str, Any]) -> looks.LookValue:
    """The look of a shot's or stack's layers, strengths included."""
    return stacked(_layers(spec))


def _digests(spec: dict[str, Any]) -> list[list[Any]]:
    return [[looks.find_revision(pk).digest, strength] for pk, strength in spec["layers"]]


def _of_shot(shot: dict[str, Any]) -> list[Any]:
    return [_digests(shot), shot["digest"], shot["encoding"], shot["trim"]]


def _about(spec: dict[str, Any], source: str, out: str) -> tuple[str, ...]:
    """The comment lines a table carries."""
    lines = []
    for pk, strength in spec["layers"]:
        revision = looks.find_revision(pk)
        eased = f" at {strength:.0%}" if strength < 1 else ""
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


#: Colours of the cube that a table is measured on: two to this power.
MEASURING = 14


def _look_lut(spec: dict[str, Any], plan: Plan, folder: Path, _: Path, alive: Alive) -> Made:
    look = look_of(spec)
    title = " + ".join(f"{name} r{number}" for name, number, _ in spec["looks"])
    program = Treatment(look, goes_out=spec["out"], sdr_white=plan.white).compile(table)
    return _write(
        program, grid_for(program, plan.grid), title, _about(spec, look.input, spec["out"]), (), folder
    )


def _frame(shot: dict[str, Any]) -> frames.Frame:
    return frames.find(shot["frame"])


def _shot_lut(spec: dict[str, Any], plan: Plan, folder: Path, _: Path, alive: Alive) -> Made:
    shot = spec["shot"]
    trim, frame = Trim.model_validate(shot["trim"]), _frame(shot)
    program = Treatment(
        look_of(shot), shot["encoding"], trim, goes_out=spec["out"], sdr_white=plan.white
    ).compile(table)
    about = (
        *_about(shot, shot["encoding"], spec["out"]),
        f"With the trim of shot {shot['number']}, {shot['name']}",
    )
    made = _write(
        program,
        grid_for(program, plan.grid),
        f"{shot['name']}, {shot['words']}",
        about,
        [frames.original(frame, MEASURED)],
        folder,
    )
    return Made(made.files, {**made.facts, **({"trim": "inside"} if trim != Trim() else {})})


def _way(look: looks.LookValue, out: str, white: SdrWhite) -> list[Operation]:
    """What brings that which a look gives to the encoding that it goes out in."""
    return [] if out == look.output else delivering(encoding(look.output), encoding(out), white)


def shown(shot: dict[str, Any], width: int) -> F32:
    """A shot under its look, without its finish, in what the look gives."""
    return rendered(look_of(shot), _frame(shot), width, trim=Trim.model_validate(shot["trim"]))


def _left_out(what: Sequence[str]) -> dict[str, str]:
    return {"left out": "; ".join(what)} if what else {}


def _still(spec: dict[str, Any], plan: Plan, folder: Path, _: Path, alive: Alive) -> Made:
    kind, shot = PICTURE_KINDS[plan.picture], spec["shot"]
    path, frame, own = folder / f"still{kind.suffix}", _frame(shot), look_of(shot)
    left = write_picture(
        own,
        frame,
        Trim.model_validate(shot["trim"]),
        path,
        kind,
        with_finish=plan.finish,
        out=_way(own, spec["out"], plan.white),
        gives=spec["out"],
        name=shot["digest"],
        source=shot["encoding"],
    )
    gone = lost(shown(shot, MEASURED), own.output, spec["out"])
    facts = {
        "size": f"{frame.width} × {frame.height}",
        "outside the gamut": f"{gone.gamut:.1%}",
        "brighter than white": f"{gone.lights:.1%}",
        "finish": "with it" if plan.finish and own.finish.active() else "none",
        **_left_out(left),
    }
    return Made([(kind.suffix, path)], facts)


def _clip(spec: dict[str, Any], plan: Plan, folder: Path, lengths: Path, alive: Alive) -> Made:
    kind, shot = CLIP_KINDS[plan.clip], spec["shot"]
    clip = clips.whole(shot["clip"])
    look, trim = look_of(shot), Trim.model_validate(shot["trim"])
    ends = with_finish(look, shot, spec["out"], plan.white) if plan.finish and look.finish.active() else None
    program = Treatment(
        look, shot["encoding"], trim, goes_out="" if ends else spec["out"], sdr_white=plan.white
    ).compile(table)
    seen = clips.found(clip).facts
    lut = bake_for_clip(program, seen.full_range, seen.depth)
    exact = (
        Measuring(program, [frames.original(_frame(shot), MEASURED)], power=MEASURING)
        .report(lut, "tetrahedral")
        .shown
    )
    path = folder / f"clip{kind.suffix}"
    with clips.on_disk(clip) as source:
        work = ClipWork(
            source,
            clips.found(clip),
            shot["first"],
            shot["last"],
            tuple(lut.operations()),
            encoding(spec["out"]),
            kind,
            ends,
        )
        left = render(work, lengths, path, lambda done, count: alive())
    facts = {
        "frames": shot["last"] - shot["first"] + 1,
        "kind": kind.label,
        "table": lut.size,
        "99 % under ΔE": round(exact.delta_99, 3),
        "finish": "with it" if ends else "none",
        **_left_out(left),
        **({"doubts": "; ".join(seen.doubts)} if seen.doubts else {}),
    }
    return Made([(kind.suffix, path)], facts)


def with_finish(
    look: looks.LookValue, shot: dict[str, Any], out: str, white: SdrWhite
) -> Callable[[F32, int], F32]:
    """What is done to each whole picture of a clip after its look: the finish, and the way to the encoding it
    goes out in."""
    way = delivering(encoding(look.output), encoding(out), white) if out != look.output else []

    def ends(rgb: F32, number: int) -> F32:
        made = finish(rgb, look.finish, look.output, f"{shot['digest']} {number}")
        return apply(way, made) if way else made

    return ends


def _cdl(spec: dict[str, Any], plan: Plan, folder: Path, _: Path, alive: Alive) -> Made:
    kept, without = [], []
    for shot in spec["shots"]:
        alive()
        said = said_as_cdl(
            Trim.model_validate(shot["trim"]), shot["encoding"], frames.original(_frame(shot), MEASURED // 2)
        )
        name = f"{shot['number']:03d} {shot['name']}"
        if said.enough:
            words = f"trim of {name}, on {encoding(shot['encoding']).label}, without clamps"
            off = f"; stands for the trim within ΔE {said.delta_99:.2f} (99 %)" if said.delta_largest else ""
            kept.append(cdl.NamedCorrection(said.correction, f"{shot['number']:03d}", words + off))
        else:
            without.append(f"{name} (ΔE {said.delta_99:.1f})")
    path = folder / "trims.ccc"
    path.write_text(cdl.write_text(kept, ".ccc"), encoding="utf-8")
    facts: dict[str, Any] = {"trims": f"{len(kept)} of {len(spec['shots'])}"}
    if without:
        facts["no CDL comes near"] = ", ".join(without)
    return Made([("", path)] if kept else [], facts)


def _ocio(spec: dict[str, Any], plan: Plan, folder: Path, _: Path, alive: Alive) -> Made:
    named = []
    for stack in spec["stacks"]:
        name = " + ".join(f"{n} r{k}" for n, k, _ in stack["looks"])
        named.append(
            ocio_config.NamedLook(
                name, look_of(stack), name, plan.grid, goes_out=spec["out"], sdr_white=plan.white
            )
        )
    for shot in spec["shots"]:
        alive()
        name = f"{shot['number']:03d} {shot['name']}"
        named.append(
            ocio_config.NamedLook(
                name,
                look_of(shot),
                f"{shot['words']}, with the trim of the shot",
                plan.grid,
                shot["encoding"],
                Trim.model_validate(shot["trim"]),
                spec["out"],
                plan.white,
            )
        )
    ocio_config.write(folder, named, tables=table)
    files = sorted(p for p in folder.rglob("*") if p.is_file())
    return Made(
        [(f"/{p.relative_to(folder)}", p) for p in files],
        {"looks": len(spec["stacks"]), "shots": len(spec["shots"])},
    )


def _recipe(spec: dict[str, Any], plan: Plan, folder: Path, _: Path, alive: Alive) -> Made:
    revision = looks.find_revision(spec["revision"])
    path = folder / "look"
    text = recipe.dumps(looks.recipe_of(revision), name=revision.look.name, note=revision.note, tables=table)
    path.write_text(text, encoding="utf-8")
    return Made(
        [("", path)], {"status": revision.status, "may be passed on": revision.look.rights or "not said"}
    )


def _sheet(spec: dict[str, Any], plan: Plan, folder: Path, _: Path, alive: Alive) -> Made:
    lines = []
    for shot in spec["shots"]:
        alive()
        frame, trim = _frame(shot), Trim.model_validate(shot["trim"])
        look = look_of(shot)
        frame.trim = shot["trim"]
        after = screen_still(look, look.digest(), frame, SHEET, trim=trim)
        lines.append(
            Line(
                f"{shot['number']} {shot['name']}",
                shot["words"],
                shot["scene"],
                [],
                [frames.still(frame, SHEET, True), after],
            )
        )
    path = folder / "sheet.html"
    path.write_bytes(page("Shots", f"{len(lines)} shots", ["Trimmed", "Delivered"], lines))
    return Made([("", path)])


def _plain_name(shot: dict[str, Any]) -> list[Any]:
    return [shot["number"], shot["name"], shot["words"]]


MAKERS: dict[str, Maker] = {
    "looks": Maker(
        lambda s, p: [
            _digests(s),
            s["looks"],
            s["out"],
            p.grid,
            p.white,
            _about(s, s["out"], s["out"]),
        ],
        _look_lut,
    ),
    "shots": Maker(
        lambda s, p: [
            _of_shot(s["shot"]),
            _plain_name(s["shot"]),
            s["out"],
            p.grid,
            p.white,
            _about(s["shot"], s["out"], s["out"]),
        ],
        _shot_lut,
    ),
    "stills": Maker(lambda s, p: [_of_shot(s["shot"]), s["out"], p.picture, p.finish, p.white], _still),
    "clips": Maker(
        lambda s, p: [
            _of_shot(s["shot"]),
            clips.whole(s["shot"]["clip"]).digest,
            s["shot"]["first"],
            s["shot"]["last"],
            s["out"],
            p.clip,
            p.finish,
            p.white,
        ],
        _clip,
    ),
    "cdl": Maker(
        lambda s, p: [[x["digest"], x["encoding"], x["trim"], x["number"], x["name"]] for x in s["shots"]],
        _cdl,
    ),
    "ocio": Maker(
        lambda s, p: [[[_of_shot(x), _plain_name(x)] for x in s["shots"]], s["out"], p.grid, p.white], _ocio
    ),
    "recipes": Maker(
        lambda s, p: [looks.find_revision(s["revision"]).digest, *_revision(s["revision"])], _recipe
    ),
    "sheet": Maker(lambda s, p: [[_of_shot(x), _plain_name(x), x["scene"]] for x in s["shots"]], _sheet),
}


def _revision(pk: int) -> list[str]:
    revision = looks.find_revision(pk)
    return [revision.look.name, revision.note, revision.look.rights, revision.status]


def losses(shots: Sequence[dict[str, Any]], target: str) -> list[tuple[int, float, float]]:
    """What each shot loses in an encoding: its number, the shares of its picture outside the gamut, and
    brighter than white."""
    found = []
    for shot in shots:
        own = look_of(shot).output
        gone = lost(shown(shot, MEASURED // 2), own, target)
        found.append((shot["number"], gone.gamut, gone.lights))
    return found


def screened(shot: dict[str, Any], width: int) -> bytes:
    """A shot as it is delivered, JPEG for the screen."""
    frame, look = _frame(shot), look_of(shot)
    frame.encoding = shot["encoding"]
    return screen_still(look, look.digest(), frame, width, trim=Trim.model_validate(shot["trim"]))


__all__ = ["MAKERS", "Made", "Maker", "look_of", "losses", "screened", "shown"]
