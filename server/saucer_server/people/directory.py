"""People of a studio's directory: SCIM 2.0 users (RFC 7643, RFC 7644), so that who comes, changes and leaves
there does so here.

Open where ``SAUCER_SCIM`` names a token; the directory shows it as ``Authorization: Bearer``. People it makes
come in by single sign-on, known by their address. Groups are not kept; a role comes with ``roles``, else from
``SAUCER_SCIM_ROLE``.
"""

import hmac
import json
import re
from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.core.exceptions import ValidationError
from django.core.validators import EmailValidator
from django.db import transaction
from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_exempt

from ..errors import RuleError
from ..lookup import by_id
from . import naming, rules
from .activity import Happening, note
from .models import Person, Role

#: A resource of SCIM or a part of one, as JSON (RFC 7643): directories send attributes of their own with it.
Resource = dict[str, Any]
USER = "urn:ietf:params:scim:schemas:core:2.0:User"
_MESSAGES = "urn:ietf:params:scim:api:messages:2.0"
_CORE = "urn:ietf:params:scim:schemas:core:2.0"
_KIND = "application/scim+json"
#: People whom one answer lists.
PAGE = 200
#: Operations that one request holds.
OPERATIONS = 50
#: The only filters there are (RFC 7644, 3.4.2.2): by a name, or by the directory's own key.
_FILTER = re.compile(r'(userName|externalId|emails\.value|emails) eq "((?:[^"\\]|\\.)*)"', re.IGNORECASE)
#: A path of a change that names one value of several: ``emails[type eq "work"].value``.
_VALUE_PATH = re.compile(r"(\w+)\[[^\]]*\](?:\.(\w+))?$")


@csrf_exempt
def page(request: HttpRequest, rest: str) -> HttpResponse:
    """Answers for the directory alone; 404 where no token is set, 401 for who does not show it."""
    if not settings.SCIM:
        return _error(404, "No directory is let in here.")
    shown = request.headers.get("Authorization", "").removeprefix("Bearer ")
    if not hmac.compare_digest(shown.encode(), settings.SCIM.encode()):
        return _error(401, "This is for the studio's directory. Show its token.")
    try:
        return _answer(request, [part for part in rest.split("/") if part])
    except RuleError as error:
        return _error(
            error.status,
            error.message,
            "uniqueness" if error.status == 409 else "invalidValue" if error.status == 400 else "",
        )
    except (ValueError, TypeError, AttributeError, KeyError) as error:
        return _error(400, f"This cannot be read: {error}"[:200], "invalidSyntax")


def _said(data: Resource, status: int = 200) -> HttpResponse:
    return HttpResponse(json.dumps(data, ensure_ascii=False), status=status, content_type=_KIND)


def _error(status: int, words: str, kind: str = "") -> HttpResponse:
    said = {"schemas": [f"{_MESSAGES}:Error"], "status": str(status), "detail": words}
    return _said(said | ({"scimType": kind} if kind else {}), status)


def _answer(request: HttpRequest, parts: list[str]) -> HttpResponse:
    method = request.method or ""
    match (method, parts):
        case ("GET", ["ServiceProviderConfig"]):
            return _said(_CONFIG)
        case ("GET", ["ResourceTypes"]):
            return _said(_listed([_RESOURCE]))
        case ("GET", ["Schemas"]):
            return _said(_listed([_SCHEMA]))
        case ("GET", ["Users"]):
            return _said(_found(request))
        case ("POST", ["Users"]):
            return _said(_user(_make(_body(request))), 201)
        case (_, ["Users", key]) if key.isascii() and key.isdigit():
            doing: dict[str, Callable[[], Person]] = {
                "GET": lambda: _person(key),
                "PUT": lambda: _change(_person(key), _read(_body(request))),
                "PATCH": lambda: _change(_person(key), _patched(_body(request))),
                "DELETE": lambda: _change(_person(key), {"active": False}),
            }
            if method in doing:
                person = doing[method]()
                return HttpResponse(status=204) if method == "DELETE" else _said(_user(person))
    return _error(404, "There is nothing at this address.")


def _body(request: HttpRequest) -> Resource:
    said = json.loads(request.body)
    if not isinstance(said, dict):
        raise ValueError("a JSON object is expected")
    return said


def _person(key: str) -> Person:
    return by_id(_ours(), int(key[:18]), "person")


def _ours() -> QuerySet[Person]:
    return Person.objects.order_by("pk")


def _user(person: Person) -> Resource:
    """A person as the directory reads them."""
    return {
        "schemas": [USER],
        "id": str(person.pk),
        "externalId": person.external or None,
        "userName": person.username,
        "displayName": person.full_name,
        "name": {"formatted": person.full_name},
        "active": person.is_active,
        "emails": [{"value": person.email, "primary": True}] if person.email else [],
        "roles": [{"value": person.role, "primary": True}],
        "meta": {
            "resourceType": "User",
            "location": f"/scim/v2/Users/{person.pk}",
            "created": person.date_joined.isoformat(),
        },
    }


def _listed(rows: list[Resource], total: int | None = None, start: int = 1) -> Resource:
    return {
        "schemas": [f"{_MESSAGES}:ListResponse"],
        "totalResults": len(rows) if total is None else total,
        "startIndex": start,
        "itemsPerPage": len(rows),
        "Resources": rows,
    }


def _found(request: HttpRequest) -> Resource:
    rows, asked = _ours(), request.GET.get("filter", "").strip()
    if asked:
        fits = _FILTER.fullmatch(asked)
        if fits is None:
            raise RuleError(400, 'Filters are userName eq "…", externalId eq "…" and emails eq "…".')
        value = json.loads(f'"{fits[2]}"')
        column = {"username": "username__iexact", "externalid": "external"}.get(
            fits[1].lower(), "email__iexact"
        )
        rows = rows.filter(**{column: value})
    start = max(int(request.GET.get("startIndex", "1")[:9]), 1)
    count = min(max(int(request.GET.get("count", str(PAGE))[:9]), 0), PAGE)
    return _listed([_user(p) for p in rows[start - 1 : start - 1 + count]], rows.count(), start)


def _read(body: Resource) -> Resource:
    """What a user resource says that is kept here."""
    said: Resource = {}
    if "userName" in body:
        said["username"] = naming.sign_in_name(str(body["userName"]))
    named = (
        body.get("displayName")
        or (body.get("name") or {}).get("formatted")
        or _both_names(body.get("name") or {})
    )
    if named:
        said["full_name"] = naming.called(str(named))
    if "active" in body:
        said["active"] = str(body["active"]).lower() == "true"
    if "externalId" in body:
        said["external"] = str(body["externalId"] or "")[:300] or None
    if "emails" in body:
        said["email"] = _address(body["emails"])
    if body.get("roles"):
        said["role"] = _role(body["roles"])
    return said


def _both_names(name: Resource) -> str:
    return " ".join(str(name[k]) for k in ("givenName", "familyName") if name.get(k))


def _first(values: Any) -> str:
    """The primary one of several values, else the first."""
    rows = [
        v if isinstance(v, dict) else {"value": v} for v in (values if isinstance(values, list) else [values])
    ]
    chosen = next((v for v in rows if v.get("primary")), rows[0] if rows else {})
    return str(chosen.get("value") or "").strip()


def _address(values: Any) -> str:
    address = _first(values)
    if address:
        try:
            EmailValidator()(address)
        except ValidationError:
            raise RuleError(400, f"“{address[:80]}” is no address.") from None
    return address[:254]


def _role(values: Any) -> str:
    role = _first(values).lower()
    if role not in Role.values:
        raise RuleError(400, f"A role is one of {', '.join(Role.values)}, not “{role[:40]}”.")
    return role


def _patched(body: Resource) -> Resource:
    """What the operations of a change (RFC 7644, 3.5.2) say that is kept here."""
    operations: Any = next((v for k, v in body.items() if k.lower() == "operations"), [])
    if not isinstance(operations, list) or len(operations) > OPERATIONS:
        raise RuleError(400, f"A change holds up to {OPERATIONS} operations.")
    resource: Resource = {}
    for one in operations:
        what, path, value = str(one.get("op", "")).lower(), str(one.get("path") or ""), one.get("value")
        if what not in ("add", "replace", "remove"):
            raise RuleError(400, f"“{what[:20]}” is no operation.")
        if not path:
            resource |= value if isinstance(value, dict) else {}
            continue
        within = _VALUE_PATH.fullmatch(path)
        head, _, tail = (within[1], "", within[2] or "") if within else path.partition(".")
        gone: Any = [] if head in ("emails", "roles") else ""
        if head == "name":
            resource["name"] = {**(resource.get("name") or {}), tail: value} if tail else value
        else:
            resource[head] = gone if what == "remove" else value
    return _read(resource)


def _make(body: Resource) -> Person:
    said = _read(body)
    if "username" not in said:
        raise RuleError(400, "A person has a userName.")
    with transaction.atomic():
        naming.free(said["username"])
        person = Person(
            username=said["username"],
            full_name=said.get("full_name") or said["username"],
            role=settings.SCIM_ROLE,
        )
        person.set_unusable_password()
        _take(person, said)
        person.save()
        note(
            Happening.PEOPLE,
            None,
            "The directory brought",
            str(person),
            more=person.get_role_display().lower(),
        )
        if said.get("active") is False:
            return rules.take(person.pk, None, False)
    return person


def _take(person: Person, said: Resource) -> None:
    """Puts what was said into a person that is not saved yet. Raises 409."""
    others = Person.objects.exclude(pk=person.pk)
    if said.get("email") and others.filter(email__iexact=said["email"]).exists():
        raise RuleError(409, f"Somebody else has the address {said['email']} already.")
    if said.get("external") and others.filter(external=said["external"]).exists():
        raise RuleError(409, "Somebody else is known by this externalId already.")
    for field in ("full_name", "email", "external", "role"):
        if field in said:
            setattr(person, field, said[field])


def _change(person: Person, said: Resource) -> Person:
    with transaction.atomic():
        before = (person.full_name, person.is_active, person.role)
        name = said.get("username", person.username)
        if name.lower() != person.username.lower():
            naming.free(name)
        # The role and who is let in by the rule that leads go by, so that one lead stays.
        row = rules.take(person.pk, said.pop("role", None), said.get("active"))
        row.username = name
        _take(row, said)
        row.save(update_fields=["username", "full_name", "email", "external"])
        if (row.full_name, row.is_active, row.role) != before:
            words = (
                "The directory lets in no more"
                if before[1] and not row.is_active
                else "The directory changed"
            )
            note(Happening.PEOPLE, None, words, str(row))
    return row


_CONFIG = {
    "schemas": [f"{_CORE}:ServiceProviderConfig"],
    "patch": {"supported": True},
    "bulk": {"supported": False, "maxOperations": 0, "maxPayloadSize": 0},
    "filter": {"supported": True, "maxResults": PAGE},
    "changePassword": {"supported": False},
    "sort": {"supported": False},
    "etag": {"supported": False},
    "authenticationSchemes": [
        {"type": "oauthbearertoken", "name": "A token", "description": "Authorization: Bearer"}
    ],
}
_RESOURCE = {
    "schemas": [f"{_CORE}:ResourceType"],
    "id": "User",
    "name": "User",
    "endpoint": "/Users",
    "schema": USER,
    "meta": {"resourceType": "ResourceType", "location": "/scim/v2/ResourceTypes/User"},
}


def _attribute(
    name: str, kind: str = "string", *, many: bool = False, needed: bool = False, unique: str = "none"
) -> Resource:
    return {
        "name": name,
        "type": kind,
        "multiValued": many,
        "required": needed,
        "caseExact": False,
        "mutability": "readWrite",
        "returned": "default",
        "uniqueness": unique,
    }


_SCHEMA = {
    "schemas": [f"{_CORE}:Schema"],
    "id": USER,
    "name": "User",
    "description": "Somebody of the team",
    "attributes": [
        _attribute("userName", needed=True, unique="server"),
        _attribute("displayName"),
        _attribute("active", "boolean"),
        _attribute("externalId"),
        _attribute("emails", "complex", many=True),
        _attribute("roles", "complex", many=True),
    ],
}
