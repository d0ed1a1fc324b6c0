"""What every step is: identity, switch, strength, blend, and operations on colours."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, ClassVar, Literal
from uuid import uuid4

from pydantic import BaseModel, ConfigDict, Field

from ..encodings import Encoding
from ..operations import Operation
from ..tables.lut import Table
from .blend import Blend
from .parameter import share
from .traced import Trace

#: Values of parameters by their names: a kind of step says which it has.
Values = dict[str, Any]
Purpose = Literal["tone", "colour", "mix", "convert", "borrow", "group"]
Tables = Callable[[str], Table | None]


def no_tables(digest: str) -> None:
    """A supply of borrowed tables that has none."""
    return None


@dataclass(frozen=True)
class Surroundings:
    """What a step knows of the place it stands in: the encoding it is given, and where borrowed tables come
    from."""

    encoding: Encoding
    tables: Tables = no_tables


#: Words without control characters: databases and files hold them all.
PLAIN = r"^[^\x00-\x1f\x7f]*$"


class Strict(BaseModel):
    """A part of a look: no unknown fields, no infinities."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


def new_id() -> str:
    """An id for a new step."""
    return uuid4().hex[:8]


class Step(Strict):
    """One operation of a look, in order.

    ``operations`` say what it does to code values in ``at.encoding``; they end in ``output(at.encoding)``,
    are total (no NaN for any finite input) and treat every colour alone.
    """

    title: ClassVar[str]
    purpose: ClassVar[Purpose]
    summary: ClassVar[str]
    #: What differs from the defaults when a person adds the step: defaults change nothing, a new step is to
    #: show what it does.
    begins: ClassVar[Values] = {}

    id: str = Field(default_factory=new_id, min_length=1, max_length=40, pattern=PLAIN)
    label: str = Field("", max_length=80, pattern=PLAIN)
    on: bool = True
    strength: float = share(1.0, 0.0, 1.0, label="Strength")
    blend: Blend = "normal"

    @classmethod
    def declared(cls) -> Values:
        """The parameters as JSON Schema, with label, unit, range and step sizes; ``properties`` always at the
        top."""
        schema = cls.model_json_schema()
        # A kind that holds steps refers to itself: its own part stands among the definitions.
        own: Values = schema["$defs"][cls.__name__] if "$ref" in schema else {}
        return {**schema, **own}

    def output(self, encoding: Encoding) -> Encoding:
        """The encoding after this step."""
        return encoding

    def neutral(self) -> bool:
        """Whether the parameters are those of a step that does nothing."""
        own = type(self).model_fields.keys() - Step.model_fields.keys()
        return all(
            getattr(self, name) == type(self).model_fields[name].get_default(call_default_factory=True)
            for name in own
        )

    def operations(self, at: Surroundings) -> list[Operation]:
        """What the step does, at full strength and without blend."""
        raise NotImplementedError

    def trace(self, at: Surroundings) -> Trace:
        """What its editor draws: named lists of numbers, ready to be plotted."""
        return {}
