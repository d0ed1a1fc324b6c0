"""What is said of a whole pack."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from ..fields import Text

Name = Annotated[Text, Field(max_length=80)]
Folder = Annotated[Text, Field(max_length=200)]
Tag = Annotated[Text, Field(max_length=40)]
#: The name of the collection that each folder becomes; empty for none.
Collections = dict[Folder, Name]


class PackPatch(BaseModel):
    """What is said of a whole pack; what is left out stays as it is."""

    model_config = ConfigDict(frozen=True)

    origin: Annotated[Text, Field(max_length=200)] | None = None
    rights: Annotated[Text, Field(min_length=1, max_length=300)] | None = None
    licence: Annotated[Text, Field(max_length=20_000)] | None = None
    tags: Annotated[list[Tag], Field(max_length=30)] | None = None
    collections: Annotated[Collections, Field(max_length=10_000)] | None = None
    review: bool | None = None
