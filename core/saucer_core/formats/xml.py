"""Reading XML from strangers: no entities, bounded size, places for errors."""

import math
import re
from pathlib import Path
from xml.etree import ElementTree
from xml.parsers import expat

from ..errors import FileError

SIZE_LIMIT = 64 * 2**20
DEPTH_LIMIT = 32


def read_limited(path: Path, name: str, limit: int = SIZE_LIMIT) -> str:
    """The text of a file, checked for size before it is read; raises ``FileError``."""
    if path.stat().st_size > limit:
        raise FileError(name, f"larger than {limit // 2**20} MiB, the most such a file may be")
    try:
        return path.read_bytes().decode("utf-8-sig")
    except UnicodeDecodeError:
        raise FileError(name, "is not text in UTF-8") from None


def parse(text: str, name: str) -> ElementTree.Element:
    """The root element, every element with its line in ``line``; names without namespaces. Raises ``FileError``."""
    builder = ElementTree.TreeBuilder()
    parser = expat.ParserCreate(namespace_separator="}")
    depth = 0

    def forbid(*_: object) -> None:
        raise FileError(name, "declares a document type or entities, which such a file has no use for", parser.CurrentLineNumber)

    def start(tag: str, attributes: dict[str, str]) -> None:
        nonlocal depth
        depth += 1
        if depth > DEPTH_LIMIT:
            raise FileError(name, f"is nested more than {DEPTH_LIMIT} deep", parser.CurrentLineNumber)
        plain = {k.rpartition("}")[2]: v for k, v in attributes.items()}
        builder.start(tag.rpartition("}")[2], {**plain, "line": str(parser.CurrentLineNumber)})

    def end(tag: str) -> None:
        nonlocal depth
        depth -= 1
        builder.end(tag.rpartition("}")[2])

    parser.StartElementHandler, parser.EndElementHandler = start, end
    parser.CharacterDataHandler = builder.data
    parser.StartDoctypeDeclHandler = parser.EntityDeclHandler = forbid
    try:
        parser.Parse(text.encode("utf-8", "surrogatepass"), True)
        return builder.close()
    except expat.ExpatError as error:
        raise FileError(name, f"is not sound XML: {expat.ErrorString(error.code)}", error.lineno) from None
    except (AssertionError, UnicodeError):
        raise FileError(name, "is not sound XML") from None


def line_of(element: ElementTree.Element) -> int:
    """Where the element begins."""
    return int(element.get("line", "0"))


_SPACE = re.compile(r"[\s,]+")


def numbers(element: ElementTree.Element, name: str, count: int | None = None) -> list[float]:
    """The numbers in an element's text; raises ``FileError`` with its line."""
    words = [w for w in _SPACE.split(element.text or "") if w]
    if count is not None and len(words) != count:
        raise FileError(name, f"{element.tag} needs {count} numbers and has {len(words)}", line_of(element))
    try:
        values = [float(w) for w in words]
    except ValueError:
        raise FileError(name, f"{element.tag} holds something that is not a number", line_of(element)) from None
    if not all(math.isfinite(v) and abs(v) < 3e38 for v in values):
        raise FileError(name, f"{element.tag} holds infinity, NaN or a number too large for a colour", line_of(element))
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
    if not math.isfinite(value) or abs(value) > 1e30:
        raise FileError(name, f"{element.tag}: {key} is not a number", line_of(element))
    return value


def escaped(text: str) -> str:
    """Text for an element or attribute; control characters, which XML cannot hold, become spaces."""
    clean = "".join(c if c >= " " or c in "\n\t" else " " for c in text)
    return clean.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;").replace('"', "&quot;")
