"""What is asked of a picture that is developed, and what comes of it."""

from dataclasses import dataclass
from pathlib import Path

from ..pictures import PictureFacts


@dataclass(frozen=True)
class Balance:
    """A white balance. kelvin: 1,500–25,000. tint: -50–50, more of it is more magenta."""

    kelvin: float
    tint: float


@dataclass(frozen=True)
class Wish:
    """How a picture is developed. part: of an EXR file with several, from 0. balance: of a camera raw,
    ``None`` for the one as shot."""

    part: int = 0
    balance: Balance | None = None


@dataclass(frozen=True)
class RawFacts:
    """What is known of a developed camera raw.

    shot: its white balance as shot. used: the one it is developed with. clipped: the shares of red, green and
    blue places of the sensor that are full, 0–1.
    """

    shot: Balance
    used: Balance
    clipped: tuple[float, float, float]


@dataclass(frozen=True)
class Developed:
    """A developed picture. path: where it lies. facts: of the file that it was made from. notes: what was
    done to it, in words. raw: of a camera raw."""

    path: Path
    facts: PictureFacts
    notes: tuple[str, ...] = ()
    raw: RawFacts | None = None
