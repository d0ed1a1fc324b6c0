"""What a pack that goes out is to hold."""

from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from saucer_core.tables.lut import GRID_LIMIT

from ..bakes.rules import FILE_KINDS
from ..fields import Text
from ..lookup import Id

#: Looks of one pack.
LOOKS = 2000


def _known(kind: str) -> str:
    if kind not in FILE_KINDS:
        raise ValueError(f"Saucer writes {', '.join(FILE_KINDS)}, not “{kind[:40]}”")
    return kind


class Order(BaseModel):
    """What is to go out: collections, single looks, kinds of files beside the recipes, frames of the contact
    sheet. anyway: also looks that may not be passed on without asking; leads alone say so."""

    model_config = ConfigDict(frozen=True)

    name: Text = Field(min_length=1, max_length=120)
    collections: list[Annotated[Text, Field(max_length=80)]] = Field([], max_length=100)
    looks: list[Id] = Field([], max_length=LOOKS)
    kinds: list[Annotated[str, AfterValidator(_known)]] = Field([], max_length=12)
    grid: int = Field(33, ge=3, le=GRID_LIMIT)
    frames: list[Id] = Field([], max_length=12)
    anyway: bool = False
