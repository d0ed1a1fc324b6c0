"""LUT."""

from typing import Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from ..arrays import F32
from ..encodings import Encoding, EncodingKey, convert, encoding
from ..errors import MissingTable
from .step import PLAIN, Purpose, Step, Surroundings
from .traced import line, ramp


class LutStep(Step):
    """A borrowed table. What comes in is brought to the encoding the table expects; it goes on as what it gives."""

    title: ClassVar[str] = "LUT"
    purpose: ClassVar[Purpose] = "borrow"
    summary: ClassVar[str] = "A table from the catalogue, eased and blended"

    kind: Literal["lut"] = "lut"
    table: str = Field("", pattern="^([0-9a-f]{64})?$", title="Table", description="SHA-256 of the table's numbers; empty: none chosen")
    name: str = Field("", max_length=200, pattern=PLAIN, title="Name")
    expects: EncodingKey = Field("bt709_display", title="Expects")
    gives: EncodingKey = Field("bt709_display", title="Gives")

    def output(self, encoding_in: Encoding) -> Encoding:
        return encoding(self.gives) if self.table else encoding_in

    def neutral(self) -> bool:
        return not self.table

    def apply(self, rgb: F32, at: Surroundings) -> F32:
        lut = at.tables(self.table)
        if lut is None:
            raise MissingTable(self.id, self.name)
        return lut.apply(np.ascontiguousarray(convert(rgb, at.encoding, encoding(self.expects))))

    def trace(self, at: Surroundings) -> dict[str, Any]:
        if not self.table:
            return {}
        out = self.apply(ramp(), at)
        return {"x": line(ramp()[:, 0]), "red": line(out[:, 0]), "green": line(out[:, 1]), "blue": line(out[:, 2])}
