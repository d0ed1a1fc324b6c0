"""How each part of a delivery is made: one maker a part."""

from typing import Any

from saucer_core.formats.delivery import Part

from ..pieces import OfReviewShot, Source
from .clips import CLIPS
from .configs import CONFIGS
from .correction_lists import CORRECTION_LISTS
from .cut_lists import CUT_LISTS
from .maker import Made, Maker, Work
from .recipes import RECIPES
from .review import REVIEW_SHOTS, REVIEWS
from .stills import SHEETS, STILLS
from .tables import LOOK_LUTS, SHOT_LUTS

__all__ = ["REVIEWS", "REVIEW_SHOTS", "Made", "Maker", "Work", "maker_of"]

_MAKERS: dict[Part, Maker[Any]] = {
    "looks": LOOK_LUTS,
    "shots": SHOT_LUTS,
    "cdl": CORRECTION_LISTS,
    "ocio": CONFIGS,
    "recipes": RECIPES,
    "stills": STILLS,
    "clips": CLIPS,
    "review": REVIEWS,
    "sheet": SHEETS,
    "cut": CUT_LISTS,
}


def maker_of(part: Part, source: Source) -> Maker[Any]:
    """How a piece is made."""
    return REVIEW_SHOTS if isinstance(source, OfReviewShot) else _MAKERS[part]
