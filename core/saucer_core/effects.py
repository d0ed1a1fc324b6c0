"""The finish as numbers: picture effects that a look carries along and a table cannot hold.

Only declared here, so that a look can be kept and shown without the code that renders them; what they do is
in ``finish/``, which no table ever sees. They are done in the order in which they stand in ``Finish``. Radii
are shares of the picture's height, so that a proxy and the full picture agree.
"""

from typing import ClassVar, Literal

from pydantic import Field

from .steps.colour import Colour
from .steps.parameter import degrees, share
from .steps.step import Strict


class Effect(Strict):
    """One picture effect; an amount of 0 is off."""

    #: The amount it begins with when a person adds it.
    begins: ClassVar[float] = 0.3

    on: bool = True


class Softening(Effect):
    """Detail spread over a radius."""

    amount: float = share(0.0, 0.0, 1.0, label="Softening")
    radius: float = share(0.002, 0.0005, 0.03, label="Radius", help="share of the picture's height")


class Sharpening(Effect):
    """Detail strengthened: what differs from its surroundings differs more."""

    begins = 0.5

    amount: float = share(0.0, 0.0, 2.0, label="Sharpening")
    radius: float = share(0.0015, 0.0005, 0.01, label="Radius", help="share of the picture's height")


class Glow(Effect):
    """Light above a threshold spreads, tinted as it spreads (halation)."""

    amount: float = share(0.0, 0.0, 1.0, label="Glow")
    threshold: float = share(0.7, 0.0, 1.0, label="Threshold", help="code value from which on light spreads")
    radius: float = share(0.02, 0.002, 0.2, label="Radius", help="share of the picture's height")
    tint: Colour = Field(default_factory=lambda: Colour(lightness=0.75, chroma=0.15, hue=45.0), title="Tint")


class LightWash(Effect):
    """A soft light laid over a part of the picture."""

    amount: float = share(0.0, 0.0, 1.0, label="Light wash")
    shape: Literal["linear", "round"] = "linear"
    blend: Literal["screen", "soft_light", "add", "multiply"] = "screen"
    angle: float = degrees(90.0, label="From", help="0° from the right, 90° from above")
    x: float = share(0.5, 0.0, 1.0, label="Centre across")
    y: float = share(0.5, 0.0, 1.0, label="Centre down")
    reach: float = share(0.6, 0.05, 2.0, label="Reach")
    colour: Colour = Field(
        default_factory=lambda: Colour(lightness=0.8, chroma=0.1, hue=60.0), title="Colour"
    )


class Vignette(Effect):
    """Darker (or lighter) toward the corners."""

    amount: float = share(0.0, -1.0, 1.0, label="Vignette", help="below 0: lighter corners")
    start: float = share(0.5, 0.0, 1.0, label="Start", help="share of the way to the corner")
    softness: float = share(0.5, 0.05, 1.0, label="Softness")


class Grain(Effect):
    """Film grain, the same every time for the same frame."""

    amount: float = share(0.0, 0.0, 1.0, label="Grain")
    size: float = share(0.0012, 0.0004, 0.01, label="Size", help="share of the picture's height")
    colour: float = share(0.2, 0.0, 1.0, label="Colour", help="how much the channels differ")
    seed: int = Field(1, ge=0, le=2**31 - 1, title="Seed")


class Finish(Strict):
    """All effects, done in this order, on the look's output."""

    softening: Softening = Field(default_factory=Softening)
    sharpening: Sharpening = Field(default_factory=Sharpening)
    glow: Glow = Field(default_factory=Glow)
    light_wash: LightWash = Field(default_factory=LightWash)
    vignette: Vignette = Field(default_factory=Vignette)
    grain: Grain = Field(default_factory=Grain)

    def active(self) -> list[tuple[str, Effect]]:
        """The effects that do something, by name, in order."""
        found = [(name, getattr(self, name)) for name in type(self).model_fields]
        return [(name, effect) for name, effect in found if effect.on and effect.amount != 0]
