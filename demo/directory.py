"""A stand-in for a studio's directory, which keeps Saucer's people by SCIM 2.0.

``python -m demo.directory http://127.0.0.1:8000 TOKEN`` brings three made-up people, then lets one in no
more; Saucer is started with ``SAUCER_SCIM=TOKEN``. For trying out, and tests.
"""

import argparse
from collections.abc import Callable
from typing import Any

import requests

#: Who is in the directory: by its own key, as RFC 7643 writes a user.
PEOPLE: dict[str, dict[str, Any]] = {
    "d-1": {
        "userName": "gesa",
        "displayName": "Gesa Hand",
        "emails": [{"value": "gesa@kiln.example", "primary": True}],
    },
    "d-2": {
        "userName": "bruno",
        "name": {"givenName": "Bruno", "familyName": "Slip"},
        "emails": [{"value": "bruno@kiln.example"}],
    },
    "d-3": {"userName": "wiebke", "displayName": "Wiebke Raku", "roles": [{"value": "designer"}]},
}
USER = "urn:ietf:params:scim:schemas:core:2.0:User"
CHANGE = "urn:ietf:params:scim:api:messages:2.0:PatchOp"
#: Sends method, path and body; gives status and what was answered.
Send = Callable[[str, str, dict[str, Any] | None], tuple[int, dict[str, Any]]]


def synchronise(send: Send, people: dict[str, dict[str, Any]]) -> dict[str, str]:
    """Makes the people who are missing, changes those who are there, and lets in no more who is gone; gives
    Saucer's keys."""
    there = {}
    for key, said in people.items():
        found = send("GET", f'/Users?filter=externalId eq "{key}"', None)[1]["Resources"]
        body = {"schemas": [USER], "externalId": key, "active": True, **said}
        path, method = (f"/Users/{found[0]['id']}", "PUT") if found else ("/Users", "POST")
        status, answer = send(method, path, body)
        if status >= 300:
            raise SystemExit(f"{said['userName']}: {answer['detail']}")
        there[key] = answer["id"]
    for one in send("GET", "/Users?count=200", None)[1]["Resources"]:
        if one["externalId"] and one["externalId"] not in people and one["active"]:
            operations = [{"op": "replace", "path": "active", "value": False}]
            send("PATCH", f"/Users/{one['id']}", {"schemas": [CHANGE], "Operations": operations})
    return there


def over_http(address: str, token: str) -> Send:
    """Sends to a running Saucer."""

    def send(method: str, path: str, body: dict[str, Any] | None) -> tuple[int, dict[str, Any]]:
        headers = {"Authorization": f"Bearer {token}", "Content-Type": "application/scim+json"}
        answer = requests.request(
            method, f"{address.rstrip('/')}/scim/v2{path}", json=body, headers=headers, timeout=30
        )
        return answer.status_code, answer.json() if answer.content else {}

    return send


def main() -> None:
    """The command."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("address")
    parser.add_argument("token")
    args = parser.parse_args()
    send = over_http(args.address, args.token)
    print("there:", synchronise(send, PEOPLE))
    print("d-2 has left:", synchronise(send, {key: said for key, said in PEOPLE.items() if key != "d-2"}))


if __name__ == "__main__":
    main()
