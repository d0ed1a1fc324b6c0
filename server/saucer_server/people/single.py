"""Single sign-on by OpenID Connect (Core 1.0): the authorisation code flow with PKCE (RFC 7636), by Authlib."""

from typing import Any
from urllib.parse import urlencode

from authlib.integrations.base_client import OAuthError
from authlib.integrations.django_client import OAuth
from django.conf import settings
from django.contrib.auth import login
from django.db import IntegrityError, transaction
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_GET
from joserfc.errors import JoseError
from requests import RequestException

from ..errors import RuleError
from .activity import Happening, note
from .rules import Person, Role

_NEXT = "single sign-on next"


def _provider() -> Any:
    """The provider as the settings name it."""
    known = OAuth()
    known.register(
        "provider", client_id=settings.OIDC["client"], client_secret=settings.OIDC["secret"],
        server_metadata_url=f"{settings.OIDC['issuer'].rstrip('/')}/.well-known/openid-configuration",
        client_kwargs={"scope": "openid profile email", "code_challenge_method": "S256", "timeout": 10},
    )  # fmt: skip
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
        answer: HttpResponse = _provider().authorize_redirect(request, request.build_absolute_uri(reverse("single sign-on")))
    except (RequestException, OAuthError, JoseError, ValueError):
        return _away("Single sign-on cannot be reached at this moment. Try again, or sign in with name and password.")
    return answer


@require_GET
def back(request: HttpRequest) -> HttpResponse:
    """Takes somebody in whom the provider sends back; what it says of them is signed, for this sign-in alone."""
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


def _person(told: dict[str, Any]) -> Person:
    """Whom the provider means: who came that way before, who has that address (where the provider has seen it proved), or somebody new.

    Raises 403 where nobody new comes in that way, or the person is let in no more.
    """
    subject = f"{settings.OIDC['issuer'].rstrip('/')} {told['sub']}"[:300]
    email = str(told.get("email", "")) if told.get("email_verified") is True else ""
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


def _new(told: dict[str, Any], subject: str, email: str) -> Person:
    role = settings.OIDC["role"]
    if role not in Role.values:
        raise RuleError(403, "You are not in the team yet. Ask a lead to invite you with your address.")
    called = str(told.get("name") or told.get("preferred_username") or "Somebody")[:120]
    wanted = str(told.get("preferred_username") or email or told["sub"])[:140]
    for number in range(1, 100):
        person = Person(
            username=wanted if number == 1 else f"{wanted} {number}", full_name=called, role=Role(role), email=email, subject=subject
        )  # fmt: skip
        person.set_unusable_password()
        try:
            with transaction.atomic():
                person.save()
        except IntegrityError:
            continue
        note(Happening.PEOPLE, person, "came in by single sign-on", more=person.get_role_display())
        return person
    raise RuleError(409, "No name to sign in with is free. Ask a lead.")
