"""The list of the cut that a project follows, with the looks of its shots on it."""

from typing import Any

from saucer_core.formats.cutlists.reading import SUFFIXES
from saucer_core.formats.delivery import Facts

from ...cuts import outgoing
from ...cuts import rules as cuts
from ...cuts.outgoing import Dressed
from ..pieces import OfCut, OfShot
from ..plan import Plan
from ..snapshots import DeliveredShot
from .maker import Made, Maker, Work

#: Where shot LUTs lie, from where the list does.
LUTS = "../luts/shots"


def _made_of(source: OfCut, plan: Plan) -> list[Any]:
    shots = [[shot.made_of(), shot.words] for shot in source.shots]
    named = [sorted(source.names.items()), sorted(source.outs.items())]
    return [source.cut, shots, source.places, *named, plan.grid, plan.white]


def _dressed(shot: DeliveredShot, lut: str) -> Dressed:
    looks = tuple((one.look, one.number, one.strength) for one in shot.layers)
    return Dressed(looks, shot.trim, shot.encoding, shot.picture, lut)


def _make(source: OfCut, work: Work) -> Made:
    luts = {}
    for shot in source.shots:
        if shot.id in source.outs:
            made = work.other("shots", OfShot(shot=shot, out=source.outs[shot.id]))
            luts[shot.id] = f"{LUTS}/{source.names[shot.id]}{made.files[0].suffix}"
    by_shot = {shot.id: _dressed(shot, luts.get(shot.id, "")) for shot in source.shots}
    places = {k: by_shot[at] for k, at in enumerate(source.places) if at is not None and at in by_shot}
    cut = cuts.kept(source.cut)
    files = []
    for suffix in SUFFIXES:
        path = work.folder / f"cut{suffix}"
        path.write_text(outgoing.with_looks(cut, suffix, places, work.alive), encoding="utf-8")
        files.append((suffix, path))
    facts: Facts = {"cut": cut.number or 0, "events with looks": f"{len(places)} of {len(cut.events)}"}
    return Made(files, facts)


CUT_LISTS = Maker(OfCut, _made_of, _make)
