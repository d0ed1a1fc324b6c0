"""What is said of a preset."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field
from saucer_core.presets import StepContent

from ..fields import Text

Name = Annotated[Text, Field(min_length=1, max_length=80)]
Note = Annotated[Text, Field(max_length=300)]


class NewPreset(BaseModel):
    """A step to keep, and what it is to be called. shared: with the team."""

    model_config = ConfigDict(frozen=True)

    name: Name
    note: Note = ""
    content: StepContent
    shared: bool = False


class PresetPatch(BaseModel):
    """What is said of a preset; what is left out stays as it is."""

    model_config = ConfigDict(frozen=True)

    name: Name | None = None
    note: Note | None = None
    shared: bool | None = None
