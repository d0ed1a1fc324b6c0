"""The bin over HTTP."""

from datetime import datetime

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema, Status

from ..openapi import JPEG, gives
from ..people.rules import person_of
from . import rules

router = Router(tags=["bin"])


class RemovedOut(Schema):
    """Something in the bin. owner: whose it is; until: when it goes for good; bytes: of its files; picture:
    whether it has one."""

    kind: str
    id: int
    word: str
    name: str
    owner: str
    removed_by: str
    removed_at: datetime
    until: datetime
    bytes: int
    picture: bool

    @staticmethod
    def of(one: rules.Removed) -> "RemovedOut":
        """As it is told."""
        return RemovedOut(
            kind=one.kind.key,
            id=one.row.pk,
            word=one.kind.word,
            name=one.row.name,
            owner=str(getattr(one.row, one.kind.owner)),
            removed_by=str(one.row.removed_by),
            removed_at=one.row.removed_at,
            until=one.until,
            bytes=one.kind.size(one.row),
            picture=one.kind.still is not None,
        )


@router.get("", response=list[RemovedOut])
def removed(request: HttpRequest) -> list[RemovedOut]:
    """What is in the bin and can be put back by who asks: their own things, what they removed, everything for
    a lead."""
    return [RemovedOut.of(one) for one in rules.listed(person_of(request))]


@router.get("/{kind}/{int:row_id}/still", openapi_extra=gives(JPEG))
def still(request: HttpRequest, kind: str, row_id: int) -> HttpResponse:
    """A small picture of something in the bin, JPEG."""
    return HttpResponse(
        rules.still(kind, row_id, person_of(request)),
        content_type="image/jpeg",
        headers={"Cache-Control": "no-store"},
    )


@router.post("/{kind}/{int:row_id}/back", response={204: None})
def put_back(request: HttpRequest, kind: str, row_id: int) -> Status[None]:
    """Takes something out of the bin: it is there again as it was."""
    rules.put_back(kind, row_id, person_of(request))
    return Status(204, None)


@router.delete("/{kind}/{int:row_id}", response={204: None})
def erase(request: HttpRequest, kind: str, row_id: int) -> Status[None]:
    """Lets something in the bin go for good."""
    rules.erase(kind, row_id, person_of(request))
    return Status(204, None)
