"""The list of a delivery, for programs: what is in it, and what its shots are made from."""

from django.utils import timezone
from saucer_core.encodings import definition
from saucer_core.formats.delivery import (
    Contents,
    DeliveredFile,
    ListedLook,
    ListedOut,
    ListedPiece,
    ListedShot,
    ListedSource,
    Part,
)

from ..clips import rules as clips
from .models import Delivery, Piece, PieceState
from .pieces import OfReviewShot, OfRevision, OfShot, outs_of, shot_name
from .plan import PARTS
from .snapshots import DeliveredShot


def contents(delivery: Delivery) -> Contents:
    """The list of a delivery whose pieces are made."""
    parts: dict[Part, list[ListedPiece]] = {}
    files: list[DeliveredFile] = []
    # What a review clip is made of is in the clip, and not in the package by itself.
    done = [
        p for p in delivery.pieces.filter(state=PieceState.DONE) if not isinstance(p.source, OfReviewShot)
    ]
    for piece in done:
        path = piece.files[0].path if len(piece.files) == 1 else piece.path
        shot = piece.source.shot.number if isinstance(piece.source, OfShot) else None
        parts.setdefault(piece.part, []).append(ListedPiece(path=path, facts=piece.facts, shot=shot))
        files += piece.files
    paths, keys = _Paths(done), {shot.encoding for shot in delivery.shots}
    return Contents(
        project=delivery.project.name,
        delivery=delivery.number,
        cut=delivery.cut,
        made_by=str(delivery.made_by),
        made_at=timezone.now().isoformat(timespec="seconds"),
        encodings=delivery.plan.encodings,
        white=delivery.plan.white,
        finish=delivery.plan.finish,
        cameras=tuple(camera for key in sorted(keys) if (camera := definition(key)) is not None),
        shots=tuple(_shot(delivery, shot, paths) for shot in delivery.shots),
        parts={part: tuple(parts[part]) for part in PARTS if part in parts},
        files=tuple(files),
    )


class _Paths:
    """Where recipes and shot LUTs lie in the package."""

    def __init__(self, done: list[Piece]) -> None:
        self.recipes: dict[int, str] = {}
        self.luts: dict[tuple[int, str], str] = {}
        for piece in done:
            if isinstance(piece.source, OfRevision):
                self.recipes[piece.source.revision] = piece.files[0].path
            elif isinstance(piece.source, OfShot) and piece.part == "shots":
                self.luts[piece.source.shot.id, piece.source.out] = piece.files[0].path


def _shot(delivery: Delivery, shot: DeliveredShot, paths: _Paths) -> ListedShot:
    plan = delivery.plan
    return ListedShot(
        number=shot.number,
        name=shot.name,
        scene=shot.scene,
        words=shot.words,
        encoding=shot.encoding,
        trim=shot.trim,
        digest=shot.digest,
        source=_source(shot),
        looks=tuple(
            ListedLook(
                look=one.look,
                revision=one.number,
                strength=one.strength,
                recipe=paths.recipes.get(one.revision, ""),
            )
            for one in shot.layers
        ),
        outs=tuple(
            ListedOut(
                encoding=out,
                name=shot_name(delivery.project, plan, shot, out),
                lut=paths.luts.get((shot.id, out), ""),
            )
            for out in (outs_of(plan, shot) if shot.layers else ())
        ),
    )


def _source(shot: DeliveredShot) -> ListedSource:
    if shot.clip is None:
        frame = shot.picture()
        balance = (frame.raw.used.kelvin, frame.raw.used.tint) if frame.raw else None
        return ListedSource(name=frame.name, file=frame.file_name, sha256=frame.came, balance=balance)
    clip = clips.find(shot.clip)
    facts = clip.facts
    return ListedSource(
        name=clip.name,
        file=clip.file_name,
        sha256=clip.digest,
        reel=facts.reel if facts else "",
        timecode=facts.timecode if facts else "",
        rate=facts.rate if facts else "",
        first=shot.first,
        last=shot.last,
    )
