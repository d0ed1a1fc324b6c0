"""``bring-in``: looks out of files, folders and packs, judged, and written as recipes if wanted."""

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import click

from ..encodings.registry import known
from ..errors import CoreError, FileError
from ..formats import incoming, pack, recipe
from ..readings.likeness import behaviour, twins
from ..readings.traits import traits
from .shared import ENCODING, FOUND_WANTING, PATH, Answer, answering, present, told


@click.command("bring-in")
@click.argument("sources", type=PATH, nargs=-1, required=True)
@click.option(
    "-o",
    "--output",
    type=PATH,
    help="Write every look as a recipe into this folder, by the folders of the pack.",
)
@click.option("--expects", type=ENCODING, help="What tables expect; else what is guessed.")
@click.option("--gives", type=ENCODING, help="What tables give; else what is guessed.")
@click.option(
    "--twins", "keep_twins", is_flag=True, help="Write looks too that an eye cannot tell from an earlier one."
)
@answering
def command(
    sources: tuple[Path, ...], output: Path | None, expects: str | None, gives: str | None, keep_twins: bool
) -> Answer:
    """Read looks out of files, folders and ZIPs, and say what each is; exit status 3 where a file cannot be
    read."""
    looks: list[Answer] = []
    unread: list[Answer] = []
    seen: list[tuple[str, object]] = []
    for source in sources:
        with _files(present(source)) as files:
            for file in files:
                place = "/".join(p for p in (file.folder, file.name) if p)
                told(place)
                if file.path is None or not incoming.holds_looks(file.name):
                    if file.reason or pack.licence(file) is None:
                        unread.append(
                            {
                                "file": place,
                                "reason": file.reason or "is not a kind of file that holds a look",
                            }
                        )
                    continue
                try:
                    brought = incoming.read(file.path, file.name)
                except FileError as error:
                    unread.append(
                        {
                            "file": place,
                            "reason": error.reason,
                            **({"line": error.line} if error.line else {}),
                        }
                    )
                    continue
                for one in brought:
                    with known(one.encodings):
                        looks.append(
                            _judged(one, place, expects, gives, seen, output, file.folder, keep_twins)
                        )
    return {"looks": looks, "unread": unread, **({"status": FOUND_WANTING} if unread else {})}


@contextmanager
def _files(source: Path) -> Iterator[Iterator[pack.PackFile]]:
    if source.is_dir():
        yield pack.walk(source)
    elif source.suffix.lower() == ".zip":
        with tempfile.TemporaryDirectory() as folder:
            yield pack.unpack(source, source.name, Path(folder))
    else:
        yield iter([pack.PackFile("", source.name, source)])


def _judged(
    one: incoming.Incoming,
    place: str,
    expects: str | None,
    gives: str | None,
    seen: list[tuple[str, object]],
    output: Path | None,
    folder: str,
    keep_twins: bool,
) -> Answer:
    read = one.read_as(expects or one.look.input, gives or one.look.output)
    answer: Answer = {
        "file": place,
        "name": one.name,
        "kind": one.kind,
        "form": one.form,
        "expects": read.look.input,
        "gives": read.look.output,
        "findings": list(one.findings),
    }
    if one.guess is not None and not (expects and gives):
        answer |= {"sure": round(one.guess.sure, 3), "by": one.guess.source}
    try:
        answer["words"] = traits(read.look, tables=read.tables).words()
        colours = behaviour(read.look, tables=read.tables)
    except CoreError as error:
        return {**answer, "trouble": str(error)}
    twin = next((name for name, other in seen if twins(colours, other)), None)  # type: ignore[arg-type]
    if twin is not None:
        answer["twin of"] = twin
    else:
        seen.append((one.name, colours))
    if output is not None and (twin is None or keep_twins):
        answer["written"] = str(_write(read, output, folder))
    return answer


def _write(one: incoming.Incoming, output: Path, folder: str) -> Path:
    into = output.joinpath(*(_plain(part) for part in folder.split("/") if part))
    into.mkdir(parents=True, exist_ok=True)
    path = into / f"{_plain(one.name)}{recipe.SUFFIX}"
    count = 2
    while path.exists():
        path = into / f"{_plain(one.name)} {count}{recipe.SUFFIX}"
        count += 1
    recipe.write(path, one.look, name=one.name, note=one.note, tables=one.tables)
    return path


def _plain(name: str) -> str:
    """A name without what separates folders."""
    return name.replace("/", "-").replace("\\", "-").strip(" .") or "look"
