"""Deliveries over HTTP."""

from datetime import datetime
from typing import Annotated, get_args

from django.core.files.storage import default_storage
from django.http import FileResponse, HttpRequest, HttpResponse, StreamingHttpResponse
from django.utils.http import content_disposition_header
from ninja import Query, Router, Schema, Status
from pydantic import Field
from saucer_core.encodings import EncodingKey
from saucer_core.formats.clip_kinds import CLIP_KINDS
from saucer_core.formats.delivery import Part
from saucer_core.formats.review_writing import WIDTHS, ReviewKind

from ..bakes.finished import PICTURE_KINDS
from ..errors import missing
from ..fields import Moment, Text, Width, binary, safe_name
from ..jobs.api import JobOut
from ..openapi import BINARY, JPEG, MP4, ZIP, gives
from ..people import activity
from ..people.rules import person_of
from ..projects import rules as projects
from ..ranges import by_front, ranged
from . import drop_folder, feed, rules, screening
from .contents import Change
from .copies import CopyState
from .plan import PARTS, SLATE, Plan, SlatePart
from .review_clips import Chapter, ReviewClip, review_clip_of
from .rules import Delivery, Feed, Fetch
from .screening import Loss

router = Router(tags=["deliveries"])


class PartOut(Schema):
    """A part of a delivery and how far it is."""

    part: Part
    label: str
    done: int
    dropped: int
    total: int


class DeliveryOut(Schema):
    """A delivery and how far it is. cut: the number of the cut that its shots followed."""

    id: int
    number: int
    bytes: int
    grid: int
    encodings: list[str]
    cut: int | None
    job: JobOut
    ready: bool
    parts: list[PartOut]
    changes: list[Change]
    left_out: list[str]
    review: bool
    drop_folder: CopyState
    looks: list[str]
    shots: int
    made_by: str
    made_at: datetime

    @staticmethod
    def resolve_encodings(delivery: Delivery) -> list[str]:
        """What it went out in; none where each look gave its own."""
        return list(delivery.plan.encodings)

    @staticmethod
    def resolve_ready(delivery: Delivery) -> bool:
        """Whether it can be taken away."""
        return rules.has_files(delivery)

    @staticmethod
    def resolve_parts(delivery: Delivery) -> list[rules.PartCount]:
        """Its parts."""
        return rules.parts_of(delivery)

    @staticmethod
    def resolve_review(delivery: Delivery) -> bool:
        """Whether it has a review clip that can be watched."""
        return rules.has_files(delivery) and "review" in {p.part for p in rules.parts_of(delivery) if p.done}

    @staticmethod
    def resolve_looks(delivery: Delivery) -> list[str]:
        """The revisions in it."""
        return sorted({one.label for shot in delivery.shots for one in shot.layers})

    @staticmethod
    def resolve_shots(delivery: Delivery) -> int:
        """How many shots are in it."""
        return len(delivery.shots)

    @staticmethod
    def resolve_made_by(delivery: Delivery) -> str:
        """The person's name."""
        return str(delivery.made_by)


class NamedOut(Schema):
    """A shot and what its files would be called; same: numbers of the shots that would have the same name."""

    number: int
    shot: str
    name: str
    same: list[int]


class HeldOut(Schema):
    """A look that must be asked for first, and the shots it is on."""

    look: str
    shots: list[int]


class OutlookOut(Schema):
    """What a plan would give: how much of each part, the names, what stays out."""

    shots: int
    parts: list[PartOut]
    names: list[NamedOut]
    clash: str
    held: list[HeldOut]
    left_out: list[str]
    next: int
    changes: list[Change]


class LossOut(Schema):
    """What an encoding loses of the shots, as shares of their pictures: on average, and on the worst of
    them."""

    encoding: str
    gamut: float
    lights: float
    worst_gamut: int | None
    worst_gamut_share: float
    worst_lights: int | None
    worst_lights_share: float


class ChoicesOut(Schema):
    """What can be chosen for a delivery. reviews, rows, slate: kinds of review clip, how many rows they have,
    and what their slate can say."""

    parts: dict[Part, str]
    pictures: dict[str, str]
    clips: dict[str, str]
    reviews: dict[ReviewKind, str]
    rows: dict[str, str]
    slate: dict[SlatePart, str]


class ReviewClipOut(Schema):
    """A review clip that can be watched. whom: for whom it was made; size, kind: in words."""

    title: str
    delivery: int
    whom: str
    seconds: float
    rate: str
    size: str
    kind: str
    bytes: int
    path: str
    made_by: str
    made_at: datetime
    chapters: list[Chapter]

    @staticmethod
    def resolve_delivery(review: ReviewClip) -> int:
        """The number of the delivery that it is in."""
        return review.delivery.number

    @staticmethod
    def resolve_whom(review: ReviewClip) -> str:
        """For whom it was made; empty where nobody said so."""
        return review.delivery.plan.review.whom

    @staticmethod
    def resolve_bytes(review: ReviewClip) -> int:
        """Of its file."""
        return review.file.bytes

    @staticmethod
    def resolve_path(review: ReviewClip) -> str:
        """Of its file in the delivery."""
        return review.file.path

    @staticmethod
    def resolve_made_by(review: ReviewClip) -> str:
        """The person's name."""
        return str(review.delivery.made_by)

    @staticmethod
    def resolve_made_at(review: ReviewClip) -> datetime:
        """When it was asked for."""
        return review.delivery.made_at


class StandInOut(Schema):
    """How the stand-in for an editing room's disk behaves. pace: bytes a second, room: bytes; 0: no limit of
    its own."""

    there: bool = True
    pace: int = Field(0, ge=0, le=2**40)
    room: int = Field(0, ge=0, le=2**50)


class DropFolderOut(Schema):
    """The drop folder."""

    name: str
    there: bool
    free: int
    stand_in: StandInOut


class FeedIn(Schema):
    """A new feed: for whom, and until when."""

    name: Text = Field(min_length=1, max_length=120)
    ends_at: Moment | None = None


class FetchOut(Schema):
    """Something that was fetched."""

    what: str
    delivery: int
    status: int
    bytes: int
    came_from: str
    at: datetime


class FeedOut(Schema):
    """A feed and what was fetched last. address: told once, when it is made or renewed. days: fetches of each
    of the last 30 days."""

    id: int
    name: str
    hint: str
    ends_at: datetime | None
    revoked_at: datetime | None
    made_by: str
    made_at: datetime
    fetches: list[FetchOut]
    days: list[int]
    address: str = ""

    @staticmethod
    def resolve_made_by(feed: Feed) -> str:
        """The person's name."""
        return str(feed.made_by)

    @staticmethod
    def resolve_fetches(row: Feed) -> list[Fetch]:
        """The last of what was fetched."""
        return list(feed.fetches(row)[:12])

    @staticmethod
    def resolve_days(row: Feed) -> list[int]:
        """How often it was asked on each of the last 30 days, the oldest first."""
        return feed.by_day(row)


@router.get("/deliveries/choices", response=ChoicesOut)
def choices(request: HttpRequest) -> ChoicesOut:
    """What can be chosen for a delivery."""
    return ChoicesOut(
        parts=PARTS,
        pictures={k: v.label for k, v in PICTURE_KINDS.items()},
        clips={k: v.label for k, v in CLIP_KINDS.items()},
        reviews={kind: CLIP_KINDS[kind].label for kind in get_args(ReviewKind)},
        rows={str(rows): f"{width} × {rows}" for rows, width in WIDTHS.items()},
        slate=SLATE,
    )


@router.get("/drop-folder", response=DropFolderOut)
def drop_folder_state(request: HttpRequest) -> drop_folder.DropFolder:
    """How the drop folder stands."""
    person_of(request)
    return drop_folder.look()


@router.put("/drop-folder", response=DropFolderOut)
def behave(request: HttpRequest, payload: StandInOut) -> drop_folder.DropFolder:
    """Says how the stand-in for the drop folder behaves from now on."""
    return drop_folder.behave(
        person_of(request), drop_folder.StandIn(payload.there, payload.pace, payload.room)
    )


@router.get("/projects/{int:project_id}/deliveries", response=list[DeliveryOut])
def deliveries(request: HttpRequest, project_id: int) -> list[Delivery]:
    """The deliveries of a project, the newest first."""
    return list(rules.every(projects.find(project_id))[:60])


@router.post("/projects/{int:project_id}/deliveries", response={201: DeliveryOut})
def deliver(request: HttpRequest, project_id: int, payload: Plan) -> Status[Delivery]:
    """Asks for a delivery."""
    return Status(201, rules.order(projects.find(project_id), person_of(request), payload))


@router.post("/projects/{int:project_id}/outlook", response=OutlookOut)
def outlook(request: HttpRequest, project_id: int, payload: Plan) -> rules.Outlook:
    """What a plan would give; nothing is made."""
    return rules.outlook(projects.find(project_id), payload)


@router.get("/projects/{int:project_id}/losses", response=LossOut)
def losses(request: HttpRequest, project_id: int, encoding: EncodingKey) -> Loss:
    """What an encoding loses of the shots in gamut and highlights."""
    return screening.losses(projects.find(project_id), encoding)


@router.delete("/projects/{int:project_id}/deliveries/{int:number}/parts/{part}", response=DeliveryOut)
def drop(request: HttpRequest, project_id: int, number: int, part: Part) -> Delivery:
    """Leaves out what is not made yet of a part; the rest goes on."""
    found = projects.find(project_id)
    rules.drop(rules.find(found, number), person_of(request), part)
    return rules.find(found, number)


@router.post("/projects/{int:project_id}/deliveries/{int:number}/drop-folder", response=DeliveryOut)
def put_again(request: HttpRequest, project_id: int, number: int) -> Delivery:
    """Puts a finished delivery on the drop folder, again if need be."""
    found = projects.find(project_id)
    projects.must_work(person_of(request), found)
    drop_folder.put_again(rules.find(found, number))
    return rules.find(found, number)


@router.get("/projects/{int:project_id}/deliveries/{int:number}/file", openapi_extra=gives(ZIP))
def package(request: HttpRequest, project_id: int, number: int) -> StreamingHttpResponse:
    """The package as ZIP, made while it is taken away."""
    found = projects.find(project_id)
    row = rules.find(found, number)
    name = f"{safe_name(found.name)}_delivery_{row.number}.zip"
    activity.fetched(request, f"{found.name}, number {row.number}", to=f"/projects/{found.pk}/deliver")
    if row.file:
        return FileResponse(default_storage.open(row.file), as_attachment=True, filename=name)
    if not row.ready:
        raise missing("delivery")
    answer = StreamingHttpResponse(rules.zipped(row), content_type="application/zip")
    answer["Content-Disposition"] = content_disposition_header(True, name) or "attachment"
    answer["Cache-Control"] = "private, no-store"
    return answer


@router.get("/projects/{int:project_id}/deliveries/{int:number}/one", openapi_extra=gives(BINARY))
def one(
    request: HttpRequest, project_id: int, number: int, path: Annotated[str, Query(max_length=400)]
) -> FileResponse:
    """One file of a finished delivery."""
    file = rules.file_of(rules.find(projects.find(project_id), number), path)
    return FileResponse(
        default_storage.open(rules.place_of(file.sha256)),
        as_attachment=True,
        filename=path.rpartition("/")[2],
    )


@router.get("/projects/{int:project_id}/deliveries/{int:number}/review", response=ReviewClipOut)
def review(request: HttpRequest, project_id: int, number: int) -> ReviewClip:
    """The review clip of a finished delivery, and where its shots begin."""
    return review_clip_of(rules.find(projects.find(project_id), number))


@router.get("/projects/{int:project_id}/deliveries/{int:number}/review/file", openapi_extra=gives(MP4))
def review_file(request: HttpRequest, project_id: int, number: int) -> HttpResponse | FileResponse:
    """The review clip, MP4, or the range of it that is asked for."""
    file = review_clip_of(rules.find(projects.find(project_id), number)).file
    place = rules.place_of(file.sha256)
    answer = by_front(place, MP4) or ranged(request, place, file.bytes, f'"{file.sha256}"', MP4)
    answer["Cache-Control"] = "private, no-cache"
    return answer


@router.get("/projects/{int:project_id}/feeds", response=list[FeedOut])
def feeds(request: HttpRequest, project_id: int) -> list[Feed]:
    """The feeds of a project; their addresses are not told again."""
    return list(feed.of_project(projects.find(project_id)))


def _told(request: HttpRequest, made: tuple[Feed, str]) -> Feed:
    row, token = made
    row.address = request.build_absolute_uri(f"/api/feed/{token}")  # type: ignore[attr-defined]
    return row


@router.post("/projects/{int:project_id}/feeds", response={201: FeedOut})
def start_feed(request: HttpRequest, project_id: int, payload: FeedIn) -> Status[Feed]:
    """A new feed; its address is told in this answer alone."""
    made = feed.start(projects.find(project_id), person_of(request), payload.name, payload.ends_at)
    return Status(201, _told(request, made))


@router.post("/projects/{int:project_id}/feeds/{int:feed_id}/renew", response=FeedOut)
def renew_feed(request: HttpRequest, project_id: int, feed_id: int) -> Feed:
    """A new address for a feed; the old one ends."""
    return _told(request, feed.renew(projects.find(project_id), person_of(request), feed_id))


@router.delete("/projects/{int:project_id}/feeds/{int:feed_id}", response=FeedOut)
def end_feed(request: HttpRequest, project_id: int, feed_id: int) -> Feed:
    """Ends a feed."""
    return feed.revoke(projects.find(project_id), person_of(request), feed_id)


@router.get(
    "/projects/{int:project_id}/deliveries/{int:number}/shots/{int:shot_id}/still", openapi_extra=gives(JPEG)
)
def delivered_still(
    request: HttpRequest, project_id: int, number: int, shot_id: int, width: Width = 320
) -> HttpResponse:
    """A shot as it was delivered, JPEG for the screen."""
    row = rules.find(projects.find(project_id), number)
    shot = next((s for s in row.shots if s.id == shot_id), None)
    if shot is None:
        raise missing("shot")
    return binary(screening.screened(shot, width), "image/jpeg")
