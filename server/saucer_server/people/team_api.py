"""The team: who is in it, who may do what, invitations, and one's own sessions and tokens."""

from datetime import datetime
from typing import Annotated, Literal

from django.contrib.auth import login
from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import Field

from ..errors import RuleError
from ..fields import Text
from . import factors, inviting, may, rules, sessions, single, throttle, tokens
from .address import address_of
from .api import Me, me_of, must_be_ours
from .may import Operation
from .rules import Person, Role, person_of
from .tokens import Scope

router = Router(tags=["people"])
Named = Annotated[Text, Field(min_length=1, max_length=120)]


class MateOut(Schema):
    """Somebody of the team. here: they asked for something within minutes; active: they may sign in.

    email, second_factor: told to leads.
    """

    id: int
    name: str
    role: str
    key: Role
    active: bool
    email: str
    here: bool
    seen_at: datetime | None
    second_factor: bool


def _mates(everybody: list[Person], of: Person) -> list[MateOut]:
    last, now = sessions.last_seen(), timezone.now()
    leads = may.may(of, "people.change")
    twofold = factors.people() if leads else set()
    return [
        MateOut(
            id=p.pk,
            name=str(p),
            role=p.get_role_display(),
            key=Role(p.role),
            active=p.is_active,
            seen_at=last.get(p.pk),
            email=p.email if leads else "",
            second_factor=p.pk in twofold,
            here=p.pk in last and now - last[p.pk] < sessions.HERE_NOW,
        )
        for p in everybody
    ]


@router.get("/people", response=list[MateOut])
def people(request: HttpRequest, gone: bool = False) -> list[MateOut]:
    """Everybody who can sign in, by name; with ``gone`` also those who cannot any more."""
    person = person_of(request)
    return _mates(
        list(Person.objects.order_by("-is_active", "full_name", "pk") if gone else rules.everybody()), person
    )


class PersonPatch(Schema):
    """What a lead changes of a person. email: the address by which single sign-on knows them; empty for
    none."""

    role: Role | None = None
    active: bool | None = None
    email: Annotated[Text, Field(max_length=200, pattern=r"^$|^[^@\s]+@[^@\s]+$")] | None = None


@router.patch("/people/{int:person_id}", response=MateOut)
def change(request: HttpRequest, person_id: int, payload: PersonPatch) -> MateOut:
    """Gives a person another role, or lets them in no more, or again."""
    by = person_of(request)
    return _mates([rules.change(person_id, by, payload.role, payload.active, payload.email)], by)[0]


class LinkOut(Schema):
    """An invitation that nobody took up yet. path: where its link leads, told only when it is made."""

    id: int
    for_name: str
    role: str
    made_by: str
    until: datetime
    run_out: bool
    path: str = ""


def _link(link: inviting.Link, secret: str = "") -> LinkOut:
    return LinkOut(
        id=link.pk,
        for_name=link.for_name,
        role=link.get_role_display(),
        made_by=str(link.made_by),
        until=link.until,
        run_out=link.until <= timezone.now(),
        path=f"/come-in/{secret}" if secret else "",
    )


@router.get("/invitations", response=list[LinkOut])
def invitations(request: HttpRequest) -> list[LinkOut]:
    """Invitations that wait."""
    person_of(request)
    return [_link(link) for link in inviting.open_ones()]


class InvitationIn(Schema):
    """Who is invited, in words for the team, and as what."""

    for_name: Named
    role: Role = Role.APPLIER


@router.post("/invitations", response={201: LinkOut})
def invite(request: HttpRequest, payload: InvitationIn) -> Status[LinkOut]:
    """Invites somebody; the link is told once."""
    return Status(201, _link(*inviting.invite(person_of(request), payload.for_name, payload.role)))


@router.post("/invitations/{int:link_id}/renew", response=LinkOut)
def renew(request: HttpRequest, link_id: int) -> LinkOut:
    """Gives an invitation a new link and another week."""
    return _link(*inviting.renew(link_id, person_of(request)))


@router.delete("/invitations/{int:link_id}", response={204: None})
def take_back(request: HttpRequest, link_id: int) -> Status[None]:
    """Takes an invitation back."""
    inviting.take_back(link_id, person_of(request))
    return Status(204, None)


@router.post("/people/{int:person_id}/reset", response={201: LinkOut})
def reset(request: HttpRequest, person_id: int) -> Status[LinkOut]:
    """Makes a link with which a person chooses a new password; it is told once."""
    return Status(201, _link(*inviting.reset(rules.find(person_id), person_of(request))))


class ComeInOut(Schema):
    """What a link leads to. username: whose password it sets; empty for somebody new."""

    for_name: str
    role: str
    made_by: str
    username: str


@router.get("/come-in/{secret}", auth=None, response=ComeInOut)
def come_in(request: HttpRequest, secret: str) -> ComeInOut:
    """What a link leads to; 404 where it leads nowhere any more."""
    link = inviting.find(secret)
    return ComeInOut(
        for_name=link.for_name,
        role=link.get_role_display(),
        made_by=str(link.made_by),
        username=link.person.username if link.person else "",
    )


class ComeInIn(Schema):
    """Who somebody new is, and the password; for a new password alone the names are left empty. code: of the
    second factor, if any."""

    username: Text = Field(default="", max_length=150)
    name: Text = Field(default="", max_length=120)
    password: Text = Field(max_length=500)
    code: Text = Field(default="", max_length=20)


@router.post("/come-in/{secret}", auth=None, response=Me)
def enter(request: HttpRequest, secret: str, payload: ComeInIn) -> Me:
    """Takes a link up: the person is made, or has the new password, and is signed in."""
    must_be_ours(request)
    single.must_not_be_alone()
    known, address = inviting.find(secret).person, address_of(request)
    if known is not None:
        throttle.must_wait(known.username, address)
    try:
        person = inviting.enter(secret, payload.username, payload.name, payload.password, payload.code)
    except RuleError as error:
        if known is not None and error.detail.get("second_factor") and payload.code.strip():
            throttle.wrong(known.username, address)
        raise
    login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    return me_of(person)


class OperationOut(Schema):
    """A line of the table of who may do what. Each role: all, own, asks, or no."""

    key: str
    words: str
    own: str
    applier: str
    designer: str
    lead: str


@router.get("/people/may", response=list[OperationOut])
def who_may(request: HttpRequest) -> list[Operation]:
    """Who may do what."""
    person_of(request)
    return list(may.TABLE.values())


class SessionOut(Schema):
    """A place where the person is signed in. this: the one that asks."""

    id: int
    browser: str
    at: datetime
    seen_at: datetime
    this: bool


def _sessions(request: HttpRequest, person: Person) -> list[SessionOut]:
    mine = request.session.session_key
    return [
        SessionOut(id=s.pk, browser=s.browser, at=s.at, seen_at=s.seen_at, this=s.session == mine)
        for s in sessions.listed(person)
    ]


@router.get("/me/sessions", response=list[SessionOut])
def own_sessions(request: HttpRequest) -> list[SessionOut]:
    """Where one is signed in."""
    return _sessions(request, person_of(request))


@router.delete("/me/sessions/{int:session_id}", response={204: None})
def end_session(request: HttpRequest, session_id: int) -> Status[None]:
    """Signs oneself out in another place."""
    person = person_of(request)
    sessions.end(person, session_id, person)
    return Status(204, None)


class TokenOut(Schema):
    """A personal token. secret: told only when it is made."""

    id: int
    name: str
    tail: str
    scope: str
    made_at: datetime
    until: datetime | None
    used_at: datetime | None
    run_out: bool
    secret: str = ""


def _token(token: tokens.Token, secret: str = "") -> TokenOut:
    return TokenOut(
        id=token.pk,
        name=token.name,
        tail=token.tail,
        scope=token.get_scope_display(),
        made_at=token.made_at,
        until=token.until,
        used_at=token.used_at,
        run_out=token.until is not None and token.until <= timezone.now(),
        secret=secret,
    )


@router.get("/me/tokens", response=list[TokenOut])
def list_tokens(request: HttpRequest) -> list[TokenOut]:
    """One's own tokens."""
    return [_token(t) for t in tokens.listed(person_of(request))]


class TokenIn(Schema):
    """What a new token is for, what it lets do, and for how many days; no end where none are named."""

    name: Annotated[Text, Field(min_length=1, max_length=80)]
    scope: Scope = Scope.READ
    days: Literal[7, 30, 90, 365] | None = 90


@router.post("/me/tokens", response={201: TokenOut})
def make_token(request: HttpRequest, payload: TokenIn) -> Status[TokenOut]:
    """Makes a token; its secret is told once."""
    return Status(201, _token(*tokens.make(person_of(request), payload.name, payload.scope, payload.days)))


@router.delete("/me/tokens/{int:token_id}", response={204: None})
def end_token(request: HttpRequest, token_id: int) -> Status[None]:
    """Ends a token: whatever shows it is not let in any more."""
    person = person_of(request)
    tokens.end(person, token_id, person)
    return Status(204, None)


class WaysInOut(Schema):
    """By what a person comes in: where they are signed in, and their tokens."""

    sessions: list[SessionOut]
    tokens: list[TokenOut]


def _somebody(request: HttpRequest, person_id: int) -> tuple[Person, Person]:
    """The lead who asks, and whom they ask about."""
    by = person_of(request)
    may.must(by, "people.change")
    return by, rules.find(person_id)


@router.get("/people/{int:person_id}/ways-in", response=WaysInOut)
def ways_in(request: HttpRequest, person_id: int) -> WaysInOut:
    """Where somebody is signed in, and their tokens; leads see it."""
    _, person = _somebody(request, person_id)
    return WaysInOut(sessions=_sessions(request, person), tokens=[_token(t) for t in tokens.listed(person)])


@router.delete("/people/{int:person_id}/sessions/{int:session_id}", response={204: None})
def end_their_session(request: HttpRequest, person_id: int, session_id: int) -> Status[None]:
    """Signs somebody out in one place."""
    by, person = _somebody(request, person_id)
    sessions.end(person, session_id, by)
    return Status(204, None)


@router.delete("/people/{int:person_id}/tokens/{int:token_id}", response={204: None})
def end_their_token(request: HttpRequest, person_id: int, token_id: int) -> Status[None]:
    """Ends somebody's token."""
    by, person = _somebody(request, person_id)
    tokens.end(person, token_id, by)
    return Status(204, None)


@router.delete("/people/{int:person_id}/second-factor", response={204: None})
def end_their_factor(request: HttpRequest, person_id: int) -> Status[None]:
    """Takes somebody's second factor off, as when a phone is lost."""
    by, person = _somebody(request, person_id)
    factors.end(person, by)
    return Status(204, None)
