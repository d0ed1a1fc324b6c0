"""What is said of contact sheets."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from ..fields import Share, Text
from ..lookup import Id

#: Looks on one sheet.
LOOKS = 60
#: Frames on one sheet.
FRAMES = 24
#: What one says of a cell; nothing takes it back.
Said = Literal["", "for", "with changes", "against"]


class _Asked(BaseModel):
    model_config = ConfigDict(frozen=True)


class SheetPlan(_Asked):
    """A new sheet: looks by their newest revision, and frames. judged_by: looks that stay named and are not
    voted on."""

    name: Text = Field(min_length=1, max_length=120)
    looks: list[Id] = Field(min_length=1, max_length=LOOKS)
    frames: list[Id] = Field(min_length=1, max_length=FRAMES)
    judged_by: list[Id] = Field([], max_length=LOOKS)
    strength: Share = 1.0
    blind: bool = False


class SheetPatch(_Asked):
    """What is said of a sheet; what is left out stays as it is."""

    name: Annotated[Text, Field(min_length=1, max_length=120)] | None = None
    strength: Share | None = None
    blind: bool | None = None


class MarkIn(_Asked):
    """What one says of a cell; a note alone of a row without a column."""

    row: Id
    column: Id | None = None
    verdict: Said = ""
    note: Text = Field("", max_length=500)
