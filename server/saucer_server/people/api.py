"""Signing in and out, and oneself."""

from contextlib import suppress

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.db import DatabaseError
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema
from pydantic import Field

from ..errors import RuleError
from ..fields import Text
from . import guessing, seats
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
    """Who is signed in; nobody is an answer too. single_sign_on: what the team's own way in is called, where there is one."""

    person: Me | None
    single_sign_on: str = ""


class Credentials(Schema):
    """What signs a person in."""

    username: Text = Field(max_length=150)
    password: Text = Field(max_length=500)


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
            seats.seen(person, request.session.session_key)
    return Session(person=me_of(person) if person else None, single_sign_on=settings.OIDC["label"] if settings.OIDC["issuer"] else "")


@router.post("/sign-in", auth=None, response=Me)
def sign_in(request: HttpRequest, payload: Credentials) -> Me:
    """Starts a session."""
    address = address_of(request)
    guessing.must_wait(payload.username, address)
    with guessing.one_at_a_time():
        person = authenticate(request, username=payload.username, password=payload.password)
    if not isinstance(person, Person):
        guessing.wrong(payload.username, address)
        raise RuleError(401, "That name and password do not belong together. Check both and try again.")
    guessing.right(payload.username)
    login(request, person)
    return me_of(person)


@router.post("/sign-out")
def sign_out(request: HttpRequest) -> dict[str, bool]:
    """Ends the session."""
    logout(request)
    return {"signed_in": False}


class PasswordIn(Schema):
    """A new password, and the one until now."""

    now: Text = Field(max_length=500)
    new: Text = Field(max_length=500)


class PasswordOut(Schema):
    """In how many other places the person was signed out."""

    signed_out: int


@router.put("/me/password", response=PasswordOut)
def change_password(request: HttpRequest, payload: PasswordIn) -> PasswordOut:
    """Changes one's own password; every other session ends."""
    person = person_of(request)
    address = address_of(request)
    guessing.must_wait(person.username, address)
    with guessing.one_at_a_time():
        fits = person.check_password(payload.now)
    if not fits:
        guessing.wrong(person.username, address)
        raise RuleError(422, "That is not your password until now. Nothing was changed.")
    choose_password(person, payload.new)
    person.save(update_fields=["password"])
    before = request.session.session_key
    update_session_auth_hash(request, person)
    seats.moved(before, request.session.session_key)
    ended = seats.end_all(person, but=request.session.session_key)
    note(Happening.PEOPLE, person, "changed their password", more=f"signed out in {ended} other places" if ended else "")
    return PasswordOut(signed_out=ended)
