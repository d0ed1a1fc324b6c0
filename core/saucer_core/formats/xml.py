"""Reading XML from strangers: no entities, bounded size, places for errors."""

import codecs
import math
import re
from pathlib import Path
from xml.etree import ElementTree
from xml.parsers import expat

import numpy as np

from ..arrays import F64
from ..errors import FileError

SIZE_LIMIT = 64 * 2**20
DEPTH_LIMIT = 32
#: The largest sound file, a collection of 10,000 corrections with descriptions, has about half as many.
ELEMENT_LIMIT = 200_000
#: Attributes of one element.
ATTRIBUTE_LIMIT = 64
#: Characters of one attribute.
VALUE_LIMIT = 4096
#: Beyond this a number is no use to anybody, and its products with colours would leave what a float32 can be.
LARGEST = 1e12
#: Encodings that a file may declare; others are converted by whoever made it.
ENCODINGS = ("utf-8", "utf-16", "iso8859-1", "iso8859-15", "ascii", "cp1252")
_DECLARED = re.compile(rb"""^\s*<\?xml[^>]{0,200}?encoding\s*=\s*["']([A-Za-z0-9._-]{1,40})["']""")
_DECLARATION = re.compile(r"^\s*<\?xml[^>]{0,300}\?>")


def read_limited(path: Path, name: str, limit: int = SIZE_LIMIT) -> str:
    """The text of a file, checked for size before it is read, without its XML declaration; raises
    ``FileError``."""
    if path.stat().st_size > limit:
        raise FileError(name, f"larger than {limit // 2**20} MiB, the most such a file may be")
    return decoded(path.read_bytes(), name)


def decoded(data: bytes, name: str) -> str:
    """The text of an XML file in the encoding that it declares or begins with, without the declaration;
    raises ``FileError``."""
    declared = "utf-8"
    if data.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        declared = "utf-16"
    elif found := _DECLARED.match(data.removeprefix(codecs.BOM_UTF8)[:400]):
        declared = found[1].decode("ascii")
    try:
        known = codecs.lookup(declared).name
    except LookupError:
        known = ""
    if known not in ENCODINGS:
        raise FileError(
            name, f"declares the encoding “{declared}”, which Saucer does not read. Save it in UTF-8", 1
        )
    try:
        text = data.decode("utf-8-sig" if known == "utf-8" else known)
    except UnicodeDecodeError:
        raise FileError(name, f"is not text in {declared.upper()}") from None
    # The text is UTF-8 from here on; lines keep their numbers.
    return _DECLARATION.sub("", text, count=1)


def parse(text: str, name: str) -> ElementTree.Element:
    """The root element, every element with its line in ``line``; names without namespaces. Raises
    ``FileError``."""
    builder = ElementTree.TreeBuilder()
    parser = expat.ParserCreate("utf-8", namespace_separator="}")
    depth = elements = 0

    def forbid(*_: object) -> None:
        raise FileError(
            name,
            "declares a document type or entities, which such a file has no use for",
            parser.CurrentLineNumber,
        )

    def start(tag: str, attributes: dict[str, str]) -> None:
        nonlocal depth, elements
        depth, elements = depth + 1, elements + 1
        if depth > DEPTH_LIMIT:
            raise FileError(name, f"is nested more than {DEPTH_LIMIT} deep", parser.CurrentLineNumber)
        if elements > ELEMENT_LIMIT:
            raise FileError(name, f"holds more than {ELEMENT_LIMIT:,} elements", parser.CurrentLineNumber)
        if len(attributes) > ATTRIBUTE_LIMIT or max(map(len, attributes.values()), default=0) > VALUE_LIMIT:
            raise FileError(
                name,
                f"{tag[:40]} has more attributes, or longer ones, than such a file has",
                parser.CurrentLineNumber,
            )
        plain = {k.rpartition("}")[2]: v for k, v in attributes.items()}
        builder.start(tag.rpartition("}")[2], {**plain, "line": str(parser.CurrentLineNumber)})

    def end(tag: str) -> None:
        nonlocal depth
        depth -= 1
        builder.end(tag.rpartition("}")[2])

    parser.StartElementHandler, parser.EndElementHandler = start, end
    parser.CharacterDataHandler, parser.buffer_text = builder.data, True
    parser.StartDoctypeDeclHandler = parser.EntityDeclHandler = forbid
    try:
        parser.Parse(_DECLARATION.sub("", text, count=1).encode("utf-8", "surrogatepass"), True)
        return builder.close()
    except expat.ExpatError as error:
        raise FileError(name, f"is not sound XML: {expat.ErrorString(error.code)}", error.lineno) from None
    except (AssertionError, UnicodeError, ValueError):
        raise FileError(name, "is not sound XML") from None


def line_of(element: ElementTree.Element) -> int:
    """Where the element begins."""
    return int(element.get("line", "0"))


def numbers(element: ElementTree.Element, name: str, count: int | None = None) -> F64:
    """The numbers in an element's text, float64 ``(n,)``; raises ``FileError`` with its line."""
    text = (element.text or "").replace(",", " ")
    try:
        values = np.fromstring(text, sep=" ")
    except ValueError:
        raise FileError(
            name, f"{element.tag} holds something that is not a number", line_of(element)
        ) from None
    if count is not None and len(values) != count:
        raise FileError(name, f"{element.tag} needs {count} numbers and has {len(values)}", line_of(element))
    if not (np.abs(values) < LARGEST).all():
        raise FileError(
            name, f"{element.tag} holds infinity, NaN or a number too large for a colour", line_of(element)
        )
    return values


def attribute(element: ElementTree.Element, key: str, default: float, name: str) -> float:
    """A number given as an attribute; raises ``FileError``."""
    text = element.get(key)
    if text is None:
        return default
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not math.isfinite(value) or abs(value) > LARGEST:
        raise FileError(name, f"{element.tag}: {key} is not a number", line_of(element))
    return value


def escaped(text: str) -> str:
    """Text for an element or attribute; control characters, which XML cannot hold, become spaces."""
    clean = "".join(c if c >= " " or c in "\n\t" else " " for c in text)
    return clean.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;").replace('"', "&quot;")
