"""Scales: along what each trait is drawn, narrowed and compared.

Ends, and how much of a trait an eye notices, are Saucer's own, set by looking at the demo looks.
"""

import math
from dataclasses import dataclass

from .traits import Traits


@dataclass(frozen=True)
class Scale:
    """One trait as people read it.

    low, high: between what it is drawn, in the trait's own unit; neutral: what it is without a look. notice:
    a change of that much is plain to see. less, more: what a look is called towards either end. unit, factor,
    digits: how the number is written.
    """

    key: str
    label: str
    low: float
    high: float
    neutral: float
    notice: float
    less: str
    more: str
    unit: str = ""
    factor: float = 1.0
    digits: int = 2

    def place(self, value: float) -> float:
        """Where a value stands from end to end, 0–1, neutral in the middle; what lies beyond the ends is
        pressed together there.

        The place depends on the value alone, so a look stays where it is whatever other looks there are.
        """
        side = (self.high if value >= self.neutral else self.low) - self.neutral
        if not side or math.isnan(value):
            return 0.5
        far = abs((value - self.neutral) / side)
        return 0.5 + math.copysign(0.5 * math.tanh(1.7 * far), value - self.neutral)


SCALES = (
    Scale("warmth", "Warmth", -60, 60, 0, 8, "cooler", "warmer", digits=0),
    Scale("contrast", "Contrast", 0.4, 1.8, 1, 0.1, "softer", "harder", unit="×"),
    Scale("saturation", "Saturation", 0, 2, 1, 0.12, "less saturated", "more saturated", unit="×"),
    Scale("exposure", "Brightness", -30, 30, 0, 4, "darker", "brighter", unit="L", digits=0),
    Scale(
        "black",
        "Black point",
        0,
        0.3,
        0,
        0.015,
        "deeper blacks",
        "lifted blacks",
        unit="%",
        factor=100,
        digits=1,
    ),
    Scale(
        "white", "White point", 0.5, 1, 1, 0.03, "lower whites", "full whites", unit="%", factor=100, digits=1
    ),
    Scale("tint", "Green to rose", -40, 40, 0, 6, "rosier", "greener", digits=0),
    Scale("skin_hue", "Skin hue", -40, 40, 0, 5, "redder skin", "yellower skin", unit="°", digits=0),
    Scale("hue_spread", "Gathered hues", 0, 1, 0, 0.08, "hues spread", "two hues"),
)


#: The scales by the trait they are of.
BY_KEY = {s.key: s for s in SCALES}


def measured(traits: Traits) -> dict[str, float]:
    """The traits that have a scale, by key."""
    return {s.key: float(getattr(traits, s.key)) for s in SCALES}
