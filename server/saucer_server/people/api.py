"""Signing in and out, and oneself."""

from contextlib import suppress

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.db import DatabaseError, transaction
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema, Status
from ninja.utils import check_csrf
from pydantic import Field

from ..errors import RuleError
from ..fields import Text
from . import factors, naming, sessions, single, throttle, tokens
from .activity import Happening, note
from .address import address_of
from .inviting import choose_password
from .rules import Person, may_design, may_lead, person_of

router = Router(tags=["people"])


class Me(Schema):
    """The person signed in, and what they may do."""

    id: int
    username: str
    name: str
    role: str
    may_design: bool
    may_lead: bool


class Session(Schema):
    """Who is signed in; nobody is an answer too. single_sign_on: what the team's own way in is called, where
    there is one.

    passwords: whether names and passwords let in, too.
    """

    person: Me | None
    single_sign_on: str = ""
    passwords: bool = True


class Credentials(Schema):
    """What signs a person in. code: of the second factor, where they have one."""

    username: Text = Field(max_length=150)
    password: Text = Field(max_length=500)
    code: Text = Field(default="", max_length=20)


def me_of(person: Person) -> Me:
    """A person as they see themselves."""
    return Me(
        id=person.pk,
        username=person.username,
        name=str(person),
        role=person.get_role_display(),
        may_design=may_design(person),
        may_lead=may_lead(person),
    )


@router.get("/me", response=Me)
def me(request: HttpRequest) -> Me:
    """Who is signed in."""
    return me_of(person_of(request))


@router.get("/session", auth=None, response=Session)
def session(request: HttpRequest) -> Session:
    """Sets the token that later requests must carry, and says who is signed in, if anybody."""
    get_token(request)
    person = request.user if isinstance(request.user, Person) else None
    if person is not None:
        with suppress(DatabaseError):
            # Who is here is told where nothing can be written, too.
            sessions.seen(person, request.session.session_key)
    label = settings.OIDC["label"] if settings.OIDC["issuer"] else ""
    return Session(
        person=me_of(person) if person else None, single_sign_on=label, passwords=not single.alone()
    )


def must_be_ours(request: HttpRequest) -> None:
    """Raises 403 where another site sends the request: signing somebody in as somebody else is an attack,
    too."""
    if check_csrf(request) is not None:
        raise RuleError(403, "This page has been open for too long. Reload it and try again.")


def pass_factor(person: Person, code: str, address: str) -> None:
    """Asks for the second factor, where the person has one. Wrong codes count like wrong passwords. Raises
    401."""
    try:
        factors.must_pass(person, code)
    except RuleError:
        if code.strip():
            throttle.wrong(person.username, address)
        raise


@router.post("/sign-in", auth=None, response=Me)
def sign_in(request: HttpRequest, payload: Credentials) -> Me:
    """Starts a session."""
    must_be_ours(request)
    single.must_not_be_alone()
    address, known = address_of(request), naming.by_name(payload.username)
    name = known.username if known else payload.username
    throttle.must_wait(name, address, known=known is not None)
    with throttle.one_at_a_time():
        person = authenticate(request, username=name, password=payload.password)
    if not isinstance(person, Person):
        throttle.wrong(name, address)
        raise RuleError(401, "That name and password do not belong together. Check both and try again.")
    pass_factor(person, payload.code, address)
    throttle.right(name, address)
    login(request, person)
    return me_of(person)


@router.post("/sign-out", response={204: None})
def sign_out(request: HttpRequest) -> Status[None]:
    """Ends the session."""
    logout(request)
    return Status(204, None)


class PasswordIn(Schema):
    """A new password, and the one until now. keep_tokens: whether one's tokens go on letting in."""

    now: Text = Field(max_length=500)
    new: Text = Field(max_length=500)
    keep_tokens: bool = False


class PasswordOut(Schema):
    """In how many other places the person was signed out, and how many of their tokens ended."""

    signed_out: int
    tokens_ended: int


def must_know_password(request: HttpRequest, person: Person, password: str) -> None:
    """Raises 422 where a signed-in person does not know their password, and 429 while they must wait."""
    address = address_of(request)
    throttle.must_wait(person.username, address)
    with throttle.one_at_a_time():
        fits = person.check_password(password)
    if not fits:
        throttle.wrong(person.username, address)
        raise RuleError(422, "That is not your password. Nothing was changed.")


@router.put("/me/password", response=PasswordOut)
def change_password(request: HttpRequest, payload: PasswordIn) -> PasswordOut:
    """Changes one's own password; every other session ends, and every token unless it is said otherwise."""
    person = person_of(request)
    single.must_not_be_alone()
    must_know_password(request, person, payload.now)
    choose_password(person, payload.new)
    with transaction.atomic():
        person.save(update_fields=["password"])
        before = request.session.session_key
        update_session_auth_hash(request, person)
        sessions.moved(before, request.session.session_key)
        ended = sessions.end_all(person, but=request.session.session_key)
        gone = 0 if payload.keep_tokens else tokens.end_all(person)
        said = [
            f"signed out in {ended} other places" if ended else "",
            f"{gone} tokens ended" if gone else "",
        ]
        note(Happening.PEOPLE, person, "changed their password", more=", ".join(filter(None, said)))
    return PasswordOut(signed_out=ended, tokens_ended=gone)


class FactorOut(Schema):
    """Whether one signs in with a second factor."""

    on: bool


class FactorBegunOut(Schema):
    """What an app needs to make the codes: the secret, the same as an address, and that as a picture (the
    address of an SVG)."""

    secret: str
    address: str
    picture: str


class CodeIn(Schema):
    """A code that the app shows."""

    code: Text = Field(max_length=20)


class SpareOut(Schema):
    """Codes that let in once each, for a day without the phone; told once."""

    spare: list[str]


class KnownIn(Schema):
    """One's password."""

    password: Text = Field(max_length=500)


@router.get("/me/second-factor", response=FactorOut)
def second_factor(request: HttpRequest) -> FactorOut:
    """Whether one signs in with a second factor."""
    return FactorOut(on=factors.asked_for(person_of(request)))


@router.post("/me/second-factor", response=FactorBegunOut)
def begin_factor(request: HttpRequest, payload: KnownIn) -> factors.Begun:
    """Makes the secret of a second factor; it counts once a code of it was shown."""
    person = person_of(request)
    single.must_not_be_alone()
    must_know_password(request, person, payload.password)
    return factors.begin(person)


@router.post("/me/second-factor/confirm", response=SpareOut)
def confirm_factor(request: HttpRequest, payload: CodeIn) -> SpareOut:
    """Begins to ask for codes."""
    return SpareOut(spare=factors.confirm(person_of(request), payload.code))


@router.post("/me/second-factor/end", response=FactorOut)
def end_factor(request: HttpRequest, payload: KnownIn) -> FactorOut:
    """Takes one's second factor off."""
    person = person_of(request)
    must_know_password(request, person, payload.password)
    factors.end(person, person)
    return FactorOut(on=False)
