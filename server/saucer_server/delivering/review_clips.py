"""Finished review clips: what is in one, and where its shots begin."""

from dataclasses import dataclass
from fractions import Fraction

from saucer_core.formats.delivery import DeliveredFile

from ..errors import missing
from .models import Delivery, PieceState
from .pieces import OfReview, OfReviewShot

__all__ = ["Chapter", "ReviewClip", "review_clip_of"]


@dataclass(frozen=True)
class Chapter:
    """A shot of a review clip: its number, name and looks, and the second that it begins at."""

    shot: int
    number: int
    name: str
    scene: str
    words: str
    begin: float


@dataclass(frozen=True)
class ReviewClip:
    """A finished review clip. file: where it lies in its delivery."""

    delivery: Delivery
    title: str
    file: DeliveredFile
    seconds: float
    rate: str
    size: str
    kind: str
    chapters: list[Chapter]


def review_clip_of(delivery: Delivery) -> ReviewClip:
    """The review clip of a delivery that is done; raises 404 where it has none, or its files were let go."""
    done = list(delivery.pieces.filter(part="review", state=PieceState.DONE))
    whole = next((p for p in done if isinstance(p.source, OfReview)), None)
    if whole is None or not isinstance(whole.source, OfReview) or not delivery.ready or delivery.gone:
        raise missing("review clip")
    rate = Fraction(str(whole.facts["rate"]))
    chapters: list[Chapter] = []
    begin = 0
    for piece in done:
        if isinstance(piece.source, OfReviewShot):
            shot = piece.source.reviewed
            at = round(float(begin / rate), 3)
            chapters.append(Chapter(shot.id, shot.number, shot.name, shot.scene, shot.words, at))
            begin += int(piece.facts["frames"])
    return ReviewClip(
        delivery=delivery,
        title=whole.source.title,
        file=whole.files[0],
        seconds=float(whole.facts["seconds"]),
        rate=str(rate),
        size=str(whole.facts["size"]),
        kind=str(whole.facts["kind"]),
        chapters=chapters,
    )
