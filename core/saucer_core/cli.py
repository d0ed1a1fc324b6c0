"""The command line: ``python -m saucer_core bake | apply | inspect | convert``."""

import argparse
import json
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from .encodings import ENCODINGS, encoding, meet
from .errors import CoreError, FileError
from .formats import pictures, recipe
from .formats.registry import read_table, write_table
from .look import evaluate, every_step
from .lut.bake import bake
from .lut.deviation import measure
from .lut.lut import Lut
from .operations import apply
from .steps.blend import Eased


def _present(path: Path) -> Path:
    if not path.is_file():
        raise FileError(str(path), "there is no such file")
    return path


def _is_recipe(path: Path) -> bool:
    return path.name.endswith(recipe.SUFFIX)


def _bake(args: argparse.Namespace) -> dict[str, Any]:
    source = recipe.read(_present(args.look))
    lut = bake(source.look, args.grid, tables=source.tables, strength=args.strength, title=args.title or source.name)
    if args.rights:
        lut = replace(lut, comments=(f"Rights: {args.rights}",))
    deviation = measure(source.look, lut, tables=source.tables, strength=args.strength)
    write_table(args.output, lut)
    return {"file": str(args.output), "grid": args.grid, "deviation": deviation.as_dict()}


def _apply(args: argparse.Namespace) -> dict[str, Any]:
    rgb, facts = pictures.read(_present(args.picture))
    source_key = args.encoding or ("linear_709" if facts.kind == "EXR" else "srgb")
    if _is_recipe(args.look):
        found = recipe.read(_present(args.look))
        look = found.look
        rgb = meet(rgb, encoding(source_key), encoding(look.input))
        out = evaluate(look, rgb, tables=found.tables, strength=args.strength)
    else:
        eased = Eased(read_table(_present(args.look)).operations(), [], "normal", args.strength)
        out = apply([eased], rgb)
    pictures.write(args.output, np.asarray(out, dtype=np.float32))
    return {"file": str(args.output), "width": facts.width, "height": facts.height, "depth": facts.depth}


def _inspect(args: argparse.Namespace) -> dict[str, Any]:
    path = _present(args.file)
    if _is_recipe(path):
        found = recipe.read(path)
        return {
            "kind": "look",
            "name": found.name,
            "input": found.look.input,
            "output": found.look.output,
            "steps": [s.kind for s in every_step(found.look.steps)],  # type: ignore[attr-defined]
            "tables": len(found.luts),
        }
    if path.suffix.lower() in pictures.SUFFIXES:
        rgb, facts = pictures.read(path)
        return {"kind": "picture", **facts.__dict__, "lowest": float(rgb.min()), "highest": float(rgb.max())}
    lut = read_table(path)
    return {"kind": "LUT", "title": lut.title, "grid": lut.size, "comments": list(lut.comments), **_reach(lut)}


def _reach(lut: Lut) -> dict[str, Any]:
    domain = lut.shaper if lut.shaper is not None else lut
    values = lut.grid if lut.grid is not None else domain.values  # type: ignore[union-attr]
    return {
        "shaper": 0 if lut.shaper is None else len(lut.shaper.values),
        "domain": [domain.low.tolist(), domain.high.tolist()],
        "lowest": float(values.min()),
        "highest": float(values.max()),
        "sha256": lut.digest(),
    }


def _convert(args: argparse.Namespace) -> dict[str, Any]:
    lut = read_table(_present(args.source))
    write_table(args.target, lut)
    return {"file": str(args.target), "grid": lut.size}


def _share(text: str) -> float:
    value = float(text)
    if not 0 <= value <= 1:
        raise argparse.ArgumentTypeError("a strength lies between 0 and 1")
    return value


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="python -m saucer_core", description="Looks and LUTs at the command line.")
    commands = parser.add_subparsers(dest="command", required=True)

    def command(name: str, does: Any, text: str) -> argparse.ArgumentParser:
        sub = commands.add_parser(name, help=text, description=text)
        sub.add_argument("--json", action="store_true", help="print the answer as JSON")
        sub.set_defaults(does=does)
        return sub

    sub = command("bake", _bake, "make a LUT file from a look recipe")
    sub.add_argument("look", type=Path)
    sub.add_argument("-o", "--output", type=Path, required=True)
    sub.add_argument("--grid", type=int, default=33, help="points a side, 2 to 129 (default 33)")
    sub.add_argument("--strength", type=_share, default=1.0)
    sub.add_argument("--title", default="")
    sub.add_argument("--rights", default="")
    sub = command("apply", _apply, "put a look or a LUT on a picture")
    sub.add_argument("look", type=Path)
    sub.add_argument("picture", type=Path)
    sub.add_argument("-o", "--output", type=Path, required=True)
    sub.add_argument("--strength", type=_share, default=1.0)
    sub.add_argument("--encoding", choices=list(ENCODINGS), help="of the picture (default: linear for EXR, else sRGB)")
    sub = command("inspect", _inspect, "say what a file holds")
    sub.add_argument("file", type=Path)
    sub = command("convert", _convert, "read a LUT file and write it anew")
    sub.add_argument("source", type=Path)
    sub.add_argument("target", type=Path)
    return parser


def main(argv: list[str] | None = None) -> int:
    """Runs one command. Exit status 0 done, 1 a file or look that cannot be used, 2 a wrong call."""
    args = _parser().parse_args(argv)
    try:
        answer = args.does(args)
    except (CoreError, ValueError, OSError) as error:
        print(f"saucer: {error}", file=sys.stderr)
        return 1
    if args.json:
        print(json.dumps(answer, ensure_ascii=False))
    else:
        for key, value in answer.items():
            print(f"{key}: {value}")
    return 0
