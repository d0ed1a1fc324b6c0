"""A trim: what is done to one frame or shot before the look."""

from .arrays import F32, by_tiles, colours
from .encodings import encoding
from .look import Look
from .steps import Surroundings, run
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

    def steps(self) -> list[Exposure | Balance | Contrast]:
        """The trim as steps."""
        return [
            Exposure(id="trim-exposure", stops=self.exposure),
            Balance(id="trim-balance", temperature=self.temperature, tint=self.tint),
            Contrast(id="trim-contrast", amount=self.contrast),
        ]

    def apply(self, rgb: F32, encoding_key: str) -> F32:
        """Colours ``(..., 3)`` trimmed, in the same encoding."""
        at = Surroundings(encoding(encoding_key))
        return by_tiles(lambda x: run(self.steps(), x, at), colours(rgb))

    def before(self, look: Look, strength: float = 1.0) -> Look:
        """One look that is the trim, done in the look's input encoding, and then the look."""
        from .steps import Group

        eased = [Group(id="look", label="look", steps=look.steps, strength=strength)] if strength < 1 else look.steps
        return Look(input=look.input, output=look.output, steps=[*self.steps(), *eased])
