"""What the OpenAPI document says beyond what the framework writes: answers in whole, and heads of binary
answers."""

import copy
from typing import Any

from pydantic import BaseModel

__all__ = ["BINARY", "JPEG", "MP4", "PNG", "ZIP", "gives", "head_of", "in_whole"]

#: An OpenAPI document or a part of one.
Document = dict[str, Any]
_COMPONENTS = "#/components/schemas/"
_HEADS: dict[str, type[BaseModel]] = {}
BINARY = "application/octet-stream"
JPEG = "image/jpeg"
MP4 = "video/mp4"
PNG = "image/png"
ZIP = "application/zip"


def gives(kind: str) -> Document:
    """``openapi_extra`` of a route whose answer is a file of that kind."""
    content = {kind: {"schema": {"type": "string", "format": "binary"}}}
    return {"responses": {200: {"description": "A file", "content": content}}}


def head_of(head: type[BaseModel]) -> Document:
    """``openapi_extra`` of a route whose answer is ``framing.headed``: JSON of that model, then bytes."""
    _HEADS[head.__name__] = head
    content = {
        "schema": {"type": "string", "format": "binary"},
        "x-head": {"$ref": _COMPONENTS + head.__name__},
    }
    return {"responses": {200: {"description": "A head and bytes", "content": {BINARY: content}}}}


def in_whole(document: Document) -> None:
    """Adds the heads, and lets answers require all fields.

    Whoever sends a model may leave out what has a default; the server's answer has every field. A schema of
    which both are said stands twice: ``Look`` as it is sent, ``LookWhole`` as it is answered.
    """
    schemas: Document = document["components"]["schemas"]
    for name, head in _HEADS.items():
        made = head.model_json_schema(ref_template=_COMPONENTS + "{model}", mode="serialization")
        for inner, schema in made.pop("$defs", {}).items():
            schemas.setdefault(inner, schema)
        schemas[name] = made
    refs = {name: _refs(schema) for name, schema in schemas.items()}
    sent = _reached(document, refs, "requestBody", "parameters")
    answered = _reached(document, refs, "responses")
    both = answered & sent & _differing(schemas, refs)
    renamed = {name: f"{name}Whole" for name in both}
    for name in sorted(answered):
        whole = _whole(copy.deepcopy(schemas[name]), renamed)
        schemas[renamed.get(name, name)] = whole
    for path in document["paths"].values():
        for operation in path.values():
            operation["responses"] = _refer(operation["responses"], renamed)


def _refs(node: Any) -> set[str]:
    if isinstance(node, dict):
        own = {node["$ref"].removeprefix(_COMPONENTS)} if isinstance(node.get("$ref"), str) else set()
        return own.union(*(_refs(value) for value in node.values()))
    return set().union(*map(_refs, node)) if isinstance(node, list) else set()


def _reached(document: Document, refs: dict[str, set[str]], *parts: str) -> set[str]:
    """Names of the schemas that those parts of the operations use, directly or within others."""
    operations = [one for path in document["paths"].values() for one in path.values()]
    waiting = _refs([one.get(part) for one in operations for part in parts])
    found: set[str] = set()
    while waiting:
        name = waiting.pop()
        if name not in found and name in refs:
            found.add(name)
            waiting |= refs[name]
    return found


def _differing(schemas: Document, refs: dict[str, set[str]]) -> set[str]:
    """Names of the schemas of which an answer requires more than what is sent: their own fields, or those of
    a schema within them."""
    found = {
        name
        for name, schema in schemas.items()
        if set(schema.get("properties", {})) - set(schema.get("required", []))
    }
    while more := {name for name, inner in refs.items() if name not in found and inner & found}:
        found |= more
    return found


def _refer(node: Any, renamed: dict[str, str]) -> Any:
    if isinstance(node, dict):
        return {
            key: _COMPONENTS + renamed.get(name := value.removeprefix(_COMPONENTS), name)
            if key == "$ref" and isinstance(value, str)
            else {k: _refer({"$ref": v}, renamed)["$ref"] for k, v in value.items()}
            if key == "mapping" and isinstance(value, dict)
            else _refer(value, renamed)
            for key, value in node.items()
        }
    return [_refer(value, renamed) for value in node] if isinstance(node, list) else node


def _whole(schema: Document, renamed: dict[str, str]) -> Document:
    """The schema with every property required, and with its inner schemas as they are answered."""
    if "properties" in schema:
        schema["required"] = list(schema["properties"])
    whole: Document = _refer(schema, renamed)
    return whole
