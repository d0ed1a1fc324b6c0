"""A stand-in for a studio's single sign-on: an OpenID Connect provider with made-up people, who need no
password here.

``python -m demo.provider --port 8300``; Saucer is told of it by ``SAUCER_OIDC_ISSUER=http://127.0.0.1:8300``.
For trying out, and tests.
"""

import argparse
import base64
import hashlib
import html
import json
import secrets
import threading
import time
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from urllib.parse import parse_qs, urlencode, urlsplit

from joserfc import jwk, jwt

#: Who can be chosen: by the provider's name for them, what it says of them.
PEOPLE = {
    "p-1": {
        "name": "Gesa Hand",
        "preferred_username": "gesa",
        "email": "gesa@kiln.example",
        "email_verified": True,
    },
    "p-2": {
        "name": "Vera Quillon",
        "preferred_username": "vera.q",
        "email": "vera@kiln.example",
        "email_verified": True,
    },
    "p-3": {
        "name": "Not Vera",
        "preferred_username": "vera",
        "email": "vera@kiln.example",
        "email_verified": False,
    },
}
#: The client that the provider knows.
CLIENT = "saucer"
#: Its secret.
SECRET = "not-so-secret"


class Provider(ThreadingHTTPServer):
    """The provider; ``issuer`` is its address."""

    def __init__(self, port: int = 0) -> None:
        super().__init__(("127.0.0.1", port), _Handler)
        self.issuer = f"http://127.0.0.1:{self.server_address[1]}"
        self.key = jwk.RSAKey.generate_key(2048, {"kid": "one", "use": "sig"})
        #: What a code stands for until it is exchanged, once.
        self.codes: dict[str, dict[str, str]] = {}

    def start(self) -> "Provider":
        """Serves from now on, in a thread."""
        threading.Thread(target=self.serve_forever, daemon=True).start()
        return self

    def token(self, person: str, nonce: str, **other: object) -> str:
        """A signed statement of who somebody is; ``other`` replaces what it says."""
        now = int(time.time())
        said = {
            "iss": self.issuer,
            "sub": person,
            "aud": CLIENT,
            "iat": now,
            "exp": now + 300,
            "nonce": nonce,
            **PEOPLE[person],
            **other,
        }
        return jwt.encode({"alg": "RS256", "kid": "one"}, said, self.key)


class _Handler(BaseHTTPRequestHandler):
    server: Provider

    def log_message(self, *_: object) -> None:
        """Says nothing."""

    def _send(self, body: str, kind: str = "application/json", status: int = 200, **headers: str) -> None:
        data = body.encode()
        self.send_response(status)
        for name, value in {"Content-Type": kind, "Content-Length": str(len(data)), **headers}.items():
            self.send_header(name, value)
        self.end_headers()
        self.wfile.write(data)

    def do_GET(self) -> None:
        """What it says of itself, its key, and the page on which somebody is chosen."""
        at = urlsplit(self.path)
        asked = {name: values[0] for name, values in parse_qs(at.query).items()}
        own = self.server.issuer
        if at.path == "/.well-known/openid-configuration":
            self._send(
                json.dumps(
                    {
                        "issuer": own,
                        "authorization_endpoint": f"{own}/choose",
                        "token_endpoint": f"{own}/token",
                        "jwks_uri": f"{own}/keys",
                        "response_types_supported": ["code"],
                        "subject_types_supported": ["public"],
                        "id_token_signing_alg_values_supported": ["RS256"],
                    }
                )
            )
        elif at.path == "/keys":
            self._send(json.dumps({"keys": [self.server.key.as_dict(private=False)]}))
        elif at.path == "/choose" and asked.get("as") in PEOPLE:
            code = secrets.token_urlsafe(16)
            self.server.codes[code] = asked
            back = f"{asked['redirect_uri']}?{urlencode({'code': code, 'state': asked.get('state', '')})}"
            self._send("", status=302, Location=back)
        elif at.path == "/choose":
            links = [
                f'<li><a href="/choose?{html.escape(urlencode({**asked, "as": key}))}">'
                f"{html.escape(str(one['name']))}</a></li>"
                for key, one in PEOPLE.items()
            ]
            self._send(
                f"<title>Who are you?</title><h1>Who are you?</h1><ul>{''.join(links)}</ul>",
                "text/html; charset=utf-8",
            )
        else:
            self._send("{}", status=404)

    def do_POST(self) -> None:
        """Exchanges a code for a statement of who somebody is, once."""
        length = int(self.headers.get("Content-Length", 0))
        given = {name: values[0] for name, values in parse_qs(self.rfile.read(length).decode()).items()}
        basic = self.headers.get("Authorization", "").removeprefix("Basic ")
        known = (
            base64.b64decode(basic).decode()
            if basic
            else f"{given.get('client_id')}:{given.get('client_secret')}"
        )
        asked = self.server.codes.pop(given.get("code", ""), None)
        challenge = (
            base64.urlsafe_b64encode(hashlib.sha256(given.get("code_verifier", "").encode()).digest())
            .decode()
            .rstrip("=")
        )
        if asked is None or known != f"{CLIENT}:{SECRET}" or challenge != asked.get("code_challenge"):
            self._send(json.dumps({"error": "invalid_grant"}), status=400)
            return
        told = self.server.token(asked["as"], asked.get("nonce", ""))
        self._send(
            json.dumps(
                {
                    "access_token": secrets.token_urlsafe(16),
                    "token_type": "Bearer",
                    "expires_in": 300,
                    "id_token": told,
                }
            )
        )


def main() -> None:
    """Serves until it is stopped."""
    parser = argparse.ArgumentParser(description="A stand-in for a studio's single sign-on.")
    parser.add_argument("--port", type=int, default=8300)
    provider = Provider(parser.parse_args().port)
    print(
        f"SAUCER_OIDC_ISSUER={provider.issuer} SAUCER_OIDC_CLIENT={CLIENT} SAUCER_OIDC_SECRET={SECRET}",
        flush=True,
    )
    provider.serve_forever()


if __name__ == "__main__":
    main()
