"""How far the copy of a delivery on the drop folder is."""

from typing import Literal

from pydantic import BaseModel, ConfigDict


class CopyState(BaseModel):
    """How far a delivery is on the drop folder; empty where it is not to be there. place: its folder there.
    why: what went wrong, where something did."""

    model_config = ConfigDict(frozen=True)

    state: Literal["", "waiting", "under way", "there", "failed"] = ""
    place: str = ""
    why: str = ""
