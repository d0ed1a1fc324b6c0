"""Review clips: first the frames of each shot, then one file of all of them."""

from contextlib import ExitStack
from fractions import Fraction
from typing import Any

from saucer_core.baking.bake import bake_for_clip
from saucer_core.finish import finishing
from saucer_core.formats.clip_kinds import CLIP_KINDS
from saucer_core.formats.review_writing import (
    OUT,
    SUFFIX,
    MovingSource,
    ReviewShot,
    ReviewSize,
    StillSource,
    join,
    render_shot,
)
from saucer_core.operations import Operation
from saucer_core.treatment import Treatment

from ... import storage
from ...clips import rules as clips
from ...frames import rules as frames
from ...luts.rules import table
from ..pieces import OfReview, OfReviewShot
from ..plan import Plan
from ..rules import place_of
from ..snapshots import DeliveredShot
from .maker import Made, Maker, Work
from .slate import said, slate_of


def _size(plan: Plan) -> ReviewSize:
    return ReviewSize(plan.review.rows, bool(plan.review.slate))


def _clip_of(shot: DeliveredShot) -> clips.Clip | None:
    return clips.whole(shot.clip) if shot.clip is not None else None


def _shot_made_of(source: OfReviewShot, plan: Plan) -> list[Any]:
    shot = source.reviewed
    clip = _clip_of(shot)
    return [
        shot.made_of(),
        clip.pixels if clip is not None else "",
        shot.first,
        shot.last,
        source.rate,
        said(source, plan.review),
        plan.review.kind,
        plan.review.rows,
        "timecode" in plan.review.slate,
        plan.finish,
    ]


def _shot(source: OfReviewShot, work: Work) -> Made:
    shot, plan = source.reviewed, work.plan
    clip, size = _clip_of(shot), _size(plan)
    look = shot.look() if shot.layers else None
    with_finish = plan.finish and look is not None and look.finish.active()
    ends = finishing(look, shot.digest, OUT, plan.white) if with_finish and look is not None else None
    program = Treatment(look, shot.encoding, shot.trim, goes_out="" if ends else OUT).compile(table)
    with ExitStack() as held:
        taken: MovingSource | StillSource
        operations: tuple[Operation, ...]
        if clip is None:
            taken = StillSource(frames.original(shot.picture(), size.width))
            operations = tuple(program.operations)
            begin = None
        else:
            found = clips.found(clip)
            path = held.enter_context(clips.on_disk(clip))
            taken = MovingSource(path, found, shot.first, shot.last)
            lut = bake_for_clip(program, found.facts.full_range, found.facts.depth)
            operations = tuple(lut.operations())
            begin = found.facts.timecode
        slate = slate_of(source, plan.review, size, begin)
        count = 0

        def tell(done: int, all_of_them: int) -> None:
            nonlocal count
            count = all_of_them
            work.alive()

        wanted = ReviewShot(taken, operations, ends, slate)
        parts = render_shot(wanted, size, plan.review.kind, Fraction(source.rate), work.lengths, tell)
    return Made([(f".{k:05d}.nut", part) for k, part in enumerate(parts)], {"frames": count})


def _review_made_of(source: OfReview, plan: Plan) -> list[Any]:
    return [[_shot_made_of(one, plan), one.reviewed.named()] for one in source.reviewed]


def _review(source: OfReview, work: Work) -> Made:
    plan, path = work.plan, work.folder / f"review{SUFFIX}"
    rate = Fraction(source.reviewed[0].rate)
    with ExitStack() as held:
        lengths, shots = [], []
        for one in source.reviewed:
            kept = work.other("review", one)
            lengths.append([held.enter_context(storage.on_disk(place_of(f.sha256))) for f in kept.files])
            clip = _clip_of(one.reviewed)
            sound = None
            if clip is not None and clips.facts_of(clip).sound:
                at = held.enter_context(clips.on_disk(clip))
                sound = MovingSource(at, clips.found(clip), one.reviewed.first, one.reviewed.last)
            shots.append((one.reviewed.label, sound, int(kept.facts["frames"])))
        size = _size(plan)
        chapters = join(lengths, shots, size, plan.review.kind, rate, path, work.alive)
    count = sum(length for _, _, length in shots)
    return Made(
        [(SUFFIX, path)],
        {
            "shots": len(chapters),
            "frames": count,
            "rate": str(rate),
            "seconds": round(float(count / rate), 2),
            "size": f"{size.width} × {size.rows}",
            "kind": CLIP_KINDS[plan.review.kind].label,
            "slate": ", ".join(plan.review.slate) or "none",
            "sound": "with it" if any(sound for _, sound, _ in shots) else "none",
        },
    )


REVIEW_SHOTS = Maker(OfReviewShot, _shot_made_of, _shot)
REVIEWS = Maker(OfReview, _review_made_of, _review)
