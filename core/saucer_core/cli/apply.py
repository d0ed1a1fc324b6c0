"""``apply``: a look or a LUT on a picture, on a folder of pictures, or on a clip."""

import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

import click

from ..arrays import F32
from ..encodings import Encoding
from ..encodings import encoding as encoding_of
from ..encodings.code_range import CodeRange, from_full, to_full
from ..errors import FileError
from ..finish import finish as with_finish
from ..formats import clips, pictures, recipe
from ..formats.clip_kinds import CLIP_KINDS
from ..formats.developing import develop
from ..formats.developing.result import Balance, Wish
from ..formats.picture_kinds import depth_for
from ..formats.pictures import PictureFacts
from ..formats.registry import read_table
from ..operations import apply
from ..steps.blend import Eased
from ..treatment import Treatment
from .clip import Wanted, on_clip
from .over_time import over_time as measured
from .shared import (
    DEPTH,
    ENCODING,
    PATH,
    RANGE,
    SHARE,
    Answer,
    answering,
    is_recipe,
    picture_files,
    present,
    refuse,
)

Recolour = Callable[[F32], F32]
#: What is done to each pixel, then to the whole; the encoding that the colours come in, and the one they are
#: in afterwards.
Doing = tuple[Recolour, Recolour | None, Encoding | None, Encoding | None]


@dataclass(frozen=True)
class Work:
    """What is done to each picture. plan: by its facts and its name. Encodings are ``None`` for a LUT, which
    says nothing of them.

    said: by whom the encoding of the pictures is said, where it is not left to the files. wish: how pictures
    of other kinds are developed.
    """

    plan: Callable[[PictureFacts, str], Doing]
    depth: str | None
    replace: bool
    said: str = ""
    wish: Wish | None = None


@click.command("apply")
@click.argument("look", type=PATH, metavar="LOOK|LUT")
@click.argument("picture", type=PATH, metavar="PICTURE|FOLDER|CLIP")
@click.option("-o", "--output", type=PATH, help="The picture, or the folder, to write.")
@click.option("--strength", type=SHARE, default=1.0, help="Over the look's own.")
@click.option(
    "--encoding",
    type=ENCODING,
    help="Of the picture, for a look; else what its tags or profile declare, linear for EXR, sRGB "
    "for others.",
)
@click.option(
    "--depth",
    type=DEPTH,
    help="Of what is written; else that of the picture, or the deepest that the file can hold.",
)
@click.option("--finish", is_flag=True, help="With the look's finish.")
@click.option("--range-in", type=RANGE, help="Code range that a LUT takes (full where not given).")
@click.option("--range-out", type=RANGE, help="Code range that a LUT gives (full where not given).")
@click.option("--replace", is_flag=True, help="Allow the pictures themselves to be replaced.")
@click.option(
    "--clip",
    type=click.Choice(list(CLIP_KINDS)),
    help="Kind of clip to write; else FFV1 for .mkv, H.264 of 10 bit for .mov.",
)
@click.option(
    "--over-time",
    type=PATH,
    help="Measure what the look does to a clip over its length, and write that as JSON.",
)
@click.option("--plot", type=PATH, help="With --over-time: draw its lines as SVG.")
@click.option("--part", type=click.IntRange(1, 1000), default=1, help="Of an EXR file with several, from 1.")
@click.option(
    "--white",
    type=(click.FloatRange(1500, 25_000), click.FloatRange(-50, 50)),
    metavar="KELVIN TINT",
    help="White balance of camera raw; else the one as shot.",
)
@click.option("--quiet", is_flag=True, help="No progress.")
@answering
def command(
    look: Path,
    picture: Path,
    output: Path | None,
    strength: float,
    encoding: str | None,
    depth: str | None,
    finish: bool,
    range_in: CodeRange | None,
    range_out: CodeRange | None,
    replace: bool,
    clip: str | None,
    over_time: Path | None,
    plot: Path | None,
    part: int,
    white: tuple[float, float] | None,
    quiet: bool,
) -> Answer:
    """Put a look or a LUT on a picture, on a folder of pictures, or on a clip.

    What came in goes out: depth, transparency and tags are kept, and a picture that lies on its side is
    turned. The file says which encoding its colours are in now, where its kind can. Camera raw
    and Cineon are read and not written: they go out as EXR and TIFF.
    """
    wanted = Wanted(clip, encoding, strength, finish, replace, quiet)
    if over_time is not None:
        if picture.suffix.lower() not in clips.SUFFIXES:
            raise FileError(picture.name, "is no clip; only a clip is measured over time")
        refuse([("--output", output is not None)], "a clip is measured with --over-time, and not written")
        return measured(look, present(picture), wanted, over_time, plot)
    refuse([("--plot", plot is not None)], "it draws what --over-time measures")
    if output is None:
        raise FileError(picture.name, "needs a name for what is written. Say it with --output")
    if is_recipe(look):
        refuse(
            [("--range-in", range_in is not None), ("--range-out", range_out is not None)],
            "they are for a LUT; a look takes full range",
        )
        plan = _by_look(look, strength, encoding, finish)
    else:
        refuse(
            [("--encoding", encoding is not None), ("--finish", finish)],
            "a LUT works on codes as they are; they are for a look",
        )
        plan = _by_table(look, strength, range_in or "full", range_out or "full")
    if picture.suffix.lower() in clips.SUFFIXES:
        pictures_own = [
            ("--depth", depth is not None),
            ("--range-in", range_in is not None),
            ("--range-out", range_out is not None),
        ]
        refuse(pictures_own, "a clip keeps its own codes and depth; choose a kind with --clip")
        return on_clip(look, present(picture), output, wanted)
    refuse([("--clip", clip is not None)], "it is for clips")
    wish = Wish(part - 1, Balance(*white) if white is not None else None)
    work = Work(plan, depth, replace, "said with --encoding" if encoding else "", wish)
    if present(picture).is_dir():
        return _folder(picture, output, work, quiet)
    return _one(picture, output, work)


def _by_look(
    path: Path, strength: float, given: str | None, finish: bool
) -> Callable[[PictureFacts, str], Doing]:
    found = recipe.read(present(path))

    def plan(facts: PictureFacts, name: str) -> Doing:
        source, look = given or facts.encoding, found.look
        program = Treatment(look, source, strength=strength).compile(found.tables)
        then = (
            (lambda rgb: with_finish(rgb, look.finish, look.output, name))
            if finish and look.finish.active()
            else None
        )
        return program, then, encoding_of(source), program.end

    return plan


def _by_table(
    path: Path, strength: float, range_in: CodeRange, range_out: CodeRange
) -> Callable[[PictureFacts, str], Doing]:
    inside = (*from_full(range_in), *read_table(present(path)).operations(), *to_full(range_out))
    steps = [Eased(inside, (), "normal", strength)]
    return lambda facts, name: (lambda rgb: apply(steps, rgb), None, None, None)


def _one(source: Path, target: Path, work: Work) -> Answer:
    if target.exists() and target.samefile(source) and not work.replace:
        raise FileError(str(target), "is the picture itself. Name another file, or allow it with --replace")
    with develop.opened(present(source), wish=work.wish) as picture:
        depth = depth_for(target.name, work.depth, picture.facts.depth)
        recolour, then, before, after = work.plan(picture.facts, source.name)
        left = pictures.through(picture, target, recolour, depth, then=then, before=before, at=after)
    written = develop.facts_of(target)
    answer: Answer = {
        "file": str(target),
        "width": written.width,
        "height": written.height,
        "depth": written.depth,
        "alpha": written.alpha,
    }
    if before is not None and after is not None:
        answer |= {"from": before.key, "from by": work.said or picture.facts.taken_from, "to": after.key}
    return {**answer, **({"left out": left} if left else {})}


def _folder(folder: Path, target: Path, work: Work, quiet: bool) -> Answer:
    sources = list(picture_files([folder]))
    if not sources:
        raise FileError(str(folder), f"holds no picture ({', '.join(develop.SUFFIXES)})")
    if target.exists() and target.samefile(folder) and not work.replace:
        raise FileError(
            str(target),
            "is the folder of the pictures themselves. Name another one, or allow it with --replace",
        )
    target.mkdir(parents=True, exist_ok=True)
    failed: dict[str, str] = {}
    left: dict[str, list[str]] = {}
    taken: dict[str, str] = {}
    for source in _shown(sources, quiet):
        try:
            done = _one(source, target / develop.written_name(source.name), work)
            if "left out" in done:
                left[source.name] = done["left out"]
            if "from" in done:
                taken[source.name] = f"{done['from']}, {done['from by']}"
        except FileError as error:
            failed[source.name] = error.reason
    for name, reason in failed.items():
        click.echo(f"saucer: {name}: {reason}", err=True)
    if failed:
        raise FileError(
            str(folder), f"{len(failed)} of {len(sources)} pictures could not be done: {', '.join(failed)}"
        )
    for name, what in left.items():
        click.echo(f"saucer: {name}: left out: {'; '.join(what)}", err=True)
    return {
        "folder": str(target),
        "pictures": len(sources),
        "taken for": taken,
        **({"left out": left} if left else {}),
    }


def _shown(sources: list[Path], quiet: bool) -> Iterator[Path]:
    """The pictures one by one, with progress on the way: a bar for a person, lines for a log."""
    if quiet:
        yield from sources
    elif sys.stderr.isatty():
        with click.progressbar(
            sources, file=sys.stderr, show_pos=True, item_show_func=lambda p: p.name if p else ""
        ) as bar:
            yield from bar
    else:
        for k, source in enumerate(sources, 1):
            click.echo(f"{k} of {len(sources)}: {source.name}", err=True)
            yield source
