"""What is kept of the events of a cut."""

from pydantic import BaseModel, ConfigDict
from saucer_core.formats.cutlists.matching import By


class Met(BaseModel):
    """What an event met: its clip, by what that was told, and the shot that was made of it. asked: clips that
    it may be of, where none is sure; why: why none is, in words."""

    model_config = ConfigDict(frozen=True)

    clip: int | None = None
    by: By = ""
    asked: tuple[int, ...] = ()
    why: str = ""
    shot: int | None = None
