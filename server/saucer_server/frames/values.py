"""What a frame says of its file, as its columns hold it."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field
from saucer_core.formats.developing.result import RawFacts

from ..fields import Share, Text

#: Sets that a frame may be in.
SETS = 20
SetName = Annotated[Text, Field(min_length=1, max_length=60)]


class Value(BaseModel):
    """A value of a column."""

    model_config = ConfigDict(frozen=True)


class ShownPart(Value):
    """The middle of the part that small cards show: 0–1, from the left and from the top."""

    x: Share = 0.5
    y: Share = 0.5


class WhiteSaid(Value):
    """A white balance. kelvin: 1,500–25,000; tint: -50–50, more of it is more magenta."""

    kelvin: float = Field(ge=1500, le=25_000, allow_inf_nan=False)
    tint: float = Field(0.0, ge=-50, le=50, allow_inf_nan=False)


class RawSaid(Value):
    """What is known of a camera raw. shot: its white balance as shot; used: that of its development. clipped:
    the shares of red, green and blue places of the sensor that are full."""

    shot: WhiteSaid
    used: WhiteSaid
    clipped: tuple[Share, Share, Share]

    @classmethod
    def of(cls, facts: RawFacts) -> "RawSaid":
        """As the core found it."""
        shot, used = (WhiteSaid(kelvin=b.kelvin, tint=b.tint) for b in (facts.shot, facts.used))
        return cls(shot=shot, used=used, clipped=facts.clipped)


class Known(Value):
    """All that is known of a file before somebody keeps it as a frame.

    digest, file: of what is read; came, original: of the file as it came, where another was developed from it
    (original is empty else). parts: of an EXR file that holds several. part_by: what the part that is shown
    was told by.
    """

    encoding: str
    encoding_by: str
    digest: str
    file: str
    came: str
    original: str = ""
    file_name: str
    bytes: int
    kind: str
    depth: str
    width: int
    height: int
    doubt: str = ""
    unread: list[str] = []
    notes: list[str] = []
    parts: list[str] = []
    part: ShownPart = ShownPart()
    part_by: Literal["skin", "detail", ""] = ""
    raw: RawSaid | None = None
