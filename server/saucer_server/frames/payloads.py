"""What is said of a frame."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field
from saucer_core.trim import Trim

from ..fields import Text
from ..lookup import Id
from .values import SETS, SetName, ShownPart


class FramePatch(BaseModel):
    """What is said of a frame; what is left out stays as it is. passing: no longer for now alone. part: what
    small cards show of it."""

    model_config = ConfigDict(frozen=True)

    name: Annotated[Text, Field(min_length=1, max_length=120)] | None = None
    light: Annotated[Text, Field(max_length=40)] | None = None
    trim: Trim | None = None
    part: ShownPart | None = None
    sets: Annotated[list[SetName], Field(max_length=SETS)] | None = None
    passing: Literal[False] | None = None


Ids = Annotated[list[Id], Field(min_length=1, max_length=5_000)]


class FramesPatch(BaseModel):
    """Many frames that are put into a set, or taken out of one."""

    model_config = ConfigDict(frozen=True)

    ids: Ids
    into: SetName | None = None
    out_of: SetName | None = None


class FramesGone(BaseModel):
    """Many frames that are removed."""

    model_config = ConfigDict(frozen=True)

    ids: Ids
