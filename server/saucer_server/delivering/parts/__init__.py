"""How each part of a delivery is made: one maker a part."""

from typing import Any

from ..plan import Part
from .clips import CLIPS
from .configs import CONFIGS
from .correction_lists import CORRECTION_LISTS
from .maker import Made, Maker, Work
from .recipes import RECIPES
from .stills import SHEETS, STILLS
from .tables import LOOK_LUTS, SHOT_LUTS

__all__ = ["MAKERS", "Made", "Maker", "Work"]

MAKERS: dict[Part, Maker[Any]] = {
    "looks": LOOK_LUTS,
    "shots": SHOT_LUTS,
    "cdl": CORRECTION_LISTS,
    "ocio": CONFIGS,
    "recipes": RECIPES,
    "stills": STILLS,
    "clips": CLIPS,
    "sheet": SHEETS,
}
