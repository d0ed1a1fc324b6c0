"""What came of taking a table apart."""

from typing import Literal

from pydantic import BaseModel, ConfigDict
from saucer_core.look import Look as LookValue

#: Mean, 99 % and largest ΔE.
Errors = tuple[float, float, float]


class _Found(BaseModel):
    model_config = ConfigDict(frozen=True)


class UnbakedStep(_Found):
    """A step that was found: its kind, its numbers in words, and its share of the whole change."""

    kind: str
    title: str
    words: str
    share: float


class UnbakedStage(_Found):
    """What remains after so many steps: mean, 99 % and largest ΔE over the cube and over ordinary colours."""

    steps: int
    cube: Errors
    ordinary: Errors


class Unbaked(_Found):
    """The steps, and what remains after each.

    input, output: encodings that the table stands between. rest_behind: whether what the steps leave over
    comes after them. looks: the steps alone, and with the rest behind or before them.
    """

    input: str
    output: str
    rest_behind: bool
    looks: dict[Literal["steps", "with rest"], LookValue]
    steps: list[UnbakedStep]
    stages: list[UnbakedStage]
    with_rest: UnbakedStage
