"""The command line: ``python -m saucer_core bake | apply | inspect | convert | carrier | capture | compare | schema``.

Exit status: 0 done, 1 a file or look that cannot be used, 2 a wrong call, 3 something was found wanting (``capture`` refuses, a
``compare`` beyond ``--limit``).
"""

import argparse
import json
import sys
from collections.abc import Callable, Iterator
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

import numpy as np

from .arrays import F32
from .difference import difference, metric_of
from .encodings import ENCODINGS, encoding, meet
from .encodings.code_range import from_full, to_full
from .errors import CoreError, FileError, LookError
from .finish import finish
from .formats import carrier, cdl, clf, pictures, recipe
from .formats.registry import TABLE_FORMATS, format_of, read_table, write_table
from .look import evaluate, every_step
from .lut.bake import USUAL_GRIDS, bake, bake_curves
from .lut.deviation import Measuring, choices, costliest_step, measuring_points
from .lut.health import health
from .lut.lut import Lut, Table, sampled
from .operations import apply
from .readings.checks import checks
from .readings.traits import traits
from .steps.blend import Eased

FOUND_WANTING = 3


def _present(path: Path) -> Path:
    if not path.exists():
        raise FileError(str(path), "there is no such file")
    return path


def _is_recipe(path: Path) -> bool:
    return path.name.endswith(recipe.SUFFIX)


def _bake(args: argparse.Namespace) -> dict[str, Any]:
    source = recipe.read(_present(args.look))
    known = format_of(args.output.name)
    comments = tuple(x for x in (f"Rights: {args.rights}" if args.rights else "", args.description) if x)
    title = args.title or source.name
    common: dict[str, Any] = {"tables": source.tables, "title": title, "comments": comments}
    if args.exact:
        text = clf.exact_text(source.look, **common) if known.key == "clf" else ""
        if known.key == "cdl":
            one = cdl.NamedCorrection(cdl.correction_of(source.look), title, " ".join(comments))
            text = cdl.write_text([one], args.output.suffix.lower())
        if not text:
            raise FileError(args.output.name, "exact operations are written as .clf, or as .cc, .ccc, .cdl")
        from .formats.files import whole_text

        whole_text(args.output, text)
        return {"file": str(args.output), "exact": True}
    if args.curves:
        table = bake_curves(source.look, args.curves, **common)
        write_table(args.output, table)
        return {"file": str(args.output), "points": args.curves}
    ranges: dict[str, Any] = {"range_in": args.range_in, "range_out": args.range_out}
    lut = bake(source.look, args.grid, strength=args.strength, **ranges, **common)
    write_table(args.output, lut)
    seen = [_arriving(p, args.encoding, source.look.input) for p in _pictures(args.frames)] if args.frames else []
    plain = bake(source.look, args.grid, strength=args.strength, tables=source.tables)
    measuring = Measuring(source.look, tables=source.tables, strength=args.strength, pictures=seen)
    deviation = measuring.compare(plain, args.interpolation)
    answer = {"file": str(args.output), "grid": args.grid, "interpolation": args.interpolation, "deviation": deviation.as_dict()}
    if args.report:
        offered = choices(source.look, tables=source.tables, sizes=sorted({*USUAL_GRIDS, args.grid}), pictures=seen)
        report = {
            **answer, "choices": [{**asdict(c), "deviation": c.deviation.as_dict()} for c in offered],
            "recommended": next(c.grid for c in offered if c.recommended),
            "costliest step": costliest_step(source.look, args.grid, tables=source.tables),
            "health": health(lut).as_dict(), "traits": traits(source.look, tables=source.tables).as_dict(),
            "checks": [asdict(c) for c in checks(source.look, seen, tables=source.tables)],
        }  # fmt: skip
        args.report.write_text(json.dumps(report, indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
    return answer


def _pictures(paths: list[Path]) -> Iterator[Path]:
    """The picture files named, and those in the folders named."""
    for path in paths:
        if _present(path).is_dir():
            yield from sorted(p for p in path.iterdir() if p.suffix.lower() in pictures.SUFFIXES)
        else:
            yield path


def _usual(kind: str) -> str:
    return "linear_709" if kind == "EXR" else "srgb"


def _arriving(path: Path, given: str | None, wanted: str) -> F32:
    rgb, facts = pictures.read(path)
    return meet(rgb, encoding(given or _usual(facts.kind)), encoding(wanted))


def _apply(args: argparse.Namespace) -> dict[str, Any]:
    work = _through(args)
    if _present(args.picture).is_dir():
        return _apply_folder(args, work)
    return _apply_one(args.picture, args.output, args, work)


def _through(args: argparse.Namespace) -> Callable[[F32, str, str], F32]:
    """What is done to a picture: (pixels, kind of file, name) to pixels."""
    if _is_recipe(args.look):
        found = recipe.read(_present(args.look))
        look = found.look

        def by_look(rgb: F32, kind: str, name: str) -> F32:
            arrived = meet(rgb, encoding(args.encoding or _usual(kind)), encoding(look.input))
            out = evaluate(look, arrived, tables=found.tables, strength=args.strength)
            return finish(out, look.finish, look.output, name) if args.finish else out

        return by_look
    table = [*from_full(args.range_in), *read_table(_present(args.look)).operations(), *to_full(args.range_out)]
    steps = [Eased(table, [], "normal", args.strength)]
    return lambda rgb, kind, name: apply(steps, rgb)


def _apply_one(source: Path, target: Path, args: argparse.Namespace, work: Callable[[F32, str, str], F32]) -> dict[str, Any]:
    rgb, facts = pictures.read(_present(source))
    pictures.write(target, work(rgb, facts.kind, source.name), args.depth)
    return {"file": str(target), "width": facts.width, "height": facts.height, "depth": facts.depth}


def _apply_folder(args: argparse.Namespace, work: Callable[[F32, str, str], F32]) -> dict[str, Any]:
    sources = list(_pictures([args.picture]))
    if not sources:
        raise FileError(str(args.picture), f"holds no picture ({', '.join(pictures.SUFFIXES)})")
    args.output.mkdir(parents=True, exist_ok=True)
    failed: dict[str, str] = {}
    for k, source in enumerate(sources, 1):
        if not args.quiet:
            print(f"{k} of {len(sources)}: {source.name}", file=sys.stderr, flush=True)
        try:
            _apply_one(source, args.output / source.name, args, work)
        except FileError as error:
            failed[source.name] = error.reason
            print(f"saucer: {error}", file=sys.stderr)
    if failed:
        raise FileError(str(args.picture), f"{len(failed)} of {len(sources)} pictures could not be done: {', '.join(failed)}")
    return {"folder": str(args.output), "pictures": len(sources)}


def _inspect(args: argparse.Namespace) -> dict[str, Any]:
    path = _present(args.file)
    if _is_recipe(path):
        found = recipe.read(path)
        answer: dict[str, Any] = {
            "kind": "look", "name": found.name, "input": found.look.input, "output": found.look.output,
            "steps": [s.kind for s in every_step(found.look.steps)], "tables": len(found.luts),  # type: ignore[attr-defined]
        }  # fmt: skip
        try:
            answer["traits"] = traits(found.look, tables=found.tables).as_dict()
            answer["checks"] = [c.text for c in checks(found.look, tables=found.tables)]
        except LookError as error:
            answer["trouble"] = str(error)
        return answer
    if path.suffix.lower() in pictures.SUFFIXES:
        rgb, facts = pictures.read(path)
        return {"kind": "picture", **{"format" if k == "kind" else k: v for k, v in asdict(facts).items()}, **_span(rgb)}
    if path.suffix.lower() in cdl.SUFFIXES:
        found_all = cdl.corrections(path.read_text(encoding="utf-8-sig"), path.name)
        return {"kind": "CDL", "corrections": [{"id": c.id, "description": c.description, **asdict(c.correction)} for c in found_all]}
    table = read_table(path)
    about = {"kind": "LUT", "title": table.title, "grid": table.size, "comments": list(table.comments), "sha256": table.digest()}
    if isinstance(table, Lut):
        about |= {"shaper": 0 if table.shaper is None else len(table.shaper.values), **_domain(table)}
    return {**about, "health": health(table).as_dict()}


def _span(rgb: F32) -> dict[str, float]:
    return {"lowest": float(rgb.min()), "highest": float(rgb.max())}


def _domain(lut: Lut) -> dict[str, Any]:
    domain = lut.shaper if lut.shaper is not None else lut
    values = lut.grid if lut.grid is not None else domain.values  # type: ignore[union-attr]
    return {"domain": [domain.low.tolist(), domain.high.tolist()], **_span(values)}


def _convert(args: argparse.Namespace) -> dict[str, Any]:
    table = read_table(_present(args.source))
    target = format_of(args.target.name)
    keeps = isinstance(table, Lut) or target.key in ("clf", "cdl")
    written: Table = table if keeps and not args.grid else sampled(table, args.grid or 65)
    if args.title and isinstance(written, Lut):
        written = replace(written, title=args.title)
    write_table(args.target, written)
    return {"file": str(args.target), "grid": written.size, "sampled": written is not table}


def _carrier(args: argparse.Namespace) -> dict[str, Any]:
    size = args.size or (8 if args.layout == "hald" else 64)
    arrangement = carrier.arrangement_of(args.layout, size)
    grid = None
    if args.look:
        found = recipe.read(_present(args.look))
        grid = bake(found.look, arrangement.grid, tables=found.tables).grid
    carrier.write(args.output, arrangement, args.depth, grid)
    return {
        "file": str(args.output),
        "layout": args.layout,
        "grid": arrangement.grid,
        "width": arrangement.width,
        "height": arrangement.height,
    }


def _capture(args: argparse.Namespace) -> dict[str, Any]:
    found = carrier.read(_present(args.picture))
    answer = found.as_dict()
    lut = found.smoothed if found.verdict == "smooth" and args.smooth else found.lut
    wanting = found.verdict == "refuse" or (found.verdict == "smooth" and not args.smooth and not args.as_it_is)
    if lut is not None and args.output and (not wanting or args.as_it_is):
        write_table(args.output, lut)
        answer["file"] = str(args.output)
        wanting = False
    return {**answer, **({"status": FOUND_WANTING} if wanting else {})}


def _side(path: Path) -> tuple[Callable[[F32], F32], str, str]:
    if _is_recipe(path):
        found = recipe.read(_present(path))
        return (lambda rgb: evaluate(found.look, rgb, tables=found.tables)), found.look.input, found.look.output
    table = read_table(_present(path))
    return table.apply, "", ""


def _compare(args: argparse.Namespace) -> dict[str, Any]:
    (first, a_in, a_out), (second, b_in, b_out) = _side(args.first), _side(args.second)
    if a_in and b_in and (a_in, a_out) != (b_in, b_out):
        raise LookError(f"They do not compare: one takes {a_in} to {a_out}, the other {b_in} to {b_out}.")
    rgb = measuring_points()
    if args.frames:
        rgb = np.concatenate([_arriving(p, args.encoding, a_in or b_in or "srgb").reshape(-1, 3) for p in _pictures(args.frames)])
    at = encoding(a_out or b_out or "bt709_display")
    one, other = np.clip(first(rgb), 0, 1), np.clip(second(rgb), 0, 1)
    delta = difference(one, other, at)
    worst = int(delta.argmax())
    answer: dict[str, Any] = {
        "metric": metric_of(at), "mean": float(delta.mean()), "95 %": float(np.percentile(delta, 95)), "largest": float(delta[worst]),
        "largest code difference of 1023": float(np.abs(one - other).max() * 1023),
        "worst": {"in": rgb[worst].tolist(), "first": one[worst].tolist(), "second": other[worst].tolist()},
    }  # fmt: skip
    if args.limit is not None and answer["largest"] > args.limit:
        answer["status"] = FOUND_WANTING
    return answer


def _schema(args: argparse.Namespace) -> dict[str, Any]:
    args.json = True
    return recipe.schema()


def _share(text: str) -> float:
    value = float(text)
    if not 0 <= value <= 1:
        raise argparse.ArgumentTypeError("a strength lies between 0 and 1")
    return value


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="python -m saucer_core", description="Looks and LUTs at the command line.")
    commands = parser.add_subparsers(dest="command", required=True)
    keys = list(ENCODINGS)

    def command(name: str, does: Any, text: str) -> argparse.ArgumentParser:
        sub = commands.add_parser(name, help=text, description=text)
        sub.add_argument("--json", action="store_true", help="print the answer as JSON")
        sub.set_defaults(does=does)
        return sub

    def ranges(sub: argparse.ArgumentParser) -> None:
        for end in ("in", "out"):
            sub.add_argument(f"--range-{end}", choices=["full", "narrow"], default="full", help="code range of the pictures")

    writes = ", ".join(s for f in TABLE_FORMATS.values() for s in f.suffixes)
    sub = command("bake", _bake, "make a LUT file from a look recipe")
    sub.add_argument("look", type=Path)
    sub.add_argument("-o", "--output", type=Path, required=True, help=f"a file ending in {writes}")
    sub.add_argument("--grid", type=int, default=33, help="points a side, 2 to 129 (default 33)")
    sub.add_argument(
        "--curves", type=int, default=0, metavar="POINTS", help="a pure 1-D LUT of so many points, where the look mixes no channels"
    )
    sub.add_argument("--exact", action="store_true", help="exact operations instead of a table (.clf, .cc, .ccc, .cdl)")
    sub.add_argument("--interpolation", choices=["tetrahedral", "trilinear"], default="tetrahedral", help="how the error is measured")
    sub.add_argument("--strength", type=_share, default=1.0)
    sub.add_argument("--title", default="")
    sub.add_argument("--rights", default="")
    sub.add_argument("--description", default="")
    sub.add_argument("--frames", type=Path, nargs="*", default=[], help="pictures and folders that the error is measured on as well")
    sub.add_argument("--encoding", choices=keys, help="of those pictures")
    sub.add_argument("--report", type=Path, help="writes all that was measured as JSON")
    ranges(sub)
    sub = command("apply", _apply, "put a look or a LUT on a picture, or on a folder of pictures")
    sub.add_argument("look", type=Path)
    sub.add_argument("picture", type=Path)
    sub.add_argument("-o", "--output", type=Path, required=True)
    sub.add_argument("--strength", type=_share, default=1.0)
    sub.add_argument("--encoding", choices=keys, help="of the picture (default: linear for EXR, else sRGB)")
    sub.add_argument("--depth", choices=["uint8", "uint16", "half", "float"], help="of what is written")
    sub.add_argument("--finish", action="store_true", help="with the look's finish")
    sub.add_argument("--quiet", action="store_true", help="no progress")
    ranges(sub)
    sub = command("inspect", _inspect, "say what a file holds")
    sub.add_argument("file", type=Path)
    sub = command("convert", _convert, "read a LUT file and write it anew, in another format too")
    sub.add_argument("source", type=Path)
    sub.add_argument("target", type=Path)
    sub.add_argument("--grid", type=int, default=0, help="sampled anew on so many points a side")
    sub.add_argument("--title", default="")
    sub = command("carrier", _carrier, "write a picture that holds every colour of a grid")
    sub.add_argument("-o", "--output", type=Path, required=True)
    sub.add_argument("--layout", choices=["hald", "strip", "tiles"], default="hald")
    sub.add_argument("--size", type=int, default=0, help="level of a Hald (default 8), else points a side (default 64)")
    sub.add_argument("--depth", choices=["uint8", "uint16", "float"])
    sub.add_argument("--look", type=Path, help="with this look on it")
    sub = command("capture", _capture, "take a look from a carrier that was brought back")
    sub.add_argument("picture", type=Path)
    sub.add_argument("-o", "--output", type=Path)
    sub.add_argument("--smooth", action="store_true", help="take the smoothing that is offered")
    sub.add_argument("--as-it-is", action="store_true", help="write the table whatever was found")
    sub = command("compare", _compare, "how far apart two looks or LUTs are")
    sub.add_argument("first", type=Path)
    sub.add_argument("second", type=Path)
    sub.add_argument("--frames", type=Path, nargs="*", default=[], help="on these pictures and folders; else all over the cube")
    sub.add_argument("--encoding", choices=keys, help="of those pictures")
    sub.add_argument("--limit", type=float, help="exit status 3 where the largest difference lies above it")
    command("schema", _schema, "print the JSON Schema of a look recipe")
    return parser


def main(argv: list[str] | None = None) -> int:
    """Runs one command; gives the exit status."""
    args = _parser().parse_args(argv)
    try:
        answer = args.does(args)
    except (CoreError, ValueError, OSError) as error:
        print(f"saucer: {error}", file=sys.stderr)
        return 1
    status = int(answer.pop("status", 0))
    if args.json:
        print(json.dumps(answer, ensure_ascii=False))
    else:
        for key, value in answer.items():
            print(f"{key}: {value}")
    return status
