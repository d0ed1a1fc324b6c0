"""``schema``: the JSON Schema of a look recipe."""

import json

import click

from ..formats import recipe


@click.command("schema")
@click.option("--json", "as_json", is_flag=True, help="On one line.")
def command(as_json: bool) -> None:
    """Print the JSON Schema of a look recipe."""
    click.echo(json.dumps(recipe.schema(), ensure_ascii=False, indent=None if as_json else 1))
