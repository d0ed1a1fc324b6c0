"""What is said of a look."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from ..fields import Text


class LookPatch(BaseModel):
    """What is said of a look; what is left out stays as it is. shared: whether other designers may change
    it."""

    model_config = ConfigDict(frozen=True)

    name: Annotated[Text, Field(min_length=1, max_length=120)] | None = None
    note: Annotated[Text, Field(max_length=4000)] | None = None
    shared: bool | None = None
