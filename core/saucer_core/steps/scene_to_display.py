"""Scene to display."""

from typing import ClassVar, Literal

from pydantic import Field, model_validator

from ..encodings import SDR_WHITE, Encoding, EncodingKey, ToneScale, encoding
from ..encodings.hdr import PQ, UNIT
from ..encodings.registry import primaries_change
from ..operations import Decode, Encode, Operation, apply, gain
from .parameter import number, share
from .step import Purpose, Step, Surroundings
from .traced import Trace, line, ramp


class SceneToDisplay(Step):
    """Renders scene light for a display through the tone scale of ``encodings.rendering``."""

    title: ClassVar[str] = "Scene to display"
    purpose: ClassVar[Purpose] = "convert"
    summary: ClassVar[str] = "Renders scene light for a display"

    kind: Literal["scene_to_display"] = "scene_to_display"
    to: EncodingKey = Field("bt709_display", title="To")
    grey: float = share(0.13, 0.04, 0.3, label="Middle grey", help="display light of scene 18 %")
    contrast: float = number(1.28, 0.9, 2.0, label="Contrast", unit="×", fine=0.01, coarse=0.1)
    white_stops: float = number(5.0, 3.0, 8.0, label="White above grey", unit="stops", fine=0.1, coarse=0.5)

    @model_validator(mode="after")
    def _solvable(self) -> "SceneToDisplay":
        self.scale().rendering()
        if encoding(self.to).referred != "display":
            raise ValueError(f"{encoding(self.to).label} is not the encoding of a display")
        return self

    def scale(self) -> ToneScale:
        """The tone scale with this step's anchors."""
        return ToneScale(self.contrast, self.grey, self.white_stops)

    def output(self, encoding_in: Encoding) -> Encoding:
        return encoding(self.to)

    def neutral(self) -> bool:
        return False

    def operations(self, at: Surroundings) -> list[Operation]:
        target = encoding(self.to)
        rendered = [*primaries_change(at.encoding.primaries, target.primaries), self.scale().rendering()]
        # The tone scale ends at the white of a standard display, which PQ shows at its reference white.
        lifted = [gain(SDR_WHITE / UNIT)] if target.transfer == PQ else []
        return [Decode(at.encoding.transfer), *rendered, *lifted, Encode(target.transfer)]

    def trace(self, at: Surroundings) -> Trace:
        return {"x": line(ramp()[:, 0]), "all": line(apply(self.operations(at), ramp())[:, 0])}
