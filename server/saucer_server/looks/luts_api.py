"""Borrowed LUTs over HTTP."""

from django.http import HttpRequest
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field
from saucer_core.encodings import EncodingKey

from ..fields import Text
from ..people.rules import person_of
from . import rules
from .models import BorrowedLut

router = Router(tags=["luts"])


class LutAbout(Schema):
    """What is said of a LUT that comes in."""

    name: Text = Field("", max_length=200)
    expects: EncodingKey
    gives: EncodingKey
    rights: Text = Field(min_length=1, max_length=300)
    origin: Text = Field(min_length=1, max_length=300)


class LutOut(Schema):
    """A LUT of the catalogue."""

    id: int
    digest: str
    name: str
    file_name: str
    size: int
    expects: EncodingKey
    gives: EncodingKey
    rights: str
    origin: str
    added_by: str


def _lut_out(lut: BorrowedLut) -> LutOut:
    fields = {f: getattr(lut, f) for f in LutOut.model_fields}
    return LutOut(**{**fields, "added_by": str(lut.added_by)})


@router.get("/luts", response=list[LutOut])
def luts(request: HttpRequest) -> list[LutOut]:
    """The LUTs that steps can borrow."""
    return [_lut_out(x) for x in BorrowedLut.objects.select_related("added_by")]


@router.post("/luts", response={201: LutOut})
def add_lut(request: HttpRequest, about: Form[LutAbout], file: File[UploadedFile]) -> Status[LutOut]:
    """Takes a LUT file in."""
    return Status(201, _lut_out(rules.add_lut(file, person_of(request), **about.model_dump())))


@router.delete("/luts/{int:lut_id}", response={204: None})
def remove_lut(request: HttpRequest, lut_id: int) -> Status[None]:
    """Takes a LUT out of the catalogue."""
    rules.remove_lut(rules.find_lut(lut_id), person_of(request))
    return Status(204, None)
