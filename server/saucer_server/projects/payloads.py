"""What is asked of a project: sent by the screens, and taken by the rules."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field
from saucer_core.encodings import EncodingKey
from saucer_core.stack import STACK
from saucer_core.trim import Trim

from ..fields import Share, Text
from ..frames.reading_rules import ReadingRule
from ..lookup import LARGEST, Id

#: Shots of one project.
SHOTS = 5000
Several = Annotated[tuple[Id, ...], Field(max_length=SHOTS)]
Seen = Annotated[int | None, Field(ge=0, le=LARGEST)]
#: What a shot's file can be named by.
NamePart = Literal["project", "scene", "number", "shot", "look", "revision", "out"]
#: The parts of a trim that can be given to other shots by themselves.
TrimPart = Literal["exposure", "balance", "contrast", "cdl"]
#: What of a shot can stand out of its scene on purpose.
Meant = Literal["skin", "grey", "tone"]


class _Asked(BaseModel):
    model_config = ConfigDict(frozen=True)


class ProjectPatch(_Asked):
    """What is said of a project; what is left out stays as it is. pattern: the parts of its files' names."""

    name: Annotated[Text, Field(min_length=1, max_length=120)] | None = None
    note: Annotated[Text, Field(max_length=4000)] | None = None
    members: Annotated[tuple[Id, ...], Field(max_length=200)] | None = None
    encodings: Annotated[list[EncodingKey], Field(max_length=8)] | None = None
    pattern: Annotated[list[NamePart], Field(max_length=7)] | None = None
    reading: Annotated[list[ReadingRule], Field(max_length=40)] | None = None
    private: bool | None = None


class ShotPatch(_Asked):
    """What is said of one shot; what is left out stays as it is. scene 0: in none; encoding: how its picture
    is taken to be encoded, for this shot alone."""

    name: Annotated[Text, Field(min_length=1, max_length=120)] | None = None
    scene: Annotated[int, Field(ge=0, le=LARGEST)] | None = None
    meant: Annotated[list[Meant], Field(max_length=3)] | None = None
    encoding: EncodingKey | None = None


class Wanted(_Asked):
    """A revision, and the strength it is put on at."""

    revision: Id
    strength: Share = 1.0


class Wish(_Asked):
    """Looks to put on places of a project.

    shots, scenes, whole: the places. how: instead of what is there, over it, or nothing of its own, so that
    what is put around counts. layers: the looks, the lowest first; none with *replace* means no look. seen:
    the newest change that the person had before them; somebody else's after it is told.
    """

    shots: Several = ()
    scenes: Annotated[tuple[Id, ...], Field(max_length=400)] = ()
    whole: bool = False
    how: Literal["replace", "stack", "inherit"] = "replace"
    layers: Annotated[tuple[Wanted, ...], Field(max_length=STACK)] = ()
    seen: Seen = None


class Ripple(_Asked):
    """A trim for several shots, or parts of it. words: what is done, for the list of changes. seen: as in a
    wish."""

    shots: Annotated[tuple[Id, ...], Field(min_length=1, max_length=SHOTS)]
    trim: Trim
    parts: Annotated[tuple[TrimPart, ...], Field(min_length=1, max_length=4)] = (
        "exposure",
        "balance",
        "contrast",
        "cdl",
    )
    words: Annotated[Text, Field(max_length=200)] = ""
    seen: Seen = None
