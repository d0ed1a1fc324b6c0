"""Signing in and out."""

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Router, Schema
from pydantic import Field

from ..errors import RuleError
from . import guessing
from .rules import Person, everybody, may_design, may_lead, person_of

router = Router(tags=["people"])


class Me(Schema):
    """The person signed in, and what they may do."""

    username: str
    name: str
    role: str
    may_design: bool
    may_lead: bool


class Session(Schema):
    """Who is signed in; nobody is an answer too."""

    person: Me | None


class Credentials(Schema):
    """What signs a person in."""

    username: str = Field(max_length=150)
    password: str = Field(max_length=500)


def _me(person: Person) -> Me:
    return Me(
        username=person.username,
        name=str(person),
        role=person.get_role_display(),
        may_design=may_design(person),
        may_lead=may_lead(person),
    )


@router.get("/me", response=Me)
def me(request: HttpRequest) -> Me:
    """Who is signed in."""
    return _me(person_of(request))


class MateOut(Schema):
    """Somebody of the team."""

    id: int
    name: str
    role: str


@router.get("/people", response=list[MateOut])
def people(request: HttpRequest) -> list[MateOut]:
    """Everybody who can sign in, by name."""
    person_of(request)
    return [MateOut(id=p.pk, name=str(p), role=p.get_role_display()) for p in everybody()]


@router.get("/session", auth=None, response=Session)
def session(request: HttpRequest) -> Session:
    """Sets the token that later requests must carry, and says who is signed in, if anybody."""
    get_token(request)
    return Session(person=_me(request.user) if isinstance(request.user, Person) else None)


@router.post("/sign-in", auth=None, response=Me)
def sign_in(request: HttpRequest, payload: Credentials) -> Me:
    """Starts a session."""
    if "\0" in payload.username + payload.password:
        raise RuleError(422, "A name and a password are plain text.")
    address = str(request.META.get("REMOTE_ADDR", ""))
    guessing.must_wait(payload.username, address)
    person = authenticate(request, username=payload.username, password=payload.password)
    if not isinstance(person, Person):
        guessing.wrong(payload.username, address)
        raise RuleError(401, "That name and password do not belong together. Check both and try again.")
    guessing.right(payload.username)
    login(request, person)
    return _me(person)


@router.post("/sign-out")
def sign_out(request: HttpRequest) -> dict[str, bool]:
    """Ends the session."""
    logout(request)
    return {"signed_in": False}
