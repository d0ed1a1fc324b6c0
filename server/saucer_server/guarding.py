"""What every answer says to browsers of what a page may do, and the errors that arise before a page or the interface is reached."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse, JsonResponse

#: Everything comes from here; pictures, tables and small fonts also come from memory; styles are put in by scripts while a page is shown.
POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; font-src 'self' data:; img-src 'self' blob: data:; "
    "connect-src 'self' blob:; worker-src 'self' blob:; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)
#: The pages of the interface's document bring scripts of their own that are written into them.
_DOCUMENT = "/api/docs"


class Guarding:
    """Says with every answer what a page may load and from where."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answers."""
        answer = self._answer(request)
        policy = POLICY.replace("script-src 'self'", "script-src 'self' 'unsafe-inline'") if request.path == _DOCUMENT else POLICY
        answer.setdefault("Content-Security-Policy", policy)
        answer.setdefault("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
        return answer


def problem(status: int, message: str) -> JsonResponse:
    """An error as the interface says it (``api.Problem``)."""
    return JsonResponse({"message": message, "detail": {}}, status=status)


def unreadable(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """400: what arrived is no request that can be read."""
    return problem(400, "That is no request Saucer can read. Reload the page and try again.")


def forged(request: HttpRequest, reason: str = "") -> HttpResponse:
    """403: sent without the token that protects against forged requests."""
    return problem(403, "This page has been open for too long. Reload it and try again; what you changed is kept here.")


def refused(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """403."""
    return problem(403, "That is not for you. Ask a lead.")


def missing(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """404."""
    return problem(404, "There is nothing at this address.")


def failed(request: HttpRequest) -> HttpResponse:
    """500: an error of Saucer's own, under the identifier that the log has for it."""
    from .watching import request_id

    said = f"An error of Saucer's own. Nothing was changed. Whoever runs Saucer finds it in the log under {request_id()}."
    return problem(500, said)
