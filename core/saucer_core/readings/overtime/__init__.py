"""What a look does to a clip over its length: where it clips, raises noise or flicker, bands, or lets skin
drift."""

from .cause import Cause, cause
from .measuring import FrameReading, OverTime, Side, measure
from .places import LIMITS, Kind, Limit, Place, places
from .samples import Samples, chosen, sample

__all__ = [
    "LIMITS",
    "Cause",
    "FrameReading",
    "Kind",
    "Limit",
    "OverTime",
    "Place",
    "Samples",
    "Side",
    "cause",
    "chosen",
    "measure",
    "places",
    "sample",
]
