"""Presets over HTTP."""

from typing import Any

from django.http import HttpRequest
from ninja import PatchDict, Router, Schema, Status
from pydantic import Field
from saucer_core.encodings import EncodingKey

from ..fields import Text, said
from ..people.rules import person_of
from . import rules

router = Router(tags=["presets"])


class PresetIn(Schema):
    """A step to keep."""

    name: Text = Field(min_length=1, max_length=80)
    note: Text = Field("", max_length=300)
    content: dict[str, Any]
    shared: bool = False


class PresetAbout(Schema):
    """What is said of a preset."""

    name: Text = Field(min_length=1, max_length=80)
    note: Text = Field(max_length=300)
    shared: bool


class PresetKept(Schema):
    """The preset that was kept."""

    id: int
    name: str
    shared: bool


@router.get("", response=list[rules.Offer])
def offered(request: HttpRequest, kind: str = "", encoding: EncodingKey = "bt709_display") -> list[rules.Offer]:
    """Presets for a kind of step, with traces as they would be drawn in that encoding."""
    return rules.offered(person_of(request), kind.replace("\0", ""), encoding)


@router.post("", response={201: PresetKept})
def add(request: HttpRequest, payload: PresetIn) -> Status[rules.Preset]:
    """Keeps a step as a preset."""
    return Status(201, rules.add(person_of(request), payload.name, payload.note, payload.content, payload.shared))


@router.patch("/{int:preset_id}", response=PresetKept)
def change(request: HttpRequest, preset_id: int, payload: PatchDict[PresetAbout]) -> rules.Preset:
    """Renames or shares a preset."""
    person = person_of(request)
    return rules.change(rules.find(preset_id, person), person, **said(payload))


@router.delete("/{int:preset_id}", response={204: None})
def remove(request: HttpRequest, preset_id: int) -> Status[None]:
    """Takes a preset away."""
    person = person_of(request)
    rules.remove(rules.find(preset_id, person), person)
    return Status(204, None)
