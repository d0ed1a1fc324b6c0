"""Personal tokens: what a script or the command line shows instead of signing in."""

import hashlib
import secrets
from datetime import datetime, timedelta

from django.db import transaction
from django.db.models import QuerySet
from django.http import HttpRequest
from django.utils import timezone
from ninja.security import HttpBearer

from ..errors import RuleError, forbidden
from ..lookup import by_id
from .activity import Happening, note
from .models import Person, Scope, Token

__all__ = ["PREFIX", "TOKENS", "Scope", "Token", "TokenAuth", "end", "end_all", "holder", "listed", "make"]

#: Marks a token in a script that was left lying about.
PREFIX = "saucer_"
TOKENS = 20
_NOTED_EVERY = timedelta(minutes=1)
#: The routes that a token that bakes may send to, beyond reading. A test asks that there is each of them.
BAKES = frozenset(
    {
        "api/revisions/<int:revision_id>/bakes", "api/projects/<int:project_id>/deliveries",
        "api/projects/<int:project_id>/deliveries/<int:number>/drop-folder", "api/jobs/<int:job_id>/cancel",
        "api/live", "api/exact", "api/picture",
    }
)  # fmt: skip
#: What no token reaches: a script must not make itself another way in.
_CLOSED = ("/api/me/", "/api/people", "/api/invitations", "/api/sign-out")


def _digest(secret: str) -> str:
    return hashlib.sha256(secret.encode("utf-8", "replace")).hexdigest()


def listed(person: Person) -> QuerySet[Token]:
    """A person's tokens that still let in, or have run out; the newest first."""
    return Token.objects.filter(person=person).order_by("-pk")


def make(person: Person, name: str, scope: str, days: int | None) -> tuple[Token, str]:
    """A new token, and its secret, which is told once. days: how long it lets in; None has no end."""
    if listed(person).count() >= TOKENS:
        raise RuleError(409, f"You have {TOKENS} tokens. End one that is not used any more.")
    secret = PREFIX + secrets.token_urlsafe(30)
    until = timezone.now() + timedelta(days=days) if days else None
    with transaction.atomic():
        token = Token.objects.create(
            person=person,
            name=name.strip(),
            scope=Scope(scope),
            until=until,
            digest=_digest(secret),
            tail=secret[-4:],
        )
        note(
            Happening.PEOPLE,
            person,
            "made the token",
            f"{token.name} …{token.tail}",
            more=token.get_scope_display().lower(),
        )
    return token, secret


def end(person: Person, token_id: int, by: Person) -> None:
    """Ends a person's token, by themselves or by a lead; raises 404."""
    with transaction.atomic():
        token = by_id(Token.objects.select_for_update().filter(person=person), token_id, "token")
        token.delete()
        named = f"{token.name} …{token.tail}"
        if by == person:
            note(Happening.PEOPLE, by, "ended the token", named)
        else:
            note(Happening.PEOPLE, by, "ended a token of", str(person), more=named)


def end_all(person: Person) -> int:
    """Ends all tokens of a person; says how many."""
    return Token.objects.filter(person=person).delete()[0]


def _covers(scope: str, method: str, path: str, route: str) -> bool:
    if path.startswith(_CLOSED):
        return False
    if scope == Scope.ALL or method in ("GET", "HEAD"):
        return True
    # By the route, never by what stands in an address: names of collections do, too.
    return scope == Scope.BAKE and method == "POST" and route in BAKES


def holder(secret: str, method: str, path: str, route: str) -> Person:
    """The person whose token it is. Raises 401 where it does not let in, and 403 where it may not do what is
    asked."""
    now: datetime = timezone.now()
    row = (
        Token.objects.select_related("person").filter(digest=_digest(secret), person__is_active=True).first()
    )
    if row is None or (row.until is not None and row.until <= now):
        # Not ``None``: the page's own way in would be asked next, and speak of a page that is open too long.
        raise RuleError(
            401,
            "This token does not let in: it ended, or there is none such. Make another one under your name.",
        )
    if not _covers(row.scope, method, path, route):
        raise forbidden(
            f"The token “{row.name}” may {row.get_scope_display().lower()} only. Make one that may do more."
        )
    if row.used_at is None or now - row.used_at > _NOTED_EVERY:
        Token.objects.filter(pk=row.pk).update(used_at=now)
    return row.person


class TokenAuth(HttpBearer):
    """Lets in who shows a token that has not ended: ``Authorization: Bearer saucer_…``. Their scope may still
    refuse with 403."""

    def authenticate(self, request: HttpRequest, token: str) -> Person:
        """The person whose token it is; raises 401 and 403."""
        asked = request.resolver_match
        person = holder(token, request.method or "", request.path, asked.route if asked is not None else "")
        request.user = person
        return person
