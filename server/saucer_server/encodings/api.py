"""Encodings over HTTP: all there are, and the team's own."""

from datetime import datetime

from django.db.models import QuerySet
from django.http import HttpRequest
from ninja import Router, Schema, Status
from saucer_core.changes import Schema as ParameterSchema
from saucer_core.encodings import CameraEncoding, EncodingKey, camera_encoding, encoding
from saucer_core.encodings.primaries import AP0, AP1, BT709, BT2020, OPRGB, P3_D65, Primaries
from saucer_core.readings.response import Response, response

from ..people.rules import person_of
from . import rules
from .payloads import EncodingPatch

router = Router(tags=["encodings"])


class EncodingOut(Schema):
    """An encoding. offered: whether it can be chosen for something new; own: whether the team typed it in."""

    key: EncodingKey
    label: str
    response: str
    referred: str
    hdr: bool
    own: bool
    offered: bool


class TeamEncodingOut(Schema):
    """A camera encoding of the team: the maker's numbers, and what they do."""

    id: int
    key: EncodingKey
    name: str
    offered: bool
    definition: CameraEncoding
    added_by: str
    added_at: datetime
    measured: Response

    @staticmethod
    def resolve_definition(row: rules.TeamEncoding) -> CameraEncoding:
        """The maker's numbers."""
        return rules.camera(row)

    @staticmethod
    def resolve_measured(row: rules.TeamEncoding) -> Response:
        """Its curve and check values."""
        return response(encoding(row.key))

    @staticmethod
    def resolve_added_by(row: rules.TeamEncoding) -> str:
        """The person's name."""
        return str(row.added_by)


class KnownPrimaries(Schema):
    """Primaries of an open standard, to begin from."""

    label: str
    red: tuple[float, float]
    green: tuple[float, float]
    blue: tuple[float, float]
    white: tuple[float, float]


class CameraForm(Schema):
    """What a form for a maker's numbers needs: every field as the core declares it, and primaries to begin
    from."""

    fields: dict[str, ParameterSchema]
    primaries: list[KnownPrimaries]


_KNOWN: tuple[tuple[str, Primaries], ...] = (
    ("BT.709", BT709), ("P3, D65", P3_D65), ("BT.2020", BT2020), ("opRGB", OPRGB), ("AP0", AP0), ("AP1", AP1),
)  # fmt: skip


@router.get("", response=list[EncodingOut])
def encodings(request: HttpRequest) -> list[EncodingOut]:
    """All encodings: the open standards, then the team's own."""
    return [
        EncodingOut(
            key=c.encoding.key,
            label=c.encoding.label,
            response=c.encoding.response,
            referred=c.encoding.referred,
            hdr=c.encoding.hdr,
            own=c.own,
            offered=c.offered,
        )
        for c in rules.choices()
    ]


@router.get("/team", response=list[TeamEncodingOut])
def team(request: HttpRequest) -> QuerySet[rules.TeamEncoding]:
    """The camera encodings of the team."""
    return rules.every()


@router.get("/team/form", response=CameraForm)
def form(request: HttpRequest) -> CameraForm:
    """The fields of a camera encoding, and primaries to begin from."""
    known = [
        KnownPrimaries(label=label, red=p.red, green=p.green, blue=p.blue, white=p.white)
        for label, p in _KNOWN
    ]
    return CameraForm(fields=CameraEncoding.model_json_schema()["properties"], primaries=known)


@router.post("/team/measured", response=Response)
def measured(request: HttpRequest, payload: CameraEncoding) -> Response:
    """Curve and check values of numbers that are not kept yet."""
    return response(camera_encoding(payload))


@router.post("/team", response={201: TeamEncodingOut})
def add(request: HttpRequest, payload: CameraEncoding) -> Status[rules.TeamEncoding]:
    """Keeps a camera encoding."""
    return Status(201, rules.add(payload, person_of(request)))


@router.patch("/team/{int:encoding_id}", response=TeamEncodingOut)
def change(request: HttpRequest, encoding_id: int, payload: EncodingPatch) -> rules.TeamEncoding:
    """Renames an encoding, withdraws it, or offers it again."""
    return rules.change(encoding_id, person_of(request), payload)
