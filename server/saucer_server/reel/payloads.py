"""What is said of moments of a project: sent by the screens, and kept."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..fields import Share, Text
from ..lookup import Id

FrameNumber = Annotated[int, Field(ge=0, le=1_000_000)]
Words = Annotated[Text, Field(min_length=1, max_length=4000)]


class Wore(BaseModel):
    """A look that was on a shot: its revision, the strength, and how it was called."""

    model_config = ConfigDict(frozen=True)

    revision: int
    strength: float
    words: str


class ReelNoteIn(BaseModel):
    """A note on frames of a shot, both included, and on a spot of the first where it has one."""

    model_config = ConfigDict(frozen=True)

    shot: Id
    first: FrameNumber = 0
    last: FrameNumber = 0
    x: Share | None = None
    y: Share | None = None
    text: Words

    @model_validator(mode="after")
    def _whole(self) -> "ReelNoteIn":
        if (self.x is None) != (self.y is None):
            raise ValueError("a spot has x and y")
        if self.last < self.first:
            raise ValueError("a stretch ends at its first frame or later")
        return self
