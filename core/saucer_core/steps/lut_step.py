"""LUT."""

from typing import ClassVar, Literal

from pydantic import Field

from ..encodings import Encoding, EncodingKey, conversion, encoding
from ..encodings.code_range import CodeRange, from_full, to_full
from ..errors import MissingTable
from ..operations import Operation, apply
from .step import PLAIN, Purpose, Step, Surroundings
from .traced import Trace, line, ramp


class LutStep(Step):
    """A borrowed table. What comes in is brought to the encoding the table expects; it goes on as what it
    gives."""

    title: ClassVar[str] = "LUT"
    purpose: ClassVar[Purpose] = "borrow"
    summary: ClassVar[str] = "A table from the catalogue, eased and blended"

    kind: Literal["lut"] = "lut"
    table: str = Field(
        "",
        pattern="^([0-9a-f]{64})?$",
        title="Table",
        description="SHA-256 of the table's numbers; empty: none chosen",
    )
    name: str = Field("", max_length=200, pattern=PLAIN, title="Name")
    expects: EncodingKey = Field("bt709_display", title="Expects")
    gives: EncodingKey = Field("bt709_display", title="Gives")
    range_in: CodeRange = Field("full", title="Range it expects")
    range_out: CodeRange = Field("full", title="Range it gives")

    def output(self, encoding_in: Encoding) -> Encoding:
        return encoding(self.gives) if self.table else encoding_in

    def neutral(self) -> bool:
        return not self.table

    def operations(self, at: Surroundings) -> list[Operation]:
        lut = at.tables(self.table)
        if lut is None:
            raise MissingTable(self.id, self.name)
        arriving = conversion(at.encoding, encoding(self.expects))
        return [*arriving, *from_full(self.range_in), *lut.operations(), *to_full(self.range_out)]

    def trace(self, at: Surroundings) -> Trace:
        if not self.table:
            return {}
        out = apply(self.operations(at), ramp())
        return {
            "x": line(ramp()[:, 0]),
            "red": line(out[:, 0]),
            "green": line(out[:, 1]),
            "blue": line(out[:, 2]),
        }
