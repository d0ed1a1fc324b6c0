"""What a delivery is to be: its parts, encodings, kinds of file, and how its files are named."""

from collections.abc import Collection
from typing import Annotated, Literal, get_args

from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from saucer_core.encodings import SDR_WHITE, EncodingKey, SdrWhite
from saucer_core.formats.clip_kinds import CLIP_KINDS
from saucer_core.formats.delivery import Part
from saucer_core.formats.review_writing import WIDTHS, ReviewKind

from ..bakes.finished import PICTURE_KINDS
from ..fields import Text
from ..lookup import Id
from ..projects.payloads import NamePart

#: The parts of a delivery, in the order they are made in, and what each is called.
PARTS: dict[Part, str] = {
    "looks": "Look LUTs",
    "shots": "Shot LUTs",
    "cdl": "CDL list",
    "ocio": "OpenColorIO configuration",
    "recipes": "Recipes",
    "stills": "Stills",
    "clips": "Clips",
    "review": "Review clip",
    "sheet": "Contact sheet",
    "cut": "Cut list",
}
#: Encodings that a delivery offers at once; others can be added.
OFFERED = ("bt709_display", "display_p3", "pq")
Held = Literal["stop", "leave", "anyway"]


def _one_of(known: Collection[str | int], what: str) -> AfterValidator:
    def check(key: str | int) -> str | int:
        if key not in known:
            raise ValueError(f"{what} are {', '.join(map(str, known))}, not “{str(key)[:40]}”")
        return key

    return AfterValidator(check)


#: What the line under the picture of a review clip can say, and what each is called.
SlatePart = Literal["shot", "look", "timecode", "date", "for"]
SLATE: dict[SlatePart, str] = {
    "shot": "shot",
    "look": "look and revision",
    "timecode": "timecode",
    "date": "date",
    "for": "for whom",
}


class ReviewPlan(BaseModel):
    """What a review clip is. scene: the one that it shows; nothing for the whole reel. rows: of the clip, 16
    : 9. slate: what the line under the picture says; nothing for no line. whom: for whom it is."""

    model_config = ConfigDict(frozen=True)

    scene: Id | None = None
    kind: ReviewKind = "h264"
    rows: Annotated[int, _one_of(WIDTHS, "Rows of a review clip")] = 1080
    slate: tuple[SlatePart, ...] = Field(("shot", "look", "timecode"), max_length=len(get_args(SlatePart)))
    whom: Text = Field("", max_length=80)


class Plan(BaseModel):
    """What is to go out.

    encodings: keys; empty for what each look gives. grid: points a side of the tables. picture, clip: kinds
    of file. finish: whether stills and clips carry the finishes of their looks. held: what is done with looks
    that may not be passed on without asking: stop, leave their shots out, or (leads alone) deliver them all
    the same. drop_folder: also to the drop folder. review: what the review clip is. white: cd/m² at which PQ
    and HLG show the white of a standard display.
    """

    model_config = ConfigDict(frozen=True)

    parts: tuple[Part, ...] = Field(
        ("looks", "shots", "cdl", "ocio", "recipes", "stills", "clips", "cut"), min_length=1, max_length=10
    )
    encodings: tuple[EncodingKey, ...] = Field((), max_length=8)
    grid: int = Field(33, ge=2, le=65)
    picture: Annotated[str, _one_of(PICTURE_KINDS, "Kinds of picture")] = "png16"
    clip: Annotated[str, _one_of(CLIP_KINDS, "Kinds of clip")] = "h264_10"
    finish: bool = True
    names: tuple[NamePart, ...] = Field(("number", "shot", "out"), min_length=1, max_length=7)
    held: Held = "stop"
    drop_folder: bool = False
    review: ReviewPlan = ReviewPlan()
    white: SdrWhite = SDR_WHITE

    @property
    def review_alone(self) -> bool:
        """Whether nothing but a review clip goes out."""
        return set(self.parts) == {"review"}

    def outs(self, own: str) -> tuple[str, ...]:
        """The encodings that something which gives ``own`` goes out in."""
        return self.encodings or (own,)
