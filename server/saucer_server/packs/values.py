"""What is known of a look that a pack brings: how sure its encodings are, and what it cannot be told from."""

from typing import Any

from pydantic import BaseModel, ConfigDict, Field, model_validator
from saucer_core.readings.guess import SURE, Guess


class Rival(BaseModel):
    """The next likely pair of encodings, and the mean ΔE between colours with and without the table, read
    so."""

    model_config = ConfigDict(frozen=True)

    expects: str
    gives: str
    apart: float


class ItemGuess(BaseModel):
    """How sure encodings are, 0 to 1, what that rests on, and whether a person is to be asked. apart: mean ΔE
    between colours with and without the table, read so."""

    model_config = ConfigDict(frozen=True)

    sure: float
    unsure: bool
    source: str
    apart: float
    rival: Rival | None

    @model_validator(mode="before")
    @classmethod
    def _up(cls, data: Any) -> Any:
        """Rows of version 1.0.0 hold the rival as a list, and not whether a person is to be asked."""
        if not isinstance(data, dict) or "unsure" in data:
            return data
        rival = data.get("rival")
        named = dict(zip(("expects", "gives", "apart"), rival, strict=True)) if rival else None
        return {**data, "unsure": data["sure"] < SURE, "rival": named}

    @classmethod
    def of(cls, guess: Guess) -> "ItemGuess":
        """What the core guessed."""
        rival = guess.rival and Rival(expects=guess.rival[0], gives=guess.rival[1], apart=guess.rival[2])
        sure, unsure = guess.sure, guess.sure < SURE
        return cls(sure=sure, unsure=unsure, source=guess.source, apart=guess.apart, rival=rival or None)

    def chosen(self, apart: float) -> "ItemGuess":
        """After a person said the encodings."""
        said = {"sure": 1.0, "unsure": False, "source": "chosen", "apart": apart, "rival": None}
        return self.model_copy(update=said)


class Twin(BaseModel):
    """What an eye cannot tell a look from: a look or LUT of the catalogue, or another look of the pack. same:
    it is the same table."""

    model_config = ConfigDict(frozen=True)

    name: str
    apart: float = Field(ge=0)
    same: bool
    look: int | None = None
    lut: int | None = None
    item: int | None = None
