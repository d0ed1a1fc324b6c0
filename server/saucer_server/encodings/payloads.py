"""What is said of an encoding of the team."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from ..fields import Text


class EncodingPatch(BaseModel):
    """What is said of a team's encoding; what is left out stays as it is. offered: whether it can be
    chosen."""

    model_config = ConfigDict(frozen=True)

    name: Annotated[Text, Field(min_length=1, max_length=60)] | None = None
    offered: bool | None = None
