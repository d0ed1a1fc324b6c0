"""The looks themselves, as recipe files."""

from typing import Any

from saucer_core.formats import recipe

from ...looks import rules as looks
from ...luts.rules import table
from ..pieces import OfRevision
from ..plan import Plan
from .maker import Made, Maker, Work


def _made_of(source: OfRevision, _: Plan) -> list[Any]:
    revision = looks.find_revision(source.revision)
    look = revision.look
    return [revision.digest, look.name, revision.note, look.rights, revision.status]


def _make(source: OfRevision, work: Work) -> Made:
    revision = looks.find_revision(source.revision)
    path = work.folder / "look"
    text = recipe.dumps(looks.recipe_of(revision), name=revision.look.name, note=revision.note, tables=table)
    path.write_text(text, encoding="utf-8")
    return Made(
        [("", path)], {"status": revision.status, "may be passed on": revision.look.rights or "not said"}
    )


RECIPES = Maker(OfRevision, _made_of, _make)
