"""A trim: what is done to one frame or shot before the look."""

from .arrays import F32, colours
from .encodings import encoding, meet
from .look import Look, PrefixCache, evaluate
from .operations import apply
from .steps import Step, Surroundings, Tables, in_order, no_tables
from .steps.balance import Balance
from .steps.contrast import Contrast
from .steps.exposure import Exposure
from .steps.parameter import number
from .steps.step import Strict


class Trim(Strict):
    """Exposure, balance and contrast, in this order, in the encoding of the picture."""

    exposure: float = number(0.0, -4.0, 4.0, label="Exposure", unit="stops", fine=0.05, coarse=0.5)
    temperature: float = number(0.0, -100.0, 100.0, label="Temperature", fine=1, coarse=10, help="cooler – warmer")
    tint: float = number(0.0, -100.0, 100.0, label="Tint", fine=1, coarse=10, help="greener – more magenta")
    contrast: float = number(1.0, 0.5, 2.0, label="Contrast", unit="×", fine=0.01, coarse=0.1)

    def steps(self) -> list[Step]:
        """The trim as steps."""
        return [
            Exposure(id="trim-exposure", stops=self.exposure),
            Balance(id="trim-balance", temperature=self.temperature, tint=self.tint),
            Contrast(id="trim-contrast", amount=self.contrast),
        ]

    def apply(self, rgb: F32, encoding_key: str) -> F32:
        """Colours ``(..., 3)`` trimmed, in the same encoding."""
        return apply(in_order(self.steps(), Surroundings(encoding(encoding_key))), rgb)


def through(
    look: Look,
    rgb: F32,
    *,
    source: str | None = None,
    trim: Trim | None = None,
    strength: float = 1.0,
    tables: Tables = no_tables,
    cache: PrefixCache | None = None,
    cache_key: str = "",
) -> F32:
    """A picture through its trim and a look: trimmed in its own encoding, brought to the look's input, then the look.

    rgb: float32 ``(..., 3)`` in the encoding ``source`` (the look's input where it is not given); the result is in
    ``look.output``. With a cache, ``cache_key`` must name ``rgb``. Raises ``LookError``.
    """
    source = source or look.input
    rgb = colours(rgb)
    if trim is not None and trim != Trim():
        rgb = trim.apply(rgb, source)
        cache_key += trim.model_dump_json()
    rgb = meet(rgb, encoding(source), encoding(look.input))
    return evaluate(look, rgb, tables=tables, strength=strength, cache=cache, cache_key=f"{cache_key} {source}")
