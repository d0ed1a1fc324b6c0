"""Addresses that were renamed: for one version the old ones answer 308 and say where to go. Emptied with
version 1.2."""

from collections.abc import Callable
from urllib.parse import quote

from django.http import HttpRequest, HttpResponse
from django.urls import URLPattern, re_path
from django.views.decorators.csrf import csrf_exempt

#: Old address as a pattern, and the new one with the pattern's groups.
MOVED = (
    (r"^api/looks/(\d+)/sitting$", "/api/looks/{}/presence"),
    (r"^api/catalogue/narrowing$", "/api/catalogue/filters"),
    (r"^api/shelf$", "/api/drop-folder"),
    (r"^api/projects/(\d+)/deliveries/(\d+)/shelf$", "/api/projects/{}/deliveries/{}/drop-folder"),
)


def _leads_to(address: str) -> Callable[..., HttpResponse]:
    @csrf_exempt
    def moved(request: HttpRequest, *found: str) -> HttpResponse:
        """308: the same request, with its body, is to be sent to the new address."""
        query = request.META.get("QUERY_STRING", "")
        there = address.format(*map(quote, found)) + (f"?{query}" if query else "")
        return HttpResponse(status=308, headers={"Location": there})

    return moved


PATTERNS: list[URLPattern] = [re_path(old, _leads_to(new)) for old, new in MOVED]
