"""Errors that arise before a page or the interface is reached, said as the interface says its own."""

from django.http import HttpRequest, HttpResponse, JsonResponse


def problem(status: int, message: str) -> JsonResponse:
    """An error as the interface says it (``api.Problem``)."""
    return JsonResponse({"message": message, "detail": {}}, status=status)


def unreadable(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """400: what arrived is no request that can be read."""
    return problem(400, "That is no request Saucer can read. Reload the page and try again.")


def forged(request: HttpRequest, reason: str = "") -> HttpResponse:
    """403: sent without the token that protects against forged requests."""
    return problem(
        403, "This page has been open for too long. Reload it and try again; what you changed is kept here."
    )


def refused(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """403."""
    return problem(403, "That is not for you. Ask a lead.")


def missing(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """404."""
    return problem(404, "There is nothing at this address.")


def failed(request: HttpRequest) -> HttpResponse:
    """500: an error of Saucer's own, under the identifier that the log has for it."""
    from .watching import request_id

    said = (
        "An error of Saucer's own. Nothing was changed. Whoever runs Saucer finds it in the log under "
        f"{request_id()}."
    )
    return problem(500, said)
