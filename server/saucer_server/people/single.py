"""Single sign-on by OpenID Connect (Core 1.0): the authorisation code flow with PKCE (RFC 7636), by
Authlib."""

import re
import unicodedata
from contextlib import suppress
from typing import Any
from urllib.parse import urlencode

from authlib.integrations.base_client import OAuthError
from authlib.integrations.django_client import OAuth
from django.conf import settings
from django.contrib.auth import login
from django.core.exceptions import ValidationError
from django.core.validators import EmailValidator
from django.db import transaction
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_GET
from joserfc.errors import JoseError
from requests import RequestException

from ..errors import RuleError
from . import naming
from .activity import Happening, note
from .rules import Person, Role

#: What the provider says of somebody (OpenID Connect Core 1.0, 5.1): it may say anything beside.
Claims = dict[str, Any]
_NEXT = "single sign-on next"
#: Characters of the provider's name for somebody, with its own address before it.
LONGEST_SUBJECT = 300
#: Characters of a mail address (RFC 5321, 4.5.3.1).
LONGEST_EMAIL = 254


def alone() -> bool:
    """Whether single sign-on is the only way in."""
    return bool(settings.OIDC["issuer"]) and settings.OIDC.get("only") == "1"


def must_not_be_alone() -> None:
    """Raises 403 where names and passwords let nobody in."""
    if alone():
        raise RuleError(403, f"Here one signs in with {settings.OIDC['label']} alone.")


def _provider() -> Any:
    """The provider as the settings name it."""
    known = OAuth()
    known.register(
        "provider",
        client_id=settings.OIDC["client"],
        client_secret=settings.OIDC["secret"],
        server_metadata_url=f"{settings.OIDC['issuer'].rstrip('/')}/.well-known/openid-configuration",
        client_kwargs={"scope": "openid profile email", "code_challenge_method": "S256", "timeout": 10},
    )
    return known.provider


def _away(words: str) -> HttpResponse:
    """Back to the page of signing in, which says why."""
    return HttpResponseRedirect(f"/sign-in?{urlencode({'said': words})}")


@require_GET
def begin(request: HttpRequest) -> HttpResponse:
    """Sends somebody to the provider."""
    if not settings.OIDC["issuer"]:
        return _away("There is no single sign-on here. Sign in with name and password.")
    asked = request.GET.get("next", "/")
    request.session[_NEXT] = asked if url_has_allowed_host_and_scheme(asked, None) else "/"
    try:
        answer: HttpResponse = _provider().authorize_redirect(
            request, request.build_absolute_uri(reverse("single sign-on"))
        )
    except (RequestException, OAuthError, JoseError, ValueError):
        return _away(
            "Single sign-on cannot be reached at this moment. Try again, or sign in with name and password."
        )
    return answer


@require_GET
def back(request: HttpRequest) -> HttpResponse:
    """Takes somebody in whom the provider sends back; what it says of them is signed, for this sign-in
    alone."""
    if not settings.OIDC["issuer"]:
        return _away("There is no single sign-on here. Sign in with name and password.")
    try:
        told = _provider().authorize_access_token(request)["userinfo"]
    except (RequestException, OAuthError, JoseError, KeyError, ValueError):
        return _away("Single sign-on did not work out. Try again.")
    try:
        person = _person(dict(told))
    except RuleError as error:
        return _away(error.message)
    wanted = request.session.pop(_NEXT, "/")
    login(request, person, backend="django.contrib.auth.backends.ModelBackend")
    return HttpResponseRedirect(wanted)


def _person(told: Claims) -> Person:
    """Whom the provider means: who came that way before, who has that address (where the provider has seen it
    proved), or somebody new.

    Raises 403 where nobody new comes in that way, or the person is let in no more.
    """
    subject = f"{settings.OIDC['issuer'].rstrip('/')} {told['sub']}"
    if len(subject) > LONGEST_SUBJECT or "\0" in subject:
        # Cut off, two people would become one.
        raise RuleError(
            403,
            "The provider's name for you is longer than Saucer takes, or cannot be kept. Tell whoever "
            "runs Saucer.",
        )
    email = _email(told)
    with transaction.atomic():
        person = Person.objects.select_for_update().filter(subject=subject).first()
        if person is None and email:
            person = Person.objects.select_for_update().filter(email__iexact=email, subject=None).first()
            if person is not None:
                person.subject = subject
                person.save(update_fields=["subject"])
                note(Happening.PEOPLE, person, "came by single sign-on", more="for the first time")
        if person is None:
            person = _new(told, subject, email)
    if not person.is_active:
        raise RuleError(403, f"{person} is let in no more. Ask a lead.")
    return person


def _email(told: Claims) -> str:
    """The address that the provider has seen proved; empty where there is none that is one."""
    email = str(told.get("email") or "").strip()
    try:
        EmailValidator()(email)
    except ValidationError:
        return ""
    return email if told.get("email_verified") is True and len(email) <= LONGEST_EMAIL else ""


def _called(told: Claims) -> str:
    """What the provider calls a person, without what cannot be seen."""
    for said in (told.get("name"), told.get("preferred_username")):
        with suppress(RuleError):
            return naming.called("".join(c for c in str(said or "")[: naming.LONGEST] if c.isprintable()))
    return "Somebody"


def _new(told: Claims, subject: str, email: str) -> Person:
    role = settings.OIDC["role"]
    if role not in Role.values:
        raise RuleError(403, "You are not in the team yet. Ask a lead to invite you with your address.")
    said = unicodedata.normalize("NFKC", str(told.get("preferred_username") or email or told["sub"]))
    wanted = re.sub(r"[^A-Za-z0-9@.+_-]+", "-", said)[:140].strip("-") or "somebody"
    for number in range(1, 100):
        name = wanted if number == 1 else f"{wanted}-{number}"
        try:
            naming.free(name)
        except RuleError:
            continue
        person = Person(username=name, full_name=_called(told), role=Role(role), email=email, subject=subject)
        person.set_unusable_password()
        person.save()
        note(Happening.PEOPLE, person, "came in by single sign-on", more=person.get_role_display())
        return person
    raise RuleError(409, "No name to sign in with is free. Ask a lead.")
