"""Links by which somebody comes in: an invitation makes a person, a reset lets a person choose a new
password.

A link holds a secret that is kept as a digest alone. Whoever makes it hands it on; Saucer sends nothing by
itself.
"""

import hashlib
import secrets
from datetime import timedelta

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from ..errors import RuleError
from ..lookup import by_id
from . import factors, naming, tokens
from .activity import Happening, note
from .may import must
from .models import Link, Person, Role
from .sessions import end_all

__all__ = [
    "INVITED_FOR",
    "RESET_FOR",
    "Link",
    "choose_password",
    "enter",
    "find",
    "invite",
    "open_ones",
    "renew",
    "reset",
    "take_back",
]

#: How long an invitation is good.
INVITED_FOR = timedelta(days=7)
#: How long a link to choose a new password is good.
RESET_FOR = timedelta(hours=24)


def _secret() -> tuple[str, str]:
    secret = secrets.token_urlsafe(24)
    return secret, hashlib.sha256(secret.encode()).hexdigest()


def open_ones() -> QuerySet[Link]:
    """Invitations that nobody has taken up or taken back, also those that have run out."""
    return Link.objects.filter(person__isnull=True, used_at__isnull=True).select_related("made_by")


def invite(by: Person, name: str, role: str) -> tuple[Link, str]:
    """A new invitation, and the secret of its link, which is told once."""
    must(by, "people.change")
    secret, digest = _secret()
    with transaction.atomic():
        link = Link.objects.create(
            for_name=name.strip(),
            role=Role(role),
            made_by=by,
            digest=digest,
            until=timezone.now() + INVITED_FOR,
        )
        note(Happening.PEOPLE, by, "invited", link.for_name, more=f"as {link.get_role_display().lower()}")
    return link, secret


def renew(link_id: int, by: Person) -> tuple[Link, str]:
    """The invitation under a new secret and for another week; the old link ends."""
    must(by, "people.change")
    with transaction.atomic():
        link = by_id(open_ones().select_for_update(of=("self",)), link_id, "invitation")
        secret, link.digest = _secret()
        link.until = timezone.now() + INVITED_FOR
        link.save(update_fields=["digest", "until"])
    return link, secret


def take_back(link_id: int, by: Person) -> None:
    """Ends an invitation."""
    must(by, "people.change")
    with transaction.atomic():
        link = by_id(open_ones().select_for_update(of=("self",)), link_id, "invitation")
        link.delete()
        note(Happening.PEOPLE, by, "took back the invitation of", link.for_name)


def reset(person: Person, by: Person) -> tuple[Link, str]:
    """A link with which a person chooses a new password; earlier ones end."""
    must(by, "people.change")
    secret, digest = _secret()
    with transaction.atomic():
        Link.objects.filter(person=person, used_at__isnull=True).delete()
        link = Link.objects.create(
            person=person,
            for_name=str(person)[:120],
            role=person.role,
            made_by=by,
            digest=digest,
            until=timezone.now() + RESET_FOR,
        )
        note(Happening.PEOPLE, by, "made a link for a new password of", str(person))
    return link, secret


def _open(secret: str) -> Q:
    return Q(
        digest=hashlib.sha256(secret.encode("utf-8", "replace")).hexdigest(),
        used_at__isnull=True,
        until__gt=timezone.now(),
    )


def find(secret: str) -> Link:
    """The link with that secret; raises 404 where it was used, was taken back, or has run out."""
    link = Link.objects.filter(_open(secret)).select_related("made_by", "person").first()
    if link is None or (link.person is not None and not link.person.is_active):
        raise RuleError(
            404,
            "This link does not lead in any more: it was used, taken back, or has run out. Ask a lead for "
            "a new one.",
        )
    return link


def choose_password(person: Person, password: str) -> None:
    """Gives a person another password. Raises 422 where it is too easily guessed. Not saved yet."""
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise RuleError(422, " ".join(error.messages)) from None
    person.set_password(password)


def enter(secret: str, username: str, full_name: str, password: str, code: str = "") -> Person:
    """Takes a link up: makes the person, or gives theirs the new password and ends their sessions and tokens.

    code: of the second factor, where the person has one: a link alone does not get around it. Raises 401,
    404, 409, 422.
    """
    find(secret)
    with transaction.atomic():
        link = Link.objects.select_for_update().filter(_open(secret)).first()
        if link is None:
            raise RuleError(404, "Somebody has just used this link. Ask a lead for a new one.")
        link.used_at = timezone.now()
        link.save(update_fields=["used_at"])
        if link.person is not None:
            person = Person.objects.select_for_update().get(pk=link.person.pk)
            factors.must_pass(person, code)
            choose_password(person, password)
            person.save(update_fields=["password"])
            end_all(person)
            tokens.end_all(person)
            note(Happening.PEOPLE, person, "chose a new password")
            return person
        if not username.strip() or not full_name.strip():
            raise RuleError(422, "Choose a name to sign in with, and say what you are called.")
        person = Person(
            username=naming.sign_in_name(username), full_name=naming.called(full_name), role=link.role
        )
        choose_password(person, password)
        naming.free(person.username)
        person.save()
        note(Happening.PEOPLE, person, "came in", more=person.get_role_display())
        return person
