"""OpenColorIO configurations that hold every look and every shot."""

from typing import Any

from saucer_core.formats import ocio_config

from ...luts.rules import table
from ..pieces import OfConfig
from ..plan import Plan
from .maker import Made, Maker, Work


def _made_of(source: OfConfig, plan: Plan) -> list[Any]:
    return [[[x.made_of(), x.named()] for x in source.shots], source.out, plan.grid, plan.white]


def _make(source: OfConfig, work: Work) -> Made:
    plan, named = work.plan, []
    for stack in source.stacks:
        name = " + ".join(one.label for one in stack.layers)
        named.append(
            ocio_config.NamedLook(
                name, stack.look(), name, plan.grid, goes_out=source.out, sdr_white=plan.white
            )
        )
    for shot in source.shots:
        work.alive()
        named.append(
            ocio_config.NamedLook(
                shot.slate,
                shot.look(),
                f"{shot.words}, with the trim of the shot",
                plan.grid,
                shot.encoding,
                shot.trim,
                source.out,
                plan.white,
            )
        )
    ocio_config.write(work.folder, named, tables=table)
    files = sorted(p for p in work.folder.rglob("*") if p.is_file())
    return Made(
        [(f"/{p.relative_to(work.folder)}", p) for p in files],
        {"looks": len(source.stacks), "shots": len(source.shots)},
    )


CONFIGS = Maker(OfConfig, _made_of, _make)
