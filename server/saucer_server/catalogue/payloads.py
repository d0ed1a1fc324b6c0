"""What is said of a collection."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from ..fields import Text

Name = Annotated[Text, Field(min_length=1, max_length=80)]


class CollectionPatch(BaseModel):
    """What is said of a collection; what is left out stays as it is. search: the words of an address that
    keep it."""

    model_config = ConfigDict(frozen=True)

    name: Name | None = None
    search: Annotated[Text, Field(max_length=1000)] | None = None
    note: Annotated[Text, Field(max_length=300)] | None = None
