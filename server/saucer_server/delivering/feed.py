"""Feeds: who has the address of one gets the newest delivery of its project, as long as nobody takes it
back."""

import hashlib
import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import QuerySet
from django.utils import timezone
from saucer_core.formats.delivery import DeliveredFile, FeedFile, Manifest

from ..errors import RuleError
from ..lookup import by_id
from ..people import activity
from ..people.activity import Happening
from ..people.rules import Person
from ..projects.rules import Project, must_work
from .contents import lists
from .models import Delivery, Feed, Fetch
from .rules import contents_of, newest, newest_review

__all__ = [
    "Opened",
    "by_day",
    "fetches",
    "manifest",
    "note",
    "of_project",
    "open_feed",
    "own_list",
    "renew",
    "revoke",
    "start",
]

#: Fetches that are remembered of each feed.
REMEMBERED = 500
#: Days that the screen shows of them.
DAYS = 30


def _kept(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def start(project: Project, person: Person, name: str, ends_at: datetime | None) -> tuple[Feed, str]:
    """A new feed and its token, which is told this once."""
    must_work(person, project)
    if ends_at is not None and ends_at <= timezone.now():
        raise RuleError(422, "A feed must end later than now.")
    token = secrets.token_urlsafe(24)
    with transaction.atomic():
        feed = Feed.objects.create(
            project=project,
            name=name.strip(),
            token=_kept(token),
            hint=token[-4:],
            ends_at=ends_at,
            made_by=person,
        )
        _told(feed, person, "opened the feed")
    return feed, token


def _told(feed: Feed, person: Person | None, said: str, more: str = "") -> None:
    about, to = f"{feed.name} …{feed.hint}", f"/projects/{feed.project_id}/deliver"
    activity.note(Happening.DELIVERY, person, said, about, more=more or feed.project.name, to=to)


def _of(project: Project, feed_id: int) -> Feed:
    return by_id(project.feeds.all(), feed_id, "feed")


def renew(project: Project, person: Person, feed_id: int) -> tuple[Feed, str]:
    """A new token for a feed; the old one is good for nothing from now on."""
    must_work(person, project)
    feed, token = _of(project, feed_id), secrets.token_urlsafe(24)
    Feed.objects.filter(pk=feed.pk).update(token=_kept(token), hint=token[-4:], revoked_at=None)
    return _of(project, feed_id), token


def revoke(project: Project, person: Person, feed_id: int) -> Feed:
    """Ends a feed."""
    must_work(person, project)
    with transaction.atomic():
        if Feed.objects.filter(pk=_of(project, feed_id).pk, revoked_at=None).update(
            revoked_at=timezone.now()
        ):
            _told(_of(project, feed_id), person, "ended the feed")
    return _of(project, feed_id)


def of_project(project: Project) -> QuerySet[Feed]:
    """The feeds of a project, the newest first."""
    return project.feeds.select_related("made_by")


def fetches(feed: Feed) -> QuerySet[Fetch]:
    """What was fetched by a feed, the newest first."""
    return feed.fetches.all()


@dataclass(frozen=True)
class Opened:
    """A feed that somebody has the token of, and its project's newest finished delivery. review: a newer one
    that holds a review clip alone."""

    feed: Feed
    delivery: Delivery
    review: Delivery | None = None

    @property
    def files(self) -> tuple[DeliveredFile, ...]:
        """The files of both."""
        more = contents_of(self.review).files if self.review is not None else ()
        return (*contents_of(self.delivery).files, *more)


def open_feed(token: str) -> Opened:
    """The feed of a token. Raises 401 for a token that is not known, has ended or was taken back, 404 before
    the first delivery."""
    feed = Feed.objects.select_related("project").filter(token=_kept(token)).first()
    if (
        feed is None
        or feed.revoked_at is not None
        or (feed.ends_at is not None and feed.ends_at <= timezone.now())
    ):
        raise RuleError(
            401,
            "This address is not known, has ended, or was taken back. Ask whoever gave it to you for "
            "a new one.",
        )
    delivery, review = newest(feed.project), newest_review(feed.project)
    if delivery is None:
        delivery, review = review, None
    if delivery is None:
        raise RuleError(404, "Nothing is delivered yet.")
    if review is not None and review.number < delivery.number:
        review = None
    return Opened(feed, delivery, review)


def _lists(opened: Opened) -> dict[str, bytes]:
    delivery = opened.delivery
    return lists(contents_of(delivery), delivery.changes, delivery.left_out)


def manifest(opened: Opened, token: str) -> Manifest:
    """What there is to fetch."""
    delivery, contents = opened.delivery, contents_of(opened.delivery)
    own = [
        DeliveredFile(path=name, sha256=hashlib.sha256(data).hexdigest(), bytes=len(data))
        for name, data in _lists(opened).items()
    ]
    files = [
        FeedFile(path=f.path, sha256=f.sha256, bytes=f.bytes, address=f"/api/feed/{token}/files/{f.sha256}")
        for f in (*own, *opened.files)
    ]
    return Manifest(
        project=opened.feed.project.name,
        delivery=delivery.number,
        made_at=contents.made_at,
        changes=[c.text for c in delivery.changes],
        files=files,
    )


def own_list(opened: Opened, sha: str) -> bytes | None:
    """One of the lists of the delivery, by its checksum."""
    return next((d for d in _lists(opened).values() if hashlib.sha256(d).hexdigest() == sha), None)


def note(opened: Opened, what: str, status: int, size: int, came_from: str) -> None:
    """Writes down that something was fetched; the oldest notes fall away."""
    if (
        what == "list"
        and status == 200
        and not opened.feed.fetches.filter(delivery=opened.delivery.number, what=what).exists()
    ):
        _told(
            opened.feed,
            None,
            "Somebody fetched delivery",
            f"{opened.feed.project.name}, number {opened.delivery.number}",
        )
    Fetch.objects.create(
        feed=opened.feed,
        what=what[:400],
        delivery=opened.delivery.number,
        status=status,
        bytes=size,
        came_from=came_from[:60],
    )
    oldest = opened.feed.fetches.order_by("-pk").values_list("pk", flat=True)[REMEMBERED : REMEMBERED + 1]
    for pk in list(oldest):
        opened.feed.fetches.filter(pk__lte=pk).delete()


def by_day(feed: Feed) -> list[int]:
    """How often the feed was asked on each of the last 30 days, the oldest first."""
    today = timezone.localdate()
    counts = dict.fromkeys(range(DAYS), 0)
    since = timezone.now() - timedelta(days=DAYS)
    for at in feed.fetches.filter(at__gte=since).values_list("at", flat=True):
        age = (today - timezone.localtime(at).date()).days
        if age in counts:
            counts[age] += 1
    return [counts[age] for age in reversed(range(DAYS))]
