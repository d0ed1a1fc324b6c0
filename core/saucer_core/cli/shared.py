"""What the commands share: kinds of argument, reading what they name, and how an answer is given."""

import json
import sys
from collections.abc import Callable, Iterable, Iterator
from functools import wraps
from pathlib import Path
from typing import Any

import click

from ..arrays import F32
from ..encodings import ENCODINGS, encoding, meet
from ..errors import FileError
from ..formats import recipe
from ..formats.developing import develop
from ..formats.picture_kinds import DEPTHS
from ..formats.registry import TABLE_FORMATS

#: Exit status where something was found wanting: ``capture`` refuses, a ``compare`` lies beyond its limit.
FOUND_WANTING = 3

#: What a command answers with ``--json``: the docs say what stands in it.
Answer = dict[str, Any]
Decorator = Callable[[Callable[..., Any]], Callable[..., Any]]

ENCODING = click.Choice(list(ENCODINGS))
RANGE = click.Choice(["full", "narrow"])
DEPTH = click.Choice(list(DEPTHS))
SHARE = click.FloatRange(0, 1)
LOOK_FILE = click.Path(path_type=Path)
PATH = click.Path(path_type=Path)
WRITES = ", ".join(s for f in TABLE_FORMATS.values() for s in f.suffixes)


def answering(command: Callable[..., Answer]) -> Callable[..., int]:
    """Decorator: a command gives its answer as named values, which are printed, as JSON if asked; its exit
    status is theirs."""

    @click.option("--json", "as_json", is_flag=True, help="Print the answer as JSON.")
    @wraps(command)
    def answered(as_json: bool, **given: Any) -> int:
        answer = command(**given)
        status = int(answer.pop("status", 0))
        if as_json:
            click.echo(json.dumps(answer, ensure_ascii=False))
        else:
            for key, value in answer.items():
                click.echo(f"{key}: {value}")
        return status

    return answered


def told(doing: str) -> None:
    """Says on a terminal what is being done; a file or pipe that takes the messages is not filled with it."""
    if sys.stderr.isatty():
        click.echo(f"\r\x1b[K{doing[:100]}", err=True, nl=False)


def refuse(given: Iterable[tuple[str, bool]], why: str) -> None:
    """Stops with a wrong call where an option is given that does not apply: pairs of its name and whether it
    is given."""
    names = [name for name, used in given if used]
    if names:
        raise click.UsageError(f"{', '.join(names)} cannot be used here: {why}")


def present(path: Path) -> Path:
    """The path, if there is something. Raises ``FileError``."""
    if not path.exists():
        raise FileError(str(path), "there is no such file")
    return path


def is_recipe(path: Path) -> bool:
    """Whether a file's name is that of a look recipe."""
    return path.name.endswith(recipe.SUFFIX)


def picture_files(paths: Iterable[Path]) -> Iterator[Path]:
    """The picture files named, and those in the folders named. Raises ``FileError``."""
    for path in paths:
        if present(path).is_dir():
            yield from sorted(p for p in path.iterdir() if p.suffix.lower() in develop.SUFFIXES)
        else:
            yield path


def arriving(path: Path, given: str | None, wanted: str) -> F32:
    """A picture file's colours in the encoding ``wanted``. Raises ``FileError``."""
    rgb, facts = develop.read(path)
    return meet(rgb, encoding(given or facts.encoding), encoding(wanted))
