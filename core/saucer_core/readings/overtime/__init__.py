"""What a look does to a clip over its length: where it clips, raises noise or flicker, bands, or lets skin
drift."""

from .cause import Cause, cause
from .measuring import AT_ONCE, Change, FrameReading, Side, measure
from .places import LIMITS, Kind, Limit, Place, amount_in_words, places
from .samples import Samples, chosen, sample

__all__ = [
    "AT_ONCE",
    "LIMITS",
    "Cause",
    "Change",
    "FrameReading",
    "Kind",
    "Limit",
    "Place",
    "Samples",
    "Side",
    "amount_in_words",
    "cause",
    "chosen",
    "measure",
    "places",
    "sample",
]
