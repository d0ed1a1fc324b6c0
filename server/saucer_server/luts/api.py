"""Borrowed LUTs over HTTP."""

from django.db.models import QuerySet
from django.http import HttpRequest
from ninja import File, Form, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field
from saucer_core.encodings import EncodingKey

from ..fields import Text
from ..people.rules import person_of
from . import rules

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

    @staticmethod
    def resolve_added_by(lut: rules.BorrowedLut) -> str:
        """The person's name."""
        return str(lut.added_by)


@router.get("/luts", response=list[LutOut])
def luts(request: HttpRequest) -> QuerySet[rules.BorrowedLut]:
    """The LUTs that steps can borrow."""
    return rules.every()


@router.post("/luts", response={201: LutOut})
def add_lut(
    request: HttpRequest, about: Form[LutAbout], file: File[UploadedFile]
) -> Status[rules.BorrowedLut]:
    """Takes a LUT file in."""
    return Status(201, rules.add(file, person_of(request), **about.model_dump()))


@router.delete("/luts/{int:lut_id}", response={204: None})
def remove_lut(request: HttpRequest, lut_id: int) -> Status[None]:
    """Takes a LUT out of the catalogue."""
    rules.remove(rules.find(lut_id), person_of(request))
    return Status(204, None)
