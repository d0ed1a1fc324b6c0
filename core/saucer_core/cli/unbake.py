"""``unbake``: editable steps that do what a table does."""

from dataclasses import asdict
from pathlib import Path

import click

from ..baking.unbake import AT_MOST, unbake
from ..changes import in_words
from ..errors import FileError
from ..formats import incoming, recipe
from .shared import ENCODING, PATH, Answer, answering, present, told


@click.command("unbake")
@click.argument("table", type=PATH)
@click.option("-o", "--output", type=PATH, help=f"The recipe to write ({recipe.SUFFIX}).")
@click.option("--expects", type=ENCODING, help="What the table expects; else what is guessed.")
@click.option("--gives", type=ENCODING, help="What it gives; else what is guessed.")
@click.option("--rest/--no-rest", default=True, help="Keep what the steps leave as a table of its own.")
@click.option("--steps", type=click.IntRange(1, 12), default=AT_MOST, help="Steps at most.")
@answering
def command(
    table: Path, output: Path | None, expects: str | None, gives: str | None, rest: bool, steps: int
) -> Answer:
    """Take a table apart into editable steps, the fewest that will do."""
    if output is not None and not output.name.endswith(recipe.SUFFIX):
        raise FileError(output.name, f"a look is written as a recipe, ending in {recipe.SUFFIX}")
    (one, *more) = incoming.read(present(table), table.name)
    if more or one.table is None:
        raise FileError(table.name, "is not one table: only a table is taken apart")
    read = one.read_as(expects or one.look.input, gives or one.look.output)
    found = unbake(
        one.table,
        read.look.input,
        read.look.output,
        title=one.name,
        tell=lambda share, doing: told(f"{share:.0%} {doing}"),
        at_most=steps,
    )
    answer: Answer = {
        "expects": read.look.input,
        "gives": read.look.output,
        "steps": [
            {"kind": getattr(s, "kind", ""), "numbers": in_words(s, 12), "share": round(share, 3)}
            for s, share in zip(found.steps, found.shares, strict=True)
        ],
        "stages": [asdict(stage) for stage in found.stages],
        "with rest": asdict(found.with_rest),
    }
    if output is not None:
        tables = {found.rest.digest(): found.rest}
        recipe.write(
            output, found.look(rest), name=one.name, note=f"Editable steps for {one.name}", tables=tables.get
        )
        answer["file"] = str(output)
    return answer
