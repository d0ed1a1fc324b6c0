"""What a table expects and gives, guessed from its words and from what it does, with how sure that is.

A table read as what it was made for gives a picture: contrast, colour and brightness stay within what people
call a look. Read as something else it gives far too hard, too flat or too bright a picture. Each pair of
encodings is tried on greys, hues and skins; how far the result lies from a picture, and what the file itself
says, make the pair more or less likely. Limits and weights are Saucer's own, set on tables baked from looks
with known encodings.
"""

import math
import re
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from ..encodings import ENCODINGS, Encoding
from ..errors import LookError
from ..look import wearing
from ..steps import Tables
from ..tables.lut import Table
from .likeness import apart, behaviour
from .traits import Traits, traits

Source = Literal["written in it", "its words", "what it does"]
#: Below this a person is asked.
SURE = 0.8
#: Pairs that tables are made for, with how often that is (common practice): pictures, film logarithm to a
#: display, looks inside it.
_USUAL = (
    ("bt709_display", "bt709_display", 1.0),
    ("film_log", "bt709_display", 0.6),
    ("film_log", "film_log", 0.12),
    ("acescct", "bt709_display", 0.12),
    ("acescct", "acescct", 0.05),
    ("linear_709", "bt709_display", 0.05),
)
#: How often a team's own camera encoding is what is expected, each.
_CAMERA = 0.25
#: What words in names and remarks mean. The first that fits at a place counts.
_WORDS = (
    (r"acescct", "acescct"),
    (r"acescc", "acescc"),
    (r"acescg", "acescg"),
    (r"aces2065", "aces2065_1"),
    (r"film[ _-]?log|\blog\b|(?<![a-z])log(?=[0-9_ -]|to|$)", "film_log"),
    (r"display[ _-]?p3", "display_p3"),
    (r"dci[ _-]?p3", "dci_p3"),
    (r"srgb", "srgb"),
    (r"(rec|bt)?[ _.-]?709", "bt709_display"),
    (r"(rec|bt)[ _.-]?2020", "bt2020_display"),
    (r"\bpq\b|st[ _-]?2084", "pq"),
    (r"\bhlg\b", "hlg"),
    (r"gamma[ _-]?2[._]?4", "gamma_24"),
    (r"gamma[ _-]?2[._]?2", "gamma_22"),
    (r"\blinear\b", "linear_709"),
)
#: How many times likelier a pair is for each encoding that words name in its place.
_SAID = 12.0
#: What Saucer's own files say of the encoding that they expect.
_COMES = re.compile(r"^\s*Comes in as:\s*(.+?)\s*$")
#: What Saucer's own files say of the encoding that they give.
_GOES = re.compile(r"^\s*Goes out as:\s*(.+?)\s*$")


@dataclass(frozen=True)
class Guess:
    """Encodings with how sure they are, 0–1, and what that rests on.

    apart: mean ΔE2000 between colours with and without the table, read so. rival: the next likely pair and
    its ``apart``; ``None`` where nothing else comes near.
    """

    expects: str
    gives: str
    sure: float
    source: Source
    apart: float
    rival: tuple[str, str, float] | None = None


def _far_from_a_picture(t: Traits) -> float:
    """How far a treatment lies from what people call a look; about 1 for a strong one."""
    contrast = math.log(max(t.contrast, 0.02)) / 0.45
    colour = math.log(max(t.saturation, 0.4)) / 0.5
    ends = max(0.0, t.black - 0.12) / 0.1, max(0.0, 0.8 - t.white) / 0.1
    return math.sqrt(contrast**2 + colour**2 + (t.exposure / 13) ** 2 + ends[0] ** 2 + ends[1] ** 2)


def _spelled(e: Encoding) -> set[str]:
    return {re.sub(r"[^a-z0-9]", "", word.lower()) for word in (e.key, e.label)}


def _named(text: str, known: Iterable[Encoding]) -> str | None:
    asked = re.sub(r"[^a-z0-9]", "", text.lower())
    return next((e.key for e in known if asked in _spelled(e)), None)


def _written(words: Iterable[str], known: list[Encoding]) -> tuple[str | None, str | None]:
    """Encodings that a remark gives in so many words."""
    found: list[str | None] = [None, None]
    for line in words:
        for place, form in enumerate((_COMES, _GOES)):
            if match := form.match(line):
                found[place] = _named(match[1], known) or found[place]
    return found[0], found[1]


def _mentioned(words: Iterable[str], known: list[Encoding]) -> list[str]:
    """Encodings that names and remarks mention, in their order."""
    own = [(re.escape(e.label), e.key) for e in known if e.key not in ENCODINGS]
    found: list[str] = []
    for line in words:
        spots = []
        for form, key in (*own, *_WORDS):
            spots += [
                (m.start(), -m.end(), key)
                for m in re.finditer(form, line.replace("_", " "), re.IGNORECASE)
                if m.group()
            ]
        end = -1
        for start, negative_end, key in sorted(spots):
            if start >= end:
                found, end = [*found, key], -negative_end
    return list(dict.fromkeys(found))


def guess(table: Table, words: Iterable[str] = (), cameras: Iterable[Encoding] = ()) -> Guess:
    """The likeliest encodings of a table.

    words: its file name, title and remarks, and remarks of the form *Comes in as: …*. cameras: the team's own
    encodings.
    """
    said = list(words)
    digest = table.digest()
    tables = only(table, digest)

    def off(one: str, other: str) -> float:
        return apart(behaviour(wearing(digest, "", one, other), tables=tables), behaviour(None))[0]

    known = [*ENCODINGS.values(), *cameras]
    expects, gives = _written(said, known)
    if expects and gives:
        return Guess(expects, gives, 1.0, "written in it", off(expects, gives))
    mentioned = _mentioned(said, known)
    likely = dict.fromkeys(((e, g) for e, g, _ in _USUAL), 0.0) | {(e, g): often for e, g, often in _USUAL}
    likely |= {(c.key, "bt709_display"): _CAMERA for c in cameras}
    for first in mentioned:
        likely.setdefault((first, first), 0.05)
        for second in mentioned:
            likely.setdefault((first, second), 0.05)
        if ENCODINGS.get(first) is None or ENCODINGS[first].response != "display":
            likely.setdefault((first, "bt709_display"), 0.1)
    weighed = []
    for (one, other), often in likely.items():
        if (expects and one != expects) or (gives and other != gives):
            continue
        try:
            far = _far_from_a_picture(traits(wearing(digest, "", one, other), tables=tables))
        except LookError:
            continue
        weighed.append((often * _from_words(one, other, mentioned) * math.exp(-(far**2)), one, other))
    if not weighed:
        expects, gives = expects or "bt709_display", gives or "bt709_display"
        return Guess(expects, gives, 0.0, "what it does", off(expects, gives))
    weighed.sort(reverse=True)
    total = sum(w for w, _, _ in weighed) or 1.0
    weight, one, other = weighed[0]
    sure = min(weight / total, 0.99)
    rival = None
    if len(weighed) > 1 and weighed[1][0] / total > 0.02:
        rival = (weighed[1][1], weighed[1][2], off(weighed[1][1], weighed[1][2]))
    source: Source = "its words" if {one, other} & set(mentioned) else "what it does"
    return Guess(one, other, sure, source, off(one, other), rival)


def _from_words(expects: str, gives: str, mentioned: list[str]) -> float:
    """How many times likelier words make a pair: the first named is what comes in where two are named."""
    if not mentioned:
        return 1.0
    if len(mentioned) == 1:
        (only,) = mentioned
        return _SAID if only in (expects, gives) else 1.0
    return (_SAID if expects == mentioned[0] else 1.0) * (_SAID if gives in mentioned[1:] else 1.0)


def only(table: Table, digest: str) -> Tables:
    """That table by its digest, and no other."""
    return lambda asked: table if asked == digest else None
