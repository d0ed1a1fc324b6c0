"""What is done to whole pictures after the steps of a look."""

from collections.abc import Callable

from ..arrays import F32
from ..encodings import SDR_WHITE, SdrWhite
from ..look import Look
from ..operations import apply
from ..treatment import way_out
from .render import finish


def finishing(
    look: Look, name: str, out: str = "", white: SdrWhite = SDR_WHITE
) -> Callable[[F32, int | None], F32]:
    """What is done to each whole picture of a clip after its look: the finish, and the way to the encoding
    that it goes out in, by its key; the look's own where that is empty.

    name: what the pattern of grain depends on, with the frame's number, which the result is given; nothing
    for a still. It takes and gives float32 ``(height, width, 3)``.
    """
    way = way_out(look, out or look.output, white)

    def ends(rgb: F32, number: int | None) -> F32:
        made = finish(rgb, look.finish, look.output, name if number is None else f"{name} {number}")
        return apply(way, made) if way else made

    return ends
