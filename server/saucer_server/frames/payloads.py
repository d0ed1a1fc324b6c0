"""What is said of a frame."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field
from saucer_core.trim import Trim

from ..fields import Text


class FramePatch(BaseModel):
    """What is said of a frame; what is left out stays as it is. passing: no longer for now alone."""

    model_config = ConfigDict(frozen=True)

    name: Annotated[Text, Field(min_length=1, max_length=120)] | None = None
    light: Annotated[Text, Field(max_length=40)] | None = None
    trim: Trim | None = None
    passing: Literal[False] | None = None
