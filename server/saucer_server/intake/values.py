"""What is found and said of a file, as the columns of an intake hold it."""

from typing import Annotated

from pydantic import Field
from saucer_core.encodings import EncodingKey

from ..fields import Share, Text
from ..frames.values import ShownPart, Value, WhiteSaid


class Guessed(Value):
    """An encoding, how sure it is, 0–1, and by what."""

    key: str
    sure: Share
    why: str


class SameFile(Value):
    """A frame that is the same file."""

    frame: int
    name: str


class Said(Value):
    """What somebody says of a file; what is ``None`` is as it was found.

    encoding: what it is in. part: the part that small cards show. layer: which part of an EXR file with
    several is read, from 0. white: the white balance of a camera raw.
    """

    name: Annotated[Text, Field(max_length=120)] | None = None
    light: Annotated[Text, Field(max_length=40)] | None = None
    encoding: EncodingKey | None = None
    part: ShownPart | None = None
    layer: int | None = Field(None, ge=0, le=999)
    white: WhiteSaid | None = None
