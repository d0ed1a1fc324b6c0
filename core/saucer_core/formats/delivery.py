"""What a delivery of a project says of itself: ``contents.json`` in its package, and the list of a feed."""

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..encodings import SDR_WHITE, CameraEncoding, SdrWhite
from ..trim import Trim

#: What a delivery is made of.
Part = Literal["looks", "shots", "cdl", "ocio", "recipes", "stills", "clips", "review", "sheet", "cut"]
#: What was measured or chosen while a file was made, by what it is called in the lists: open by nature, each
#: part has its own.
Facts = dict[str, str | int | float]
#: Frames that a clip may have, as far as lists are concerned.
FRAMES = 10**9
#: Its name in the package.
CONTENTS = "contents.json"


class _Listed(BaseModel):
    model_config = ConfigDict(frozen=True, validate_by_name=True, validate_by_alias=True)


class DeliveredFile(_Listed):
    """A file: its path in the package, checksum and size in bytes."""

    path: str
    sha256: str
    bytes: int


class FeedFile(DeliveredFile):
    """A file and the address it is fetched at."""

    address: str


class Manifest(BaseModel):
    """What a feed has to fetch: every file with its checksum and address, the lists among them. changes: what
    is otherwise than in the delivery before, in words."""

    saucer_feed: Literal[1] = 1
    project: str
    delivery: int
    made_at: str
    changes: list[str]
    files: list[FeedFile]


class ListedSource(_Listed):
    """What a shot is seen in. name: of the clip or picture; file: what its file was called; sha256: of that
    file as it was brought in, empty where that is not known.

    A clip has a rate, as a fraction, and says which of its frames are used: first, last, from 0, both
    included; timecode: of its frame 0; reel: what it was recorded on. Camera raw has a white balance: kelvin
    and tint.
    """

    name: str
    file: str
    sha256: str = ""
    reel: str = ""
    timecode: str = ""
    rate: str = Field("", pattern=r"^([1-9]\d{0,8}/[1-9]\d{0,8})?$")
    first: int = Field(0, ge=0, le=FRAMES)
    last: int = Field(0, ge=0, le=FRAMES)
    balance: tuple[float, float] | None = None

    @model_validator(mode="after")
    def _in_order(self) -> "ListedSource":
        if self.last < self.first:
            raise ValueError("its last frame lies before its first")
        return self


class ListedLook(_Listed):
    """A look on a shot. recipe: its path in the package, empty where the recipe is not in it."""

    look: str
    revision: int
    strength: float = Field(1.0, ge=0, le=1)
    recipe: str = ""


class ListedOut(_Listed):
    """An encoding that a shot goes out in, by its key. name: of files of the shot in it, without an ending.
    lut: the path of its LUT in the package, empty where there is none."""

    encoding: str
    name: str
    lut: str = ""


class ListedShot(_Listed):
    """A shot as the list says it. digest: of the picture that stands for it, which the pattern of grain
    follows. Lists of an older Saucer say neither digest, source, looks nor outs."""

    number: int
    name: str
    scene: str
    words: str
    encoding: str
    trim: Trim
    digest: str = ""
    source: ListedSource | None = None
    looks: tuple[ListedLook, ...] = ()
    outs: tuple[ListedOut, ...] = ()

    @property
    def label(self) -> str:
        """Its number and name."""
        return f"{self.number} {self.name}"


class ListedPiece(_Listed):
    """A piece as the list says it. shot: the number of the shot that it is of, where it is of one."""

    path: str
    facts: Facts
    shot: int | None = Field(None, exclude_if=lambda number: number is None)


class Contents(_Listed):
    """The list of a delivery. cut: the number of the cut that its shots followed. white: cd/m² at which PQ
    and HLG show the white of a standard display. finish: whether pictures carry the finishes of their looks.
    cameras: the encodings of the team that its shots are read as."""

    saucer_delivery: Literal[1] = 1
    project: str
    delivery: int
    cut: int | None = Field(None, exclude_if=lambda number: number is None)
    made_by: str = Field(alias="made by")
    made_at: str = Field(alias="made at")
    encodings: tuple[str, ...]
    white: SdrWhite = SDR_WHITE
    finish: bool = True
    cameras: tuple[CameraEncoding, ...] = ()
    shots: tuple[ListedShot, ...]
    parts: dict[Part, tuple[ListedPiece, ...]]
    files: tuple[DeliveredFile, ...]
