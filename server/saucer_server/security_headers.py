"""The headers that tell a browser what a page may load and do."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

#: Everything comes from here; pictures, tables and small fonts also come from memory; styles are put in by
#: scripts while a page is shown.
POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; font-src 'self' data:; "
    "img-src 'self' blob: data:; "
    "connect-src 'self' blob:; worker-src 'self' blob:; object-src 'none'; base-uri 'none'; form-action "
    "'self'; frame-ancestors 'none'"
)
#: The pages of the interface's document bring scripts of their own that are written into them.
_DOCUMENT = "/api/docs"


class SecurityHeaders:
    """Middleware: adds the headers to every answer."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answers."""
        answer = self._answer(request)
        policy = (
            POLICY.replace("script-src 'self'", "script-src 'self' 'unsafe-inline'")
            if request.path == _DOCUMENT
            else POLICY
        )
        answer.setdefault("Content-Security-Policy", policy)
        answer.setdefault("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
        return answer
