"""Presets over HTTP."""

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Schema, Status
from ninja.files import UploadedFile
from saucer_core.encodings import EncodingKey

from ..fields import attached
from ..openapi import BINARY, gives
from ..people.rules import person_of
from . import rules
from .payloads import NewPreset, PresetPatch

router = Router(tags=["presets"])


class PresetKept(Schema):
    """The preset that was kept."""

    id: int
    name: str
    shared: bool


class PresetBrought(Schema):
    """The preset that a file became, and in words what came along."""

    id: int
    name: str
    kind: str
    said: list[str]


@router.get("", response=list[rules.Offer])
def offered(
    request: HttpRequest, kind: str = "", encoding: EncodingKey = "bt709_display"
) -> list[rules.Offer]:
    """Presets for a kind of step, with traces as they would be drawn in that encoding."""
    return rules.offered(person_of(request), kind.replace("\0", ""), encoding)


@router.post("", response={201: PresetKept})
def add(request: HttpRequest, payload: NewPreset) -> Status[rules.Preset]:
    """Keeps a step as a preset."""
    return Status(201, rules.add(person_of(request), payload))


@router.post("/file", response={201: PresetBrought})
def bring_in(request: HttpRequest, file: File[UploadedFile]) -> Status[PresetBrought]:
    """Keeps a preset from a file."""
    made, along = rules.bring_in(file, person_of(request))
    return Status(201, PresetBrought(id=made.pk, name=made.name, kind=made.kind, said=along))


@router.get("/{int:preset_id}/file", openapi_extra=gives(BINARY))
def preset_file(request: HttpRequest, preset_id: int) -> HttpResponse:
    """The preset as a file, with all it borrows, as an attachment."""
    name, text = rules.file_of(rules.find(preset_id, person_of(request)))
    return attached(name, text.encode())


@router.patch("/{int:preset_id}", response=PresetKept)
def change(request: HttpRequest, preset_id: int, payload: PresetPatch) -> rules.Preset:
    """Renames or shares a preset."""
    person = person_of(request)
    return rules.change(rules.find(preset_id, person), person, payload)


@router.delete("/{int:preset_id}", response={204: None})
def remove(request: HttpRequest, preset_id: int) -> Status[None]:
    """Takes a preset away."""
    person = person_of(request)
    rules.remove(rules.find(preset_id, person), person)
    return Status(204, None)
