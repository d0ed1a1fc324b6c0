"""Encode."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from ..arrays import F32
from ..encodings import Encoding, EncodingKey, convert, encoding
from .step import Purpose, Step, Surroundings
from .traced import line, ramp


class Encode(Step):
    """The plain conversion to another encoding, through linear light; no tone scale, nothing clipped."""

    title: ClassVar[str] = "Encode"
    purpose: ClassVar[Purpose] = "convert"
    summary: ClassVar[str] = "The same colours in another encoding"

    kind: Literal["encode"] = "encode"
    to: EncodingKey = Field("bt709_display", title="To")

    def output(self, encoding_in: Encoding) -> Encoding:
        return encoding(self.to)

    def neutral(self) -> bool:
        return False

    def apply(self, rgb: F32, at: Surroundings) -> F32:
        return convert(rgb, at.encoding, encoding(self.to))

    def trace(self, at: Surroundings) -> dict[str, Any]:
        return {"x": line(ramp()[:, 0]), "all": line(self.apply(ramp(), at)[:, 0])}
