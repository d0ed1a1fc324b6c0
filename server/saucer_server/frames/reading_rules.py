"""Rules by which pictures that come in are read: which encoding they are in, by their name, folder or tag."""

from collections.abc import Iterable
from fnmatch import fnmatch
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field
from saucer_core.encodings import EncodingKey

from ..fields import Text

#: By what an encoding is said that a rule gives, in words.
RULED = "a rule of the project"


class ReadingRule(BaseModel):
    """A rule by which pictures are read: where their name, folder or tag fits the pattern (``*`` and ``?``),
    they are so encoded."""

    model_config = ConfigDict(frozen=True)

    by: Literal["name", "folder", "tag"]
    pattern: Text = Field(min_length=1, max_length=120)
    encoding: EncodingKey


def encoding_by(rules: Iterable[ReadingRule], file_name: str, folder: str, tag: str) -> str:
    """The encoding of the first rule that fits a picture; empty for none. Case does not count."""
    against = {"name": file_name, "folder": folder, "tag": tag}
    for rule in rules:
        if fnmatch(against[rule.by].lower(), rule.pattern.lower()):
            return rule.encoding
    return ""
