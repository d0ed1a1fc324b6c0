"""What is said of a look."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field
from saucer_core.readings.overtime import Kind

from ..fields import Text
from ..lookup import Id


class LookPatch(BaseModel):
    """What is said of a look; what is left out stays as it is. shared: whether other designers may change
    it."""

    model_config = ConfigDict(frozen=True)

    name: Annotated[Text, Field(min_length=1, max_length=120)] | None = None
    note: Annotated[Text, Field(max_length=4000)] | None = None
    shared: bool | None = None


class MeantOver(BaseModel):
    """What a look does to a clip over time on purpose. frame: the one that stands for the clip; kind: of the
    places that are meant."""

    model_config = ConfigDict(frozen=True)

    frame: Id
    kind: Kind


class MeantPatch(MeantOver):
    """The same, or that it is not meant any more."""

    meant: bool
