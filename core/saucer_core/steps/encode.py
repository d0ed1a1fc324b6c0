"""Encode."""

from typing import ClassVar, Literal

from pydantic import Field

from ..encodings import SDR_WHITE, Encoding, EncodingKey, SdrWhite, conversion, encoding, light_between
from ..encodings.gamut import gamut_fit
from ..encodings.oklab import InLab
from ..encodings.primaries import Adaptation
from ..operations import Decode, Operation, apply
from ..operations import Encode as ToCode
from .step import Purpose, Step, Surroundings
from .traced import Trace, line, ramp


class Encode(Step):
    """The plain conversion to another encoding, through linear light; no tone scale, nothing clipped.

    HLG and light of a display are converted through the display that HLG is shown on
    (``encodings.light_between``). With *gamut fit*, colours that the target's primaries cannot show are taken
    back toward grey, hue kept.
    """

    title: ClassVar[str] = "Encode"
    purpose: ClassVar[Purpose] = "convert"
    summary: ClassVar[str] = "The same colours in another encoding"

    kind: Literal["encode"] = "encode"
    to: EncodingKey = Field("bt709_display", title="To")
    fit: bool = Field(False, title="Gamut fit")
    adaptation: Adaptation = Field("cat16", title="White adaptation")
    sdr_white: SdrWhite = Field(
        SDR_WHITE,
        title="White in PQ and HLG",
        description="cd/m² at which they show the white of a standard display",
    )

    def output(self, encoding_in: Encoding) -> Encoding:
        return encoding(self.to)

    def neutral(self) -> bool:
        return False

    def operations(self, at: Surroundings) -> list[Operation]:
        source, target = at.encoding, encoding(self.to)
        if not self.fit:
            return conversion(source, target, self.adaptation, self.sdr_white)
        fit = InLab(target.primaries, (gamut_fit(target.primaries),))
        return [
            Decode(source.transfer),
            *light_between(source, target, self.adaptation, self.sdr_white),
            fit,
            ToCode(target.transfer),
        ]

    def trace(self, at: Surroundings) -> Trace:
        return {"x": line(ramp()[:, 0]), "all": line(apply(self.operations(at), ramp())[:, 0])}
