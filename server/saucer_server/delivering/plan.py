"""What a delivery is to be: its parts, encodings, kinds of file, and how its files are named."""

from collections.abc import Collection
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from saucer_core.encodings import SDR_WHITE, EncodingKey, SdrWhite
from saucer_core.formats.clip_writing import CLIP_KINDS

from ..bakes.finished import PICTURE_KINDS
from ..projects.payloads import NamePart

Part = Literal["looks", "shots", "cdl", "ocio", "recipes", "stills", "clips", "sheet"]
#: The parts of a delivery, in the order they are made in, and what each is called.
PARTS: dict[Part, str] = {
    "looks": "Look LUTs",
    "shots": "Shot LUTs",
    "cdl": "CDL list",
    "ocio": "OpenColorIO configuration",
    "recipes": "Recipes",
    "stills": "Stills",
    "clips": "Clips",
    "sheet": "Contact sheet",
}
#: Encodings that a delivery offers at once; others can be added.
OFFERED = ("bt709_display", "display_p3", "pq")
Held = Literal["stop", "leave", "anyway"]


def _one_of(known: Collection[str], what: str) -> AfterValidator:
    def check(key: str) -> str:
        if key not in known:
            raise ValueError(f"{what} are {', '.join(known)}, not “{key[:40]}”")
        return key

    return AfterValidator(check)


class Plan(BaseModel):
    """What is to go out.

    encodings: keys; empty for what each look gives. grid: points a side of the tables. picture, clip: kinds
    of file. finish: whether stills and clips carry the finishes of their looks. held: what is done with looks
    that may not be passed on without asking: stop, leave their shots out, or (leads alone) deliver them all
    the same. drop_folder: also to the drop folder. white: cd/m² at which PQ and HLG show the white of a
    standard display.
    """

    model_config = ConfigDict(frozen=True)

    parts: tuple[Part, ...] = Field(
        ("looks", "shots", "cdl", "ocio", "recipes", "stills", "clips"), min_length=1, max_length=8
    )
    encodings: tuple[EncodingKey, ...] = Field((), max_length=8)
    grid: int = Field(33, ge=2, le=65)
    picture: Annotated[str, _one_of(PICTURE_KINDS, "Kinds of picture")] = "png16"
    clip: Annotated[str, _one_of(CLIP_KINDS, "Kinds of clip")] = "h264_10"
    finish: bool = True
    names: tuple[NamePart, ...] = Field(("number", "shot", "out"), min_length=1, max_length=7)
    held: Held = "stop"
    drop_folder: bool = False
    white: SdrWhite = SDR_WHITE

    def outs(self, own: str) -> tuple[str, ...]:
        """The encodings that something which gives ``own`` goes out in."""
        return self.encodings or (own,)
