"""The trims of all shots as one list of ASC CDLs."""

from typing import Any

from saucer_core.baking.correction import said_as_cdl
from saucer_core.encodings import encoding
from saucer_core.formats import cdl
from saucer_core.formats.delivery import Facts

from ...frames import rules as frames
from ..pieces import OfShots
from ..plan import Plan
from .maker import MEASURED, Made, Maker, Work


def _made_of(source: OfShots, _: Plan) -> list[Any]:
    return [[x.digest, x.encoding, x.trim.model_dump(), x.number, x.name] for x in source.shots]


def _make(source: OfShots, work: Work) -> Made:
    kept, without = [], []
    for shot in source.shots:
        work.alive()
        said = said_as_cdl(shot.trim, shot.encoding, frames.original(shot.picture(), MEASURED // 2))
        if said.enough:
            words = f"trim of {shot.slate}, on {encoding(shot.encoding).label}, without clamps"
            off = f"; stands for the trim within ΔE {said.delta_99:.2f} (99 %)" if said.delta_largest else ""
            kept.append(cdl.NamedCorrection(said.correction, f"{shot.number:03d}", words + off))
        else:
            without.append(f"{shot.slate} (ΔE {said.delta_99:.1f})")
    path = work.folder / "trims.ccc"
    path.write_text(cdl.write_text(kept, ".ccc"), encoding="utf-8")
    facts: Facts = {"trims": f"{len(kept)} of {len(source.shots)}"}
    if without:
        facts["no CDL comes near"] = ", ".join(without)
    return Made([("", path)] if kept else [], facts)


CORRECTION_LISTS = Maker(OfShots, _made_of, _make)
