"""Addresses: the interface under /api, everything else is the application's one page."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from . import bodies, metrics, moved, problems
from .api import api
from .people import directory, single


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The front end; it finds its own way from the address."""
    index = settings.WEB_DIST / "index.html"
    if not index.is_file():
        return HttpResponse(
            "The front end is not built. Start with ./saucer start.", status=503, content_type="text/plain"
        )
    answer = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    answer["Cache-Control"] = "no-cache"
    return answer


handler400, handler403, handler404, handler500 = (
    f"{problems.__name__}.{n}" for n in ("unreadable", "refused", "missing", "failed")
)
urlpatterns = [
    path("single-sign-on", single.begin),
    path("single-sign-on/back", single.back, name="single sign-on"),
    path("metrics", metrics.page),
    path("-/body", bodies.page),
    path("scim/v2/<path:rest>", directory.page),
    *moved.PATTERNS,
    path("api/", api.urls),
    re_path(r"^(?!api/|assets/|scim/).*$", page),
]
