"""Clips under their looks."""

from typing import Any

from saucer_core.baking.bake import bake_for_clip
from saucer_core.baking.deviation import Measuring
from saucer_core.encodings import encoding
from saucer_core.finish import finishing
from saucer_core.formats.clip_kinds import CLIP_KINDS
from saucer_core.formats.clip_writing import ClipWork, render
from saucer_core.treatment import Treatment

from ...clips import rules as clips
from ...frames import rules as frames
from ...luts.rules import table
from ..pieces import OfShot
from ..plan import Plan
from .maker import MEASURED, Made, Maker, Work, left_out
from .tables import MEASURING


def _clip_of(source: OfShot) -> clips.Clip:
    if source.shot.clip is None:
        raise ValueError("a piece of clips is of a shot that is cut from one")
    return clips.whole(source.shot.clip)


def _made_of(source: OfShot, plan: Plan) -> list[Any]:
    shot = source.shot
    return [
        shot.made_of(),
        _clip_of(source).pixels,
        shot.first,
        shot.last,
        source.out,
        plan.clip,
        plan.finish,
        plan.white,
    ]


def _make(source: OfShot, work: Work) -> Made:
    shot, plan = source.shot, work.plan
    kind, clip, look = CLIP_KINDS[plan.clip], _clip_of(source), shot.look()
    with_finish = plan.finish and look.finish.active()
    ends = finishing(look, shot.digest, source.out, plan.white) if with_finish else None
    treatment = Treatment(
        look, shot.encoding, shot.trim, goes_out="" if ends else source.out, sdr_white=plan.white
    )
    program = treatment.compile(table)
    found = clips.found(clip)
    lut = bake_for_clip(program, found.facts.full_range, found.facts.depth)
    seen = [frames.original(shot.picture(), MEASURED)]
    exact = Measuring(program, seen, power=MEASURING).report(lut, "tetrahedral").shown
    path = work.folder / f"clip{kind.suffix}"
    with clips.on_disk(clip) as file:
        cut = ClipWork(
            file,
            found,
            shot.first,
            shot.last,
            tuple(lut.operations()),
            encoding(source.out),
            kind,
            ends,
        )
        left = render(cut, work.lengths, path, lambda done, count: work.alive())
    doubts = found.facts.doubts
    return Made(
        [(kind.suffix, path)],
        {
            "frames": shot.last - shot.first + 1,
            "kind": kind.label,
            "table": lut.size,
            "99 % under ΔE": round(exact.delta_99, 3),
            "finish": "with it" if ends else "none",
            **left_out(left),
            **({"doubts": "; ".join(doubts)} if doubts else {}),
        },
    )


CLIPS = Maker(OfShot, _made_of, _make)
