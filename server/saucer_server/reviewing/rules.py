"""Reviews: who may ask, who decides, and what happens where somebody was quicker."""

from datetime import date
from typing import Any

from django.db import transaction
from django.db.models import F, Q, QuerySet
from django.utils import timezone

from ..errors import RuleError
from ..looks import rules as looks
from ..looks.rules import Look, Revision, Status
from ..lookup import by_id
from ..people.activity import Happening, note
from ..people.rules import Person, everybody, is_own, must
from .models import Review, Stand

__all__ = [
    "Review",
    "Stand",
    "answer",
    "ask",
    "deciders",
    "elsewhere",
    "find",
    "follow",
    "of_look",
    "retire",
    "seen",
    "waiting",
    "withdraw",
]


def deciders() -> QuerySet[Person]:
    """Who may be asked: everybody who may approve."""
    return everybody().filter(role="lead")


def find(review_id: int) -> Review:
    """The review; raises 404."""
    return by_id(Review.objects.select_related("revision__look", "asked_by", "asked_of"), review_id, "review")


def ask(revision: Revision, person: Person, of: int, due: date | None, words: str) -> Review:
    """Asks somebody to decide on a revision; a draft is in review from then on."""
    must(person, "review.ask", lambda: looks.is_ones_own(person, revision.look))
    asked_of = by_id(deciders(), of, "person who may approve looks")
    if due is not None and due < timezone.localdate():
        raise RuleError(422, "The day by which it is wanted has gone by.")
    with transaction.atomic():
        row = looks.locked(revision.pk)
        if row.status not in (Status.DRAFT, Status.IN_REVIEW):
            raise RuleError(409, f"{revision} is {row.status} by now: there is nothing to decide.")
        if Review.objects.filter(revision=row, asked_of=asked_of, stand=Stand.OPEN).exists():
            raise RuleError(409, f"{asked_of} is asked about {revision} already.")
        if row.status == Status.DRAFT:
            looks.set_status(row, person, Status.IN_REVIEW)
        note(
            Happening.REVIEW,
            person,
            "asks for review of",
            str(row),
            more=f"of {asked_of}",
            to=looks.page_of(row),
            revision=row.pk,
        )
        return Review.objects.create(revision=row, asked_by=person, asked_of=asked_of, due=due, words=words)


def answer(review: Review, person: Person, approve: bool, words: str) -> Review:
    """Approves the revision or sends it back with a reason; either ends all reviews of it that are open."""
    must(person, "review.decide")
    if not approve and not words.strip():
        raise RuleError(422, "Say why it goes back, so that it can be mended.")
    with transaction.atomic():
        revision = looks.locked(review.revision_id)
        row = Review.objects.select_for_update().get(pk=review.pk)
        if row.stand != Stand.OPEN or revision.status != Status.IN_REVIEW:
            who = f"{row.answered_by} was quicker" if row.answered_by else "Somebody was quicker"
            raise RuleError(
                409, f"{who}: {review.revision} is {revision.status} by now. Nothing was changed."
            )
        stand = Stand.APPROVED if approve else Stand.SENT_BACK
        said = {"stand": stand, "answer": words.strip(), "answered_by": person, "answered_at": timezone.now()}
        Review.objects.filter(revision=revision, stand=Stand.OPEN).update(**said)
        looks.set_status(revision, person, Status.APPROVED if approve else Status.DRAFT)
        if not approve:
            note(
                Happening.REVIEW,
                person,
                "sent back",
                str(revision),
                more=words.strip(),
                to=looks.page_of(revision),
                revision=revision.pk,
            )
    return find(review.pk)


def withdraw(review: Review, person: Person) -> Review:
    """Takes back what was asked; with the last open review its revision is a draft again."""
    with transaction.atomic():
        revision = looks.locked(review.revision_id)
        row = Review.objects.select_for_update().get(pk=review.pk)
        must(
            person,
            "started.end",
            is_own(person, row.asked_by_id),
            "Only who asked, or a lead, takes it back.",
        )
        if row.stand != Stand.OPEN:
            raise RuleError(409, f"This was answered already: {row.stand}.")
        row.stand = Stand.WITHDRAWN
        row.save(update_fields=["stand"])
        if (
            revision.status == Status.IN_REVIEW
            and not Review.objects.filter(revision=revision, stand=Stand.OPEN).exists()
        ):
            looks.set_status(revision, person, Status.DRAFT)
        note(
            Happening.REVIEW,
            person,
            "takes back the review of",
            str(revision),
            to=looks.page_of(revision),
            revision=revision.pk,
        )
    return find(review.pk)


def retire(revision: Revision, person: Person, successor: int | None) -> Look:
    """Retires a revision; names the look to use instead, if there is one."""
    must(person, "review.decide")
    with transaction.atomic():
        # Both are held, in the order of their keys: two looks may be retired for one another at one moment.
        held = looks.lock(revision.look_id, successor or revision.look_id)
        look, heir = held[revision.look_id], None
        if successor is not None:
            heir = looks.find(successor)
            newest = looks.latest(heir)
            if heir.pk == look.pk:
                raise RuleError(422, "A look cannot take its own place. Name another one.")
            if newest is None or newest.status == Status.RETIRED:
                raise RuleError(409, f"{heir.name} is not in use itself. Name another look.")
        looks.set_status(revision, person, Status.RETIRED)
        look.successor = heir
        look.save(update_fields=["successor"])
    return look


def follow(sender: object, ids: list[int], **_: Any) -> None:
    """Ends reviews whose revision was decided on in another way."""
    open_ones = Review.objects.filter(revision__look_id__in=ids, stand=Stand.OPEN)
    open_ones.exclude(revision__status=Status.IN_REVIEW).update(stand=Stand.WITHDRAWN)


def of_look(look: Look) -> QuerySet[Review]:
    """All reviews of a look, the newest first."""
    return Review.objects.filter(revision__look=look).select_related(
        "revision", "asked_by", "asked_of", "answered_by"
    )


def _whole() -> QuerySet[Review]:
    people = ("asked_by", "asked_of", "answered_by", "revision__made_by", "revision__moved_by")
    return Review.objects.select_related("revision__look", *people)


def waiting(person: Person) -> dict[str, QuerySet[Review]]:
    """What waits for a person: reviews asked of them, the most pressing first, and their own that came back
    and they did not see yet."""
    asked = Q(asked_of=person, stand=Stand.OPEN)
    answered = Q(asked_by=person, stand__in=[Stand.SENT_BACK, Stand.APPROVED], seen=False)
    # Every page asks, and mostly nothing waits: that is told without the revisions and people that belong to
    # it.
    rows = _whole() if Review.objects.filter(asked | answered).exists() else Review.objects.none()
    return {
        "asked": rows.filter(asked).order_by(F("due").asc(nulls_last=True), "asked_at"),
        "answered": rows.filter(answered),
    }


def elsewhere(person: Person) -> QuerySet[Review]:
    """Reviews that wait for others, the longest waiting first."""
    return _whole().filter(stand=Stand.OPEN).exclude(asked_of=person).order_by("asked_at")


def seen(review: Review, person: Person) -> None:
    """Notes that who asked has seen the answer."""
    Review.objects.filter(pk=review.pk, asked_by=person).update(seen=True)
